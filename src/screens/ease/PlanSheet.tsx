import { plural } from '@/core/shape/counts';
import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { stepLines, stepWords } from '@/core/case/stepWords';
import type { EasingPlan } from '@/core/record/history';
import { aheadOf, anew, doneSteps, dueStep, openSteps } from '@/core/case/planAhead';
import { CEILINGS } from '@/core/easing/accustomed';
import { together } from '@/state/commands/edit';
import { entryOf, typeIn } from '@/state/commands/running';
import { useDesk } from '@/state/desk';
import {
  dayAfter,
  goOn,
  pausePlan,
  REST_DAYS,
  stepBelow,
  stepDone,
  stopPlan,
  useEase,
  usePlanAhead,
} from '@/state/ease';
import { newId } from '@/state/id';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { daysBetween, instantOf, isDate, localDate, nowUtcIso, shortDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, TextField } from '@/ui/Field';
import { Note, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { mol, tenantsOf, timesUsed, umol } from '../shared/words';

export type PlanAct = 'done' | 'hold' | 'back' | 'slower' | 'pause' | 'resume' | 'replan' | 'stop';

/** Slower: half of what the ceiling lets light rise. Mark: rule of thumb. */
const slowerCeiling = (ceiling: number) => Math.max(1.01, Math.round((1 + (ceiling - 1) / 2) * 1000) / 1000);

/** A step of a plan: done, done earlier, not yet; held, taken back, slower; each planned anew from what is so. */
export function PlanSheet({
  plan,
  act: firstAct,
  holdDays = 3,
  onClose,
}: {
  plan: EasingPlan;
  act?: PlanAct;
  holdDays?: number;
  onClose: () => void;
}) {
  const { zone, bundle, spotIndex } = useDesk();
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const today = localDate(nowMs, zone.timeZone);
  const due = dueStep(plan, today);
  const [act, setAct] = useState<PlanAct>(
    firstAct ?? (plan.state === 'paused' ? 'resume' : due ? 'done' : 'hold'),
  );
  // an advice to hold brings its own days
  const typed = useTyped(`plan ${plan.id} ${holdDays}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [days, setDays] = typed.of('days', holdDays);
  const [when, setWhen] = typed.of<'now' | 'earlier'>('when', 'now');
  const [date, setDate] = typed.of('date', today);
  const [problem, setProblem] = useState<string | null>(null);

  const open = openSteps(plan);
  const done = doneSteps(plan);
  const now = done.at(-1)?.setting;
  const below = stepBelow(plan);
  const slower = slowerCeiling(plan.ceiling);
  const late = due ? daysBetween(due.date, today) : 0;
  const next = open[0]?.date ?? today;
  const soonest = next > today ? next : today;
  const start = {
    hold: dayAfter(soonest, days),
    back: dayAfter(today, REST_DAYS),
    slower: soonest > today ? soonest : dayAfter(today, 1),
    // few changes keep their days
    replan: plan.schedule.kind === 'few' ? soonest : today,
    done: today,
    resume: today,
    pause: today,
    stop: today,
  }[act];
  const anewActs =
    act === 'hold' || act === 'back' || act === 'slower' || act === 'resume' || act === 'replan';
  const asks = anewActs || act === 'done';
  const question = anewActs
    ? anew(plan, today, start, {
        ceiling: act === 'slower' ? slower : plan.ceiling,
        ...(act === 'back' && below !== null ? { meanwhile: below } : {}),
      })
    : null;
  const situation = { zone, past: bundle, cal, nowMs };
  const asked = useEase(situation, question);
  const onwards = usePlanAhead(situation, plan);
  const { answer, progress, error } = anewActs ? asked : onwards;
  const stale = anewActs && asked.stale;
  const names = zone.spots.map((s) => s.name);
  const at = Math.max(0, spotIndex);

  // on its way as planned the steps stay; late, or with light that came or went meanwhile, they are planned anew
  const ahead = anewActs
    ? asked.answer && !asked.answer.refused
      ? aheadOf(plan, asked.answer, today, act === 'back' ? below : undefined)
      : null
    : onwards.ahead;
  const coming = ahead?.coming ?? null;
  const first = coming?.[0];
  const last = coming?.at(-1);
  // what was due is not any more: it would be too large as things are now
  const waits = act === 'done' && ahead !== null && !ahead.due;

  const keep = () => {
    setProblem(null);
    const words = `hold ${plural(days, 'day')}`;
    const command = (() => {
      switch (act) {
        case 'done': {
          if (!coming) return null;
          if (waits && when === 'now')
            return goOn(zone, plan, 'replanned', 'planned anew from what they are used to', coming);
          let atUtc = nowUtcIso();
          if (when === 'earlier') {
            if (!isDate(date) || date > today) {
              setProblem('Give a date such as 2026-01-31, today or before.');
              return null;
            }
            const previous = done.at(-1)?.doneUtc ?? plan.createdUtc;
            atUtc = instantOf(date, 0, zone.timeZone);
            if (atUtc <= previous) atUtc = new Date(Date.parse(previous) + 60_000).toISOString();
          }
          // what was typed in earlier is what was due then
          return stepDone(zone, plan, when === 'earlier' ? open : coming, atUtc);
        }
        case 'hold':
          return coming && goOn(zone, plan, 'held', words, coming);
        case 'back':
          return (
            coming &&
            below !== null &&
            goOn(zone, plan, 'back', `back to ${stepWords(plan, below)}, resting ${REST_DAYS} days`, coming, {
              backTo: below,
            })
          );
        case 'slower':
          return (
            coming &&
            goOn(zone, plan, 'slower', `on at ${slower} × instead of ${plan.ceiling} ×`, coming, {
              ceiling: slower,
            })
          );
        case 'resume':
          return coming && goOn(zone, plan, 'resumed', 'on from today', coming);
        case 'replan':
          return (
            coming && goOn(zone, plan, 'replanned', 'planned anew from what the corals are used to', coming)
          );
        case 'pause':
          return pausePlan(plan);
        case 'stop':
          return stopPlan(plan);
      }
    })();
    if (command && run(command)) kept();
  };

  const light = (x: { light: { peak: number; dli: number }[] }) =>
    `${umol(x.light[at]!.peak)} µmol and ${mol(x.light[at]!.dli)} mol at ${names[at]}`;
  const acts: { value: PlanAct; label: string }[] = [
    ...(due ? [{ value: 'done' as const, label: 'Done' }] : []),
    ...(plan.state === 'paused' ? [{ value: 'resume' as const, label: 'Go on' }] : []),
    ...(plan.state === 'active' ? [{ value: 'hold' as const, label: due ? 'Not yet: hold' : 'Hold' }] : []),
    ...(below !== null ? [{ value: 'back' as const, label: 'A step back' }] : []),
    ...(plan.state === 'active'
      ? [
          { value: 'slower' as const, label: 'Slower' },
          { value: 'replan' as const, label: 'Plan anew' },
          { value: 'pause' as const, label: 'Pause' },
        ]
      : []),
    { value: 'stop', label: 'Stop' },
  ];
  const label: Record<PlanAct, string> = {
    done: waits ? 'Take these steps' : plan.method === 'places' ? 'It stands there' : 'Typed in',
    hold: `Hold ${plural(days, 'day')}`,
    back: below === null ? '' : `Typed in: ${stepWords(plan, below)}`,
    slower: `On more slowly, ${slower} ×`,
    resume: 'Go on',
    replan: 'Take these steps',
    pause: 'Pause',
    stop: 'Stop easing in',
  };
  const ready = !asks || (!stale && coming !== null);
  const lines = act === 'done' && !waits && first ? stepLines(plan, first.setting) : [];

  return (
    <Sheet title={plan.name} onClose={onClose} typed={typed}>
      <Type testID="plan-state">
        {`${plural(done.length, 'step')} done, ${open.length} to come${now === undefined ? '' : `; now ${stepWords(plan, now)}`}.${plan.state === 'paused' ? ' Paused.' : ''}`}
      </Type>
      <Choice label="What now" value={act} onChange={setAct} options={acts} />
      {act === 'done' && (
        <StepDue
          {...{ plan, lines, late, when, setWhen, date, setDate, problem }}
          dueWords={due ? stepWords(plan, due.setting) : null}
          anew={ahead !== null && !ahead.asPlanned}
          waits={waits}
        />
      )}
      {act === 'hold' && (
        <NumberField
          label="The next step waits longer, by"
          value={days}
          low={1}
          high={90}
          whole
          unit="days"
          wrong="Give 1 to 90."
          take={(v) => (setDays(v), true)}
          testID="hold-days"
        />
      )}
      {act === 'back' && below !== null && (
        <Type>{`Back to ${stepWords(plan, below)} today, ${REST_DAYS} days of rest, then on from there.`}</Type>
      )}
      {act === 'pause' && (
        <Type>What runs now stays until you go on; then the rest is planned from what is so.</Type>
      )}
      {act === 'stop' && <Type>What runs now stays. The target is given up; it can be planned again.</Type>}
      {asks && progress !== null && (
        <Type kind="small" role="status">{`Reckoning ${Math.round(progress * 100)} %`}</Type>
      )}
      {error && <Note>{`It could not be reckoned: ${error}.`}</Note>}
      {answer?.refused && asks && (
        <>
          <Note>{`No further steps: ${answer.refused}.`}</Note>
          <Button
            label="Plan it in another way"
            wide
            onPress={() => {
              onClose();
              router.navigate('/ease');
            }}
          />
        </>
      )}
      {asks && coming && first && last && (
        <View testID="plan-preview">
          <Row style={{ minHeight: 44 }}>
            <Type style={{ flex: 1 }}>{act === 'done' && !waits ? 'This step' : 'Next step'}</Type>
            <Type kind="strong">
              {act === 'done' && !waits
                ? 'today'
                : `${shortDate(first.date)}: ${stepWords(plan, first.setting)}`}
            </Type>
          </Row>
          <Type kind="small" testID="plan-next-light">
            {`${light(ahead!.next)}; at most ${timesUsed(ahead!.next.worst.ratio)} (${names[ahead!.next.worst.spot]}).`}
          </Type>
          <Row style={{ minHeight: 44 }}>
            <Type style={{ flex: 1 }}>In the end</Type>
            <Type kind="strong">{shortDate(last.date)}</Type>
          </Row>
          <Type kind="small" testID="plan-last-light">{`${light(ahead!.last)}.`}</Type>
        </View>
      )}
      <Note>
        {tenantsOf(zone.spots).one === 'alga'
          ? 'If the algae pale or fall apart, hold here and say so in the log.'
          : 'If a coral pales, draws its polyps in, or suddenly shows welcome new colour, hold here and say so in the log.'}
      </Note>
      <Button label={label[act]} kind="filled" wide disabled={!ready} onPress={keep} testID="plan-keep" />
      {answer && answer.atOnce.worst.ratio > CEILINGS.brisk && act === 'done' && (
        <Button
          label="It was all switched on at once"
          kind="plain"
          onPress={() => {
            const atUtc = nowUtcIso();
            const all = plan.targets.map((t) => typeIn(entryOf(t, { id: newId(), zoneId: zone.id, atUtc })));
            if (!run(together('all of it, at once', ...all))) return;
            onClose();
            router.navigate('/rescue');
          }}
          testID="plan-all-at-once"
        />
      )}
    </Sheet>
  );
}

/** The step that is due: what is set, when it was, and what has changed since it was planned. */
function StepDue({
  plan,
  lines,
  late,
  when,
  setWhen,
  date,
  setDate,
  problem,
  dueWords,
  anew,
  waits,
}: {
  plan: EasingPlan;
  lines: readonly string[];
  /** by so many days */
  late: number;
  when: 'now' | 'earlier';
  setWhen: (when: 'now' | 'earlier') => void;
  date: string;
  setDate: (date: string) => void;
  problem: string | null;
  /** the step as it was planned */
  dueWords: string | null;
  /** planned anew, as things are now */
  anew: boolean;
  /** and by that nothing is due today */
  waits: boolean;
}) {
  return (
    <>
      <View testID="plan-step">
        {lines.map((l) => (
          <Type key={l} kind="heading">
            {l}
          </Type>
        ))}
      </View>
      {lines.length > 0 && (
        <Type>
          {plan.method === 'places'
            ? 'Move the coral there; the lamps stay as they are.'
            : 'Leave everything else as it is.'}
        </Type>
      )}
      {late > 0 && (
        <Type quiet testID="plan-late">
          {`It was due ${late === 1 ? 'yesterday' : `${late} days ago`}; planned anew from what they are used to now.`}
        </Type>
      )}
      {late === 0 && anew && (
        <Note>
          {waits
            ? 'As things are now the planned step would be too large: nothing is to be typed in today.'
            : `As things are now the planned step (${dueWords}) would be too large: these steps are planned anew.`}
        </Note>
      )}
      {late > 0 && (
        <Choice
          label="When"
          value={when}
          onChange={setWhen}
          options={[
            { value: 'now', label: 'Just now' },
            { value: 'earlier', label: 'I had done it, but not said so' },
          ]}
        />
      )}
      {when === 'earlier' && late > 0 && (
        <TextField
          label="On"
          value={date}
          onChange={setDate}
          error={problem ?? undefined}
          pick="date"
          testID="plan-date"
        />
      )}
      {when === 'earlier' && dueWords !== null && <Type kind="small">{`Then it was ${dueWords}.`}</Type>}
    </>
  );
}
