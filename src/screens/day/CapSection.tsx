import { memo } from 'react';
import { View } from 'react-native';

import { dayAt, lightOfGroup, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Group } from '@/core/record/zone';
import { dims, hasCap } from '@/core/spectrum/controls';
import { scaleCaps, setCap } from '@/state/commands/days';
import { run } from '@/state/session';
import { Stepper } from '@/ui/Button';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { umol } from '../shared/words';

/** What a group's brightest moment would be with a day of another cap or meaning, µmol at a spot. */
export const peakWith = (
  light: ZoneLight,
  groups: readonly LitGroup[],
  spot: number,
  groupId: string,
  change: Partial<LitGroup['day']>,
): number =>
  Math.round(
    10 *
      dayAt(
        light,
        groups.map((g) => (g.groupId === groupId ? { ...g, day: { ...g.day, ...change } } : g)),
        spot,
      ).peak,
  ) / 10;

const MEANINGS = {
  multiplies: 'multiplies every thread',
  rescales: 'rescales the day: its largest channel level becomes the cap',
};

/** What the same percent would mean on the other kind of controller. */
export const otherCapWords = (rescales: boolean, peak: number, spotName: string): string =>
  `On a lamp whose cap ${rescales ? 'multiplies every thread' : 'becomes the day’s largest channel level'}, the brightest moment would be ${umol(peak)} µmol at ${spotName}.`;

/** The cap, apart from everything else, and what it means here in µmol. */
export const CapSetting = memo(function CapSetting({
  groupId,
  capShare,
  means,
  rescales,
  peak,
}: {
  groupId: string;
  capShare: number;
  /** whether it does anything here: not to what is on or off; and whether the lamp has one that is typed */
  means: 'nothing' | 'cap' | 'values';
  rescales: boolean;
  /** brightest moment, µmol; null = not known yet */
  peak: number | null;
}) {
  if (means === 'nothing') {
    return (
      <Type kind="small">
        This lamp is on or off: no cap acts on it. Its strength is its height and its hours.
      </Type>
    );
  }
  const name = means === 'values' ? 'Strength of the day' : 'Cap';
  return (
    <View style={{ gap: space.s }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
        <Type kind="label" style={{ maxWidth: 92 }}>
          {name}
        </Type>
        <View style={{ flex: 1 }}>
          <NumberField
            label={`${name}, % of the lamp`}
            hideLabel
            value={Math.round(capShare * 1000) / 10}
            unit="% of the lamp"
            low={0}
            high={100}
            wrong={`${name}: give 0 to 100 %.`}
            testID="cap"
            take={(v) => run(setCap(groupId, Math.round(v * 10) / 1000))}
          />
        </View>
        <Stepper
          name={name}
          atLow={capShare <= 0}
          atHigh={capShare >= 1}
          onStep={(sign) =>
            run(
              setCap(
                groupId,
                Math.min(1, Math.max(0, Math.round(capShare * 100 + sign) / 100)),
                `cap-${groupId}`,
              ),
            )
          }
        />
      </View>
      {means === 'values' && (
        <Type kind="small" testID="cap-here">
          {`This lamp has no cap: every value on the sheet is multiplied by this percent.${peak === null ? '' : ` Brightest moment ${umol(peak)} µmol.`}`}
        </Type>
      )}
      {means === 'cap' && (
        <Type kind="small" testID="cap-here">
          {`${peak === null ? 'It' : `Brightest moment ${umol(peak)} µmol; it`} ${MEANINGS[rescales ? 'rescales' : 'multiplies']}.`}
        </Type>
      )}
    </View>
  );
});

/** Unlike lamps under one percent: every dimmable group's cap times one factor, with what each gives. */
export function AllCaps({
  zoneId,
  groups,
  lit,
  light,
  spot,
}: {
  zoneId: string;
  groups: readonly Group[];
  lit: readonly LitGroup[];
  light: ZoneLight;
  spot: number;
}) {
  const able = groups.filter((g) => dims(lit.find((l) => l.groupId === g.id)!.lampKind));
  if (groups.length < 2 || able.length === 0) return null;
  const top = Math.max(...able.map((g) => g.capShare));
  const scale = (to: number) =>
    run(
      scaleCaps(
        zoneId,
        Object.fromEntries(
          able.map((g) => [g.id, Math.min(1, Math.round((top > 0 ? g.capShare / top : 1) * to * 1e4) / 1e4)]),
        ),
        'all-caps',
      ),
    );
  return (
    <View style={{ gap: space.s }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
        <View style={{ flex: 1 }}>
          <NumberField
            label="All lamps that dim, together"
            value={Math.round(top * 1000) / 10}
            unit="% of the strongest"
            low={0.1}
            high={100}
            wrong="Give a percent from 0.1 to 100."
            testID="all-caps"
            take={(v) => scale(v / 100)}
          />
        </View>
        <Stepper
          name="All caps"
          atLow={top <= 0.01}
          atHigh={top >= 1}
          onStep={(sign) => scale(Math.min(1, Math.max(0.01, Math.round(top * 100 + sign) / 100)))}
        />
      </View>
      {lit.map((g, i) => (
        <Type key={g.groupId} kind="small">
          {`${g.name}: ${dims(g.lampKind) ? `${hasCap(g.lampKind) ? 'cap' : 'strength'} ${Math.round(g.day.capShare * 1000) / 10} %` : 'on or off'}, ${umol(
            dayAt(lightOfGroup(light, i), [g], spot).peak,
          )} µmol at most`}
        </Type>
      ))}
      <Type kind="small">
        One percent is not one strength: like percents of unlike lamps give unlike light.
      </Type>
    </View>
  );
}
