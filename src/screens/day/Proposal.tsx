import { useMemo } from 'react';
import { View } from 'react-native';

import {
  DAYS_PER_YEAR,
  type DayFigures,
  excessWords,
  feedsWords,
  saturatedWords,
  whatChanged,
} from '@/core/case/dayFigures';
import { levelsOfGroups, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { misfits } from '@/core/controller/misfits';
import { formatHours, formatTime } from '@/core/day/clock';
import { levelsAt } from '@/core/day/day';
import type { ResolvedThread } from '@/core/day/thread';
import { BANDS } from '@/core/spectrum/bands';
import { Weave } from '@/pieces/Weave';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { usePageSize } from '@/ui/Page';
import { Fold, Note } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { space } from '@/ui/theme';

import { Glimpse } from '../shared/Look';
import { kWh, mol, umol } from '../shared/words';
import { curveOf, figuresOf, withThreads } from './changed';
import { windowOf } from './model';
import { useUsed } from './useUsed';

/** Clock times at which the look through the day is shown, as shares of the lit hours. */
const LOOKS = [0.08, 0.3, 0.5, 0.72, 0.93];

interface ProposalProps {
  title: string | null;
  about: string;
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  threads: ResolvedThread[];
  /** where the cap changes with it */
  capShare?: number;
  reason: string | null;
  stepOf: (groups: LitGroup[]) => string;
  /** another one is being computed in its place */
  waiting?: boolean;
  onTake: () => void;
  testID: string;
  narrow?: boolean;
}

/** A weave that is looked at, not set. */
const NONE: never[] = [];
const nothing = () => undefined;
const STILL = {
  ...{ onSelect: nothing, onMove: nothing, onRelease: nothing },
  ...{ onStep: nothing, onOpen: nothing },
};

/** A day set against the present one: drawn over it, what really changes, figures, looks, and the way to take it. */
export function Proposal({
  title,
  about,
  desk,
  groups,
  light,
  threads,
  capShare,
  reason,
  stepOf,
  waiting = false,
  onTake,
  testID,
  narrow,
}: ProposalProps) {
  const { zone, spot, spotIndex, doc } = desk;
  const page = usePageSize();
  const width = narrow ? page.side : page.main;
  const groupId = desk.group!.id;
  const after = useMemo(
    () => withThreads(groups, groupId, threads, capShare),
    [groups, groupId, threads, capShare],
  );
  const misfit = misfits(desk.lampKind!, threads);
  const { rangeMiddleUmol, peak } = useUsed(desk)(spotIndex);
  const figures = useMemo(() => {
    const of = (day: readonly LitGroup[]) =>
      figuresOf(light, day, zone, spotIndex, { rangeMiddleUmol, peak });
    return { now: of(groups), then: of(after) };
  }, [light, groups, after, zone, spotIndex, rangeMiddleUmol, peak]);
  const span = windowOf([...groups, ...after]);
  const sources = useMemo(
    () =>
      after.map((g, i) => ({
        full: light.spectra[i]![spotIndex]!,
        levelsAt: (minute: number) => (g.day.knots.length > 0 ? levelsAt(g.day, minute) : []),
      })),
    [after, light, spotIndex],
  );
  const said = whatChanged(figures.now, figures.then);
  return (
    <View style={{ gap: space.s }} testID={testID} role="region" aria-label={title ?? 'The moved day'}>
      {title && <Type kind="heading">{title}</Type>}
      <Type kind="small">{about}</Type>
      <View
        role="img"
        aria-label={`µmol through the day at ${spot!.name}: the present day dashed, ${title ?? 'the moved day'} as light. ${said}`}
      >
        <Weave
          sources={sources}
          {...curveOf(light, after, spotIndex)}
          threads={NONE}
          {...span}
          width={width}
          fieldHeight={narrow ? 90 : 150}
          ghost={curveOf(light, groups, spotIndex)}
          home={zone.home ?? null}
          spotName={spot!.name}
          selected={null}
          {...STILL}
        />
      </View>
      <Looks {...{ desk, light, width }} groups={after} />
      <Type kind="strong" testID={`${testID}-said`}>
        {said}
      </Type>
      {reason && <Note>{`${reason.charAt(0).toUpperCase()}${reason.slice(1)}.`}</Note>}
      {misfit.length > 0 && (
        <Note>{`Its controller cannot take it as it stands: ${misfit.join('; ')}. Fit it afterwards.`}</Note>
      )}
      <Figures now={figures.now} then={figures.then} price={doc.kwhPrice ?? null} />
      <Type kind="small">{stepOf(after)}</Type>
      <Button
        label="Take this day"
        kind={narrow ? 'outlined' : 'filled'}
        wide={!narrow}
        name={title ? `Take ${title}` : 'Take the moved day'}
        disabled={waiting}
        onPress={onTake}
        testID={`take-${testID}`}
      />
    </View>
  );
}

const OUTLINE: readonly (readonly [string, (f: DayFigures) => string])[] = [
  ['Light a day', (f) => `${mol(f.dli)} mol`],
  ['Peak', (f) => (f.peak > 0 ? `${umol(f.peak)} µmol at ${formatTime(f.peakMinute)}` : 'dark')],
  ['Lit', (f) => formatHours(f.litHours)],
  ['Above saturation', (f) => (f.response ? saturatedWords(f.response) : 'no algae to saturate')],
  ['Of its light feeds', (f) => (f.response ? feedsWords(f.response) : 'none')],
  ['Light beyond its use', (f) => (f.response ? excessWords(f.response) : 'none')],
  ['Energy', (f) => `${kWh(f.kWhPerDay)} kWh a day`],
];

function Figures({ now, then, price }: { now: DayFigures; then: DayFigures; price: number | null }) {
  const row = (name: string, a: string, b: string) => (
    <View key={name} style={{ flexDirection: 'row', gap: space.m, paddingVertical: 2 }} role="row">
      <Type kind="small" style={{ flex: 1 }} role="rowheader">
        {name}
      </Type>
      <Type kind="label" role="cell">
        {a === b ? a : `${a} → ${b}`}
      </Type>
    </View>
  );
  return (
    <Fold title="Figures, and dose per band">
      <View role="table" aria-label="The present day and this one">
        {OUTLINE.map(([name, of]) => row(name, of(now), of(then)))}
        {price !== null &&
          row(
            'Cost a year',
            String(Math.round(now.kWhPerDay * DAYS_PER_YEAR * price)),
            String(Math.round(then.kWhPerDay * DAYS_PER_YEAR * price)),
          )}
        {BANDS.map((b) => row(`${b.name}, mol`, now.dose[b.id].toFixed(2), then.dose[b.id].toFixed(2)))}
      </View>
    </Fold>
  );
}

/** The look through the day: the tank at five times of the lit hours. */
function Looks({
  desk,
  light,
  groups,
  width,
}: {
  desk: Desk;
  light: ZoneLight;
  groups: LitGroup[];
  width: number;
}) {
  const span = windowOf(groups);
  const plate = Math.min(96, (width - space.s * (LOOKS.length - 1)) / LOOKS.length);
  return (
    <View style={{ flexDirection: 'row', gap: space.s }}>
      {LOOKS.map((share) => {
        const minute = Math.round((span.from + 60 + (span.to - span.from - 120) * share + 1440) % 1440);
        return (
          <View key={share} style={{ width: plate }}>
            <Glimpse
              {...{ desk, groups, light }}
              levels={levelsOfGroups(groups, minute)}
              width={plate}
              name={`The tank at ${formatTime(minute)}`}
            />
            <Type kind="small" style={{ textAlign: 'center' }}>
              {formatTime(minute)}
            </Type>
          </View>
        );
      })}
    </View>
  );
}
