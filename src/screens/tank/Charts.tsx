import { useSame } from '@/ui/useSame';
import { useMemo } from 'react';
import { View } from 'react-native';

import { readUnder } from '@/core/case/calibration';
import { dayAt, parUnder } from '@/core/case/light';
import type { Candidate } from '@/core/case/places';
import { type Judgement, SIDE } from '@/core/case/judgement';
import { type NeedId, wantsOf, wantsOfKind } from '@/core/record/needs';
import type { HungLamp, Spot } from '@/core/record/zone';
import { type Field, layerPar, parInField, sectionPar } from '@/core/optics/field';
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
import { Choice } from '@/ui/Field';
import { Fold, Note } from '@/ui/Parts';
import { Rail } from '@/ui/Rail';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { LightPending } from '../shared/LightPending';
import { basisAt } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { ChartTable } from './ChartTable';
import { figureOf, type Place, signed, unitOf } from './parts';
import { chooseTank, type TankLight } from './useTankLight';

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
  const shares = useSame(light.shares);
  const otherShares = useSame(against?.shares ?? null);
  const views = useMemo((): Partial<Record<SoundingView['kind'], SoundingView>> => {
    if (!field || (differs && !otherField)) return {};
    const minus = (a: Float64Array, b: Float64Array | null) => (b ? a.map((v, i) => v - b[i]!) : a);
    const layer = (f: Field, shares: Float64Array) => layerPar(f, depthCm, shares);
    const { nx, ny, depthsCm } = field.grid;
    const cut = (along: 'x' | 'y', at: number) =>
      minus(
        sectionPar(field, along, at, shares).values,
        otherShares && otherField ? sectionPar(otherField, along, at, otherShares).values : null,
      );
    return {
      top: {
        kind: 'top',
        acrossCm: tank.lengthCm,
        downCm: tank.widthCm,
        airCm: 0,
        nx,
        ny,
        layered: false,
        // the front, where the keeper stands, is drawn below
        values: turnedOver(
          minus(layer(field, shares), otherShares && otherField ? layer(otherField, otherShares) : null),
          nx,
        ),
      },
      front: {
        kind: 'front',
        acrossCm: tank.lengthCm,
        downCm: tank.depthCm,
        airCm,
        nx,
        ny: depthsCm.length,
        layered: true,
        values: cut('x', frontCm),
      },
      side: {
        kind: 'side',
        acrossCm: tank.widthCm,
        downCm: tank.depthCm,
        airCm,
        nx: ny,
        ny: depthsCm.length,
        layered: true,
        values: cut('y', leftCm),
      },
    };
  }, [field, otherField, shares, otherShares, depthCm, frontCm, leftCm, airCm, tank, differs]);

  // a difference waits for both its lights
  const waiting = !field ? state : differs && !otherField ? against.field : null;
  if (!field || waiting) return <FieldPending state={waiting ?? state} />;
  const figure = (s: Spot, i: number): number | null => {
    if (!light.light) return null;
    const of = (l: NonNullable<TankLight['light']>, g: TankLight['groups'], levels: number[][]) =>
      what === 'dli' ? dayAt(l, g, i).dli : parUnder(l, levels, i);
    const mine = of(light.light, groups, light.levels);
    return against?.light ? mine - of(against.light, against.groups, against.levels) : mine;
  };
  const text = (value: number | null) =>
    value === null ? '' : differs ? signed(figureOf(what, Math.abs(value)), value) : figureOf(what, value);
  const differenceAt = (x: number, y: number): number =>
    parInField(field, x, y, depthCm, light.shares) -
    (against && otherField ? parInField(otherField, x, y, depthCm, against.shares) : 0);
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
        : `${Math.round(-down)} cm up`;
    const place = placeOf(kind, across, down);
    const s = zone.spots.find((x) => `spot ${x.id}` === id)!;
    const at =
      kind === 'top'
        ? { ...place, depthCm: s.depthCm }
        : kind === 'front'
          ? { ...place, yCm: s.yCm }
          : { ...place, xCm: s.xCm };
    const value = parInField(field, at.xCm, at.yCm, at.depthCm, light.shares) * s.openShare;
    return `${figureOf(what, value)} ${unitOf(what)}, ${kind === 'top' ? `${Math.round(at.xCm)}, ${Math.round(at.yCm)} cm` : `${Math.round(at.depthCm)} cm deep`}`;
  };
  const soundingsOf = (kind: SoundingView['kind']) =>
    candidates.length > 0
      ? candidates.map((c, i) => ({ id: `c${i}`, place: c as Place, text: String.fromCharCode(65 + i) }))
      : read
          .filter((r) => offPlane(kind, r) <= NEAR_PLANE_CM && !zone.spots.some((s) => s.id === r.spotId))
          .map((r) => ({ id: r.readingId, place: r as Place, text: figureOf(what, r.observedUmol) }));
  const chart = (kind: SoundingView['kind'], chartWidth: number) => {
    const view = views[kind];
    if (!view) return null;
    const flat = (p: Place) => ({
      across: kind === 'side' ? p.yCm : p.xCm,
      down: kind === 'top' ? tank.widthCm - p.yCm : p.depthCm,
    });
    return (
      <Sounding
        key={kind}
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
        name={`${VIEWS[kind]}: ${unitOf(what)} of light${kind === 'top' ? ` ${depthCm} cm deep` : kind === 'front' ? ` ${frontCm} cm from the front` : ` ${leftCm} cm from the left`}`}
        onProbe={(across, down) => onProbe(placeOf(kind, across, down))}
        onSelect={select}
        onMove={(id, across, down) => move(kind, id, across, down)}
        held={held(kind)}
        testID={`sounding-${kind}`}
      />
    );
  };
  const shown = chosen.view;
  const rail = (kind: SoundingView['kind'], railWidth: number) =>
    kind === 'top' ? (
      <Rail
        label="Depth of the chart"
        value={depthCm}
        min={0}
        max={Math.round(tank.depthCm)}
        step={1}
        valueText={`${depthCm} cm`}
        width={railWidth}
        onChange={(v) => chooseTank({ depth: v / tank.depthCm })}
        testID="depth-rail"
      />
    ) : kind === 'front' ? (
      <Rail
        label="Section from the front"
        value={frontCm}
        min={0}
        max={Math.round(tank.widthCm)}
        step={1}
        valueText={`${frontCm} cm`}
        width={railWidth}
        onChange={(v) => chooseTank({ fromFront: v / tank.widthCm })}
        testID="front-rail"
      />
    ) : (
      <Rail
        label="Section from the left"
        value={leftCm}
        min={0}
        max={Math.round(tank.lengthCm)}
        step={1}
        valueText={`${leftCm} cm`}
        width={railWidth}
        onChange={(v) => chooseTank({ fromLeft: v / tank.lengthCm })}
        testID="left-rail"
      />
    );
  // a narrow side section is not blown up to the width of the long one
  const widthOf = (kind: SoundingView['kind']) =>
    kind === 'side' ? Math.min(width, Math.max(240, (width * tank.widthCm * 1.25) / tank.lengthCm)) : width;
  const kinds = wide ? (['top', shown === 'side' ? 'side' : 'front'] as const) : ([shown] as const);
  return (
    <View style={{ gap: space.m }}>
      <Choice
        label="Seen"
        hideLabel
        value={wide && shown === 'top' ? 'front' : shown}
        onChange={(view) => chooseTank({ view })}
        options={[
          ...(wide ? [] : [{ value: 'top' as const, label: 'From above' }]),
          { value: 'front', label: wide ? 'Section from the front' : 'From the front' },
          { value: 'side', label: wide ? 'From the side' : 'From the side' },
        ]}
      />
      {kinds.map((kind) => (
        <View key={kind} style={{ gap: space.xs }}>
          {kind === 'top' && (
            <Type kind="small" aria-hidden>
              back
            </Type>
          )}
          {chart(kind, widthOf(kind))}
          {kind === 'top' && (
            <Type kind="small" aria-hidden>
              {`front · ${depthCm} cm deep`}
            </Type>
          )}
          {rail(kind, widthOf(kind))}
        </View>
      ))}
      {(state.progress !== null || (against && against.field.progress !== null)) && (
        <FieldProgress state={state.progress !== null ? state : against!.field} />
      )}
      <Fold title="The chart as a table" testID="chart-table">
        <ChartTable tank={tank} depthCm={depthCm} figure={(x, y) => text(differenceAt(x, y))} />
      </Fold>
      <Type kind="small" testID="chart-basis">
        {`${differs ? `Difference in ${unitOf(what)} against ${light.againstName}: more is +, less is − and dashed.` : `Light in ${unitOf(what)}, ${basisAt(cal, light.light, groups, desk.spotIndex)} (90 %).`}${suits ? ` Wanted ${suits.from}–${suits.to} µmol (rule of thumb): dotted is less, hatched is more.` : ''} Tap the water for any place; drag corals and lamps.`}
      </Type>
    </View>
  );
}

/** Rows in the opposite order. */
function turnedOver(values: Float64Array, nx: number): Float64Array {
  const out = new Float64Array(values.length);
  for (let at = 0; at < values.length; at += nx)
    out.set(values.subarray(at, at + nx), values.length - nx - at);
  return out;
}

const VIEWS = { top: 'From above', front: 'Section from the front', side: 'Section from the side' } as const;

function FieldPending({ state }: { state: TankLight['field'] }) {
  if (state.error)
    return (
      <View style={{ gap: space.s }}>
        <Note>{`The light in the water could not be computed: ${state.error}. Nothing is lost.`}</Note>
        <Button label="Compute it again" onPress={state.again} />
      </View>
    );
  if (state.progress === null)
    return (
      <View style={{ gap: space.s }}>
        <Type>The light in the water is not computed yet.</Type>
        <Button label="Compute it" onPress={state.again} testID="field-again" />
      </View>
    );
  return (
    <>
      <LightPending error={null} noSpot={false} height={120} />
      <FieldProgress state={state} />
    </>
  );
}

function FieldProgress({ state }: { state: TankLight['field'] }) {
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
      <Type
        kind="label"
        role="status"
        testID="field-progress"
      >{`Light in the water: ${percent(state.progress ?? 1)}`}</Type>
      <Button label="Stop" kind="plain" onPress={state.cancel} />
    </View>
  );
}
