import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { moveBeauty } from '@/core/case/beauty';
import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { PatternAnswer } from '@/core/case/patterns';
import { patternOf } from '@/core/case/schools';
import { USUAL_HOME, type Window } from '@/core/record/zone';
import { capital, inWords } from '@/core/shape/counts';
import { formatTime } from '@/core/day/clock';
import { lampDay } from '@/core/day/thread';
import { setZone } from '@/state/commands/waters';
import { takeDay } from '@/state/days';
import { type Desk, useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { usePatterns } from '@/state/solvers';
import { useTyped } from '@/state/typed';
import { Choice, FieldRow } from '@/ui/Field';
import { Sentence } from '@/ui/Sentence';
import { Page } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { NumberField, TimeField } from '../shared/fields';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { spotPart } from '../shared/spotPart';
import { mol } from '../shared/words';
import { stepWords } from './changed';
import { Proposal } from './Proposal';
import { useWanted } from './useWanted';

/** A day that is wanted: said in a sentence, answered by the schools, drawn over the present day. */
export function Patterns() {
  const desk = useDesk();
  return desk.group ? <Filled key={desk.group.id} desk={desk} /> : <NoLamps title="A day as I want it" />;
}

/** Hours offered first where none are given. */
const USUAL_LIT: Window = { fromMinute: 10 * 60, toMinute: 20 * 60 };

function Filled({ desk }: { desk: Desk }) {
  const { zone, spot, spotIndex, doc } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const { groups, light, error, judge, now, ownDli, lookedAt, home, inputFor } = useWanted(desk);
  const wish = useTyped(`wanted day ${group.id}`);
  const [typed, setTyped] = wish.of<number | null>('mol', null);
  const [lit, setLit] = wish.of<Window | null>('lit', null);
  const [school, setSchool] = wish.of<string | null>('school', null);
  const [look, setLook] = useState(desk.plate?.id ?? '');
  const ready = light !== null && spotIndex >= 0;
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const wanted = typed ?? ownDli;
  const { days, error: failed, stale } = usePatterns(inputFor(wanted, lit));
  const open = days?.filter((a) => !a.isPresent) ?? [];
  // what meets the wish comes first
  const chosen =
    open.find((a) => a.ids.some((id) => id === school)) ?? open.find((a) => !a.day.reason) ?? open[0];
  const already = days?.find((a) => a.isPresent);

  const homePart = {
    id: 'want-home',
    name: 'Somebody home',
    value: `${formatTime(home.fromMinute)} to ${formatTime(home.toMinute)}`,
    panel: (
      <Between
        value={home}
        ids={['home-from', 'home-to']}
        wrong="Somebody is home for some time: give two different times."
        onChange={(next) => run(setZone(zone.id, { home: next }))}
      />
    ),
  };
  const litPart = {
    id: 'want-lit',
    name: 'Hours of light',
    value: lit
      ? `from ${formatTime(lit.fromMinute)} to ${formatTime(lit.toMinute)}`
      : 'for as long as it takes',
    panel: (
      <>
        <Choice
          label="Light"
          value={lit ? 'given' : 'free'}
          onChange={(v) => setLit(v === 'given' ? USUAL_LIT : null)}
          options={[
            { value: 'free', label: 'for as long as it takes' },
            { value: 'given', label: 'between two times' },
          ]}
        />
        {lit && (
          <Between
            value={lit}
            ids={['lit-from', 'lit-to']}
            wrong="First and last light are two different times."
            onChange={(next) => {
              setLit(next);
              return true;
            }}
          />
        )}
      </>
    ),
  };
  const molPart = {
    id: 'want-mol',
    name: 'Light a day',
    value: typed === null ? `as much light as now (${mol(ownDli)} mol)` : `${mol(typed)} mol of light`,
    panel: (
      <>
        <Choice
          label="Light a day"
          value={typed === null ? 'equal' : 'typed'}
          onChange={(v) => setTyped(v === 'equal' ? null : Math.max(0.1, Math.round(ownDli * 10) / 10))}
          options={[
            { value: 'equal', label: 'as much as now' },
            { value: 'typed', label: 'another' },
          ]}
        />
        {typed !== null && (
          <NumberField
            label={`Light a day at ${spot?.name ?? 'the coral'}, from ${group.name}`}
            value={typed}
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
      </>
    ),
  };
  const take = (answer: PatternAnswer) => {
    const { threads, capShare } = answer.day;
    const name = namesOf(answer);
    if (run(takeDay(doc, group, `a wanted day: ${name}`, threads, capShare)))
      router.navigate({ pathname: '/day', params: { took: name } });
  };
  return (
    <Page
      testID="patterns"
      title="A day as I want it"
      under={group.name}
      sentence={
        spot && (
          <Sentence
            testID="want"
            parts={[
              'I want ',
              molPart,
              ' a day at ',
              spotPart(zone.spots, spot),
              ...(lookedAt ? [' ', litPart, '; somebody is home ', homePart] : []),
              ...(chosen
                ? [
                    '; shaped as ',
                    {
                      id: 'want-school',
                      name: 'Shape of the day',
                      value: namesOf(chosen),
                      chosen: chosen.ids[0],
                      options: open.map((a) => ({ value: a.ids[0]!, label: namesOf(a) })),
                      onChoose: setSchool,
                    },
                  ]
                : []),
              '.',
            ]}
          />
        )
      }
      side={
        <>
          {open.length > 1 && (
            <Section title="Ways to shape it">
              {open.map((a) => (
                <Row key={a.ids[0]} onPress={() => setSchool(a.ids[0]!)} name={namesOf(a)}>
                  <View style={{ flex: 1 }} testID={`pattern-${a.ids[0]}`}>
                    <Type kind="label">{`${a === chosen ? '● ' : '○ '}${namesOf(a)}`}</Type>
                    <Type kind="small">
                      {a.day.reason
                        ? `Not quite: ${a.day.reason}.`
                        : `Gives up: ${patternOf(a.ids[0]!).givesUp}${a.day.gave.length > 0 ? ` For this light ${a.day.gave.join('; ')}.` : ''}`}
                    </Type>
                  </View>
                </Row>
              ))}
            </Section>
          )}
          {lookedAt && ready && plates.length > 0 && now.threads.length > 0 && (
            <Section title="Move the beauty, keep the dose">
              <Type kind="small">
                The wanted look falls into the hours at home; outside them a companion mix makes up the rest,
                so that each gets what it got, band by band.
              </Type>
              <Choice
                label="The look to be seen then"
                value={look}
                onChange={setLook}
                options={plates.map((p) => ({ value: p.id, label: p.name }))}
              />
              <Beauty
                desk={desk}
                groups={groups}
                light={light}
                home={home}
                lookId={look}
                stepOf={(g) => stepWords(judge(g), zone)}
              />
            </Section>
          )}
        </>
      }
    >
      <GroupChoice />
      {!ready ? (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={320} />
      ) : wanted <= 0 ? (
        <Note>The present day is dark: say above how many mol a day are wanted, then a day can begin.</Note>
      ) : failed ? (
        <Note>{`The days could not be computed: ${failed}. Nothing was changed.`}</Note>
      ) : !chosen ? (
        <Type role="status">Shaping the days …</Type>
      ) : (
        <Proposal
          key={chosen.ids[0]}
          title={namesOf(chosen)}
          about={aboutWords(chosen)}
          desk={desk}
          groups={groups}
          light={light}
          threads={chosen.day.threads}
          capShare={chosen.day.capShare}
          reason={chosen.day.reason}
          stepOf={(g) => stepWords(judge(g), zone)}
          testID="wanted"
          waiting={stale}
          onTake={() => take(chosen)}
        />
      )}
      {already && <Type kind="small">{`${namesOf(already)} is the day you have.`}</Type>}
      {lookedAt && !zone.home && (
        <Type kind="small">
          {`Nobody has said yet when somebody is home: ${formatTime(USUAL_HOME.fromMinute)} to ${formatTime(USUAL_HOME.toMinute)} is assumed.`}
        </Type>
      )}
    </Page>
  );
}

const namesOf = ({ ids }: PatternAnswer): string => {
  const names = ids.map((id) => patternOf(id).name);
  // a lamp that can do little makes the same of them all
  if (names.length > 3) return `${names[0]} or ${inWords(names.length - 1)} others`;
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} or ${names.at(-1)}`;
};

/** What an answer is, and what gave so that it has its light. */
function aboutWords({ ids, day }: PatternAnswer): string {
  const { about, gives, givesUp } = patternOf(ids[0]!);
  const one =
    ids.length > 1
      ? ` ${capital(inWords(ids.length))} shapes come out as this one: they differ by what this lamp cannot do.`
      : '';
  const gave = day.gave.length > 0 ? ` To give that light ${day.gave.join('; ')}.` : '';
  return `${about} Gives: ${gives} Gives up: ${givesUp}${one}${gave}`;
}

/** Two times of day. */
function Between({
  value,
  ids,
  wrong,
  onChange,
}: {
  value: Window;
  ids: readonly [string, string];
  wrong: string;
  onChange: (next: Window) => boolean | string;
}) {
  const field = (label: string, key: keyof Window, testID: string) => (
    <TimeField
      label={label}
      value={value[key]}
      testID={testID}
      take={(m) => {
        const next = { ...value, [key]: m };
        return next.fromMinute === next.toMinute ? wrong : onChange(next);
      }}
    />
  );
  return (
    <FieldRow>
      {field('From', 'fromMinute', ids[0])}
      {field('until', 'toMinute', ids[1])}
    </FieldRow>
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
      onTake={() => {
        if (run(takeDay(doc, group, 'move the beauty, keep the dose', made.threads)))
          router.navigate({ pathname: '/day', params: { took: 'The moved beauty' } });
      }}
      narrow
    />
  );
}
