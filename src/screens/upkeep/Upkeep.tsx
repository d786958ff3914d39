import { plural } from '@/core/shape/counts';
import CalendarClock from 'lucide-react-native/icons/calendar-clock';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { type Due, dueChores, hoursLit } from '@/core/case/chores';
import { DAMP, ZONE_KINDS } from '@/core/record/chores';
import type { ChoreId } from '@/core/record/zone';
import { offer } from '../shared/formats';
import { removeEvent, setEvent } from '@/state/commands/log';
import { setZone } from '@/state/commands/waters';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { addDays, daysAgo, daysBetween, localDate, nowUtcIso, shortDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';

import { Page } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { EntrySheet } from '../sheets';
import { kindNamed } from '@/core/record/log';
import { AlgaeCautions } from '../shared/Cautions';
import { NumberField } from '../shared/fields';

/** What is done by an entry, or a session, of its own. */
const DONE: Partial<Record<ChoreId, string>> = {
  lens: 'Wiped …',
  carbon: 'Changed …',
  test: 'Tested …',
  meter: 'Read them …',
};

/** What comes round in a water: upkeep of lamps, tests, readings, pictures; what is due, when, and what can go wrong. */
export function Upkeep() {
  const { doc, zone, bundle } = useDesk();
  const nowMs = useNowMs();
  const [entering, setEntering] = useState<'lens' | 'carbon' | 'test' | null>(null);
  const list = dueChores(bundle, zone);
  const today = localDate(nowMs, zone.timeZone);
  const inDays = (d: Due) => daysBetween(today, localDate(d.dueMs, zone.timeZone));
  const late = list.filter((d) => inDays(d) <= 0);
  const done = (d: Due) => {
    const { id } = d.chore;
    if (id === 'lens' || id === 'carbon' || id === 'test') return setEntering(id);
    if (id === 'meter') return router.navigate('/readings');
    run(
      setEvent(
        { id: newId(), zoneId: zone.id, atUtc: nowUtcIso(), note: '', kind: 'chore', chore: id },
        `${d.chore.name}: done`,
      ),
    );
  };
  const litWords = `Lit since first typed in: ${zone.groups
    .map((g) => `${g.name} about ${Math.round(hoursLit(bundle.history, zone.id, g.id, nowMs) / 10) * 10} h`)
    .join(', ')}.`;
  const calendar = () =>
    void offer('upkeep.ics', 'text/calendar', (f) =>
      f.datedCalendar({
        title: `Upkeep, ${zone.name}`,
        id: `${doc.id}-${zone.id}-upkeep`,
        nowMs,
        steps: list.map((d) => ({
          key: d.chore.id,
          // what is late is due now
          date: addDays(today, Math.max(0, inDays(d))),
          title: `${d.chore.name}, ${zone.name}`,
          text: `${d.chore.how} ${d.chore.caution}`,
          everyDays: d.everyDays,
        })),
      }),
    );
  return (
    <Page
      testID="upkeep"
      title="Upkeep"
      under={`${zone.name} · ${ZONE_KINDS[zone.kind].name}, ${DAMP[zone.kind] ? 'damp place' : 'open room'}`}
      sentence={
        <Type kind="sentence" testID="upkeep-sentence" style={{ maxWidth: 700 }}>
          {list.length === 0
            ? 'Nothing runs here yet, so nothing is due.'
            : late.length === 0
              ? `Nothing is due. Next: ${list[0]!.chore.name.toLowerCase()} on ${shortDate(localDate(list[0]!.dueMs, zone.timeZone))}.`
              : `Due: ${late.map((d) => d.chore.name.toLowerCase()).join(', ')}.`}
        </Type>
      }
      side={
        <>
          {list.length > 0 && (
            <Section title="Dates to take along">
              <Type kind="small">
                Each chore on its next date and every so many days from there, for the calendar you look at. A
                newer file replaces the older one’s dates.
              </Type>
              <Button
                label="Calendar file"
                icon={CalendarClock}
                onPress={calendar}
                testID="upkeep-calendar"
              />
            </Section>
          )}
          <Section title="Cautions">
            <AlgaeCautions damp={DAMP[zone.kind]} />
            <Note>The makers’ manuals win over any interval here; these are rules of thumb.</Note>
          </Section>
        </>
      }
    >
      {list.length === 0 && <Button label="To Day" wide onPress={() => router.navigate('/day')} />}
      {list.map((d) => {
        const days = inDays(d);
        const id = d.chore.id;
        const last = bundle.log.events.findLast(
          (e) => e.zoneId === zone.id && e.kind === 'chore' && e.chore === id,
        );
        return (
          <Section
            key={id}
            title={d.chore.name}
            aside={
              <Type kind="label" testID={`due-${id}`}>
                {days < 0
                  ? `▲ ${plural(-days, 'day')} late`
                  : days === 0
                    ? '▲ today'
                    : `in ${plural(days, 'day')}`}
              </Type>
            }
          >
            <Type>{d.chore.how}</Type>
            <Type kind="small">{d.chore.caution}</Type>
            {id === 'age' && <Type testID="hours-lit">{litWords}</Type>}
            <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: space.m, flexWrap: 'wrap' }}>
              <Button
                label={DONE[id] ?? 'Done'}
                name={`${d.chore.name}: done`}
                kind={days <= 0 ? 'filled' : undefined}
                onPress={() => done(d)}
                testID={`done-${id}`}
              />
              {days <= 0 && (
                <Button
                  label="In a week"
                  name={`${d.chore.name}: ask again in a week`}
                  onPress={() =>
                    run(setZone(zone.id, { choreLater: { ...zone.choreLater, [id]: addDays(today, 7) } }))
                  }
                  testID={`later-${id}`}
                />
              )}
              <View style={{ width: 150 }}>
                <NumberField
                  label="Every"
                  value={d.everyDays}
                  unit="days"
                  low={1}
                  high={3650}
                  whole
                  wrong="Give 1 to 3650 whole days."
                  take={(v) => run(setZone(zone.id, { choreDays: { ...zone.choreDays, [id]: v } }))}
                  testID={`every-${id}`}
                />
              </View>
            </View>
            <Type kind="small">
              {d.doneUtc === null
                ? 'Never logged: counted from when the first lamp ran here.'
                : `Last done ${daysAgo(d.doneUtc, nowMs, zone.timeZone)}.`}
              {d.putOff && ` Put off until ${shortDate(localDate(d.dueMs, zone.timeZone))}.`}
            </Type>
            {last && localDate(Date.parse(last.atUtc), zone.timeZone) === today && (
              <Button
                label="Not done after all"
                kind="plain"
                onPress={() => run(removeEvent(last.id))}
                testID={`undone-${id}`}
              />
            )}
          </Section>
        );
      })}
      {entering && <EntrySheet key={entering} kind={kindNamed(entering)} onClose={() => setEntering(null)} />}
    </Page>
  );
}
