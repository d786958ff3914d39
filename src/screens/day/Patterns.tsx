import { useMemo, useState } from 'react';

import { moveBeauty } from '@/core/case/beauty';
import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { PATTERNS } from '@/core/case/patterns';
import { USUAL_HOME } from '@/core/record/zone';
import { dli } from '@/core/day/day';
import { lampDay } from '@/core/day/thread';
import { setZone } from '@/state/commands/waters';
import { takeDay } from '@/state/days';
import { type Desk, useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { usePatterns } from '@/state/solvers';
import { Choice, FieldRow } from '@/ui/Field';
import { Sentence } from '@/ui/Sentence';
import { Page } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { NumberField, TimeField } from '../shared/fields';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { spotPart } from '../shared/spotPart';
import { useDraftLight } from '../shared/useDraftLight';
import { mol } from '../shared/words';
import { stepWords } from './changed';
import { Proposal } from './Proposal';

/** Days after the schools' patterns, each set against the present day. */
export function Patterns() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Patterns" />;
}

function Filled({ desk }: { desk: Desk }) {
  const { zone, spot, spotIndex, doc } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const { groups, light, error, judge } = useDraftLight(desk);
  const equal = useSettings((s) => s.equalDli);
  const [typed, setTyped] = useState<number | null>(null);
  const [look, setLook] = useState(desk.plate?.id ?? '');
  const ready = light !== null && spotIndex >= 0;
  const home = zone.home ?? USUAL_HOME;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const ownDli = ready ? dli(lampDay(kind, lit.threads, lit.day), light.par[index]![spotIndex]!) : 0;
  const wanted = equal || typed === null ? ownDli : typed;
  const base = useMemo(() => {
    const strongest = [...lit.threads].sort((a, b) => b.strengthShare - a.strengthShare)[0];
    return strongest?.mix ?? desk.plate?.mix ?? {};
  }, [lit.threads, desk.plate]);

  const {
    days,
    error: failed,
    stale,
  } = usePatterns(
    ready && wanted > 0
      ? {
          kind,
          base,
          home,
          wantedDli: wanted,
          capShare: lit.day.capShare,
          easingShare: lit.day.easingShare,
          par: light.par[index]![spotIndex]!,
        }
      : null,
  );

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
                stepOf={(g) => stepWords(judge(g), zone)}
              />
            )}
          </Section>
          <Sentence parts={['Judged at ', spotPart(zone.spots, spot), '.']} />
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
      ) : failed ? (
        <Note>{`The patterns could not be computed: ${failed}. Nothing was changed.`}</Note>
      ) : !days ? (
        <Type role="status">Shaping the days …</Type>
      ) : (
        PATTERNS.map((p) => (
          <Proposal
            key={p.id}
            title={p.name}
            about={`${p.about} Gives: ${p.gives} Gives up: ${p.givesUp}`}
            desk={desk}
            groups={groups}
            light={light}
            threads={days[p.id].threads}
            reason={days[p.id].reason}
            stepOf={(g) => stepWords(judge(g), zone)}
            testID={`pattern-${p.id}`}
            waiting={stale}
            onTake={() => run(takeDay(doc, group, `pattern: ${p.name}`, days[p.id].threads))}
          />
        ))
      )}
      {!zone.home && (
        <Type kind="small">Nobody has said yet when somebody is home: 18 to 22 o’clock is assumed.</Type>
      )}
    </Page>
  );
}

const NO_MIX = {};

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
  const look = doc.plates.find((p) => p.id === lookId)?.mix ?? NO_MIX;
  const made = useMemo(
    () =>
      moveBeauty({
        kind,
        threads: lit.threads,
        home,
        look,
        dayOf: (threads) => lampDay(kind, threads, lit.day),
        par: light.par[index]![spotIndex]!,
      }),
    [kind, lit.threads, lit.day, home, look, light, index, spotIndex],
  );
  return (
    <Proposal
      title={null}
      about={`No channel’s light a day moves by more than ${(made.doseErrorShare * 100).toFixed(1)} % of the day’s PAR (whole percents).`}
      desk={desk}
      groups={groups}
      light={light}
      threads={made.threads}
      reason={made.reason}
      stepOf={stepOf}
      testID="beauty"
      onTake={() => run(takeDay(doc, group, 'move the beauty, keep the dose', made.threads))}
      narrow
    />
  );
}
