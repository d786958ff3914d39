import { plural } from '@/core/shape/counts';
import { lengthWords } from '@/core/shape/units';
import { router, useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Download from 'lucide-react-native/icons/download';
import Plus from 'lucide-react-native/icons/plus';
import Upload from 'lucide-react-native/icons/upload';

import { shownOf, type Session } from '@/core/record/readings';
import type { ReadReadings } from '@/core/formats/readingsCsv';
import { problemWords } from '@/core/formats/table';
import { formats, offer } from '../shared/formats';
import { meterKind } from '@/core/meter/kinds';
import { litWords, withNames } from '@/core/case/walk';
import { addSession, removeReading, removeSession, setSession } from '@/state/commands/readings';
import { litNow, type Desk, useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { longDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { pickText } from '@/ui/files';
import { Page } from '@/ui/Page';
import { Fold, Note, Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umolExact } from '../shared/words';
import { ImportSheet } from './ImportSheet';
import { SetupSheet } from './SetupSheet';
import { Walk } from './Walk';

/** Sessions with a meter: walk them, read them in, write them out. */
export function Readings() {
  const { at, read, lit } = useLocalSearchParams<{ at?: string; read?: string; lit?: string }>();
  const desk = useDesk();
  const session = desk.bundle.readings.sessions.find((s) => s.id === at && s.zoneId === desk.zone.id);
  return session ? (
    <Walk key={session.id} session={session} from={read} />
  ) : (
    <SessionList key={read} desk={desk} readAt={read} lit={lit} />
  );
}

/**
 * @param readAt a spot that is to be read at once, with the meter used last
 * @param lit what is lit for it; else the day
 */
function SessionList({
  desk,
  readAt,
  lit,
}: {
  desk: Desk;
  readAt: string | undefined;
  lit: string | undefined;
}) {
  const { zone, bundle, doc } = desk;
  const nowMs = useNowMs();
  const [setting, setSetting] = useState(readAt !== undefined);
  const [opened, setOpened] = useState<string | null>(null);
  const [read, setRead] = useState<(ReadReadings & { fileName: string }) | null>(null);
  const [problems, setProblems] = useState<{ fileName: string; lines: string[] } | null>(null);
  const sessions = [...bundle.readings.sessions.filter((s) => s.zoneId === zone.id)].reverse();
  const groups = litNow(desk, nowMs);
  const shown = sessions.find((s) => s.id === opened);

  const importIt = async () => {
    setProblems(null);
    const file = await pickText(['.csv', '.txt', '.tsv', 'text/csv', 'text/plain'], 2_000_000);
    if (!file) return;
    const fileName = file.name;
    const not = (lines: string[]) => setProblems({ fileName, lines });
    if ('problem' in file) return not([file.problem]);
    const found = (await formats()).readReadingsCsv(file.text);
    if (!found.ok) return not([problemWords(found.error)]);
    if (found.value.problems.length > 0) return not(found.value.problems.map(problemWords));
    setRead({ ...found.value, fileName });
  };
  const exportIt = (session: Session) =>
    offer(`readings-${session.atUtc.slice(0, 10)}.csv`, 'text/csv', (f) =>
      f.readingsCsv(
        meterKind(session.meter.kind).unit,
        session.readings.map((r) => withNames(r, session)),
      ),
    );

  return (
    <Page
      testID="readings"
      title="Readings"
      under={zone.name}
      sentence={
        <Type kind="sentence" style={{ maxWidth: 700 }}>
          {sessions.length === 0
            ? 'Half an hour with a borrowed meter tells this app the light everywhere, for any mix and setting.'
            : `${plural(sessions.length, 'session')}, ${plural(
                sessions.reduce((n, s) => n + s.readings.length, 0),
                'reading',
              )}.`}
        </Type>
      }
      side={
        <Section title="What they tell">
          <Button label="Calibration" wide onPress={() => router.navigate('/calibration')} />
          <Button label="Before and after" wide onPress={() => router.navigate('/before-after')} />
          <Type kind="small">
            Read at every coral before an old lamp comes down: it cannot be done again. No meter? The app has
            simulated ones to learn with; they read a made-up tank, never yours.
          </Type>
        </Section>
      }
    >
      <Button
        label="Start a session"
        kind="filled"
        wide
        icon={Plus}
        onPress={() => setSetting(true)}
        disabled={groups.length === 0}
        testID="start-session"
      />
      {groups.length === 0 && (
        <Note>No lamp hangs over this water yet: a reading says nothing without one. Add a lamp first.</Note>
      )}
      {problems && (
        <View role="alert" style={{ gap: space.xs }} testID="csv-problems">
          <Type kind="label">{`▲ ${problems.fileName} was not taken; nothing was changed.`}</Type>
          {problems.lines.map((line) => (
            <Type key={line} kind="small">
              {line}
            </Type>
          ))}
        </View>
      )}
      <View>
        {sessions.map((s) => (
          <Row
            key={s.id}
            onPress={() => setOpened(s.id)}
            name={`${s.name}, ${longDate(Date.parse(s.atUtc), zone.timeZone)}`}
          >
            <View style={{ flex: 1 }}>
              <Type kind="label">{`${s.name}${s.meter.simulated ? ' · simulated' : ''}`}</Type>
              <Type kind="small">{`${longDate(Date.parse(s.atUtc), zone.timeZone)} · ${meterKind(s.meter.kind).name} · ${plural(s.readings.length, 'reading')}`}</Type>
            </View>
            <Type kind="small">{s.counts ? 'counts' : 'set aside'}</Type>
          </Row>
        ))}
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Read in a list (CSV)"
          icon={Upload}
          onPress={() => void importIt()}
          testID="import-readings"
          disabled={groups.length === 0}
        />
      </View>
      <Fold title="What a list may look like">
        <Type kind="small">
          {
            'Headings first, then a reading in each line, parted by comma, semicolon or tab:\nspot; x (cm); y (cm); depth (cm); PAR (µmol)\nCopper table; 40; 32; 17; 212,5\nPlaces may be left out where the name is a spot’s. Several columns PAR 1, PAR 2 are several tries; lux works as well.'
          }
        </Type>
      </Fold>
      {setting && groups.length > 0 && (
        <SetupSheet
          desk={desk}
          groups={groups}
          readAt={readAt}
          lit={lit}
          onClose={() => {
            setSetting(false);
            router.setParams({ read: undefined, lit: undefined });
          }}
        />
      )}
      {read && (
        <ImportSheet
          desk={desk}
          groups={groups}
          read={read}
          onClose={() => setRead(null)}
          onKeep={(session) => {
            if (run(addSession(session))) setRead(null);
          }}
        />
      )}
      {shown && (
        <Sheet title={shown.name} onClose={() => setOpened(null)}>
          <Type kind="small">
            {`${longDate(Date.parse(shown.atUtc), zone.timeZone)} · ${meterKind(shown.meter.kind).name}${shown.meter.simulated ? ', simulated: it read a made-up truth' : ''} · immersion factor ${shown.meter.immersionFactor} · sensor ${lengthWords(shown.meter.sensorAboveCm, true)} above the place · pumps ${shown.pumpsOn ? 'on' : 'off'}${shown.lit ? ` · ${shown.lit}` : ''}`}
          </Type>
          <View>
            {shown.readings.map((r) => (
              <Row key={r.id}>
                <View style={{ flex: 1 }}>
                  <Type kind="label">{`${r.name}: ${umolExact(shownOf(r))} ${meterKind(shown.meter.kind).unit}`}</Type>
                  <Type kind="small">{`${plural(r.tries.length, 'try', 'tries')}: ${r.tries.join(', ')} · ${litWords(r, shown, doc.zones.flatMap((z) => z.groups).length)}`}</Type>
                </View>
                <Button
                  label="Remove"
                  name={`Remove the reading at ${r.name}`}
                  kind="plain"
                  onPress={() => run(removeReading(shown.id, r.id))}
                />
              </Row>
            ))}
          </View>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button
              label={shown.counts ? 'Set it aside' : 'Let it count'}
              onPress={() => run(setSession(shown.id, { counts: !shown.counts }))}
            />
            <Button
              label="Go on with it"
              onPress={() => {
                setOpened(null);
                router.navigate({ pathname: '/readings', params: { at: shown.id } });
              }}
            />
            <Button
              label="CSV"
              name="Write these readings as CSV"
              icon={Download}
              onPress={() => exportIt(shown)}
            />
            <Button
              label="Remove the session"
              onPress={() => {
                setOpened(null);
                run(removeSession(shown.id));
              }}
            />
          </View>
        </Sheet>
      )}
    </Page>
  );
}
