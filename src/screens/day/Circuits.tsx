import { useTyped } from '@/state/typed';
import { useState } from 'react';
import { Pressable, View } from 'react-native';

import { circuitsOf, onHours, type OnWindow, steppedDawn, windowsOf } from '@/core/case/dawn';
import { dayAt, type ZoneLight } from '@/core/case/light';
import { draftGroups, type LitGroup } from '@/core/case/lit';
import { formatHours, formatTime } from '@/core/day/clock';
import { OnBars } from '@/pieces/OnBars';
import { setWindows } from '@/state/days';
import { commitLive, setLive, useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { Button, StepKey, Stepper } from '@/ui/Button';
import { FieldRow } from '@/ui/Field';
import { Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { TimeField } from '../shared/fields';
import { apart, MOL, UMOL } from '../shared/words';

/** Circuits of all groups as bars of hours, and the plan that makes a stepped dawn of them. */
export function Circuits({
  groups,
  light,
  from,
  to,
  width,
}: {
  groups: LitGroup[];
  light: ZoneLight | null;
  from: number;
  to: number;
  width: number;
}) {
  const { saved, zone } = useDesk();
  const [open, setOpen] = useState(false);
  const circuits = circuitsOf(groups);
  if (circuits.length === 0) return null;
  const groupOf = (groupId: string) => groups.find((g) => g.groupId === groupId)!;
  const bars = circuits.map((c) => ({
    id: `${c.groupId}/${c.controlId}`,
    name: c.name,
    windows: windowsOf(groupOf(c.groupId), c.controlId),
  }));
  const stepOf = (id: string) => groupOf(id.split('/')[0]!).lampKind.controller.everyMin;
  const savedZone = saved.case.zones.find((z) => z.id === zone.id)!;
  const moved = (id: string, index: number, w: OnWindow) => {
    const bar = bars.find((b) => b.id === id)!;
    const windows = bar.windows.map((x, i) => (i === index ? w : x));
    return setWindows(
      `${bar.name} on and off`,
      saved.case,
      savedZone.groups,
      groups,
      new Map([[id, windows]]),
      `bar-${id}`,
    );
  };
  return (
    <Section
      title="Circuits"
      aside={<Button label="Plan together" onPress={() => setOpen(true)} testID="plan-circuits" />}
    >
      <OnBars
        bars={bars}
        from={from}
        to={to}
        width={width}
        stepOf={stepOf}
        onMove={(id, i, w) => setLive(moved(id, i, w))}
        onRelease={commitLive}
        onStep={(id, i, w) => run(moved(id, i, w))}
      />
      {open && <DawnSheet groups={groups} light={light} onClose={() => setOpen(false)} />}
    </Section>
  );
}

/** First and last light, steps between the circuits, their order: all circuits × hours planned at once. */
function DawnSheet({
  groups,
  light,
  onClose,
}: {
  groups: LitGroup[];
  light: ZoneLight | null;
  onClose: () => void;
}) {
  const { bundle, doc, zone, spotIndex, spot } = useDesk();
  const circuits = circuitsOf(groups, true);
  const groupOf = (groupId: string) => groups.find((g) => g.groupId === groupId)!;
  const present = circuits.map((c) => windowsOf(groupOf(c.groupId), c.controlId));
  const lit = present.filter((_, i) => circuits[i]!.controlId !== null).flat();
  const typed = useTyped(`dawn ${zone.id}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [order, setOrder] = typed.of(
    'order',
    circuits.map((_, i) => i),
  );
  const [out, setOut] = typed.of<readonly number[]>(
    'left',
    // lamps that dim have days of their own: they are switched only when that is asked for
    circuits.flatMap((c, i) => (c.controlId === null ? [i] : [])),
  );
  const left = new Set(out);
  const setLeft = (next: ReadonlySet<number>) => setOut([...next]);
  const [first, setFirst] = typed.of(
    'first',
    Math.min(...lit.map((w) => w.from), ...(lit.length === 0 ? [600] : [])),
  );
  const [last, setLast] = typed.of(
    'last',
    Math.max(...lit.map((w) => w.to), ...(lit.length === 0 ? [1200] : [])),
  );
  const [stagger, setStagger] = typed.of('stagger', 20);
  const used = order.filter((i) => !left.has(i));
  const planned = steppedDawn(used.length, first, last, stagger);
  const windows = new Map(
    used.map((i, k) => [`${circuits[i]!.groupId}/${circuits[i]!.controlId}`, [planned[k]!]]),
  );
  const command = setWindows('circuits planned together', doc, zone.groups, groups, windows);
  const total = () => {
    if (!light || spotIndex < 0) return null;
    const next = command.apply(bundle).case;
    const after = draftGroups(
      next,
      next.zones.find((z) => z.id === zone.id)!,
    );
    return { before: dayAt(light, groups, spotIndex), after: dayAt(light, after, spotIndex) };
  };
  const sum = total();
  const swap = (at: number, by: 1 | -1) => {
    const next = [...order];
    const to = at + by;
    if (to < 0 || to >= next.length) return;
    [next[at], next[to]] = [next[to]!, next[at]!];
    setOrder(next);
  };
  const time = (label: string, value: number, onTime: (m: number) => void, testID: string) => (
    <TimeField
      label={label}
      value={value}
      testID={testID}
      take={(m) => {
        onTime(m);
        return null;
      }}
    />
  );
  return (
    <Sheet title="Circuits × hours" onClose={onClose} typed={typed}>
      <Type kind="small">
        The first circuit comes on first and goes off last; each following one is lit inside it. Pairs that
        each light the whole tank make the smoothest steps.
      </Type>
      <FieldRow>
        {time(
          'First light',
          first,
          (m) => {
            setFirst(m);
            if (last <= m) setLast(m + 600);
          },
          'dawn-first',
        )}
        {time('Last light', last, (m) => setLast(m > first ? m : m + 1440), 'dawn-last')}
      </FieldRow>
      <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
        <Type testID="dawn-stagger">{`${stagger} min between two circuits`}</Type>
        <Stepper
          name="Step of the dawn, 5 min"
          atLow={stagger <= 0}
          atHigh={stagger >= 180}
          onStep={(sign) => setStagger(Math.min(180, Math.max(0, stagger + 5 * sign)))}
        />
      </View>
      <View>
        {order.map((i, at) => {
          const c = circuits[i]!;
          const out = left.has(i);
          const k = used.indexOf(i);
          return (
            <Row key={c.name}>
              <Pressable
                role="checkbox"
                aria-checked={!out}
                aria-label={`Plan ${c.name}`}
                onPress={() => {
                  const next = new Set(left);
                  if (!next.delete(i)) next.add(i);
                  setLeft(next);
                }}
                style={{ flex: 1, minHeight: 44, justifyContent: 'center' }}
              >
                <Type kind="label">{`${out ? '□' : '■'} ${c.name}`}</Type>
                <Type kind="small" testID={`dawn-${c.name}`}>
                  {out
                    ? c.controlId === null
                      ? 'keeps its own day'
                      : present[i]!.length === 0
                        ? 'stays off'
                        : `stays: ${formatHours(onHours(present[i]!))}`
                    : `${formatTime(planned[k]!.from)}–${formatTime(planned[k]!.to)}, ${formatHours((planned[k]!.to - planned[k]!.from) / 60)}`}
                </Type>
              </Pressable>
              <StepKey
                sign="−"
                name={`${c.name} earlier in the order`}
                onStep={() => swap(at, -1)}
                disabled={at === 0}
              />
              <StepKey
                sign="+"
                name={`${c.name} later in the order`}
                onStep={() => swap(at, 1)}
                disabled={at === order.length - 1}
              />
            </Row>
          );
        })}
      </View>
      <Type testID="dawn-total">
        {sum
          ? `At ${spot!.name}, everything lit: ${apart(MOL, sum.before.dli, sum.after.dli).join(' → ')} mol a day, peak ${apart(UMOL, sum.before.peak, sum.after.peak).join(' → ')} µmol.`
          : 'The light at the corals follows once it is computed.'}
      </Type>
      <Button
        label="Take these hours"
        kind="filled"
        wide
        disabled={used.length === 0}
        testID="take-dawn"
        onPress={() => {
          if (run(command)) kept();
        }}
      />
      <View style={{ height: space.xs }} />
    </Sheet>
  );
}
