import { useEffect, useState } from 'react';
import { View } from 'react-native';

import { aims, type Eye, HIGH_LIGHT_NEEDS, type Stage } from '@/core/case/howMuch';
import type { Zone } from '@/core/record/zone';
import { changeSettings, useSettings } from '@/state/settings';
import { Check, Choice } from '@/ui/Field';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';

const STANDING = { below: 'below', within: 'within', above: 'above' } as const;

/** How much light at all: where the target ends against stage and attention, and what high light asks first. */
export function HowMuch({
  zone,
  peaks,
  onReady,
}: {
  zone: Zone;
  /** per spot, at the day's brightest once everything is eased in */
  peaks: readonly number[];
  onReady: (ready: boolean) => void;
}) {
  const ease = useSettings((s) => s.ease);
  const found = aims(zone, peaks, ease.stage, ease.eye);
  const high = found.filter((a) => a.high);
  const [agreed, setAgreed] = useState<readonly number[]>([]);
  const ready = high.length === 0 || agreed.length === HIGH_LIGHT_NEEDS.length;
  useEffect(() => onReady(ready), [onReady, ready]);
  const above = found.filter((a) => a.standing === 'above').map((a) => zone.spots[a.spot]!.name);
  if (found.length === 0) return null;
  return (
    <Section title="How much light at all?">
      <Choice<Stage>
        label="The tank is"
        value={ease.stage}
        onChange={(stage) => changeSettings({ ease: { ...ease, stage } })}
        options={[
          { value: 'young', label: 'young' },
          { value: 'growing', label: 'growing in' },
          { value: 'mature', label: 'full and mature' },
        ]}
      />
      <Choice<Eye>
        label="Every coral is looked at"
        value={ease.eye}
        onChange={(eye) => changeSettings({ ease: { ...ease, eye } })}
        options={[
          { value: 'daily', label: 'daily' },
          { value: 'weekly', label: 'weekly' },
          { value: 'seldom', label: 'seldom' },
        ]}
      />
      <View testID="aims">
        {found.map((a) => (
          <Row key={zone.spots[a.spot]!.id} style={{ minHeight: 44 }}>
            <Type kind="label" style={{ flex: 1 }}>
              {zone.spots[a.spot]!.name}
            </Type>
            <Type kind="strong">{`${umol(peaks[a.spot]!)} µmol`}</Type>
            <Type kind="small" style={{ width: 118, textAlign: 'right' }}>
              {`${STANDING[a.standing]} ${umol(a.fromUmol)}–${umol(a.toUmol)}`}
            </Type>
          </Row>
        ))}
      </View>
      <Type kind="small">
        {`At the day’s brightest in the end, against what this stage and attention ask for (rule of thumb). ${
          above.length === 0
            ? 'Young tanks want growth, full ones may chase colour; more corals are harmed by too much than by too little.'
            : `${above.join(', ')}: a lower target would do.`
        }`}
      </Type>
      {high.length > 0 && (
        <View style={{ gap: space.s }} testID="high-light">
          <Type kind="label">{`High light at ${high.map((a) => zone.spots[a.spot]!.name).join(', ')}. Is it so that:`}</Type>
          {HIGH_LIGHT_NEEDS.map((words, i) => (
            <Check
              key={words}
              label={words}
              checked={agreed.includes(i)}
              onChange={() => setAgreed(agreed.includes(i) ? agreed.filter((x) => x !== i) : [...agreed, i])}
              testID={`high-${i}`}
            />
          ))}
        </View>
      )}
    </Section>
  );
}
