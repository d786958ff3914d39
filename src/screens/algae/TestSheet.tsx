import { useState } from 'react';

import type { LogEvent } from '@/core/case/types';
import { setEvent } from '@/state/commands';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { EventFoot } from '../log/EventFoot';
import { useWhen, WhenFields } from '../shared/When';

type Tested = Extract<LogEvent, { kind: 'test' }>;
const MOST = { nitrate: 1000, phosphate: 100 } as const;

/** A test of the water that all zones share: nitrate, phosphate, or one of them. */
export function TestSheet({ event, onClose }: { event?: Tested; onClose: () => void }) {
  const { zone } = useDesk();
  const when = useWhen(zone.timeZone, event?.atUtc);
  const as = (v: number | null | undefined) => (v === null || v === undefined ? '' : String(v));
  const [nitrate, setNitrate] = useState(as(event?.nitratePpm));
  const [phosphate, setPhosphate] = useState(as(event?.phosphatePpm));
  const [note, setNote] = useState(event?.note ?? '');
  const [error, setError] = useState<{ nitrate?: string; phosphate?: string }>({});
  const keep = () => {
    const read = (text: string, most: number): number | null | undefined => {
      if (text.trim() === '') return null;
      const v = parseNumber(text);
      return v === null || v < 0 || v > most ? undefined : v;
    };
    const n = read(nitrate, MOST.nitrate);
    const p = read(phosphate, MOST.phosphate);
    const found = {
      ...(n === undefined && { nitrate: `Give 0 to ${MOST.nitrate} ppm, or nothing.` }),
      ...(p === undefined && { phosphate: `Give 0 to ${MOST.phosphate} ppm, or nothing.` }),
      ...(n === null && p === null && { nitrate: 'Give at least one of the two.' }),
    };
    setError(found);
    const atUtc = when.instant();
    if (n === undefined || p === undefined || Object.keys(found).length > 0 || atUtc === null) return;
    const done = run(
      setEvent(
        {
          id: event?.id ?? newId(),
          zoneId: event?.zoneId ?? zone.id,
          atUtc,
          note: note.trim(),
          kind: 'test',
          nitratePpm: n,
          phosphatePpm: p,
        },
        'water test',
      ),
    );
    if (done) onClose();
  };
  return (
    <Sheet title="Water test" onClose={onClose}>
      <FieldRow>
        <TextField
          label="Nitrate (NO₃)"
          value={nitrate}
          onChange={setNitrate}
          unit="ppm"
          numeric
          error={error.nitrate}
          testID="test-nitrate"
        />
        <TextField
          label="Phosphate (PO₄)"
          value={phosphate}
          onChange={setPhosphate}
          unit="ppm"
          numeric
          error={error.phosphate}
          testID="test-phosphate"
        />
      </FieldRow>
      <Type kind="small">
        The same water runs through every zone, so the test stands in the log of each. A meter that shows
        phosphorus in ppb: times 0.00307 gives phosphate in ppm.
      </Type>
      <WhenFields label="When" value={when} testID="test" />
      <TextField
        label="In your words"
        value={note}
        onChange={setNote}
        hint="may stay empty"
        testID="test-note"
      />
      <EventFoot eventId={event?.id} onKeep={keep} onClose={onClose} testID="keep-test" />
    </Sheet>
  );
}
