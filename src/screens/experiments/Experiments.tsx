import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import CalendarClock from 'lucide-react-native/icons/calendar-clock';

import { doseRatio, EQUAL_DOSE, resultOf, spoilers, wouldShow } from '@/core/case/experiment';
import { type Experiment, MEASURED, measurings, phasesOf } from '@/core/record/experiment';
import { percent } from '@/core/shape/percent';
import { setCap } from '@/state/commands/days';
import { removeExperiment, setExperiment, usualExperiment } from '@/state/commands/experiments';
import { type Desk, useDesk } from '@/state/desk';
import { useAccustomed, useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { addDays, localDate, shortDate, useNowMs, utcIso } from '@/state/time';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { Choice, TextField } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Fold, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { offer } from '../shared/formats';
import { Asked, Fragments } from './Asked';
import { Measures } from './Measures';
import { doseWords, meanWords, powerWords, resultWords } from './words';

/** Error of one weighing as a share, until it is said. Mark: rule of thumb. */
const USUAL_ERROR = 0.01;

/** Questions to the tank: one change, phases with a rest before each, fragments measured, and what can be said of it. */
export function Experiments() {
  const desk = useDesk();
  const { zone } = desk;
  const { of } = useLocalSearchParams<{ of?: string }>();
  const all = zone.experiments ?? [];
  const open = all.find((e) => e.id === of) ?? all.at(-1) ?? null;
  return (
    <Page
      testID="experiments"
      title="Experiments"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="experiments-sentence" style={{ maxWidth: 700 }}>
          {open
            ? resultWords(open, resultOf(open))
            : 'One question, one change, and fragments that are measured under both lights: that settles more than years of looking.'}
        </Type>
      }
      side={open && <Side key={open.id} desk={desk} e={open} />}
    >
      {all.length > 1 && (
        <Choice
          label="Which"
          value={open!.id}
          onChange={(id) => router.setParams({ of: id })}
          options={all.map((e) => ({ value: e.id, label: e.name }))}
        />
      )}
      {open && (
        <>
          <Asked zone={zone} e={open} />
          <Measures zone={zone} e={open} />
          <Result e={open} />
        </>
      )}
      <New desk={desk} folded={open !== null} />
    </Page>
  );
}

function Result({ e }: { e: Experiment }) {
  const { phases } = resultOf(e);
  return (
    <Section title="Phases">
      <View>
        {phasesOf(e).map((p, i) => (
          <Row key={p.from} style={{ minHeight: 44 }}>
            <View style={{ flex: 1 }} testID={`phase-${i}`}>
              <Type kind="label">{`${p.light}${e.phases === 'ABA' && i === 2 ? ' again' : ''}`}</Type>
              <Type kind="small">
                {`${e.restDays > 0 ? `rest from ${shortDate(p.restFrom)}, ` : ''}measured ${shortDate(p.from)} to ${shortDate(p.to)}`}
              </Type>
            </View>
            <Type kind="label">
              {phases[i]!.n === 0
                ? 'not measured'
                : `${meanWords(e, phases[i]!.mean)}, ${phases[i]!.n} measured`}
            </Type>
          </Row>
        ))}
      </View>
    </Section>
  );
}

/** What could spoil it, what it can show, and its dates to take along. */
function Side({ desk, e }: { desk: Desk; e: Experiment }) {
  const { zone, bundle, group, doc } = desk;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const spoilt = useMemo(
    () => spoilers(e, zone, bundle.history, bundle.log, utcIso(nowMs)),
    [e, zone, bundle.history, bundle.log, nowMs],
  );
  const ratio = accustomed ? doseRatio(e, zone, accustomed.changes) : null;
  const cap = group && ratio ? Math.min(1, Math.round((100 * group.capShare) / ratio) / 100) : null;
  return (
    <>
      <Section title="What it can show">
        <Type testID="power">{powerWords(e, wouldShow(e, USUAL_ERROR))}</Type>
        {doseWords(ratio) !== '' && <Type testID="dose">{doseWords(ratio)}</Type>}
        {ratio !== null && Math.abs(ratio - 1) > EQUAL_DOSE && cap !== null && cap !== group!.capShare && (
          <Button
            label={`Draft the cap at ${percent(cap)}`}
            onPress={() => run(setCap(group!.id, cap))}
            testID="equal-dose"
          />
        )}
      </Section>
      <Section title="What could spoil it">
        {localDate(nowMs, zone.timeZone) < phasesOf(e)[0]!.from ? (
          <Type kind="small">{`Nothing is measured before ${shortDate(phasesOf(e)[0]!.from)}.`}</Type>
        ) : spoilt.length === 0 ? (
          <Type kind="small">
            Nothing that is logged fell into a measured stretch: no other change of light, no leap of the
            water, nothing that befell a fragment.
          </Type>
        ) : (
          <View testID="spoilers">
            {spoilt.map((s) => (
              <Type key={`${s.date} ${s.words}`} kind="small">
                {`▲ ${shortDate(s.date)}, in ${phasesOf(e)[s.phase]!.light}: ${s.words}.`}
              </Type>
            ))}
          </View>
        )}
      </Section>
      <Section title="To take along">
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          <Button
            label="Calendar file"
            icon={CalendarClock}
            onPress={() =>
              void offer('experiment.ics', 'text/calendar', (f) =>
                f.datedCalendar({
                  ...{ title: e.name, id: `${doc.id}-${e.id}`, nowMs },
                  steps: [
                    ...phasesOf(e).map((p, i) => ({
                      ...{ key: `light-${i}`, date: p.restFrom, title: `${e.name}: ${p.light} begins` },
                      text: p.light === 'B' ? e.change : 'The light as before.',
                    })),
                    ...measurings(e).map((m) => ({
                      ...{ key: `measure-${m.phase}-${m.at}`, date: m.date },
                      title: `${e.name}: measure`,
                      text: `${MEASURED[e.measure].name}, ${e.fragments.map((f) => f.name).join(', ')}`,
                    })),
                  ],
                }),
              )
            }
            testID="experiment-calendar"
          />
          <Button
            label="Remove this experiment"
            onPress={() => run(removeExperiment(zone.id, e.id))}
            testID="experiment-remove"
          />
        </View>
        <Type kind="small">
          Weigh wet, drained the same way each time, on a scale that shows a hundredth of the weight. Gloves
          and eye protection when corals are handled: some hold strong toxins.
        </Type>
      </Section>
      <Fragments zone={zone} e={e} />
    </>
  );
}

/** A new question with what is usual; all of it can be set afterwards. */
function New({ desk: { zone, spot }, folded }: { desk: Desk; folded: boolean }) {
  const nowMs = useNowMs();
  const typed = useTyped(`experiment in ${zone.id}`);
  const [name, setName] = typed.of('name', '');
  const [change, setChange] = typed.of('change', '');
  const [wrong, setWrong] = useState<string>();
  const begin = () => {
    if (name.trim() === '' || name.trim().length > 120)
      return setWrong('Ask a question, in at most 120 characters.');
    const made = usualExperiment(
      {
        ...{ name: name.trim(), change: change.trim(), measure: 'mass' },
        start: localDate(nowMs, zone.timeZone),
      },
      spot?.id ?? null,
    );
    if (!run(setExperiment(zone.id, made))) return;
    typed.clear();
    router.setParams({ of: made.id });
  };
  const fields = (
    <>
      <TextField
        label="What is asked"
        value={name}
        onChange={(t) => {
          setName(t);
          setWrong(undefined);
        }}
        hint="such as: does more violet make it grow?"
        error={wrong}
        testID="experiment-name"
      />
      <TextField
        label="The one change"
        value={change}
        onChange={setChange}
        hint="what B has and A has not; nothing else"
        testID="experiment-change"
      />
      <Button
        label="Begin with A today"
        kind={folded ? undefined : 'filled'}
        wide
        onPress={begin}
        testID="experiment-new"
      />
      <Type kind="small">
        {`A first rests and is measured for six weeks, then B, from ${shortDate(addDays(localDate(nowMs, zone.timeZone), 56))}; all of that can be changed.`}
      </Type>
    </>
  );
  const disputed = (
    <Button
      label="Questions that keepers disagree on"
      onPress={() => router.navigate('/schools' as never)}
      testID="to-schools"
    />
  );
  return folded ? (
    <Fold title="Another question" testID="experiment-another">
      {fields}
      {disputed}
    </Fold>
  ) : (
    <Section title="A question">
      {fields}
      {disputed}
    </Section>
  );
}
