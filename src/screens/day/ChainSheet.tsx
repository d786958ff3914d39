import { View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import { channelIds, type LitGroup } from '@/core/case/lit';
import { formatTime, parseTypedTime } from '@/core/day/clock';
import { chainAt } from '@/core/day/thread';
import { useDesk } from '@/state/desk';
import { Stepper } from '@/ui/Button';
import { ValueField } from '@/ui/Field';
import { Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';

const share = (v: number) => `${Math.round(v * 1000) / 10} %`;

interface Props {
  minute: number;
  groups: LitGroup[];
  light: ZoneLight | null;
  onMinute: (minute: number) => void;
  onClose: () => void;
}

/** Any minute, factor by factor, from what is typed to light at the coral. */
export function ChainSheet({ minute, groups, light, onMinute, onClose }: Props) {
  const { group, spot, spotIndex } = useDesk();
  const index = groups.findIndex((g) => g.groupId === group!.id);
  const lit = groups[index]!;
  const ids = channelIds(lit.lampKind);
  const all = light && spotIndex >= 0 ? parUnder(light, levelsOfGroups(groups, minute), spotIndex) : null;
  return (
    <Sheet title={`Chain at ${formatTime(minute)}`} onClose={onClose}>
      <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: space.m }}>
        <ValueField
          label="Time"
          value={formatTime(minute)}
          testID="chain-time"
          onCommit={(text) => {
            const typed = parseTypedTime(text);
            if (typed === null) return 'Time: give a time of day such as 14:30.';
            onMinute(typed);
            return null;
          }}
        />
        <Stepper name="Time, 15 min" onStep={(sign) => onMinute((minute + sign * 15 + 1440) % 1440)} />
      </View>
      <Type testID="chain-sum">
        {all === null
          ? 'No light computed yet.'
          : `${umol(all)} µmol at ${spot!.name}, ${groups.length > 1 ? 'all groups' : 'all lamps'}.`}
      </Type>
      <View>
        {ids.map((id, c) => {
          const chain = chainAt(lit.threads, lit.day, lit.lampKind, id, minute);
          const level = chain[chain.length - 1]!.after;
          const par = light && spotIndex >= 0 ? level * light.par[index]![spotIndex]![c]! : null;
          return (
            <Row key={id} style={{ alignItems: 'flex-start' }}>
              <View style={{ flex: 1, gap: 2 }}>
                <Type kind="label">{lit.lampKind.channels[c]!.name}</Type>
                <Type kind="small" testID={`chain-${id}`}>
                  {`${chain
                    .map((f, i) =>
                      f.name === 'typed into the lamp'
                        ? `= ${share(f.after)} ${f.name}`
                        : `${i === 0 ? '' : '× '}${f.name} ${share(f.factor)}`,
                    )
                    .join(' ')} = ${share(level)} of full`}
                </Type>
              </View>
              <Type kind="strong">{par === null ? '–' : `${umol(par)} µmol`}</Type>
            </Row>
          );
        })}
      </View>
      <Type kind="small">
        {`Typed values are rounded to the lamp’s steps. ${
          lit.day.capMeans === 'rescales'
            ? 'This lamp’s cap rescales the day so that its largest channel level equals the cap'
            : 'The cap multiplies every value'
        }; no easing plan acts on a draft.`}
      </Type>
    </Sheet>
  );
}
