import { counted, several } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import CalendarClock from 'lucide-react-native/icons/calendar-clock';
import Printer from 'lucide-react-native/icons/printer';
import { activePlans, type EasingPlan, type EasingStep } from '@/core/record/history';
import { beyondCeiling } from '@/core/case/beyond';
import type { EaseAnswer } from '@/core/case/easePlan';
import { expectedOfPlan, foretoldEntry } from '@/core/case/foretold';
import { stepWords } from '@/core/case/stepWords';
import { placeAt } from '@/core/case/settings';
import { ceilingOf } from '@/core/record/needs';
import type { Spot } from '@/core/record/zone';
import { offer } from '../shared/formats';
import { dims } from '@/core/spectrum/controls';
import { freeze, startPlan, typeIn } from '@/state/commands/running';
import { together } from '@/state/commands/edit';
import { withTold } from '@/state/commands/log';
import { moveSpot } from '@/state/commands/spots';
import { draftOf, runningOf, useDesk } from '@/state/desk';
import { entriesAt, newPlan, type Situation, useEase } from '@/state/ease';
import { newId } from '@/state/id';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { addDays, nowUtcIso, shortDate, useNowMs, useSettled } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { printPage } from '@/ui/files';
import { Page, usePageSize } from '@/ui/Page';
import { Fold, Note, Section } from '@/ui/Parts';
import { printHide } from '@/ui/print';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { SheetCautions } from '../shared/Cautions';
import { WaysDown } from '../shared/WaysDown';
import { RatioRows } from '../shared/RatioRow';
import { parBasis, tenantsOf, times } from '../shared/words';
import { EaseChoicesForm } from './EaseChoicesForm';
import { DayByDay } from './DayByDay';
import { HowMuch } from './HowMuch';
import { planName, useEaseChoices, useEaseQuestion } from './question';
import { easeSentence } from './words';
import { stepNumbers, Steps } from './Steps';

/** Plan a change: who limits it, how the lamp can do it, what each day brings, and begin. */
export function Ease() {
  const desk = useDesk();
  const { zone, bundle, doc, spotIndex } = desk;
  const nowMs = useNowMs();
  const page = usePageSize();
  const cal = useCalibration(bundle, zone);
  const s: Situation = { zone, past: bundle, cal, nowMs };
  const choices = useEaseChoices(desk, nowMs);
  const asked = useEaseQuestion(desk, s, choices);
  const { settled, still } = useSettled(asked.question);
  const { answer, answered: question, progress, error, stale } = useEase(s, settled);
  // a plan for what was asked a moment ago is looked at, not begun
  const waiting = stale || !still;
  const [ready, setReady] = useState(false);
  const { today, of, changed, entries } = asked;
  const names = zone.spots.map((x) => x.name);
  const changes = changed.flatMap((x) => x.changes);
  const basis = parBasis(cal);
  const who = tenantsOf(zone.spots);
  const takes = (spot: number) =>
    zone.spots[spot] ? ceilingOf(zone.spots[spot], asked.ceiling) : asked.ceiling;
  // what runs is within the ceiling already: nothing to do
  const idle =
    of === 'running' && answer !== null && beyondCeiling(answer.atOnce, zone, asked.ceiling, today) === null;

  const under = activePlans(bundle.history, zone.id);
  const ownIds = new Set(question?.method === 'places' ? [] : question?.targets.map((t) => t.groupId));
  const same = (p: EasingPlan) => p.targets.some((t) => ownIds.has(t.groupId));
  const replaced = under.filter(same).map((p) => p.name);
  const others = under.filter((p) => !same(p)).map((p) => p.name);

  // what was done at once is what runs: tonight's cut is reckoned from that
  const didItAll = () => {
    const atUtc = nowUtcIso();
    const runs =
      of === 'draft'
        ? changed.map((x) => typeIn(freeze(doc, zone, x.group, { id: newId(), atUtc, usedTo: false })))
        : [];
    if (runs.length === 0 || run(together('all of it, at once', ...runs))) router.navigate('/rescue');
  };
  const start = () => {
    if (!answer || !question || !answer.course || waiting) return;
    const plan = planOf(
      question,
      answer,
      zone.id,
      planName(of, changes, choices.coral),
      today,
      zone.spots[answer.limits[0]?.spot ?? 0]!,
    );
    const first = plan.steps[0]!;
    const now = first.date <= today;
    const atUtc = nowUtcIso();
    const self = answer.itself;
    const begun: EasingPlan = now
      ? {
          ...plan,
          steps: plan.steps.map((x, i): EasingStep => (i === 0 ? { ...x, doneUtc: atUtc } : x)),
          state: plan.steps.length === 1 ? 'finished' : 'active',
        }
      : plan;
    const rise = self
      ? { date: question.start, days: self.days, fromShare: self.fromShare, toShare: 1 }
      : undefined;
    const place = choices.coral && placeAt(question, first.setting);
    const lastDate = self ? addDays(question.start, self.days) : plan.steps.at(-1)!.date;
    const told = foretoldEntry(
      { id: newId(), zoneId: zone.id, atUtc, of: plan.name, lastDate },
      expectedOfPlan(zone, answer),
    );
    const done = run(
      withTold(
        together(
          `ease in: ${plan.name}`,
          ...(now && place && choices.coral && question.method === 'places'
            ? [moveSpot(zone.id, { ...choices.coral, ...place }, { id: newId(), atUtc })]
            : []),
          startPlan(begun, now ? entriesAt(plan, self ? 1 : first.setting, atUtc, rise) : []),
        ),
        told,
      ),
    );
    if (done) router.navigate('/');
  };
  const calendar = () => {
    if (!answer || !question || waiting) return;
    void offer('easing-in.ics', 'text/calendar', (f) =>
      f.datedCalendar({
        title: `${planName(of, changes, choices.coral)}, ${zone.name}`,
        id: `${doc.id}-${zone.id}`,
        nowMs: Date.parse(nowUtcIso()),
        steps: answer.steps.map((x, i) => ({
          date: x.date,
          title: `Step ${i + 1} of ${answer.steps.length}: ${stepWords(question, x.setting)}`,
          text: stepNumbers(answer, i, names, spotIndex),
        })),
      }),
    );
  };

  const limits = answer && (
    <Section title="Who limits it">
      <View testID="limits">
        <RatioRows
          rows={answer.limits.map(({ spot, ratio, bandShare }) => ({
            ...{ id: String(spot), name: names[spot]!, ratio, bandShare },
            ...{ ceiling: takes(spot), testID: `once-${names[spot]}` },
          }))}
        />
      </View>
      <Type kind="small">
        Made at once, against what each is used to then: 10 days to grow used to more light, 7 to less, 4 and
        3 for macroalgae (rule of thumb; published ones lie between half and twice that). Light: {basis}.
      </Type>
    </Section>
  );
  const howMuch = answer && (
    <HowMuch zone={zone} peaks={answer.atOnce.light.at(-1)!.map((l) => l.peak)} onReady={setReady} />
  );

  return (
    <Page
      testID="ease"
      title="Ease it in"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="ease-sentence" style={{ maxWidth: 700 }}>
          {!asked.question
            ? of === 'draft' || entries.length === 0
              ? 'Nothing waits to be eased in here.'
              : 'There is nobody here who could mind.'
            : answer
              ? easeSentence(answer, zone, asked.ceiling, today)
              : error
                ? `The plan could not be computed: ${error}.`
                : 'What everybody is used to is being reckoned.'}
        </Type>
      }
      side={
        asked.question && (
          <>
            {page.wide && limits}
            {page.wide && !idle && howMuch}
            <Section title="Cautions">
              <Note>
                {who.one === 'alga'
                  ? 'If the algae pale or fall apart, stay at the present step and say so in the log.'
                  : 'If a coral pales, draws its polyps in, or suddenly shows welcome new colour, stay at the present step and say so in the log.'}
              </Note>
              <SheetCautions switched={desk.lampKind !== null && !dims(desk.lampKind)} over={who.many} />
            </Section>
          </>
        )
      }
    >
      <What
        of={of}
        drafted={changed.length > 0}
        runs={entries.length > 0}
        set={choices.set}
        changes={changes}
      />
      {!asked.question ? (
        <>
          <Type>
            {entries.length === 0
              ? 'Nothing is known to be running yet. Type a day into the lamp and say so on the sheet; from then on every change of it can be eased in here.'
              : 'What is drafted is what runs. Change a day, a mix, a cap or the lamps, or say in the log that carbon, lens or a coral changed.'}
          </Type>
          <Button label="To Day" wide onPress={() => router.navigate('/day')} />
        </>
      ) : (
        <>
          {!page.wide && limits}
          <EaseChoicesForm choices={choices} asked={asked} />
          {progress !== null && (
            <Type kind="small" role="status" testID="ease-progress">
              {`Reckoning ${Math.round(progress * 100)} %`}
            </Type>
          )}
          {answer?.peak && answer.peak.ratio > takes(answer.peak.spot) && (
            <>
              <Note>{`Hours cannot ease the peak: ${names[answer.peak.spot]} gets ${times(answer.peak.ratio)} the peak it is used to from the first day.`}</Note>
              <WaysDown groups={of === 'draft' ? draftOf(desk) : runningOf(desk, nowMs).groups} />
            </>
          )}
          {replaced.length > 0 && (
            <Note>{`This takes the place of what is being eased in at the same lamps: ${several(replaced, Infinity)}.`}</Note>
          )}
          {others.length > 0 && (
            <Note>{`${several(others, Infinity)} ${others.length === 1 ? 'is still being eased in. Both' : 'are still being eased in. All'} are counted together here; one change at a time tells more and risks less.`}</Note>
          )}
          {answer?.refused && <Note>{`No plan: ${answer.refused}.`}</Note>}
          {answer?.course && !idle && (
            <DayByDay {...{ desk, answer, today, takes }} course={answer.course} width={page.main} />
          )}
          {!page.wide && !idle && howMuch}
          {answer?.course && question && !idle && (
            <Steps answer={answer} question={question} names={names} spot={Math.max(0, spotIndex)} />
          )}
          {answer?.course && question && !idle && (
            <View style={{ gap: space.m }} {...printHide}>
              <Button
                label={
                  question.start > today || (answer.steps[0]?.date ?? today) > today
                    ? `Begin on ${shortDate(answer.steps[0]!.date)}`
                    : answer.itself
                      ? 'Entered into the controller: begin'
                      : `${question.method === 'places' ? 'Placed' : 'Typed in'}: ${stepWords(question, answer.steps[0]!.setting)}`
                }
                kind="filled"
                wide
                disabled={!ready || waiting}
                onPress={start}
                testID="start-plan"
              />
              {!ready && (
                <Type kind="small" role="status">
                  This goes far up: first the three questions under “How much light at all?”.
                </Type>
              )}
              <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
                <Button
                  label="Calendar"
                  name="Steps as a calendar"
                  icon={CalendarClock}
                  disabled={waiting}
                  onPress={calendar}
                  testID="ease-calendar"
                />
                <Button label="Print" icon={Printer} disabled={waiting} onPress={printPage} />
                <Button label="I already did it" kind="plain" onPress={didItAll} testID="to-rescue" />
              </View>
              <Type kind="small">
                Today says when each step is due; a missed one, a power cut or a sign on {who.a} plans the
                rest anew. Undo takes it back.
              </Type>
            </View>
          )}
        </>
      )}
    </Page>
  );
}

function What({
  of,
  drafted,
  runs,
  set,
  changes,
}: {
  of: 'draft' | 'running';
  drafted: boolean;
  runs: boolean;
  set: (change: Record<string, string>) => void;
  changes: readonly string[];
}) {
  return (
    <View style={{ gap: space.s }}>
      {drafted && runs && (
        <Choice
          label="What is eased in"
          value={of}
          onChange={(v) => set({ of: v, coral: '' })}
          options={[
            { value: 'draft', label: 'What is drafted' },
            { value: 'running', label: 'What runs already' },
          ]}
        />
      )}
      {of === 'draft' && changes.length === 1 && <Type testID="ease-what">{changes[0]!}</Type>}
      {of === 'draft' && changes.length > 1 && (
        <Fold title={`${changes[0]} and ${changes.length - 1} more`} testID="ease-what">
          <View>
            {changes.map((c) => (
              <Type key={c} kind="small">{`· ${c}`}</Type>
            ))}
          </View>
        </Fold>
      )}
      {of === 'running' && runs && (
        <Type kind="small">
          For light that rose without a change of the lamp: fresh carbon, a wiped lens, a coral that came or
          moved. The lamps go down first and climb back to what runs now.
        </Type>
      )}
    </View>
  );
}

/** A plan as it is kept. */
function planOf(
  q: NonNullable<ReturnType<typeof useEaseQuestion>['question']>,
  answer: EaseAnswer,
  zoneId: string,
  name: string,
  today: string,
  limiting: Spot,
): EasingPlan {
  const steps: EasingStep[] = answer.itself
    ? [{ date: q.start, setting: 1, doneUtc: null }]
    : answer.steps.map(({ date, setting }) => ({ date, setting, doneUtc: null }));
  const { ceiling } = answer;
  const words = `${name}: ${counted(steps.length, 'step')} from ${shortDate(steps[0]?.date ?? today)}, at most ${times(ceilingOf(limiting, ceiling))} at a time.`;
  return newPlan(zoneId, name, { ...q, ceiling }, steps, words);
}
