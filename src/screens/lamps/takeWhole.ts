import type { WholeWay } from '@/core/case/whole';
import { newPlate } from '@/core/case/plate';
import { shifted } from '@/core/day/moves';
import type { Group, HungLamp, Thread } from '@/core/record/zone';
import { dims } from '@/core/spectrum/controls';
import { setCap, setThreads } from '@/state/commands/days';
import { type Command, together } from '@/state/commands/edit';
import { addGroup, setLamp } from '@/state/commands/lamps';
import { addPlate } from '@/state/commands/plates';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';

import { howWords } from './hangWords';
import { mixName } from './wholeWords';

/** What of a proposal is taken into the draft. */
export type Taken = 'lamps' | 'mix' | 'day';

const cap = ({ capShare }: WholeWay) => Math.round(capShare * 100) / 100;
const kindOf = (w: WholeWay, groupId: string) => w.groups.find((g) => g.groupId === groupId)!.lampKind;

/** Lamps, mix and day of a proposal, or some of them, for lamps that are drafted. */
export function takeParts(w: WholeWay, group: Group, what: readonly Taken[]): Command {
  const kind = kindOf(w, group.id);
  const commands: Command[] = [];
  if (what.includes('lamps')) {
    commands.push(...w.lamps.map((l) => setLamp(group.id, l)));
    if (dims(kind)) commands.push(setCap(group.id, cap(w)));
  }
  let threads: Thread[] = group.threads;
  if (what.includes('day') && w.laterMin !== 0) threads = shifted(threads, w.laterMin);
  if (what.includes('mix') && w.mix.levels) {
    const plate = newPlate(newId(), mixName(w), kind.id, w.mix.levels);
    commands.push(addPlate(plate));
    threads = threads.map((t) => ({ ...t, mix: { plateId: plate.id } }));
  }
  if (threads !== group.threads) commands.push(setThreads(group.id, 'a proposed day', threads));
  return together(`${group.name}: ${howWords({ ...w, kind, figures: w })}`, ...commands);
}

/** The same for lamps that nobody has drafted: a group with its plate and day. */
export function takeFirst({ doc, zone }: Desk, w: WholeWay): Command {
  const { lampKind: kind } = w.groups.at(-1)!;
  const brightest = w.threads.reduce((a, b) => (b.strengthShare > a.strengthShare ? b : a));
  const plate = newPlate(newId(), mixName(w), kind.id, brightest.mix);
  const lamps = w.lamps.map((l, i): HungLamp => ({ ...l, id: newId(), name: `Lamp ${i + 1}` }));
  const threads = w.threads.map(({ minute, strengthShare }): Thread => ({
    ...{ id: newId(), minute, strengthShare },
    mix: { plateId: plate.id },
  }));
  const group: Group = {
    ...{ id: newId(), name: kind.name, lampKindId: kind.id, lamps, threads },
    capShare: dims(kind) ? cap(w) : 1,
  };
  return addGroup(
    zone.id,
    kind,
    plate,
    group,
    doc.lampKinds.some((k) => k.id === kind.id),
  );
}
