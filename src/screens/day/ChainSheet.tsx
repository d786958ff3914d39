import { View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import { channelIds, type LitGroup } from '@/core/case/lit';
import { formatTime } from '@/core/day/clock';
import { ACTED, chainAt } from '@/core/day/thread';
import { dims, hasCap } from '@/core/spectrum/controls';
import { addThread, moveThread, setCap } from '@/state/commands/days';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button, Stepper } from '@/ui/Button';
import { FieldRow } from '@/ui/Field';
import { Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField, TimeField } from '../shared/fields';
import { umol } from '../shared/words';

const share = (v: number) => `${Math.round(v * 1000) / 10} %`;

interface Props {
  minute: number;
  groups: LitGroup[];
  light: ZoneLight | null;
  onMinute: (minute: number) => void;
  onClose: () => void;
  onThread: (id: string) => void;
}

/** Any minute, factor by factor, from what is typed to light at the coral. */
export function ChainSheet({ minute, groups, light, onMinute, onClose, onThread }: Props) {
  const { group, spot, spotIndex } = useDesk();
  const index = groups.findIndex((g) => g.groupId === group!.id);
  const lit = groups[index]!;
  const ids = channelIds(lit.lampKind);
  const thread = group!.threads.find((t) => t.minute === minute);
  const all = light && spotIndex >= 0 ? parUnder(light, levelsOfGroups(groups, minute), spotIndex) : null;
  return (
    <Sheet title={`Chain at ${formatTime(minute)}`} onClose={onClose}>
      <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: space.m }}>
        <TimeField
          label="Time"
          value={minute}
          testID="chain-time"
          take={(m) => {
            onMinute(m);
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
      {thread ? (
        <View style={{ gap: space.s }}>
          <Type kind="label">{`Editable here: a thread of ${lit.threads.find((t) => t.minute === minute)!.mixName}`}</Type>
          <FieldRow>
            <NumberField
              label="Strength"
              value={Math.round(thread.strengthShare * 1000) / 10}
              unit="% of its mix"
              low={0}
              high={100}
              wrong="Strength: give 0 to 100 %."
              testID="chain-strength"
              take={(v) =>
                run(moveThread(group!.id, { ...thread, strengthShare: Math.round(v * 10) / 1000 }))
              }
            />
            {dims(lit.lampKind) && (
              <NumberField
                label="Cap"
                value={Math.round(group!.capShare * 1000) / 10}
                unit="% of the lamp"
                low={0}
                high={100}
                wrong="Cap: give 0 to 100 %."
                testID="chain-cap"
                take={(v) => run(setCap(group!.id, Math.round(v * 10) / 1000))}
              />
            )}
          </FieldRow>
          <Button label="Its mix and time" onPress={() => onThread(thread.id)} testID="chain-thread" />
        </View>
      ) : (
        <Button
          label="Put a thread here to edit it"
          testID="chain-add"
          onPress={() => run(addThread(group!.id, newId(), minute))}
        />
      )}
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
                      f.name === 'typed into the lamp' || f.name === ACTED
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
            : hasCap(lit.lampKind) || !dims(lit.lampKind)
              ? 'The cap multiplies every value'
              : 'The day’s strength is in every typed value'
        }; no easing plan acts on a draft.`}
      </Type>
    </Sheet>
  );
}
