import * as v from 'valibot';

import {
  benchClockMessage,
  type BenchState,
  capMessage,
  clockMessage,
  faultsMessage,
  headMessage,
  type HeadMake,
  type Live,
  type LiveMessage,
  lookMessage,
  manualMessage,
  transferMessage,
} from '../wire/wire';
import { curveOf, LampHead, type Refusal, refusal, type Taken } from './head';

export interface BenchAnswer {
  status: number;
  body: unknown;
  /** an answer takes so long, ms */
  delayMs: number;
  /** no answer comes: the line is cut instead */
  lost: boolean;
}

const MOST_HEADS = 64;
const DAY = 1440;

/**
 * The bench: simulated lamp heads behind one small protocol, with a clock that can run fast. It knows nothing of the app; the same
 * bench stands in the server and, without one, in the browser.
 */
export class Bench {
  private heads = new Map<string, LampHead>();
  private made = 0;
  private speed = 1;
  private base: { atMs: number; total: number };

  constructor(
    private readonly nowMs: () => number,
    minute = 0,
    heads: readonly HeadMake[] = [],
  ) {
    this.base = { atMs: nowMs(), total: minute };
    heads.forEach((h) => this.add(h));
  }

  /** minutes since the midnight the bench began after; never wraps */
  private total = (): number => this.base.total + ((this.nowMs() - this.base.atMs) / 60_000) * this.speed;

  private add(make: HeadMake): LampHead | null {
    if (this.heads.size >= MOST_HEADS) return null;
    this.made += 1;
    const head = new LampHead(`head-${this.made}`, make, this.total, curveOf(this.made - 1));
    this.heads.set(head.id, head);
    return head;
  }

  state(): BenchState {
    return {
      minute: this.total() % DAY,
      speed: this.speed,
      heads: [...this.heads.values()].map((h) => h.state()),
    };
  }

  /** What a head emits now; null when there is none or it cannot be reached. */
  live(headId: string): Live | null {
    const head = this.heads.get(headId);
    return head?.reach().ok ? head.live() : null;
  }

  /** What every head emits now; those that cannot be reached are named without. */
  allLive(): LiveMessage {
    const ids = [...this.heads.keys()];
    const live = ids.flatMap((id) => this.live(id) ?? []);
    return { live, gone: ids.filter((id) => !live.some((l) => l.headId === id)) };
  }

  /** Answers one message. @param path below the bench, such as "/heads/head-1/transfer" */
  handle(method: string, path: string, body: unknown): BenchAnswer {
    let delayMs = 0;
    const answer = (status: number, made: unknown): BenchAnswer => ({
      status,
      body: made,
      delayMs,
      lost: false,
    });
    const refused = ({ status, code, message, lost }: Refusal): BenchAnswer => ({
      ...answer(status, { error: { code, message } }),
      lost,
    });
    const told = (taken: Taken): BenchAnswer => (taken.ok ? answer(200, taken) : refused(taken));
    try {
      const [, first, id, what] = path.split('/');
      const key = `${method} ${first ?? ''}`;
      if (key === 'GET ' || key === 'GET heads') {
        if (!id) return answer(200, this.state());
      } else if (key === 'POST clock') {
        const { minute, speed } = v.parse(benchClockMessage, body);
        const total = this.total();
        const day = Math.floor(total / DAY) * DAY;
        this.base = { atMs: this.nowMs(), total: minute === undefined ? total : day + minute };
        this.speed = speed ?? this.speed;
        return answer(200, { ok: true });
      } else if (key === 'POST heads' && !id) {
        const made = this.add(v.parse(headMessage, body));
        return made
          ? answer(201, made.state())
          : refused(refusal('full', `the bench holds at most ${MOST_HEADS} heads`));
      } else if (key === 'POST reset') {
        this.heads.clear();
        this.speed = 1;
        return answer(200, { ok: true });
      }
      const head = first === 'heads' && id ? this.heads.get(id) : undefined;
      if (!head)
        return answer(404, { error: { code: 'unknown', message: 'there is no such head or address' } });
      // the bench itself reaches every head: faults are set and heads taken away behind the app's back
      if (method === 'POST' && what === 'faults') {
        const { faults, dropAt } = v.parse(faultsMessage, body);
        head.setFaults(faults, dropAt);
        return answer(200, { ok: true });
      }
      if (method === 'POST' && what === 'power') {
        head.cutPower();
        return answer(200, { ok: true });
      }
      if (method === 'DELETE' && !what) {
        this.heads.delete(head.id);
        return answer(200, { ok: true });
      }
      const reached = head.reach();
      if (!reached.ok) return refused(reached);
      ({ delayMs } = reached);
      if (method === 'GET') {
        if (!what) return answer(200, head.state());
        if (what === 'schedule') return answer(200, head.held());
      }
      if (method === 'POST') {
        switch (what) {
          case 'transfer':
            return told(head.transfer(v.parse(transferMessage, body)));
          case 'clock':
            head.setClock(v.parse(clockMessage, body).minute);
            return answer(200, { ok: true });
          case 'cap':
            head.setCap(v.parse(capMessage, body).capShare);
            return answer(200, { ok: true });
          case 'manual':
            return told(head.setManual(v.parse(manualMessage, body).values));
          case 'look': {
            const look = v.parse(lookMessage, body);
            return told(head.setLook(look.values, look.minutes, look.neverEnds));
          }
        }
      }
      return answer(404, { error: { code: 'unknown', message: 'there is no such head or address' } });
    } catch (error) {
      if (error instanceof v.ValiError) {
        const issue = error.issues[0];
        return answer(400, {
          error: { code: 'invalid', message: issue.message, path: v.getDotPath(issue) ?? '' },
        });
      }
      throw error;
    }
  }
}
