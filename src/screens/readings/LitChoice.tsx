import type { Lighting } from '@/core/case/walk';
import { useSettings, changeSettings } from '@/state/settings';
import { Choice, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';

export const chooseHabits = (change: Partial<ReturnType<typeof useSettings.getState>['readings']>): void =>
  changeSettings({ readings: { ...useSettings.getState().readings, ...change } });

/** The lighting that is chosen and remembered, or the first. */
export const chosenLighting = (all: readonly Lighting[], id: string): Lighting =>
  all.find((l) => l.id === id) ?? all[0]!;

/** What is lit while the meter is read. */
export function LitChoice({ lightings }: { lightings: readonly Lighting[] }) {
  const habits = useSettings((s) => s.readings);
  const chosen = chosenLighting(lightings, habits.lit);
  return (
    <>
      <Choice
        label="What is lit"
        value={chosen.id}
        onChange={(lit) => chooseHabits({ lit })}
        options={lightings.map((l) => ({ value: l.id, label: l.label }))}
      />
      {chosen.scaled && (
        <ValueField
          label="at how much of its drive"
          value={String(Math.round(habits.litShare * 1000) / 10)}
          unit="% of full drive"
          numeric
          testID="lit-share"
          onCommit={(text) => {
            const n = parseNumber(text);
            if (n === null || n <= 0 || n > 100) return 'Give above 0, at most 100 %.';
            chooseHabits({ litShare: n / 100 });
            return null;
          }}
        />
      )}
    </>
  );
}
