import { router } from 'expo-router';
import { type ReactNode, useMemo } from 'react';
import { View } from 'react-native';
import Svg, { Line, Polyline } from 'react-native-svg';

import { excessWords, saturatedWords } from '@/core/case/dayFigures';
import { type Dispute, type School, type SchoolDay } from '@/core/case/disputes';
import { daysAt, levelsOfGroups, spectrumUnder, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { xyzOf } from '@/core/colour/xyz';
import { formatHours } from '@/core/day/clock';
import { livesByLight } from '@/core/record/needs';
import { type DayCurve, dayPoints } from '@/pieces/dayCurve';
import { setExperiment, usualExperiment } from '@/state/commands/experiments';
import { keepDay } from '@/state/commands/days';
import { together } from '@/state/commands/edit';
import { takeDay } from '@/state/days';
import { type Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { localDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { usePageSize } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { luxWords } from '../../shared/eyeWords';
import { Glimpse } from '../../shared/Look';
import { kWh, mol, umol } from '../../shared/words';
import { curveOf, figuresOf, withThreads } from '../changed';
import { windowOf } from '../model';
import { type Used, useUsed } from '../useUsed';

/** A school with its day for this lamp. */
interface Way extends SchoolDay {
  school: School;
  after: LitGroup[];
}

interface BesideProps {
  desk: Desk;
  dispute: Dispute;
  groups: LitGroup[];
  light: ZoneLight;
  basis: string;
  found: readonly SchoolDay[];
  /** they still are those of another light */
  stale: boolean;
  stepOf: (groups: LitGroup[]) => string;
  /** what stands between the figures and the schools */
  proof: ReactNode;
}

/** The schools of a question beside each other: how the tank looks, its day, figures, and what each gains and gives up. */
export function Beside({ desk, dispute, groups, light, basis, found, stale, stepOf, proof }: BesideProps) {
  const { zone, spot, spotIndex } = desk;
  const page = usePageSize();
  const groupId = desk.group!.id;
  const ways = useMemo(
    () =>
      found.map((d): Way => ({
        ...d,
        school: dispute.schools.find((s) => s.id === d.id)!,
        after: withThreads(groups, groupId, d.day.threads, d.day.capShare),
      })),
    [found, dispute, groups, groupId],
  );
  const shown = ways.filter((w) => w.day.threads.length > 0 && w.sameAs === null);
  const { rangeMiddleUmol, peak } = useUsed(desk)(spotIndex);
  const figures = useMemo(
    () => shown.map(({ after }) => figuresAt(light, after, zone, spotIndex, { rangeMiddleUmol, peak })),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [ways, light, zone, spotIndex, rangeMiddleUmol, peak],
  );
  const width = Math.min(220, (page.main - space.m * (shown.length - 1)) / Math.max(1, shown.length));
  const span = windowOf([...groups, ...shown.flatMap((w) => w.after)]);
  const most = Math.max(...figures.map((f) => f.peak), 1e-9);
  const known = ROWS.filter(([, of]) => figures.some((f) => of(f) !== null));
  const isAlike = (of: (f: Figures) => string | null) => new Set(figures.map(of)).size < 2;
  const apart = known.filter(([, of]) => !isAlike(of));
  const alike = known.filter(([, of]) => isAlike(of));
  const shaped = apart.some(([name]) => name === 'Peak' || name === 'Lit');
  return (
    <>
      {shown.length > 0 && (
        <View style={{ gap: space.s }} testID="beside">
          <View style={{ flexDirection: 'row', gap: space.m }}>
            {shown.map((w, i) => (
              <View key={w.id} style={{ width, gap: space.s }}>
                <Glimpse
                  {...{ desk, light, width }}
                  groups={w.after}
                  levels={levelsOfGroups(w.after, figures[i]!.peakMinute)}
                  name={`The tank at its brightest: ${w.school.name}`}
                />
                {shaped && (
                  <DayLine
                    {...span}
                    {...{ width, most }}
                    curve={curveOf(light, w.after, spotIndex)}
                    name={`${w.school.name}: µmol through the day at ${spot!.name}`}
                  />
                )}
                <Type kind="label">{w.school.name}</Type>
              </View>
            ))}
          </View>
          <View role="table" aria-label={`The schools at ${spot!.name}`}>
            {apart.map(([name, of]) => (
              <View key={name} role="row" style={{ paddingVertical: 3 }}>
                <Type kind="small" role="rowheader">
                  {name}
                </Type>
                <View style={{ flexDirection: 'row', gap: space.m }}>
                  {figures.map((f, i) => (
                    <Type kind="label" role="cell" key={shown[i]!.id} style={{ width }}>
                      {of(f) ?? 'none'}
                    </Type>
                  ))}
                </View>
              </View>
            ))}
          </View>
          {alike.length > 0 && (
            <Type kind="small" testID="alike">
              {`Alike in all: ${alike.map(([name, of]) => `${name.charAt(0).toLowerCase()}${name.slice(1)} ${of(figures[0]!)}`).join(', ')}.`}
            </Type>
          )}
          <Type kind="small">{`At ${spot!.name}: ${basis}. Brightness and energy are estimates.`}</Type>
        </View>
      )}
      {proof}
      {ways.map((w) => (
        <OneWay key={w.id} {...{ desk, dispute, ways, stale }} way={w} step={stepOf(w.after)} />
      ))}
    </>
  );
}

type Figures = ReturnType<typeof figuresAt>;
function figuresAt(light: ZoneLight, after: LitGroup[], zone: Desk['zone'], spot: number, used: Used) {
  const figures = figuresOf(light, after, zone, spot, used);
  return {
    ...figures,
    takenMol: livesByLight(zone.spots[spot]!) ? daysAt(light, after, [spot])[0]!.taken.dli : null,
    lux: xyzOf(spectrumUnder(light, levelsOfGroups(after, figures.peakMinute), spot))[1],
  };
}

const ROWS: readonly (readonly [string, (f: Figures) => string | null])[] = [
  ['Peak', (f) => `${umol(f.peak)} µmol`],
  ['Lit', (f) => formatHours(f.litHours)],
  ['Light a day as corals take it', (f) => (f.takenMol === null ? null : `${mol(f.takenMol)} mol`)],
  ['Above saturation', (f) => f.response && saturatedWords(f.response)],
  ['Light beyond its use', (f) => f.response && excessWords(f.response)],
  ['How bright it looks at its peak', (f) => luxWords(f.lux)],
  ['Energy', (f) => `${kWh(f.kWhPerDay)} kWh a day`],
];

const LINE_HEIGHT = 56;

/** The light of a day as a line, all schools of a question on one scale. */
function DayLine({
  curve,
  from,
  to,
  most,
  width,
  name,
}: {
  curve: DayCurve;
  from: number;
  to: number;
  most: number;
  width: number;
  name: string;
}) {
  const paper = usePaper();
  const points = dayPoints(curve, from, to).map(
    ([m, v]) =>
      `${((width * (m - from)) / (to - from)).toFixed(1)},${(LINE_HEIGHT - 1 - (v / most) * (LINE_HEIGHT - 3)).toFixed(1)}`,
  );
  return (
    <View role="img" aria-label={name}>
      <Svg width={width} height={LINE_HEIGHT} aria-hidden>
        <Line x1={0} x2={width} y1={LINE_HEIGHT - 0.5} y2={LINE_HEIGHT - 0.5} stroke={paper.line} />
        <Polyline points={points.join(' ')} fill="none" stroke={paper.ink} strokeWidth={1.5} />
      </Svg>
    </View>
  );
}

/** One school: what it does, gains and gives up, what taking it would be at once, and how to try it. */
function OneWay({
  desk,
  dispute,
  ways,
  way,
  step,
  stale,
}: Pick<BesideProps, 'desk' | 'dispute' | 'stale'> & { ways: readonly Way[]; way: Way; step: string }) {
  const { doc, zone, spot } = desk;
  const group = desk.group!;
  const nowMs = useNowMs();
  const { school, day } = way;
  const twin = ways.find((w) => w.id === way.sameAs);
  const lit = day.threads.length > 0;
  const tryIt = () => {
    const made = usualExperiment(
      {
        name: dispute.asks,
        change: `${school.name} in place of the present day; kept among the days as “${school.name}”`,
        measure: dispute.measure,
        start: localDate(nowMs, zone.timeZone),
      },
      spot?.id ?? null,
    );
    const { threads, capShare } = day;
    const kept = {
      ...{ id: newId(), name: school.name, lampKindId: group.lampKindId, capShare },
      threads: threads.map((t) => ({ ...t, mixName: 'its own mix' })),
    };
    if (run(together(`try ${school.name}`, keepDay(kept), setExperiment(zone.id, made))))
      router.navigate({ pathname: '/experiments', params: { of: made.id } } as never);
  };
  const take = () => {
    if (run(takeDay(doc, group, `a school: ${school.name}`, day.threads, day.capShare)))
      router.navigate({ pathname: '/day', params: { took: school.name } });
  };
  return (
    <Section title={school.name}>
      <View style={{ gap: space.s }} testID={`school-${school.id}`}>
        <Type>{school.does}</Type>
        <Type kind="small">{`Gains: ${school.gains}`}</Type>
        <Type kind="small">{`Gives up: ${school.givesUp}`}</Type>
        {day.gave.length > 0 && <Type kind="small">{`To give that light ${day.gave.join('; ')}.`}</Type>}
        {day.reason && <Note>{`Not quite the same light: ${day.reason}.`}</Note>}
        {twin ? (
          <Type kind="strong">{`With this lamp it is the same day as ${twin.school.name}.`}</Type>
        ) : way.isPresent ? (
          <Type kind="strong">It is the day you have.</Type>
        ) : (
          lit && (
            <>
              <Type kind="small">{step}</Type>
              <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
                <Button
                  label="Try it as an experiment"
                  name={`Try ${school.name} as an experiment`}
                  disabled={stale || day.reason !== null}
                  onPress={tryIt}
                  testID={`try-${school.id}`}
                />
                <Button
                  label="Take this day"
                  name={`Take ${school.name}`}
                  kind="plain"
                  disabled={stale}
                  onPress={take}
                  testID={`take-${school.id}`}
                />
              </View>
            </>
          )
        )}
      </View>
    </Section>
  );
}
