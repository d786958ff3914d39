import { View } from 'react-native';

import { CONTROLLERS, profileWords } from '@/core/controller/profiles';
import type { ControllerProfile, LampKind } from '@/core/spectrum/lampKind';
import { setLampKind } from '@/state/commands/lamps';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { CAP_MEANS } from '../case/capMeans';
import { NumberField } from '../shared/fields';

const yesNo = (label: string, value: boolean, onChange: (v: boolean) => void, yes: string, no: string) => (
  <Choice
    label={label}
    value={value ? 'yes' : 'no'}
    onChange={(v) => onChange(v === 'yes')}
    options={[
      { value: 'yes', label: yes },
      { value: 'no', label: no },
    ]}
  />
);

/** What a lamp's controller can do, line by line. Every edit is kept at once and can be undone. */
export function ControllerSheet({ kind, onClose }: { kind: LampKind; onClose: () => void }) {
  const p = kind.controller;
  const set = (change: Partial<ControllerProfile>) =>
    run(setLampKind({ ...kind, controller: { ...p, ...change } }));
  return (
    <Sheet title={`Controller of ${kind.name}`} onClose={onClose}>
      <Type kind="small" testID="profile-words">
        {profileWords(p)}
      </Type>
      <Choice
        label="Begin from a kind"
        value={CONTROLLERS.find((c) => c.profile.name === p.name)?.id ?? ''}
        onChange={(id) => set(CONTROLLERS.find((c) => c.id === id)!.profile)}
        options={CONTROLLERS.map((c) => ({ value: c.id, label: c.profile.name }))}
      />
      <ValueField
        label="Name"
        value={p.name}
        onCommit={(text) =>
          text.trim() === '' ? 'Give it a name.' : set({ name: text.trim() }) ? null : 'Not taken.'
        }
      />
      {yesNo(
        'It sets',
        p.sets === 'levels',
        (v) => set({ sets: v ? 'levels' : 'switch' }),
        'levels',
        'on and off only',
      )}
      <FieldRow>
        <NumberField
          label="Most points a day"
          value={p.maxPoints}
          low={1}
          high={1000}
          whole
          wrong="Points: give a whole number from 1 to 1000, or nothing."
          hint="empty = any number"
          testID="max-points"
          empty={() => set({ maxPoints: null })}
          take={(maxPoints) => set({ maxPoints })}
        />
        <NumberField
          label="Points stand every"
          value={p.everyMin}
          unit="min"
          low={1}
          high={240}
          whole
          wrong="Minutes: give a whole number from 1 to 240."
          testID="every-min"
          take={(everyMin) => set({ everyMin })}
        />
      </FieldRow>
      <FieldRow>
        <NumberField
          label="Steps of a percent"
          value={Math.round(p.pointStepShare * 1000) / 10}
          unit="%"
          low={0}
          high={50}
          wrong="Steps: give 0 to 50."
          hint="1 = whole percents, 0.1 = tenths, 0 = any"
          testID="point-step"
          take={(v) => set({ pointStepShare: v / 100 })}
        />
        <NumberField
          label="Lowest apart from 0"
          value={Math.round(p.lowestShare * 1000) / 10}
          unit="%"
          low={0}
          high={90}
          wrong="Lowest: give 0 to 90."
          testID="lowest-share"
          take={(v) => set({ lowestShare: v / 100 })}
        />
      </FieldRow>
      {yesNo(
        'Between points',
        p.interpolation === 'ramp',
        (v) => set({ interpolation: v ? 'ramp' : 'hold' }),
        'runs evenly',
        'holds the last values',
      )}
      <Choice
        label="Its cap"
        value={p.capMeans}
        onChange={(capMeans) => set({ capMeans })}
        options={CAP_MEANS}
      />
      {yesNo('Eases in by itself', p.easesItself, (v) => set({ easesItself: v }), 'yes', 'no')}
      <Choice
        label="Percents of easing are of"
        value={p.easingOf}
        onChange={(easingOf) => set({ easingOf })}
        options={[
          { value: 'lamp', label: 'the lamp' },
          { value: 'cap', label: 'the cap' },
          { value: 'target', label: 'the target' },
        ]}
      />
      {yesNo(
        'When clocks change',
        p.followsClockChange,
        (v) => set({ followsClockChange: v }),
        'it follows',
        'it keeps its own time',
      )}
      {yesNo(
        'During an interlude',
        p.interludeUnderCap,
        (v) => set({ interludeUnderCap: v }),
        'cap and easing hold',
        'they do not',
      )}
      {yesNo(
        'Its page has a row per',
        p.rows === 'times',
        (v) => set({ rows: v ? 'times' : 'colours' }),
        'time',
        'colour',
      )}
      <View style={{ paddingTop: space.s }}>
        <Button label="Done" kind="filled" wide onPress={onClose} />
      </View>
    </Sheet>
  );
}
