import { newPlate } from '../case/plate';
import type { CaseDoc, Plate } from '../record/caseDoc';
import { type Group, type Mat, plainSpot, type Spot, type Thread, type Zone } from '../record/zone';
import { CONTROLLERS } from '../controller/profiles';
import { lampLibrary } from '../library/lamps';
import type { Alga } from '../feeding/algae';
import { feedingPerJoule } from './roles';
import type { LampWay } from './lampFor';
import { isNearPureBlue, lampLight } from './families';
import { blockDay, oppositeHours, sharedHours } from '../case/hours';
import { lookedAtDays } from '../case/lookedAt';
import { allFull, dims, toStep } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';

/** How many lamps are tried: those with most growth per watt, and what hangs here. */
const TRIED = 7;

const sameLight = (a: LampKind, b: LampKind) => JSON.stringify(a.channels) === JSON.stringify(b.channels);

/** Lamps of the library that could light an alga, the most growth per watt first, after those that hang here; blue and violet ones are left out. */
export function lampsFor(a: Alga, hungHere: readonly LampKind[]): { kind: LampKind; mix: Levels }[] {
  const full = (kind: LampKind) => ({ kind, mix: allFull(kind) });
  const rest = lampLibrary()
    .map((l) => full(l.kind))
    .filter(({ kind, mix }) => kind.source === 'led' && !isNearPureBlue(lampLight(kind, mix)))
    .filter(({ kind }) => !hungHere.some((k) => sameLight(k, kind)))
    .map((l) => ({ ...l, worth: feedingPerJoule(l.kind, l.mix, a) }))
    .sort((x, y) => y.worth - x.worth)
    .slice(0, TRIED);
  return [...hungHere.map(full), ...rest.map(({ kind, mix }) => ({ kind, mix }))];
}

/** A spot where an alga grows, with its mat where it is one. */
export const algaSpot = (id: string, a: Alga, at: Pick<Spot, 'xCm' | 'yCm' | 'depthCm'>, mat?: Mat): Spot =>
  plainSpot({
    id,
    name: a.name,
    xCm: at.xCm,
    yCm: at.yCm,
    depthCm: at.depthCm,
    need: 'macroalgae',
    algaId: a.id,
    ...(mat ? { mat: { lengthCm: mat.lengthCm, widthCm: mat.widthCm } } : {}),
  });

/** Plain hours as threads of a group: its strongest thread's mix and strength from on to off. */
export function plainHours(
  kind: Pick<LampKind, 'controller'>,
  group: Pick<Group, 'threads'>,
  onMinute: number,
  offMinute: number,
  id: () => string,
): Thread[] {
  const strongest = group.threads.reduce<Thread | null>(
    (best, t) => (best && best.strengthShare >= t.strengthShare ? best : t),
    null,
  );
  return blockDay(kind.controller, onMinute, offMinute).map((t) => ({
    id: id(),
    minute: t.minute,
    strengthShare: t.strengthShare * (strongest?.strengthShare ?? 1),
    mix: strongest?.mix ?? { own: {} },
  }));
}

/** A way of lighting a mat as lamps of the case: hung, with a plate, lit so many hours: with waters that are looked at where it is one itself, else while those are dark. */
export function hang(
  way: LampWay,
  doc: CaseDoc,
  others: readonly Zone[],
  lookedAt: boolean,
  hours: number,
  id: () => string,
): { kind: LampKind; plate: Plate; group: Group } {
  // what cannot be dimmed hangs on a timer in the wall
  const timer = CONTROLLERS.find((c) => c.id === 'wall-timer')!.profile;
  const kind: LampKind = {
    ...way.kind,
    id: id(),
    ...(dims(way.kind) ? {} : { controller: timer }),
  };
  const plate = newPlate(id(), 'On', kind.id, way.mix);
  const { onMinute, offMinute } = (lookedAt ? sharedHours : oppositeHours)(
    lookedAtDays(doc, others),
    hours,
    kind.controller.everyMin,
  );
  const step = kind.controller.pointStepShare || 0.01;
  return {
    kind,
    plate,
    group: {
      id: id(),
      name: way.lamps.length > 1 ? `${way.lamps.length} lamps` : 'Lamp',
      lampKindId: kind.id,
      lamps: way.lamps.map((l, i) => ({
        ...l,
        id: id(),
        name: way.lamps.length > 1 ? `lamp ${i + 1}` : 'lamp',
      })),
      threads: plainHours(
        kind,
        { threads: [{ id: '', minute: 0, strengthShare: 1, mix: { plateId: plate.id } }] },
        onMinute,
        offMinute,
        id,
      ),
      capShare: dims(kind) ? Math.min(1, Math.max(step, toStep(way.level, step))) : 1,
    },
  };
}
