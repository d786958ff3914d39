import { useState } from 'react';
import { View } from 'react-native';
import type { EaseAnswer } from '@/core/case/easePlan';
import { easingPercent, stepLines } from '@/core/case/stepWords';
import { shortDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { mol, times, umol } from '../shared/words';
import { useEaseQuestion } from './question';

/** Numbers of a step, as a keeper wants them on the day. */
export function stepNumbers(answer: EaseAnswer, i: number, names: readonly string[], spot: number): string {
  const step = answer.steps[i]!;
  const at = Math.max(0, spot);
  const l = step.light[at]!;
  return `${names[at]}: ${umol(l.peak)} µmol at its brightest, ${mol(l.dli)} mol a day. Largest step ratio ${times(step.worst.ratio)} (${names[step.worst.spot]}).`;
}

const MOST_SHOWN = 12;

export function Steps({
  answer,
  question,
  names,
  spot,
}: {
  answer: EaseAnswer;
  question: NonNullable<ReturnType<typeof useEaseQuestion>['question']>;
  names: readonly string[];
  spot: number;
}) {
  const [all, setAll] = useState(false);
  const { itself } = answer;
  if (itself) {
    const t = question.targets[0]!;
    const from = easingPercent(t, itself.fromShare);
    const to = easingPercent(t, 1);
    const first = answer.course!.light[0]![spot]!;
    const last = answer.course!.light[Math.min(itself.days, answer.course!.light.length - 1)]![spot]!;
    return (
      <Section title="What to enter">
        <View testID="ease-itself">
          <Row>
            <Type style={{ flex: 1 }}>Start</Type>
            <Type kind="strong">{`${Math.floor(from.percent)} % ${from.of}`}</Type>
            <Type kind="small">{`${umol(first.peak)} µmol`}</Type>
          </Row>
          <Row>
            <Type style={{ flex: 1 }}>End</Type>
            <Type kind="strong">{`${Math.round(to.percent)} % ${to.of}`}</Type>
            <Type kind="small">{`${umol(last.peak)} µmol`}</Type>
          </Row>
          <Row>
            <Type style={{ flex: 1 }}>Days</Type>
            <Type kind="strong">{String(itself.days)}</Type>
          </Row>
        </View>
        <Type kind="small">{`µmol at ${names[spot]}, at the day’s brightest. This controller eases by itself; its percents are ${to.of.replace(/,.*/, '')} as its profile says (Case).`}</Type>
      </Section>
    );
  }
  const light = `µmol at the day’s brightest and mol a day at ${names[spot]}; right, the largest step ratio of that day.`;
  const shown = all ? answer.steps : answer.steps.slice(0, MOST_SHOWN);
  return (
    <Section title="Steps">
      <View role="table" aria-label="Steps of the plan" testID="ease-steps">
        {shown.map((x, i) => (
          <Row key={x.date} style={{ minHeight: 44, alignItems: 'flex-start' }}>
            <Type style={{ width: 92 }}>{shortDate(x.date)}</Type>
            <View style={{ flex: 1 }}>
              {stepLines(question, x.setting).map((l) => (
                <Type key={l} kind="strong" testID={`step-${i}`}>
                  {l}
                </Type>
              ))}
              <Type kind="small">{`${umol(x.light[spot]!.peak)} µmol, ${mol(x.light[spot]!.dli)} mol`}</Type>
            </View>
            <View style={{ alignItems: 'flex-end' }}>
              <Type kind="strong">{times(x.worst.ratio)}</Type>
              <Type kind="small">{names[x.worst.spot]}</Type>
            </View>
          </Row>
        ))}
      </View>
      {answer.steps.length > shown.length && (
        <Button label={`All ${answer.steps.length} steps`} onPress={() => setAll(true)} />
      )}
      <Type kind="small">
        {question.method === 'cap'
          ? `The cap is of the lamp’s full output; all else stays as on the sheet. ${light}`
          : light}
      </Type>
    </Section>
  );
}
