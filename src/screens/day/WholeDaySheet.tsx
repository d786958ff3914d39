import { View } from 'react-native';

import { formatHours } from '@/core/day/clock';
import { dayLength, mirrored, plateauOf, scaled, shifted, stretched, withPlateau } from '@/core/day/moves';
import { setCap, setThreads } from '@/state/commands/days';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button, Stepper } from '@/ui/Button';
import { ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { mol } from '../shared/words';
import { KeptDays } from './KeptDays';

/** Moves of the whole day: shift, stretch, plateau, strength, mirror. */
export function WholeDaySheet({
  said,
  dose,
  onClose,
}: {
  said: string;
  /** what the day gives at the chosen coral, and these lamps' part of it, mol; null = nothing to set it by */
  dose: { mol: number; mine: number; at: string } | null;
  onClose: () => void;
}) {
  const { group: deskGroup, lampKind } = useDesk();
  const group = deskGroup!;
  const { threads } = group;
  const set = (next: typeof threads, what: string) =>
    run(setThreads(group.id, `whole day ${what}`, next, `whole-${what}-${group.id}`));
  const length = dayLength(threads);
  const plateau = plateauOf(threads);
  const strongest = Math.max(0, ...threads.map((t) => t.strengthShare));
  const hours = (text: string): number | null => {
    const v = parseNumber(text);
    return v !== null && v > 0 && v < 24 ? Math.round(v * 60) : null;
  };
  const line = (name: string, by: string, onStep: (sign: -1 | 1) => void) => (
    <View style={{ gap: space.xs }}>
      <Type kind="small">{by}</Type>
      <Stepper name={name} onStep={onStep} />
    </View>
  );
  const row = { flexDirection: 'row', alignItems: 'flex-end', gap: space.m } as const;
  return (
    <Sheet title="The whole day" onClose={onClose}>
      <Type testID="whole-said">{said}</Type>
      <View style={row}>
        <View style={{ flex: 1 }}>
          <Type kind="label">Earlier or later</Type>
        </View>
        {line('Shift the day', '15 min', (sign) => set(shifted(threads, 15 * sign), 'shifted'))}
      </View>
      <View style={row}>
        <View style={{ flex: 1 }}>
          <ValueField
            label="First to last thread"
            value={String(Math.round(length / 6) / 10)}
            unit="h"
            numeric
            hint={formatHours(length / 60)}
            testID="day-length"
            onCommit={(text) => {
              const minutes = hours(text);
              if (minutes === null) return 'Give hours above 0 and below 24.';
              return set(stretched(threads, minutes), 'stretched') ? null : 'Not taken.';
            }}
          />
        </View>
        {line('Stretch the day', '30 min', (sign) =>
          set(stretched(threads, length + 30 * sign), 'stretched'),
        )}
      </View>
      {plateau && (
        <View style={row}>
          <View style={{ flex: 1 }}>
            <ValueField
              label="Plateau (from nine tenths of the top on)"
              value={String(Math.round(plateau.minutes / 6) / 10)}
              unit="h"
              numeric
              hint="slopes keep their length"
              testID="plateau-length"
              onCommit={(text) => {
                const minutes = text.trim() === '0' ? 0 : hours(text);
                if (minutes === null) return 'Give hours from 0 to below 24.';
                return set(
                  withPlateau(threads, minutes, (t) => ({ ...t, id: newId() })),
                  'plateau',
                )
                  ? null
                  : 'Not taken.';
              }}
            />
          </View>
          {line('Plateau', '30 min', (sign) =>
            set(
              withPlateau(threads, Math.max(0, plateau.minutes + 30 * sign), (t) => ({ ...t, id: newId() })),
              'plateau',
            ),
          )}
        </View>
      )}
      {dose && dose.mine > 0 && (
        <ValueField
          label={`Light a day at ${dose.at}`}
          value={mol(dose.mol)}
          unit="mol, by the cap"
          numeric
          testID="day-mol"
          onCommit={(text) => {
            const wanted = parseNumber(text);
            const others = dose.mol - dose.mine;
            const most = others + dose.mine / group.capShare;
            if (wanted === null || wanted < others || wanted > most)
              return `Give ${others > 0 ? `${mol(others)}, which other lamps give,` : '0'} to ${mol(most)} mol, which is all this day can give at full.`;
            const cap = Math.min(1, (group.capShare * (wanted - others)) / dose.mine);
            return run(setCap(group.id, Math.round(cap * 1000) / 1000)) ? null : 'Not taken.';
          }}
        />
      )}
      <View style={row}>
        <View style={{ flex: 1 }}>
          <Type kind="label">Every strength</Type>
          <Type kind="small">{`the strongest thread is at ${Math.round(strongest * 1000) / 10} % of its mix`}</Type>
        </View>
        {line('Scale the day', 'a twentieth', (sign) =>
          set(
            scaled(threads, sign < 0 ? 1 / 1.05 : Math.min(1.05, strongest > 0 ? 1 / strongest : 1)),
            'scaled',
          ),
        )}
      </View>
      <Button
        label="Mirror: morning becomes evening"
        onPress={() => set(mirrored(threads, lampKind!.controller.interpolation), 'mirrored')}
      />
      <KeptDays />
    </Sheet>
  );
}
