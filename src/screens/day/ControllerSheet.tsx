import { View } from 'react-native';

import { CONTROLLERS, profileWords } from '@/core/controller/profiles';
import type { ControllerProfile, LampKind } from '@/core/spectrum/lamp';
import { setLampKind } from '@/state/commands';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

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
  const number =
    (
      low: number,
      high: number,
      what: string,
      take: (v: number) => Partial<ControllerProfile>,
      whole = false,
    ) =>
    (text: string): string | null => {
      const v = parseNumber(text);
      if (v === null || v < low || v > high || (whole && !Number.isInteger(v)))
        return `${what}: give ${whole ? 'a whole number from ' : ''}${low} to ${high}.`;
      return set(take(v)) ? null : 'Not taken.';
    };
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
        <ValueField
          label="Most points a day"
          value={p.maxPoints === null ? '' : String(p.maxPoints)}
          numeric
          hint="empty = any number"
          testID="max-points"
          onCommit={(text) =>
            text.trim() === ''
              ? set({ maxPoints: null })
                ? null
                : 'Not taken.'
              : number(1, 1000, 'Points', (maxPoints) => ({ maxPoints }), true)(text)
          }
        />
        <ValueField
          label="Points stand every"
          value={String(p.everyMin)}
          unit="min"
          numeric
          testID="every-min"
          onCommit={number(1, 240, 'Minutes', (everyMin) => ({ everyMin }), true)}
        />
      </FieldRow>
      <FieldRow>
        <ValueField
          label="Steps of a percent"
          value={String(Math.round(p.pointStepShare * 1000) / 10)}
          unit="%"
          numeric
          hint="1 = whole percents, 0.1 = tenths, 0 = any"
          testID="point-step"
          onCommit={number(0, 50, 'Steps', (v) => ({ pointStepShare: v / 100 }))}
        />
        <ValueField
          label="Lowest apart from 0"
          value={String(Math.round(p.lowestShare * 1000) / 10)}
          unit="%"
          numeric
          testID="lowest-share"
          onCommit={number(0, 90, 'Lowest', (v) => ({ lowestShare: v / 100 }))}
        />
      </FieldRow>
      {yesNo(
        'Between points',
        p.interpolation === 'ramp',
        (v) => set({ interpolation: v ? 'ramp' : 'hold' }),
        'runs evenly',
        'holds the last values',
      )}
      {yesNo(
        'Its cap',
        p.capMeans === 'multiplies',
        (v) => set({ capMeans: v ? 'multiplies' : 'rescales' }),
        'multiplies every level',
        'rescales the day to it',
      )}
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
