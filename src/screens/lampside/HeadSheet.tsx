import { useState } from 'react';
import { View } from 'react-native';

import type { Line } from '@/state/bench';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Field';
import { Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { answerSchema, type Fault, FAULTS, type Head } from '@/wire/wire';

import { NumberField } from '../shared/fields';

const FAULT_WORDS: Record<Fault, string> = {
  offline: 'Does not answer',
  slow: 'Answers slowly',
  drops: 'Breaks off in a transfer',
  clockReset: 'Forgets its clock in a power cut',
  fewPoints: 'Takes three points at most',
  savesOnly: 'Saves without activating',
  manual: 'Was left in manual',
  capTwice: 'Applies its cap twice',
  colourDown: 'Has a colour turned down',
  colourDead: 'Has a colour that gives no light',
  lampDead: 'Gives no light at all',
  rounds: 'Rounds what it is sent to 5 %',
};

/** A head of the bench: what is wrong with it on request, and what can happen to it. */
export function HeadSheet({
  head,
  line,
  benchMinute,
  again,
  onClose,
}: {
  head: Head;
  line: Line;
  benchMinute: number;
  again: () => Promise<void>;
  onClose: () => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (method: 'POST' | 'DELETE', what: string, body: unknown) => {
    setProblem(null);
    const said = await line.send(method, `/heads/${head.id}${what}`, body, answerSchema);
    if (!said.ok) setProblem(said.message);
    await again();
  };
  const toggle = (fault: Fault) =>
    void send('POST', '/faults', {
      faults: head.faults.includes(fault) ? head.faults.filter((f) => f !== fault) : [...head.faults, fault],
      dropAt: head.dropAt,
    });
  return (
    <Sheet title={head.name} onClose={onClose}>
      <Type kind="small">{`${head.profile.name}, ${head.controls.length} controls; program ${head.activeRevision || 'none'}${head.storedRevision !== head.activeRevision ? `, ${head.storedRevision} saved` : ''}.`}</Type>
      <Section title="What is wrong with it">
        <View>
          {FAULTS.map((fault) => (
            <Check
              key={fault}
              label={FAULT_WORDS[fault]}
              checked={head.faults.includes(fault)}
              onChange={() => toggle(fault)}
              testID={`fault-${fault}`}
            />
          ))}
        </View>
        {head.faults.includes('drops') && (
          <NumberField
            label="Breaks off at message"
            value={head.dropAt}
            low={-20}
            high={20}
            whole
            wrong="Give -20 to 20."
            hint="0 is the first; −1 takes the first and loses its answer"
            take={(dropAt) => (void send('POST', '/faults', { faults: head.faults, dropAt }), true)}
            testID="drop-at"
          />
        )}
      </Section>
      <Section title="What happens to it">
        <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
          <Button label="Cut its power" onPress={() => void send('POST', '/power', {})} testID="cut-power" />
          <Button
            label="Set its clock"
            onPress={() => void send('POST', '/clock', { minute: benchMinute })}
            testID="set-clock"
          />
          <Button
            label="Its clock an hour on"
            onPress={() => void send('POST', '/clock', { minute: (benchMinute + 60) % 1440 })}
            testID="clock-on"
          />
          <Button
            label={head.mode === 'manual' ? 'Back to its program' : 'Put it in manual'}
            onPress={() =>
              void send('POST', '/manual', {
                values: head.mode === 'manual' ? null : head.controls.map(() => 0.4),
              })
            }
            testID="manual"
          />
          <Button
            label="An interlude that never ends"
            onPress={() =>
              void send('POST', '/look', {
                values: head.controls.map(() => 0.5),
                minutes: 1,
                neverEnds: true,
              })
            }
            testID="endless"
          />
        </View>
      </Section>
      {problem && (
        <Type kind="label" role="alert">
          {`▲ ${problem}`}
        </Type>
      )}
      <Button
        label="Take it off the bench"
        onPress={() => {
          onClose();
          void send('DELETE', '', null);
        }}
        testID="remove-head"
      />
    </Sheet>
  );
}
