import { plural } from '@/core/shape/counts';
import { View } from 'react-native';

import { runnableOf } from '@/core/case/runnable';
import { hasCap } from '@/core/spectrum/controls';
import { percent } from '@/core/shape/percent';
import { forgetDay, keepDay } from '@/state/commands/days';
import { takeDay } from '@/state/days';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

/** Days kept by name, for lamps of this kind: put one in place of the present day, keep the present one. */
export function KeptDays() {
  const { doc, group, lampKind } = useDesk();
  const typed = useTyped(`day kept of ${group!.id}`);
  const [name, setName] = typed.of('name', '');
  const days = (doc.days ?? []).filter((d) => d.lampKindId === lampKind!.id);
  const known = days.some((d) => d.name === name.trim());
  const keep = () => {
    const { threads, capShare } = runnableOf(doc, group!);
    if (run(keepDay({ id: newId(), name: name.trim(), lampKindId: lampKind!.id, capShare, threads })))
      typed.clear();
  };
  return (
    <Section title="Days kept by name">
      {days.length > 0 && (
        <View testID="kept-days">
          {days.map((d) => (
            <Row key={d.id}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{d.name}</Type>
                <Type kind="small">
                  {`${plural(d.threads.length, 'thread')}, ${hasCap(lampKind!) ? 'cap' : 'strength'} ${percent(d.capShare)}`}
                </Type>
              </View>
              <Button
                label="Take"
                name={`Take the day ${d.name}`}
                kind="plain"
                onPress={() => run(takeDay(doc, group!, `the day “${d.name}”`, d.threads, d.capShare))}
              />
              <Button
                label="Forget"
                name={`Forget the day ${d.name}`}
                kind="plain"
                onPress={() => run(forgetDay(d.id))}
              />
            </Row>
          ))}
        </View>
      )}
      <TextField
        label="Keep this day as"
        value={name}
        onChange={setName}
        onSubmit={() => name.trim() !== '' && keep()}
        testID="day-name"
      />
      <Button
        label={known ? 'Keep it in place of that one' : 'Keep this day'}
        onPress={keep}
        disabled={name.trim() === ''}
        testID="keep-day"
      />
    </Section>
  );
}
