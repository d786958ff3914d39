import {
  checksum,
  type Fault,
  type Head,
  type HeadMake,
  type Held,
  type Live,
  type TransferMessage,
  type WireSchedule,
} from '../wire/wire';

const DAY = 1440;
const wrap = (m: number) => ((m % DAY) + DAY) % DAY;
/** A head with this fault takes no more points than so many. */
const FEW = 3;
/** What a colour that was turned down is left at, and which one it is. */
const DOWN = { share: 0.3, control: 2 };
/** Firmware that rounds stores nothing finer than this. */
const ROUGH = 0.05;
/** Light of a head falls a little below its drive at low levels: light = drive^curve. */
const CURVES = [1, 1.08, 1.15] as const;

/** A message that a head does not take, with what is wrong; `lost` = no answer comes. */
export interface Refusal {
  ok: false;
  status: number;
  code: string;
  message: string;
  lost: boolean;
}
/** What a head says to a message. */
export type Taken = { ok: true; revision?: number } | Refusal;

const TAKEN: Taken = { ok: true };
export const refusal = (code: string, message: string): Refusal => ({
  ok: false,
  status: 409,
  code,
  message,
  lost: false,
});
const cutOff = (code: string, message: string): Refusal => ({
  ok: false,
  status: 503,
  code,
  message,
  lost: true,
});

const UNKNOWN_TRANSFER = refusal('noTransfer', 'knows no such transfer: begin again');

interface Staged {
  id: string;
  capShare: number;
  count: number;
  points: WireSchedule['points'];
}

/**
 * A simulated lamp head: its own clock, stored and active schedule, rounding and curve, and faults on request. A transfer is
 * staged and stored at once on commit: whatever is lost on the way, it holds the old schedule or the new one, never a part.
 */
export class LampHead {
  private faults: Fault[] = [];
  private dropAt = 2;
  /** minutes its clock is ahead of the bench's */
  private ahead = 0;
  private stored: { revision: number; schedule: WireSchedule } | null = null;
  private active: { revision: number; schedule: WireSchedule } | null = null;
  private revision = 0;
  private staged: Staged | null = null;
  private messages = 0;
  private manual: number[] | null = null;
  private look: { values: number[]; until: number; neverEnds: boolean } | null = null;

  /** @param total bench time that never wraps, minutes */
  constructor(
    readonly id: string,
    private readonly make: HeadMake,
    private readonly total: () => number,
    private readonly curve: number,
  ) {}

  private has = (fault: Fault) => this.faults.includes(fault);
  private clock = () => wrap(this.total() + this.ahead);

  setFaults(faults: readonly Fault[], dropAt: number): void {
    this.faults = [...new Set(faults)];
    this.dropAt = dropAt;
    this.messages = 0;
  }

  /** Why the head cannot be reached now, or how long an answer takes, ms. */
  reach(): { ok: true; delayMs: number } | Refusal {
    if (this.has('offline')) return cutOff('offline', 'the head does not answer');
    return { ok: true, delayMs: this.has('slow') ? 150 : 5 };
  }

  private round(value: number): number {
    const { lowestShare, switches } = this.make.profile;
    const stepShare = this.has('rounds') ? ROUGH : this.make.profile.stepShare;
    if (switches) return value > 0 ? 1 : 0;
    const whole =
      stepShare > 0
        ? Math.min(1, Math.round(Math.round(value / stepShare + 1e-9) * stepShare * 1e6) / 1e6)
        : value;
    return whole > 0 && whole < lowestShare - 1e-9 ? (whole < lowestShare / 2 ? 0 : lowestShare) : whole;
  }

  /** One message of a transfer. The answer of a lost message may be lost after it was taken. */
  transfer(message: TransferMessage): Taken {
    const at = this.messages;
    this.messages += 1;
    const lost = this.has('drops') && (at === this.dropAt || -at - 1 === this.dropAt);
    if (lost && this.dropAt >= 0) return cutOff('lost', 'the connection broke off');
    const answer = this.take(message);
    if (message.step === 'activate') this.messages = 0;
    if (lost) return cutOff('lost', 'the connection broke off');
    return answer;
  }

  private take(message: TransferMessage): Taken {
    switch (message.step) {
      case 'begin': {
        const most = this.has('fewPoints') ? FEW : this.make.profile.maxPoints;
        if (most !== null && message.points > most)
          return refusal('tooManyPoints', `takes at most ${most} points, not ${message.points}`);
        this.staged = {
          id: message.transferId,
          capShare: message.capShare,
          count: message.points,
          points: [],
        };
        return TAKEN;
      }
      case 'points': {
        const staged = this.staged;
        if (staged?.id !== message.transferId) return UNKNOWN_TRANSFER;
        if (message.first !== staged.points.length)
          return refusal('outOfOrder', `expects point ${staged.points.length}, not ${message.first}`);
        const wrong = message.points.find((p) => p.values.length !== this.make.controls.length);
        if (wrong)
          return refusal('controls', `has ${this.make.controls.length} controls, not ${wrong.values.length}`);
        const off = message.points.find((p) => p.minute % this.make.profile.everyMin !== 0);
        if (off) return refusal('times', `takes times every ${this.make.profile.everyMin} minutes`);
        staged.points.push(...message.points);
        return TAKEN;
      }
      case 'commit': {
        const staged = this.staged;
        if (staged?.id !== message.transferId) return UNKNOWN_TRANSFER;
        if (staged.points.length !== staged.count)
          return refusal('incomplete', `got ${staged.points.length} of ${staged.count} points`);
        const sent = { capShare: staged.capShare, points: staged.points };
        if (checksum(sent) !== message.checksum)
          return refusal('checksum', 'what arrived is not what was sent');
        this.staged = null;
        this.revision += 1;
        this.stored = {
          revision: this.revision,
          schedule: {
            capShare: this.make.profile.switches ? 1 : this.round(sent.capShare),
            points: sent.points
              .map((p) => ({ minute: p.minute, values: p.values.map((x) => this.round(x)) }))
              .sort((a, b) => a.minute - b.minute),
          },
        };
        return { ok: true, revision: this.revision };
      }
      case 'activate': {
        if (this.stored?.revision !== message.revision)
          return refusal('unknownRevision', `holds revision ${this.stored?.revision ?? 0}`);
        // a head that only saves says yes and goes on as before
        if (!this.has('savesOnly')) this.active = this.stored;
        return { ok: true, revision: message.revision };
      }
    }
  }

  setClock(minute: number): void {
    this.ahead = wrap(minute - this.total());
    if (this.ahead > DAY / 2) this.ahead -= DAY;
  }

  setCap(capShare: number): void {
    for (const held of [this.stored, this.active])
      if (held) held.schedule = { ...held.schedule, capShare: this.round(capShare) };
    if (!this.stored) {
      this.revision += 1;
      this.stored = { revision: this.revision, schedule: { capShare, points: [] } };
      this.active ??= this.stored;
    }
  }

  setManual(values: number[] | null): Taken {
    if (values && values.length !== this.make.controls.length) return this.otherControls(values.length);
    this.manual = values;
    return TAKEN;
  }

  setLook(values: number[], minutes: number, neverEnds: boolean): Taken {
    if (values.length !== this.make.controls.length) return this.otherControls(values.length);
    this.look = { values, until: this.total() + minutes, neverEnds };
    return TAKEN;
  }

  private otherControls = (count: number): Refusal =>
    refusal('controls', `has ${this.make.controls.length} controls, not ${count}`);

  /** The power goes and comes back: a clock that does not keep time begins again at midnight; a transfer is forgotten. */
  cutPower(): void {
    this.staged = null;
    this.messages = 0;
    if (this.has('clockReset')) this.setClock(0);
  }

  private mode(): Head['mode'] {
    if (this.manual || this.has('manual')) return 'manual';
    if (this.look && (this.look.neverEnds || this.total() < this.look.until)) return 'look';
    return 'program';
  }

  private program(minute: number): number[] {
    const dark = this.make.controls.map(() => 0);
    const points = this.active?.schedule.points ?? [];
    if (points.length === 0) return dark;
    const next = points.findIndex((p) => p.minute > minute);
    const b = points[next < 0 ? 0 : next]!;
    const a = points[(next < 0 ? points.length : next) - 1] ?? points[points.length - 1]!;
    if (this.make.profile.interpolation === 'hold' || points.length === 1) return a.values;
    const span = wrap(b.minute - a.minute) || DAY;
    const way = wrap(minute - a.minute) / span;
    return a.values.map((x, i) => x + (b.values[i]! - x) * way);
  }

  /** What drives each control at its clock's minute. */
  private drive(): number[] {
    const mode = this.mode();
    const capShare = this.active?.schedule.capShare ?? 1;
    const raw =
      mode === 'manual'
        ? (this.manual ?? this.make.controls.map(() => 0.5))
        : mode === 'look'
          ? this.look!.values
          : this.program(this.clock());
    const top = Math.max(0, ...(this.active?.schedule.points ?? []).flatMap((p) => p.values));
    const once = this.make.profile.capMeans === 'rescales' && top > 0 ? capShare / top : capShare;
    const factor = this.make.profile.switches ? 1 : once * (this.has('capTwice') ? capShare : 1);
    return raw.map((x, i) => {
      const it = i === Math.min(DOWN.control, raw.length - 1);
      const dead = this.has('lampDead') || (it && this.has('colourDead'));
      return dead ? 0 : Math.min(1, x * factor) * (it && this.has('colourDown') ? DOWN.share : 1);
    });
  }

  held(): Held {
    return {
      storedRevision: this.stored?.revision ?? 0,
      activeRevision: this.active?.revision ?? 0,
      stored: this.stored?.schedule ?? null,
      active: this.active?.schedule ?? null,
    };
  }

  state(): Head {
    const { storedRevision, activeRevision } = this.held();
    return {
      id: this.id,
      ...this.make,
      faults: this.faults,
      dropAt: this.dropAt,
      clockMinute: this.clock(),
      aheadMin: this.ahead,
      mode: this.mode(),
      lookLeftMin: this.mode() === 'look' ? this.look!.until - this.total() : null,
      activeRevision,
      storedRevision,
    };
  }

  live(): Live {
    const drive = this.drive();
    const mode = this.mode();
    return {
      headId: this.id,
      benchMinute: wrap(this.total()),
      clockMinute: this.clock(),
      mode,
      lookLeftMin: mode === 'look' ? this.look!.until - this.total() : null,
      drive,
      output: drive.map((d) => d ** this.curve),
    };
  }
}

export const curveOf = (index: number): number => CURVES[index % CURVES.length]!;
