import { Pressable, View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import { type LitGroup, resolveThread } from '@/core/case/lit';
import type { Thread } from '@/core/record/zone';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { newPlate } from '@/core/case/plate';
import { formatTime } from '@/core/day/clock';
import { shifted } from '@/core/day/moves';
import { strengthForUmol } from '@/core/case/strength';
import type { ResolvedThread } from '@/core/day/thread';
import { dims } from '@/core/spectrum/controls';
import { Strip } from '@/pieces/Strip';
import { addPlate, setMix } from '@/state/commands/plates';
import { moveThread, removeThread, setThreads } from '@/state/commands/days';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button, Stepper } from '@/ui/Button';
import { FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Fold } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { font, space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { router } from 'expo-router';

import { NumberField, TimeField } from '../shared/fields';
import { umol, umolExact } from '../shared/words';
import { withThreads } from './changed';

interface Props {
  thread: Thread;
  groups: LitGroup[];
  light: ZoneLight | null;
  onClose: () => void;
  /** opens another thread in its place */
  onOpen: (id: string) => void;
}

/** One thread: its time, strength and mix, typed or stepped. */
export function ThreadSheet({ thread, groups, light, onClose, onOpen }: Props) {
  const { doc, group: deskGroup, lampKind, spot, spotIndex } = useDesk();
  const group = deskGroup!;
  const kind = lampKind!;
  const own = 'own' in thread.mix;
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const set = (change: Partial<Thread>, merge?: string) =>
    run(moveThread(group.id, { ...thread, ...change }, merge));
  const here =
    light && spotIndex >= 0 ? parUnder(light, levelsOfGroups(groups, thread.minute), spotIndex) : null;
  const umolAt = (threads: readonly ResolvedThread[]) =>
    parUnder(light!, levelsOfGroups(withThreads(groups, group.id, threads), thread.minute), spotIndex);
  const from =
    'own' in thread.mix
      ? plates.find((p) => p.id === (thread.mix as { fromPlateId?: string }).fromPlateId)
      : undefined;
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
        <TimeField
          label="Time"
          value={thread.minute}
          testID="thread-time"
          take={(minute) =>
            group.threads.some((t) => t.id !== thread.id && t.minute === minute)
              ? `Another thread stands at ${formatTime(minute)}.`
              : set({ minute })
          }
        />
        <NumberField
          label="Strength"
          value={Math.round(thread.strengthShare * 1000) / 10}
          unit="% of its mix"
          low={0}
          high={100}
          wrong="Strength: give 0 to 100 %."
          testID="thread-strength"
          take={(v) => set({ strengthShare: Math.round(v * 10) / 1000 })}
        />
      </FieldRow>
      {here !== null && dims(kind) && (
        <ValueField
          label={`Strength as light at ${spot!.name}`}
          value={umolExact(here)}
          unit="µmol, everything lit"
          numeric
          testID="thread-umol-field"
          onCommit={(text) => {
            const value = parseNumber(text);
            if (value === null || value < 0) return 'Give µmol from 0 on.';
            const found = strengthForUmol(
              groups.find((g) => g.groupId === group.id)!.threads,
              thread.minute,
              value,
              umolAt,
            );
            if (!('strengthShare' in found))
              return `This mix gives ${umol(found.fromUmol)} to ${umol(found.toUmol)} µmol here under the present cap: change mix, cap or other lamps for more.`;
            const { strengthShare } = found;
            set({ strengthShare });
            return null;
          }}
        />
      )}
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
            <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
              {from && (
                <Button
                  label={`Save back to ${from.name}`}
                  testID="save-back"
                  onPress={() => {
                    if (run(setMix(from.id, resolveThread(doc, thread).mix)))
                      set({ mix: { plateId: from.id } });
                  }}
                />
              )}
              <Button label="Keep its mix as a new plate" onPress={keep} />
            </View>
          </View>
        )}
        <Fold title="Edit this thread’s mix here" testID="edit-mix">
          {kind.controls.map((c) => {
            const mix = resolveThread(doc, thread).mix;
            const value = mix[c.id] ?? 0;
            const to = (v: number) =>
              set(
                {
                  mix: {
                    own: { ...mix, [c.id]: Math.min(1, Math.max(0, Math.round(v * 1000) / 1000)) },
                    ...(('plateId' in thread.mix ? thread.mix.plateId : thread.mix.fromPlateId)
                      ? { fromPlateId: 'plateId' in thread.mix ? thread.mix.plateId : thread.mix.fromPlateId }
                      : {}),
                  },
                },
                `mix-${thread.id}-${c.id}`,
              );
            return (
              <View key={c.id} style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
                <Type style={{ flex: 1 }}>{c.name}</Type>
                {c.kind === 'onOff' ? (
                  <Button
                    label={value > 0 ? 'on' : 'off'}
                    name={`${c.name}: ${value > 0 ? 'on' : 'off'}`}
                    onPress={() => to(value > 0 ? 0 : 1)}
                  />
                ) : (
                  <>
                    <View style={{ width: 104 }}>
                      <NumberField
                        label={`${c.name}, % of full`}
                        hideLabel
                        value={Math.round(value * 1000) / 10}
                        unit="%"
                        low={0}
                        high={100}
                        wrong="Give 0 to 100 %."
                        testID={`mix-${c.id}`}
                        take={(v) => to(v / 100)}
                      />
                    </View>
                    <Stepper
                      name={c.name}
                      atLow={value <= 0}
                      atHigh={value >= 1}
                      onStep={(sign) => to(value + 0.01 * sign)}
                    />
                  </>
                )}
              </View>
            );
          })}
          <Type kind="small">For this thread alone, % of full before strength, cap and easing.</Type>
        </Fold>
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
          label="Copy half an hour later"
          testID="copy-thread"
          onPress={() => {
            const id = newId();
            const copies = shifted([...group.threads, { ...thread, id }], 30, new Set([id]));
            if (run(setThreads(group.id, 'copy a thread', copies))) onOpen(id);
          }}
        />
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
