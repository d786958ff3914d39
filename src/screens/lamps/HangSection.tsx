import { useMemo, useRef } from 'react';

import type { HangAsk, HangWay, HungFigures } from '@/core/case/hang';
import { brightestLevels } from '@/core/case/light';
import { wantsOf } from '@/core/record/needs';
import type { HungLamp } from '@/core/record/zone';
import { percent } from '@/core/shape/percent';
import { lengthWords } from '@/core/shape/units';
import { dims } from '@/core/spectrum/controls';
import { Sounding } from '@/pieces/Sounding';
import { setCap } from '@/state/commands/days';
import { together } from '@/state/commands/edit';
import { setLamp } from '@/state/commands/lamps';
import type { Desk } from '@/state/desk';
import { useLight } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { useHangAt } from '@/state/hanging';
import { usePageSize } from '@/ui/Page';

import { Glimpse } from '../shared/Look';
import { umol } from '../shared/words';
import { howWords } from './hangWords';

/** The tank from the front with the lamps of an answer, or as drafted; a lamp that is pulled says what it would do. */
export function HangSection({
  desk,
  ask,
  askKey,
  way,
  now,
  name,
}: {
  desk: Desk;
  ask: Omit<HangAsk, 'used'>;
  askKey: string;
  way: HangWay | null;
  /** as they hang; null while it is being looked at */
  now: HungFigures | null;
  name: string;
}) {
  const { zone, spot } = desk;
  const page = usePageSize();
  const umols = (way?.figures ?? now)?.umol ?? null;
  const { groupId, groups } = ask;
  const group = groups.find((g) => g.groupId === groupId)!;
  const lamps = way?.lamps ?? [...group.lamps];
  const kind = way?.kind ?? group.lampKind;
  const cap = way?.figures.capShare ?? group.day.capShare;
  const { figures: pulled, look, clear } = useHangAt(askKey, ask);
  const looked = useRef('');
  /** said from what was answered last: the answer comes a moment after the finger */
  const heldWords = (id: string, across: number, down: number): string => {
    const there = moved(id, across, down);
    const place = JSON.stringify(there);
    if (looked.current !== place) {
      looked.current = place;
      queueMicrotask(() => look(there, kind, cap));
    }
    const up = `${lengthWords(Math.round(-down))} up`;
    if (!pulled) return up;
    const at = spot ? zone.spots.indexOf(spot) : -1;
    return `${up}: ${at >= 0 ? `${umol(pulled.umol[at]!)} µmol at ${spot!.name}, ` : ''}darkest ${percent(1 - pulled.uneven)}, panes ${umol(pulled.glassUmol)}`;
  };
  const moved = (id: string, across: number, down: number): HungLamp[] =>
    lamps.map((l) => ({
      ...l,
      // all lamps of a group hang at one height; along the tank each is its own
      heightCm: Math.max(1, Math.round(-down)),
      xCm: `lamp ${l.id}` === id ? Math.round(across) : l.xCm,
    }));
  const airCm = Math.max(...lamps.map((l) => l.heightCm)) + ABOVE_CM;
  const wide = (l: HungLamp) => (l.turnDeg % 180 === 0 ? kind.faceLengthCm : kind.faceWidthCm);
  return (
    <Sounding
      testID="hang-section"
      name={`The tank from the front with the lamps: ${name}`}
      view={{
        ...{ kind: 'front', acrossCm: zone.tank.lengthCm, downCm: zone.tank.depthCm, airCm },
        ...{ nx: 2, ny: 2, values: NO_FIELD, layered: true },
      }}
      format={(v) => String(Math.round(v))}
      suits={null}
      signed={false}
      read={[]}
      solids={zone.tank.solids}
      probe={null}
      selected={spot ? `spot ${spot.id}` : null}
      width={page.main}
      onProbe={() => undefined}
      onSelect={(id) => id.startsWith('spot ') && changeSettings({ spotId: id.slice(5) })}
      onMove={(id, across, down) => {
        if (!id.startsWith('lamp ')) return;
        clear();
        run(
          together(
            'Lamps hung',
            ...moved(id, across, down).map((l) => setLamp(groupId, l)),
            ...(dims(kind) ? [setCap(groupId, Math.round(cap * 100) / 100)] : []),
          ),
        );
      }}
      held={heldWords}
      marks={[
        ...lamps.map((l) => ({
          ...{ id: `lamp ${l.id}`, kind: 'lamp' as const, name: l.name, across: l.xCm, down: -l.heightCm },
          ...{ figure: '', read: null, standing: null, wide: wide(l), high: 3 },
        })),
        ...zone.spots.map((s, i) => ({
          ...{ id: `spot ${s.id}`, kind: s.need ? ('coral' as const) : ('spot' as const), name: s.name },
          ...{ across: s.xCm, down: s.depthCm, figure: umols ? umol(umols[i]!) : '', read: null },
          standing: umols ? standing(umols[i]!, wantsOf(s, zone)) : null,
        })),
      ]}
    />
  );
}
/** Room over the lamps, to pull them up. */
const ABOVE_CM = 16;
const NO_FIELD = [NaN, NaN, NaN, NaN];
const standing = (v: number, wants: ReturnType<typeof wantsOf>) =>
  !wants
    ? null
    : v < wants.fromUmol
      ? ('below' as const)
      : v > wants.toUmol
        ? ('above' as const)
        : ('within' as const);

/** The tank as it would look under an answer. */
export function HangPicture({
  desk,
  ask,
  way,
  width,
}: {
  desk: Desk;
  ask: Omit<HangAsk, 'used'>;
  way: HangWay;
  width: number;
}) {
  const { zone } = desk;
  const hung = useMemo(
    () =>
      ask.groups.map((g) =>
        g.groupId === ask.groupId
          ? {
              ...g,
              lampKind: way.kind,
              lamps: way.lamps,
              day: { ...g.day, capShare: dims(g.lampKind) ? way.figures.capShare : g.day.capShare },
            }
          : g,
      ),
    [ask, way],
  );
  const { light } = useLight(hung, zone, ask.cal);
  if (!light || zone.spots.length === 0) return null;
  return (
    <Glimpse
      {...{ desk, light, width }}
      groups={hung}
      levels={brightestLevels(light, hung, Math.max(0, desk.spotIndex))}
      name={`The tank under ${howWords(way)}`}
    />
  );
}
