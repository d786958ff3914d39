import { plural } from '@/core/shape/counts';
import { useState } from 'react';
import { Pressable, View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import { type LitGroup, resolveThread } from '@/core/case/lit';
import { formatTime } from '@/core/day/clock';
import { scaled, shifted } from '@/core/day/moves';
import { setThreads } from '@/state/commands/days';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button, Stepper } from '@/ui/Button';
import { Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol } from '../shared/words';

/** Several threads at once: choose, then shift, scale, copy or remove them. It is the day's table as well. */
export function SeveralSheet({
  groups,
  light,
  onClose,
}: {
  groups: LitGroup[];
  light: ZoneLight | null;
  onClose: () => void;
}) {
  const { doc, group: deskGroup, spot, spotIndex } = useDesk();
  const group = deskGroup!;
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const threads = [...group.threads].sort((a, b) => a.minute - b.minute);
  const some = threads.filter((t) => chosen.has(t.id));
  const key = some.map((t) => t.id).join();
  const set = (next: typeof threads, what: string, merge?: string) =>
    run(setThreads(group.id, `${plural(some.length, 'thread')} ${what}`, next, merge && `${merge}-${key}`));
  const copy = () => {
    const ids = new Map(some.map((t) => [t.id, newId()]));
    const copies = some.map((t) => ({ ...t, id: ids.get(t.id)! }));
    const all = shifted([...threads, ...copies], 30, new Set(ids.values()));
    if (set(all, 'copied')) setChosen(new Set(ids.values()));
  };
  return (
    <Sheet title="Threads" onClose={onClose}>
      <View role="group" aria-label="Choose threads">
        {threads.map((t) => {
          const on = chosen.has(t.id);
          const par =
            light && spotIndex >= 0 ? parUnder(light, levelsOfGroups(groups, t.minute), spotIndex) : null;
          return (
            <Pressable
              key={t.id}
              role="checkbox"
              aria-checked={on}
              aria-label={`Thread at ${formatTime(t.minute)}`}
              onPress={() => {
                const next = new Set(chosen);
                if (!next.delete(t.id)) next.add(t.id);
                setChosen(next);
              }}
            >
              <Row style={{ minHeight: 48 }}>
                <Type kind="strong" style={{ width: 74 }}>{`${on ? '■' : '□'} ${formatTime(t.minute)}`}</Type>
                <Type kind="small" style={{ flex: 1 }}>
                  {`${Math.round(t.strengthShare * 1000) / 10} % of ${resolveThread(doc, t).mixName}`}
                </Type>
                <Type kind="label">{par === null ? '–' : `${umol(par)} µmol`}</Type>
              </Row>
            </Pressable>
          );
        })}
      </View>
      <Type kind="small" testID="several-said">
        {some.length === 0
          ? `Choose threads to move them together.${spot ? ` µmol at ${spot.name}, everything lit.` : ''}`
          : `${plural(some.length, 'thread')} chosen.`}
      </Type>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button label="All" kind="plain" onPress={() => setChosen(new Set(threads.map((t) => t.id)))} />
        <Button label="None" kind="plain" onPress={() => setChosen(new Set())} />
      </View>
      {some.length > 0 && (
        <>
          <View
            style={{ flexDirection: 'row', justifyContent: 'space-between', flexWrap: 'wrap', gap: space.m }}
          >
            <View style={{ gap: space.xs }}>
              <Type kind="small">Time, 15 min</Type>
              <Stepper
                name="Shift the chosen threads"
                onStep={(sign) => set(shifted(threads, 15 * sign, chosen), 'shifted', 'shift')}
              />
            </View>
            <View style={{ gap: space.xs }}>
              <Type kind="small">Strength, a twentieth</Type>
              <Stepper
                name="Strength of the chosen threads"
                onStep={(sign) => set(scaled(threads, sign > 0 ? 1.05 : 1 / 1.05, chosen), 'scaled', 'scale')}
              />
            </View>
          </View>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button label="Copy half an hour later" onPress={copy} />
            <Button
              label="Remove"
              onPress={() => {
                if (
                  set(
                    threads.filter((t) => !chosen.has(t.id)),
                    'removed',
                  )
                )
                  setChosen(new Set());
              }}
            />
          </View>
        </>
      )}
    </Sheet>
  );
}
