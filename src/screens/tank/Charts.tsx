import { lengthFigure, lengthWords } from '@/core/shape/units';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { readUnder } from '@/core/case/calibration';
import { dayAt, parUnder } from '@/core/case/light';
import type { Candidate } from '@/core/case/places';
import { type Judgement, SIDE } from '@/core/case/judgement';
import { type NeedId, wantsOf, wantsOfKind } from '@/core/record/needs';
import type { HungLamp, Spot, Zone } from '@/core/record/zone';
import { parInField } from '@/core/optics/field';
import { Sounding } from '@/pieces/Sounding';
import type { SoundingMark, SoundingView } from '@/pieces/soundingShape';
import { moveSpot } from '@/state/commands/spots';
import { setLamp } from '@/state/commands/lamps';
import { newId } from '@/state/id';
import { nowUtcIso } from '@/state/time';
import { type Desk } from '@/state/desk';
import { run } from '@/state/session';
import { useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { TakeAlong } from '@/ui/TakeAlong';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { formats } from '../shared/formats';
import { LightPending } from '../shared/LightPending';
import { basisAt } from '../shared/words';
import { ChartChoices } from './ChartChoices';
import { figureOf, type Place, signed, unitOf } from './parts';
import { chooseTank, type TankLight } from './useTankLight';
import { useViews } from './views';
import { FieldPending, FieldProgress } from './FieldPending';
import { PlaneRail } from './PlaneRail';

/** Readings this near to the chart's plane stand on it, cm. Mark: rule of thumb. */
const NEAR_PLANE_CM = 6;
interface ChartsProps {
  desk: Desk;
  light: TankLight;
  /** of the day the light is of */
  judged: Judgement | null;
  width: number;
  wide: boolean;
  probe: Place | null;
  candidates: readonly Candidate[];
  onProbe: (place: Place) => void;
  onSpot: (spot: Spot) => void;
  onLamp: (groupId: string, lamp: HungLamp) => void;
}

/** The chart from above and in section, with all that can be taken hold of on it. */
export function Charts({
  desk,
  light,
  judged,
  width,
  wide,
  probe,
  candidates,
  onProbe,
  onSpot,
  onLamp,
}: ChartsProps) {
  const { zone, spot } = desk;
  const { tank } = zone;
  const chosen = useSettings((s) => s.tank);
  const { what, cal, groups, field: state, against } = light;
  const { most, parts, part, turn } = useParts(desk, width, wide);
  const partNames = partNamesOf(most);
  const depthCm = Math.round(chosen.depth * tank.depthCm);
  const frontCm = Math.round(chosen.fromFront * tank.widthCm);
  const leftCm = Math.round(chosen.fromLeft * tank.lengthCm);
  const field = state.field;
  const differs = against !== null;
  const otherField = against?.field.field ?? null;
  const suits = useMemo(() => {
    if (what === 'dli' || differs || chosen.suits === 'none') return null;
    const wants =
      chosen.suits === 'chosen' ? spot && wantsOf(spot, zone) : wantsOfKind(chosen.suits as NeedId, zone);
    return wants ? { from: wants.fromUmol, to: wants.toUmol } : null;
  }, [what, differs, chosen.suits, spot, zone]);

  const airCm = Math.max(8, ...groups.flatMap((g) => g.lamps.map((l) => l.heightCm))) + 6;
  const views = useViews(tank, light, { depthCm, frontCm, leftCm }, airCm);

  // a difference waits for both its lights
  const waiting = !field ? state : differs && !otherField ? against.field : null;
  if (waiting && (waiting.error || waiting.progress === null)) return <FieldPending state={waiting} />;
  const figure = (s: Spot, i: number): number | null => {
    if (!light.light) return null;
    const of = (l: NonNullable<TankLight['light']>, g: TankLight['groups'], levels: number[][]) =>
      what === 'dli' ? dayAt(l, g, i).dli : parUnder(l, levels, i);
    const mine = of(light.light, groups, light.levels);
    return against?.light ? mine - of(against.light, against.groups, against.levels) : mine;
  };
  const text = (value: number | null) =>
    value === null ? '' : differs ? signed(figureOf(what, Math.abs(value)), value) : figureOf(what, value);
  // readings stand on the chart where its light was read: near its plane, under its levels
  const planeCm = { top: depthCm, front: frontCm, side: leftCm };
  const offPlane = (kind: SoundingView['kind'], p: Place) =>
    Math.abs({ top: p.depthCm, front: p.yCm, side: p.xCm }[kind] - planeCm[kind]);
  const read = differs || what === 'dli' ? [] : readUnder(cal, groups, light.levels);
  const readAt = (s: Spot): string | null => {
    const reading = read.find((r) => r.spotId === s.id);
    return reading ? figureOf(what, reading.observedUmol) : null;
  };
  const marksOf = (kind: SoundingView['kind']): SoundingMark[] => [
    ...groups.flatMap((g) =>
      g.lamps.map((l): SoundingMark => ({
        id: `lamp ${g.groupId} ${l.id}`,
        kind: 'lamp',
        name: l.name,
        across: kind === 'side' ? l.yCm : l.xCm,
        down: kind === 'top' ? tank.widthCm - l.yCm : -l.heightCm,
        figure: '',
        read: null,
        standing: null,
        wide: kind === 'side' ? g.lampKind.faceWidthCm : g.lampKind.faceLengthCm,
        high: kind === 'top' ? g.lampKind.faceWidthCm : 2,
        turnDeg: kind === 'top' ? -l.turnDeg : 0,
      })),
    ),
    ...zone.spots.map((s, i): SoundingMark => {
      const value = figure(s, i);
      const where = judged?.corals[i]?.placed;
      return {
        id: `spot ${s.id}`,
        kind: s.need ? 'coral' : 'spot',
        name: s.name,
        across: kind === 'side' ? s.yCm : s.xCm,
        down: kind === 'top' ? tank.widthCm - s.yCm : s.depthCm,
        figure: text(value),
        read: readAt(s),
        standing: what === 'dli' || differs || !where ? null : SIDE[where.place],
      };
    }),
  ];
  const placeOf = (kind: SoundingView['kind'], across: number, down: number): Place =>
    kind === 'top'
      ? { xCm: across, yCm: tank.widthCm - down, depthCm }
      : kind === 'front'
        ? { xCm: across, yCm: frontCm, depthCm: down }
        : { xCm: leftCm, yCm: across, depthCm: down };
  const move = (kind: SoundingView['kind'], id: string, across: number, down: number) => {
    const [what_, ...rest] = id.split(' ');
    if (what_ === 'lamp') {
      const group = zone.groups.find((g) => g.id === rest[0]);
      const lamp = group?.lamps.find((l) => l.id === rest[1]);
      if (!group || !lamp) return;
      const to =
        kind === 'top'
          ? { xCm: across, yCm: tank.widthCm - down }
          : { heightCm: -down, ...(kind === 'front' ? { xCm: across } : { yCm: across }) };
      if (light.whose === 'running') chooseTank({ whose: 'draft' });
      run(setLamp(group.id, { ...lamp, ...to }));
      return;
    }
    const s = zone.spots.find((x) => x.id === rest[0]);
    if (!s) return;
    const to =
      kind === 'top'
        ? { xCm: across, yCm: tank.widthCm - down }
        : { depthCm: down, ...(kind === 'front' ? { xCm: across } : { yCm: across }) };
    run(moveSpot(zone.id, { ...s, ...to }, { id: newId(), atUtc: nowUtcIso() }));
  };
  const select = (id: string) => {
    const [what_, ...rest] = id.split(' ');
    if (what_ === 'spot') {
      const s = zone.spots.find((x) => x.id === rest[0]);
      if (s) onSpot(s);
    } else {
      const group = zone.groups.find((g) => g.id === rest[0]);
      const lamp = group?.lamps.find((l) => l.id === rest[1]);
      if (group && lamp) onLamp(group.id, lamp);
    }
  };
  const held = (kind: SoundingView['kind']) => (id: string, across: number, down: number) => {
    if (id.startsWith('lamp'))
      return kind === 'top'
        ? `${Math.round(across)} left, ${Math.round(tank.widthCm - down)} front`
        : `${lengthWords(-down)} up`;
    const place = placeOf(kind, across, down);
    const s = zone.spots.find((x) => `spot ${x.id}` === id)!;
    const at =
      kind === 'top'
        ? { ...place, depthCm: s.depthCm }
        : kind === 'front'
          ? { ...place, yCm: s.yCm }
          : { ...place, xCm: s.xCm };
    const value = parInField(field!, at.xCm, at.yCm, at.depthCm, light.shares) * s.openShare;
    return `${figureOf(what, value)} ${unitOf(what)}, ${kind === 'top' ? `${lengthFigure(at.xCm)}, ${lengthWords(at.yCm)}` : `${lengthWords(at.depthCm)} deep`}`;
  };
  const soundingsOf = (kind: SoundingView['kind']) =>
    candidates.length > 0
      ? candidates.map((c, i) => ({ id: `c${i}`, place: c as Place, text: String.fromCharCode(65 + i) }))
      : read
          .filter((r) => offPlane(kind, r) <= NEAR_PLANE_CM && !zone.spots.some((s) => s.id === r.spotId))
          .map((r) => ({ id: r.readingId, place: r as Place, text: figureOf(what, r.observedUmol) }));
  // a long tank on a narrow screen is paged, so that figures keep their size and labels their mark
  const paged = (kind: SoundingView['kind']) => kind !== 'side' && parts > 1;
  const partOf = (kind: SoundingView['kind']) =>
    paged(kind) ? { from: part * width, to: (part + 1) * width } : undefined;
  const shown = chosen.view;
  const named = `${differs ? 'difference of light' : 'light'} (${unitOf(what)})`;
  const kinds = wide ? (['top', shown === 'side' ? 'side' : 'front'] as const) : ([shown] as const);
  const planeWords = (kind: SoundingView['kind']) =>
    `${lengthWords(planeCm[kind], true)} ${{ top: 'deep', front: 'from the front', side: 'from the left' }[kind]}`;
  const chart = (kind: SoundingView['kind'], chartWidth: number) => {
    const view = views[kind];
    // its place is kept until it is there: what lies below does not move under a finger
    if (!view)
      return (
        <View style={{ width, height: chartHeight(kind, chartWidth, tank, airCm), justifyContent: 'center' }}>
          {kind === kinds[0] && (
            <>
              <LightPending error={null} noSpot={false} height={0} />
              <FieldProgress state={waiting ?? state} />
            </>
          )}
        </View>
      );
    const flat = (p: Place) => ({
      across: kind === 'side' ? p.yCm : p.xCm,
      down: kind === 'top' ? tank.widthCm - p.yCm : p.depthCm,
    });
    return (
      <Sounding
        key={kind}
        part={partOf(kind)}
        view={view}
        format={(v) => (differs ? signed(figureOf(what, Math.abs(v)), v) : figureOf(what, v))}
        suits={suits}
        signed={differs}
        marks={marksOf(kind)}
        read={soundingsOf(kind).map((s) => ({ id: s.id, text: s.text, ...flat(s.place) }))}
        solids={kind === 'top' ? tank.solids.map((s) => ({ ...s, yCm: tank.widthCm - s.yCm })) : tank.solids}
        probe={probe ? flat(probe) : null}
        selected={spot ? `spot ${spot.id}` : null}
        width={chartWidth}
        name={`${VIEWS[kind]}: ${unitOf(what)} of light ${planeWords(kind)}`}
        onProbe={(across, down) => onProbe(placeOf(kind, across, down))}
        onSelect={select}
        onMove={(id, across, down) => move(kind, id, across, down)}
        held={held(kind)}
        testID={`sounding-${kind}`}
      />
    );
  };
  // a narrow side section is not blown up to the width of the long one
  const widthOf = (kind: SoundingView['kind']) =>
    kind === 'side' ? Math.min(width, Math.max(240, (width * tank.widthCm * 1.25) / tank.lengthCm)) : width;
  return (
    <View style={{ gap: space.m }}>
      <TakeAlong
        name="light-in-the-tank"
        caption={`${zone.name}: ${named}, ${kinds.map((k) => `${VIEWS[k].toLowerCase()} ${planeWords(k)}`).join(' and ')}. Computed; what stands at marks is at the corals.`}
        csv={async () =>
          (await formats()).tableCsv(
            ['coral', 'from the left (cm)', 'from the front (cm)', 'deep (cm)', named],
            zone.spots.map((s, i) => [s.name, s.xCm, s.yCm, s.depthCm, figure(s, i)]),
          )
        }
        under={
          <>
            {!waiting && (state.progress !== null || (against && against.field.progress !== null)) && (
              <FieldProgress state={state.progress !== null ? state : against!.field} />
            )}
            <ChartChoices
              light={light}
              spot={spot}
              wide={wide}
              part={
                !wide && most > 1 && shown !== 'side'
                  ? { names: partNames, chosen: parts === 1 ? 'whole' : String(part), turn }
                  : null
              }
            />
            <Type kind="small" testID="chart-basis">
              {`${differs ? `Difference in ${unitOf(what)} against ${light.againstName}: more is +, less is − and dashed.` : `In ${unitOf(what)}, ${basisAt(cal, light.light, groups, desk.spotIndex)}${desk.spotIndex < 0 ? '' : ' (90 %)'}.`}${suits ? ` Dotted: less than the ${suits.from}–${suits.to} wanted (rule of thumb); hatched: more.` : ''} Tap the water for any place; drag corals and lamps.`}
            </Type>
          </>
        }
      >
        {kinds.map((kind) => (
          <View key={kind} style={{ gap: space.xs }}>
            {kind === 'top' && wide && (
              <Type kind="small" aria-hidden>
                back
              </Type>
            )}
            {paged(kind) ? (
              <View style={{ width, overflow: 'hidden' }}>
                <View style={{ width: width * parts, marginLeft: -part * width }}>
                  {chart(kind, width * parts)}
                </View>
              </View>
            ) : (
              chart(kind, widthOf(kind))
            )}
            {(wide ? kind === 'top' : paged(kind)) && (
              <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
                <Type kind={wide ? 'small' : 'label'} aria-hidden>
                  {kind === 'front'
                    ? planeWords('front')
                    : wide
                      ? `front · ${planeWords('top')}`
                      : `${planeWords('top')}; front below`}
                </Type>
                {paged(kind) && (
                  <Button
                    label={`To the ${partNames[(part + 1) % parts]!}`}
                    kind="plain"
                    onPress={() => turn(String((part + 1) % parts))}
                    testID="chart-turn"
                  />
                )}
              </View>
            )}
            <PlaneRail {...{ kind, tank, planeCm }} width={widthOf(kind)} hideLabel={paged(kind)} />
          </View>
        ))}
      </TakeAlong>
    </View>
  );
}

/** Below so many px a cm the figures of a chart crowd each other. Mark: rule of thumb. */
const LEAST_PX_PER_CM = 2.9;
const partNamesOf = (n: number): string[] =>
  n === 2
    ? ['left half', 'right half']
    : n === 3
      ? ['left third', 'middle third', 'right third']
      : Array.from({ length: n }, (_, i) => `part ${i + 1} of ${n} from the left`);

/** Which part of a long tank a narrow screen shows: that of the chosen coral, until another or the whole is asked for. */
function useParts(desk: Desk, width: number, wide: boolean) {
  const { zone, spot } = desk;
  const { lengthCm } = zone.tank;
  const most = wide ? 1 : Math.max(1, Math.ceil((lengthCm * LEAST_PX_PER_CM) / width));
  const [asked, setAsked] = useState<{ spotId: string | undefined; part: string } | null>(null);
  const chosen = asked?.spotId === spot?.id ? asked?.part : undefined;
  const parts = chosen === 'whole' ? 1 : most;
  const home = Math.min(most - 1, Math.floor(((spot?.xCm ?? 0) / lengthCm) * most));
  const part = parts === 1 ? 0 : chosen === undefined ? home : Math.min(most - 1, Number(chosen));
  return { most, parts, part, turn: (to: string) => setAsked({ spotId: spot?.id, part: to }) };
}

/** How high a chart is drawn, px: as the sounding has it. */
const chartHeight = (
  kind: SoundingView['kind'],
  width: number,
  tank: Zone['tank'],
  airCm: number,
): number => {
  const scale = (width - 2) / (kind === 'side' ? tank.widthCm : tank.lengthCm);
  return 2 + scale * (kind === 'top' ? tank.widthCm : airCm + tank.depthCm);
};

const VIEWS = { top: 'From above', front: 'Section from the front', side: 'Section from the side' } as const;
