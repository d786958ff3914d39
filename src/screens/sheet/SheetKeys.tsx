import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import ArrowDownToLine from 'lucide-react-native/icons/arrow-down-to-line';
import CalendarClock from 'lucide-react-native/icons/calendar-clock';
import Copy from 'lucide-react-native/icons/copy';
import Download from 'lucide-react-native/icons/download';
import Link from 'lucide-react-native/icons/link';
import Printer from 'lucide-react-native/icons/printer';
import Upload from 'lucide-react-native/icons/upload';

import { circuitsOf, windowsOf } from '@/core/case/dawn';
import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { lampTable } from '@/core/case/table';
import { threadFromValues } from '@/core/controller/typed';
import { problemWords } from '@/core/formats/table';
import type { Group } from '@/core/record/zone';
import { plural } from '@/core/shape/counts';
import type { LampKind } from '@/core/spectrum/lampKind';
import { takeDay } from '@/state/days';
import { dayFile } from '@/state/dayFiles';
import type { Desk } from '@/state/desk';
import { run } from '@/state/session';
import { localDate, nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { copyText, download, pickText, printPage } from '@/ui/files';
import { printHide } from '@/ui/print';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { formats, offer } from '../shared/formats';
import { GiveSheet } from '../sheets';

/** A control by the heading of a column: its name or its id, whatever the case. */
const controlNamed = (kind: LampKind, heading: string) =>
  kind.controls.find((c) => c.name.toLowerCase() === heading.toLowerCase() || c.id === heading);

/** What leads on from a sheet: paper, files in and out, a link, the lamp itself. */
export function SheetKeys({
  desk,
  group,
  lit,
  light,
  title,
}: {
  desk: Desk;
  group: Group;
  lit: LitGroup;
  /** of this group alone at the chosen coral; null while it is computed */
  light: ZoneLight['spectra'][number][number] | null;
  title: string;
}) {
  const { doc, zone } = desk;
  const kind = desk.lampKind!;
  const [said, setSaid] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [giving, setGiving] = useState(false);
  const table = lampTable(lit);
  // a lamp that dims but hangs on a timer is one circuit
  const circuits = circuitsOf([lit], kind.controller.sets === 'switch');
  const slug = group.name.toLowerCase().replace(/\W+/g, '-');
  const dayJson = () => {
    const file = dayFile(lit, group, desk.spot, light);
    download(file.name, file.text, 'application/json');
    setSaid(
      light || !desk.spot
        ? null
        : `This file goes without the light at ${desk.spot.name}, which was not ready. Keep it again once its figures are there.`,
    );
  };
  const calendar = async () => {
    const nowMs = Date.parse(nowUtcIso());
    await offer(`${slug}.ics`, 'text/calendar', (f) =>
      f.onOffCalendar({
        title: `${group.name}, ${zone.name}`,
        timeZone: zone.timeZone,
        fromDate: localDate(nowMs, zone.timeZone),
        id: `${doc.id}-${group.id}`,
        nowMs,
        circuits: circuits.map((c) => ({ name: c.name, windows: windowsOf(lit, c.controlId) })),
      }),
    );
    setSaid('Kept as a calendar: an event a day for each time a circuit is on.');
  };
  const readCsv = async () => {
    setProblem(null);
    const file = await pickText(['text/csv', '.csv', 'text/plain'], 500_000);
    if (!file) return;
    const not = (why: string) => setProblem(`${file.name} was not taken: ${why}`);
    if ('problem' in file) return not(file.problem);
    const read = (await formats()).parseDayCsv(file.text);
    if (!read.ok) return not(problemWords(read.error));
    const { controls, points, capShare } = read.value;
    const unknown = controls.filter((c) => !controlNamed(kind, c));
    if (unknown.length > 0)
      return not(
        `this lamp has no ${unknown.map((u) => `“${u}”`).join(', ')}. Head the columns ${kind.controls.map((c) => c.name).join(', ')}.`,
      );
    const threads = points.map((p) => {
      const values = Object.fromEntries(
        Object.entries(p.mix).map(([heading, v]) => [controlNamed(kind, heading)!.id, v]),
      );
      const t = threadFromValues(kind, p.minute, values);
      return { ...t, strengthShare: t.strengthShare * p.strengthShare };
    });
    if (run(takeDay(doc, group, `day from ${file.name}`, threads, capShare ?? undefined)))
      setSaid(`${plural(threads.length, 'point')} read from ${file.name}; undo takes them back.`);
  };
  const copy = async () =>
    setSaid(
      (await copyText((await formats()).sheetPlainText(title, table)))
        ? 'Copied.'
        : 'The browser did not allow copying: use CSV.',
    );
  return (
    <>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }} {...printHide}>
        <Button label="Print" icon={Printer} onPress={printPage} />
        <Button
          label="CSV"
          icon={Download}
          onPress={() => offer(`${slug}-sheet.csv`, 'text/csv', (f) => f.sheetCsv(table))}
        />
        <Button
          label="Read CSV"
          name="Read a day from CSV"
          icon={Upload}
          onPress={() => void readCsv()}
          testID="read-day-csv"
        />
        <Button
          label="Day file"
          name="Keep the day as a file"
          icon={Download}
          onPress={dayJson}
          testID="day-json"
        />
        <Button
          label="Link"
          name="Give the day along as a link"
          icon={Link}
          onPress={() => setGiving(true)}
          testID="day-link"
        />
        {circuits.length > 0 && (
          <Button
            label="Calendar"
            name="On and off as a calendar"
            icon={CalendarClock}
            onPress={calendar}
            testID="calendar"
          />
        )}
        <Button label="Copy" icon={Copy} onPress={copy} />
        <Button
          label="Load"
          name="Load into the lamp"
          icon={ArrowDownToLine}
          onPress={() => router.navigate('/load')}
          testID="to-load"
        />
        <Button
          label="Prove"
          name="Prove the lamp by readings"
          kind="plain"
          onPress={() => router.navigate('/prove')}
          testID="to-prove"
        />
        <Button label="Back to Day" kind="plain" onPress={() => router.navigate('/day')} />
      </View>
      {giving && (
        // without the light at the coral, which is as long as all the rest: it is matched by its lamps there
        <GiveSheet
          given={{ letter: 'd', text: dayFile(lit, group, desk.spot, null).text }}
          name={`the day of ${group.name}`}
          onClose={() => setGiving(false)}
        />
      )}
      {said && (
        <Type kind="small" role="status">
          {said}
        </Type>
      )}
      {problem && (
        <Type kind="label" role="alert" testID="csv-problem">
          {`▲ ${problem}`}
        </Type>
      )}
    </>
  );
}
