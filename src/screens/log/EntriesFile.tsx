import { useState } from 'react';
import { View } from 'react-native';
import Download from 'lucide-react-native/icons/download';
import Upload from 'lucide-react-native/icons/upload';

import { kindOf, type LogEvent } from '@/core/record/log';
import { counted } from '@/core/shape/counts';
import { addEvents } from '@/state/commands/log';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { pickText } from '@/ui/files';
import { Type } from '@/ui/Type';

import { formats, offer } from '../shared/formats';

const LARGEST_FILE = 8_000_000;
/** An entry without its id; of the water that all share it does not matter in which it was entered. */
const said = ({ id: _, ...rest }: LogEvent) =>
  JSON.stringify(
    rest,
    Object.keys(rest)
      .filter((key) => key !== 'zoneId' || !kindOf(rest).shared)
      .sort(),
  );

/** What the keeper entered, as CSV out and in; what stands there already is not read in twice. */
export function EntriesFile({ desk: { zone, bundle } }: { desk: Desk }) {
  const [told, setTold] = useState<string[]>([]);
  const read = async () => {
    const file = await pickText(['text/csv', '.csv', 'text/plain'], LARGEST_FILE);
    if (!file) return;
    if ('problem' in file) return setTold([file.problem]);
    const { problemWords, readEntriesCsv } = await formats();
    const found = readEntriesCsv(file.text, zone, newId);
    if (!found.ok) return setTold([...found.error.map(problemWords), 'Nothing was read in.']);
    const known = new Set(bundle.log.events.map(said));
    const fresh = found.value.filter((e) => !known.has(said(e)));
    const twice = found.value.length - fresh.length;
    if (fresh.length > 0 && !run(addEvents(fresh, `${counted(fresh.length, 'entry', 'entries')} read in`)))
      return;
    setTold([
      `${counted(fresh.length, 'entry', 'entries')} read in from ${file.name}${twice > 0 ? `; ${counted(twice, 'entry', 'entries')} stood here already` : ''}.`,
    ]);
  };
  return (
    <>
      <Button
        label="Entries"
        name="Keep what was entered as CSV"
        icon={Download}
        onPress={() =>
          offer('entries.csv', 'text/csv', (f) =>
            f.entriesCsv(
              bundle.log.events.filter((e) => e.zoneId === zone.id || e.kind === 'test'),
              zone,
            ),
          )
        }
        testID="log-entries"
      />
      <Button
        label="Read entries"
        name="Read entries from CSV"
        icon={Upload}
        onPress={() => void read()}
        testID="log-read"
      />
      {told.length > 0 && (
        <View style={{ width: '100%' }} role="status" testID="log-read-told">
          {told.map((words) => (
            <Type key={words} kind="small">
              {words}
            </Type>
          ))}
        </View>
      )}
    </>
  );
}
