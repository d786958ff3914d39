import { lengthRange, volumeRange } from '@/core/shape/units';
import { View } from 'react-native';

import type { MatFlow, Zone } from '@/core/record/zone';
import { flowCheck } from '@/core/refugium/flow';
import { setZone } from '@/state/commands/waters';
import { run } from '@/state/session';
import { Check, Choice, FieldRow } from '@/ui/Field';
import { Fold, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';

const UNSAID: MatFlow = {
  way: 'over',
  leaves: 'weir',
  turnsPerHour: null,
  screened: false,
  headroomCm: null,
  drainsL: null,
};
const MARKS = { good: '✓', mind: '○', wrong: '▲' } as const;
const SAID = { good: 'good', mind: 'mind this', wrong: 'wrong' } as const;

/** Flow over the mat: a few questions, and why each matters. */
export function FlowSection({ zone }: { zone: Zone }) {
  const flow = zone.flow ?? UNSAID;
  const set = (change: Partial<MatFlow>) => run(setZone(zone.id, { flow: { ...flow, ...change } }));
  const words = flowCheck(flow, zone.tank);
  const number = (
    key: 'turnsPerHour' | 'headroomCm' | 'drainsL',
    label: string,
    unit: string,
    high: number,
  ) => (
    <NumberField
      label={label}
      value={flow[key]}
      unit={unit}
      low={0}
      high={high}
      wrong={`Give ${unit === 'cm' ? lengthRange(0, high) : unit === 'l' ? volumeRange(0, high) : `0 to ${high}`}, or nothing.`}
      empty={() => set({ [key]: null })}
      take={(v) => set({ [key]: v })}
      testID={`flow-${key}`}
    />
  );
  return (
    <Section title="Flow over the mat">
      <View style={{ gap: space.s }} testID="flow-words">
        {zone.flow ? (
          words.map((w) => (
            <View key={w.words} style={{ flexDirection: 'row', gap: space.s }}>
              <Type kind="label" aria-label={SAID[w.standing]} style={{ width: 16 }}>
                {MARKS[w.standing]}
              </Type>
              <Type kind="small" style={{ flex: 1 }}>
                {w.words}
              </Type>
            </View>
          ))
        ) : (
          <Type kind="small">Five questions about water, and why each matters. Nothing is said yet.</Type>
        )}
      </View>
      <Fold title="Say how the water runs" testID="flow-open" open={!zone.flow}>
        <Choice
          label="Where most of it passes"
          value={flow.way}
          onChange={(way) => set({ way })}
          options={[
            { value: 'over', label: 'over the mat' },
            { value: 'through', label: 'through it' },
            { value: 'beneath', label: 'beneath it' },
            { value: 'still', label: 'it hardly moves' },
          ]}
        />
        <Choice
          label="It leaves"
          value={flow.leaves}
          onChange={(leaves) => set({ leaves })}
          options={[
            { value: 'weir', label: 'over a weir' },
            { value: 'baffle', label: 'under a baffle' },
          ]}
        />
        <Check
          label="A screen keeps threads from pump and weir"
          checked={flow.screened}
          onChange={() => set({ screened: !flow.screened })}
          testID="flow-screened"
        />
        {number('turnsPerHour', 'Box changed', 'times an hour', 1000)}
        <FieldRow>
          {number('headroomCm', 'Free height above', 'cm', 300)}
          {number('drainsL', 'Runs back at a stop', 'l', 5000)}
        </FieldRow>
      </Fold>
    </Section>
  );
}
