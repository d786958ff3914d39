import { Pressable, View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import { type LitGroup, resolveThread } from '@/core/case/lit';
import type { Thread } from '@/core/case/types';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { newPlate } from '@/core/case/plate';
import { formatTime, parseTypedTime } from '@/core/day/clock';
import { Strip } from '@/pieces/Strip';
import { addPlate, moveThread, removeThread } from '@/state/commands';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button, Stepper } from '@/ui/Button';
import { FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { font, space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { router } from 'expo-router';

import { umol } from '../shared/words';

interface Props {
  thread: Thread;
  groups: LitGroup[];
  light: ZoneLight | null;
  onClose: () => void;
}

/** One thread: its time, strength and mix, typed or stepped. */
export function ThreadSheet({ thread, groups, light, onClose }: Props) {
  const { doc, group: deskGroup, lampKind, spot, spotIndex } = useDesk();
  const group = deskGroup!;
  const kind = lampKind!;
  const own = 'own' in thread.mix;
  const set = (change: Partial<Thread>, merge?: string) =>
    run(moveThread(group.id, { ...thread, ...change }, merge));
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const here =
    light && spotIndex >= 0 ? parUnder(light, levelsOfGroups(groups, thread.minute), spotIndex) : null;
  const keep = () => {
    const id = newId();
    const plate = newPlate(id, `From ${formatTime(thread.minute)}`, kind.id, resolveThread(doc, thread).mix);
    if (run(addPlate(plate))) set({ mix: { plateId: id } });
  };
  return (
    <Sheet title={`Thread at ${formatTime(thread.minute)}`} onClose={onClose}>
      <Type testID="thread-umol">
        {here === null ? 'No light computed yet.' : `${umol(here)} µmol at ${spot!.name}, all lamps.`}
      </Type>
      <FieldRow>
        <ValueField
          label="Time"
          value={formatTime(thread.minute)}
          testID="thread-time"
          onCommit={(text) => {
            const minute = parseTypedTime(text);
            if (minute === null) return 'Time: give a time of day such as 14:30.';
            if (group.threads.some((t) => t.id !== thread.id && t.minute === minute))
              return `Another thread stands at ${formatTime(minute)}.`;
            set({ minute });
            return null;
          }}
        />
        <ValueField
          label="Strength"
          value={String(Math.round(thread.strengthShare * 1000) / 10)}
          unit="% of its mix"
          numeric
          testID="thread-strength"
          onCommit={(text) => {
            const value = parseNumber(text);
            if (value === null || value < 0 || value > 100) return 'Strength: give 0 to 100 %.';
            set({ strengthShare: Math.round(value * 10) / 1000 });
            return null;
          }}
        />
      </FieldRow>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', flexWrap: 'wrap', gap: space.m }}>
        <View style={{ gap: space.xs }}>
          <Type kind="small">Time, 5 min</Type>
          <Stepper
            name="Time"
            onStep={(sign) => {
              let minute = thread.minute;
              do minute = (minute + sign * 5 + 1440) % 1440;
              while (group.threads.some((t) => t.id !== thread.id && t.minute === minute));
              set({ minute }, `time-${thread.id}`);
            }}
          />
        </View>
        <View style={{ gap: space.xs }}>
          <Type kind="small">Strength, 1 %</Type>
          <Stepper
            name="Strength"
            atLow={thread.strengthShare <= 0}
            atHigh={thread.strengthShare >= 1}
            onStep={(sign) =>
              set(
                {
                  strengthShare: Math.min(
                    1,
                    Math.max(0, Math.round(thread.strengthShare * 100 + sign) / 100),
                  ),
                },
                `strength-${thread.id}`,
              )
            }
          />
        </View>
      </View>
      <View style={{ gap: space.s }} role="radiogroup" aria-label="Mix of this thread">
        <Type kind="label">Mix</Type>
        {own && (
          <View style={{ gap: 6 }}>
            <Type kind="label" style={{ fontFamily: font.bold }}>
              ● its own mix
            </Type>
            <Strip
              spectrum={mixSpectrum(kind, resolveThread(doc, thread).mix)}
              width={320}
              height={12}
              name="Spectrum of its own mix at the lamp"
            />
            <Button label="Keep its mix as a plate" onPress={keep} />
          </View>
        )}
        {plates.map((p) => {
          const chosen = 'plateId' in thread.mix && thread.mix.plateId === p.id;
          return (
            <Pressable
              key={p.id}
              role="radio"
              aria-checked={chosen}
              aria-label={p.name}
              onPress={() => set({ mix: { plateId: p.id } })}
              style={{ gap: 6, paddingVertical: 6 }}
            >
              <Type
                kind="label"
                style={chosen ? { fontFamily: font.bold } : undefined}
              >{`${chosen ? '● ' : '○ '}${p.name}`}</Type>
              <Strip
                spectrum={mixSpectrum(kind, p.mix)}
                width={320}
                height={12}
                name={`Spectrum of ${p.name} at the lamp`}
              />
            </Pressable>
          );
        })}
      </View>
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        {'plateId' in thread.mix && (
          <Button
            label="Open in Mix"
            onPress={() => {
              if ('plateId' in thread.mix) changeSettings({ plateId: thread.mix.plateId });
              onClose();
              router.navigate('/mix');
            }}
          />
        )}
        <Button
          label="Remove this thread"
          onPress={() => {
            onClose();
            run(removeThread(group.id, thread.id));
          }}
        />
      </View>
    </Sheet>
  );
}
