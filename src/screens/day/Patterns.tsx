import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { moveBeauty } from '@/core/case/beauty';
import { DAYS_PER_YEAR, type DayFigures, whatChanged } from '@/core/case/dayFigures';
import { dayAt, levelsOfGroups, spectrumUnder, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { patternDay, PATTERNS } from '@/core/case/patterns';
import { formatHours, formatTime } from '@/core/day/clock';
import { dli } from '@/core/day/day';
import { extraDay } from '@/core/day/extras';
import type { ResolvedThread } from '@/core/day/thread';
import { misfits } from '@/core/controller/fit';
import { BANDS } from '@/core/spectrum/bands';
import { LookPlate } from '@/pieces/LookPlate';
import { TwoDays } from '@/pieces/TwoDays';
import { setZone } from '@/state/commands';
import { takeDay } from '@/state/days';
import { type Desk, useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Choice, FieldRow } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { Fold, Note, Section } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField, TimeField } from '../shared/fields';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { SpotChoice } from '../shared/SpotChoice';
import { useDraftLight } from '../shared/useDraftLight';
import { mol, umol } from '../shared/words';
import { curveOf, figuresOf, stepWords, withThreads } from './changed';
import { windowOf } from './Day';

/** When nobody has said when they are home. Mark: rule of thumb. */
const USUAL_HOME = { fromMinute: 18 * 60, toMinute: 22 * 60 };
/** Clock times at which the look through the day is shown, as shares of the lit hours. */
const LOOKS = [0.08, 0.3, 0.5, 0.72, 0.93];

/** Days after the schools' patterns, each set against the present day. */
export function Patterns() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Patterns" />;
}

function Filled({ desk }: { desk: Desk }) {
  const { zone, spot, spotIndex, doc } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const { groups, light, error, accustomed } = useDraftLight(desk);
  const equal = useSettings((s) => s.equalDli);
  const [typed, setTyped] = useState<number | null>(null);
  const [look, setLook] = useState(desk.plate?.id ?? '');
  const ready = light !== null && spotIndex >= 0;
  const home = zone.home ?? USUAL_HOME;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const ownDli = ready ? dli(plainDay(lit, lit.threads), light.par[index]![spotIndex]!) : 0;
  const wanted = equal || typed === null ? ownDli : typed;
  const base = useMemo(() => {
    const strongest = [...lit.threads].sort((a, b) => b.strengthShare - a.strengthShare)[0];
    return strongest?.mix ?? desk.plate?.mix ?? {};
  }, [lit.threads, desk.plate]);

  const time = (label: string, key: 'fromMinute' | 'toMinute', testID: string) => (
    <TimeField
      label={label}
      value={home[key]}
      testID={testID}
      take={(m) => {
        const next = { ...home, [key]: m };
        if (next.fromMinute === next.toMinute)
          return 'Somebody is home for some time: give two different times.';
        return run(setZone(zone.id, { home: next }));
      }}
    />
  );
  return (
    <Page
      testID="patterns"
      title="Patterns"
      under={`${group.name} · ${equal ? 'at the present day’s light, so that only colour and hours differ' : 'at the light you ask for'}`}
      sentence={
        <Type kind="sentence">
          {ready && ownDli > 0
            ? `The present day gives ${mol(ownDli)} mol at ${spot!.name} from ${group.name}.`
            : 'Each pattern below is a day that meets the light you ask for, or says why it cannot.'}
        </Type>
      }
      side={
        <>
          <Section title="Move the beauty, keep the dose">
            <Type kind="small">
              The wanted look falls into the hours at home; outside them a companion mix makes up the rest, so
              that every coral gets what it got, band by band.
            </Type>
            {plates.length > 0 && (
              <Choice
                label="The look to be seen then"
                value={look}
                onChange={setLook}
                options={plates.map((p) => ({ value: p.id, label: p.name }))}
              />
            )}
            {ready && (
              <Beauty
                desk={desk}
                groups={groups}
                light={light}
                home={home}
                lookId={look}
                stepOf={(g) => stepWords(light, g, zone, accustomed)}
              />
            )}
          </Section>
          <SpotChoice label="Judged at" spots={zone.spots} spotId={spot?.id} />
        </>
      }
    >
      <GroupChoice />
      <FieldRow>
        {time('Home from', 'fromMinute', 'home-from')}
        {time('until', 'toMinute', 'home-to')}
      </FieldRow>
      <Choice
        label="Compared"
        value={equal ? 'equal' : 'typed'}
        onChange={(v) => changeSettings({ equalDli: v === 'equal' })}
        options={[
          { value: 'equal', label: 'At equal light a day' },
          { value: 'typed', label: 'At a light of my own' },
        ]}
      />
      {!equal && (
        <NumberField
          label={`Light a day at ${spot?.name ?? 'the coral'}, from ${group.name}`}
          value={wanted > 0 ? Math.round(wanted * 100) / 100 : null}
          unit="mol"
          low={0.01}
          high={100}
          wrong="Give mol a day above 0, to 100."
          testID="wanted-dli"
          take={(v) => {
            setTyped(v);
            return null;
          }}
        />
      )}
      {!ready ? (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={320} />
      ) : wanted <= 0 ? (
        <Note>
          The present day is dark: choose “At a light of my own” and say how much, then a pattern can begin
          it.
        </Note>
      ) : (
        PATTERNS.map((p) => (
          <Card
            key={p.id}
            desk={desk}
            pattern={p}
            groups={groups}
            light={light}
            home={home}
            wanted={wanted}
            base={base}
            stepOf={(g) => stepWords(light, g, zone, accustomed)}
          />
        ))
      )}
      {!zone.home && (
        <Type kind="small">Nobody has said yet when somebody is home: 18 to 22 o’clock is assumed.</Type>
      )}
    </Page>
  );
}

/** A day of threads as the group would run it, without what acts on single dates. */
const plainDay = (lit: LitGroup, threads: readonly ResolvedThread[]) =>
  extraDay(
    lit.lampKind,
    threads,
    { capShare: lit.day.capShare, easingShare: lit.day.easingShare },
    undefined,
    null,
  );

interface CardProps {
  desk: Desk;
  pattern: (typeof PATTERNS)[number];
  groups: LitGroup[];
  light: ZoneLight;
  home: { fromMinute: number; toMinute: number };
  wanted: number;
  base: ResolvedThread['mix'];
  stepOf: (groups: LitGroup[]) => string;
}

function Card({ desk, pattern, groups, light, home, wanted, base, stepOf }: CardProps) {
  const { doc, zone, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const made = useMemo(
    () =>
      patternDay(pattern.id, {
        kind,
        base,
        home,
        wantedDli: wanted,
        dliOf: (threads) => dli(plainDay(groups[index]!, threads), light.par[index]![spotIndex]!),
      }),
    // the light object stands for rig and calibration
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [pattern.id, kind, base, home.fromMinute, home.toMinute, wanted, light, spotIndex, group.capShare],
  );
  const after = withThreads(groups, group.id, made.threads);
  return (
    <Proposal
      title={pattern.name}
      about={`${pattern.about} Gives: ${pattern.gives} Gives up: ${pattern.givesUp}`}
      desk={desk}
      groups={groups}
      light={light}
      after={after}
      reason={made.reason}
      stepOf={stepOf}
      testID={`pattern-${pattern.id}`}
      onTake={() => run(takeDay(doc, group, `pattern: ${pattern.name}`, made.threads))}
      misfit={misfits(kind, made.threads)}
      zoneName={zone.name}
    />
  );
}

function Beauty({
  desk,
  groups,
  light,
  home,
  lookId,
  stepOf,
}: {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  home: { fromMinute: number; toMinute: number };
  lookId: string;
  stepOf: (groups: LitGroup[]) => string;
}) {
  const { doc, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const plate = doc.plates.find((p) => p.id === lookId);
  const made = useMemo(
    () =>
      moveBeauty({
        kind,
        threads: lit.threads,
        home,
        look: plate?.mix ?? {},
        dayOf: (threads) => plainDay(lit, threads),
        par: light.par[index]![spotIndex]!,
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [kind, lit.threads, home.fromMinute, home.toMinute, plate?.mix, light, spotIndex],
  );
  return (
    <Proposal
      title={null}
      about={`No channel’s light a day moves by more than ${(made.doseErrorShare * 100).toFixed(1)} % of the day’s PAR (whole percents).`}
      desk={desk}
      groups={groups}
      light={light}
      after={withThreads(groups, group.id, made.threads)}
      reason={made.reason}
      stepOf={stepOf}
      testID="beauty"
      onTake={() => run(takeDay(doc, group, 'move the beauty, keep the dose', made.threads))}
      misfit={misfits(kind, made.threads)}
      zoneName=""
      narrow
    />
  );
}

interface ProposalProps {
  title: string | null;
  about: string;
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  after: LitGroup[];
  reason: string | null;
  misfit: string[];
  stepOf: (groups: LitGroup[]) => string;
  onTake: () => boolean;
  testID: string;
  zoneName: string;
  narrow?: boolean;
}

/** A day set against the present one: drawn over it, what really changes, figures, looks, and the way to take it. */
function Proposal({
  title,
  about,
  desk,
  groups,
  light,
  after,
  reason,
  misfit,
  stepOf,
  onTake,
  testID,
  narrow,
}: ProposalProps) {
  const { zone, spot, spotIndex, doc } = desk;
  const page = usePageSize();
  const width = narrow ? page.side : page.main;
  const key = JSON.stringify(after.map((g) => [g.day.knots, g.day.capShare]));
  const figures = useMemo(
    () => ({
      now: figuresOf(light, groups, zone, spotIndex),
      then: figuresOf(light, after, zone, spotIndex),
    }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [light, groups, key, zone, spotIndex],
  );
  const span = windowOf([...groups, ...after]);
  const said = whatChanged(figures.now, figures.then);
  return (
    <View style={{ gap: space.s }} testID={testID} role="region" aria-label={title ?? 'The moved day'}>
      {title && <Type kind="heading">{title}</Type>}
      <Type kind="small">{about}</Type>
      <TwoDays
        before={curveOf(light, groups, spotIndex)}
        after={curveOf(light, after, spotIndex)}
        {...span}
        width={width}
        name={`µmol through the day at ${spot!.name}: the present day broken, ${title ?? 'the moved day'} strong. ${said}`}
      />
      <Looks light={light} groups={after} spot={spotIndex} width={width} />
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
        name={title ? `Take ${title}` : 'Take the moved day'}
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
  [
    'Above saturation (Ek, mid-range)',
    (f) => (f.hoursAbove === null ? 'no algae to saturate' : formatHours(f.hoursAbove)),
  ],
  ['Power', (f) => `${Math.round(f.kWhPerDay * 1000)} Wh a day`],
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

/** The look through the day: small plates at five times of the lit hours. */
function Looks({
  light,
  groups,
  spot,
  width,
}: {
  light: ZoneLight;
  groups: LitGroup[];
  spot: number;
  width: number;
}) {
  const { plateDim } = usePaper();
  const degree = useSettings((s) => s.eyeDegree) ?? undefined;
  const span = windowOf(groups);
  const peak = dayAt(light, groups, spot).peak;
  const plate = Math.min(96, (width - space.s * (LOOKS.length - 1)) / LOOKS.length);
  return (
    <View style={{ flexDirection: 'row', gap: space.s }}>
      {LOOKS.map((share) => {
        const minute = Math.round((span.from + 60 + (span.to - span.from - 120) * share + 1440) % 1440);
        const seen = spectrumUnder(light, levelsOfGroups(groups, minute), spot);
        const par = seen.reduce((sum, v) => sum + v, 0);
        return (
          <View key={share} style={{ width: plate }}>
            <LookPlate
              small
              light={seen}
              width={plate}
              height={Math.round(plate * 0.5)}
              eye={{ degree }}
              dim={plateDim * Math.min(1, par / Math.max(peak, 1e-9)) ** 0.4}
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
