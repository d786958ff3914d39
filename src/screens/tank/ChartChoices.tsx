import { View } from 'react-native';

import { NEEDS, type NeedId } from '@/core/record/needs';
import { formatTime } from '@/core/day/clock';
import { useSettings } from '@/state/settings';
import { Choice } from '@/ui/Field';
import { space } from '@/ui/theme';

import { chooseTank, type TankLight } from './useTankLight';

/** What the chart shows, of which light, against what, and for whom. */
export function ChartChoices({ light }: { light: TankLight }) {
  const chosen = useSettings((s) => s.tank);
  const { list, what } = light;
  return (
    <View style={{ gap: space.m }}>
      <Choice
        label="Shows"
        value={chosen.what}
        onChange={(next) => chooseTank({ what: next })}
        options={[
          { value: 'plateau', label: 'PAR at a plateau' },
          { value: 'now', label: 'PAR at this moment' },
          { value: 'dli', label: 'DLI' },
        ]}
      />
      {what === 'plateau' && list.length > 1 && (
        <Choice
          label="Plateau"
          value={String(list.some((p) => p.minute === chosen.minute) ? chosen.minute : light.minute)}
          onChange={(minute) => chooseTank({ minute: Number(minute) })}
          options={list.map((p) => ({ value: String(p.minute), label: `${formatTime(p.minute)} ${p.name}` }))}
        />
      )}
      <Choice
        label="Light"
        value={light.whose}
        onChange={(whose) => chooseTank({ whose })}
        options={[
          { value: 'running', label: 'as it runs' },
          { value: 'draft', label: 'as drafted' },
        ]}
      />
      <Choice
        label="Set against"
        value={chosen.against === 'plateau' ? `p${chosen.againstMinute}` : chosen.against}
        onChange={(against) =>
          against.startsWith('p')
            ? chooseTank({ against: 'plateau', againstMinute: Number(against.slice(1)) })
            : chooseTank({ against: against as 'none' | 'other' })
        }
        options={[
          { value: 'none', label: 'nothing' },
          { value: 'other', label: light.whose === 'running' ? 'the draft' : 'what runs' },
          ...(what === 'plateau'
            ? list
                .filter((p) => p.minute !== light.minute)
                .map((p) => ({ value: `p${p.minute}`, label: `${formatTime(p.minute)} ${p.name}` }))
            : []),
        ]}
      />
      {what !== 'dli' && !light.against && (
        <Choice
          label="Draws what suits"
          value={chosen.suits}
          onChange={(suits) => chooseTank({ suits })}
          options={[
            { value: 'chosen', label: 'the chosen coral' },
            { value: 'none', label: 'nobody' },
            ...(Object.keys(NEEDS) as NeedId[]).map((id) => ({ value: id, label: NEEDS[id].name })),
          ]}
        />
      )}
    </View>
  );
}
