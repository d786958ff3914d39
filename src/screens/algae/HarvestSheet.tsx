import { useState } from 'react';

import type { Drained, LogEvent } from '@/core/case/types';
import { systemLitres } from '@/core/refugium/outlook';
import { asPpm, DRAINED_WORDS, removed } from '@/core/refugium/removal';
import { setEvent } from '@/state/commands';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { EventFoot } from '../log/EventFoot';
import { useWhen, WhenFields } from '../shared/When';
import { between } from '../shared/words';
import { algaeSpots } from '@/core/refugium/mats';

type Harvested = Extract<LogEvent, { kind: 'harvest' }>;

/** A harvest: weighed wet, with how it was drained and what was left; what it took out stands beneath as it is typed. */
export function HarvestSheet({ event, onClose }: { event?: Harvested; onClose: () => void }) {
  const { zone, doc } = useDesk();
  const spots = algaeSpots(zone);
  const when = useWhen(zone.timeZone, event?.atUtc);
  const [spotId, setSpotId] = useState(event?.spotId ?? spots[0]?.id ?? '');
  const [wet, setWet] = useState(event ? String(event.wetG) : '');
  const [left, setLeft] = useState(event?.leftG === null || !event ? '' : String(event.leftG));
  const [drained, setDrained] = useState<Drained>(event?.drained ?? 'drained');
  const [note, setNote] = useState(event?.note ?? '');
  const [error, setError] = useState<{ wet?: string; left?: string }>({});
  const grams = parseNumber(wet);
  const { litres, said } = systemLitres(doc);
  const took = grams !== null && grams > 0 && grams <= 1e6 ? removed(grams, drained) : null;
  const ppm = took ? asPpm(took, litres) : null;

  if (spots.length === 0)
    return (
      <Sheet title="Harvest" onClose={onClose}>
        <Type>No algae are known in this water yet. Add a spot with macroalgae on Case or Tank first.</Type>
      </Sheet>
    );
  const keep = () => {
    const rest = left.trim() === '' ? null : parseNumber(left);
    const found = {
      ...((grams === null || grams < 0 || grams > 1e6) && { wet: 'Give grams from 0 on.' }),
      ...(left.trim() !== '' &&
        (rest === null || rest < 0 || rest > 1e6) && { left: 'Give grams from 0 on, or leave it empty.' }),
    };
    setError(found);
    const atUtc = when.instant();
    if (Object.keys(found).length > 0 || atUtc === null) return;
    const done = run(
      setEvent(
        {
          id: event?.id ?? newId(),
          zoneId: zone.id,
          atUtc,
          note: note.trim(),
          kind: 'harvest',
          spotId,
          wetG: grams!,
          drained,
          leftG: rest,
        },
        'harvest',
      ),
    );
    if (done) onClose();
  };
  return (
    <Sheet title="Harvest" onClose={onClose}>
      {spots.length > 1 && (
        <Choice
          label="Of"
          value={spotId}
          onChange={setSpotId}
          options={spots.map((s) => ({ value: s.id, label: s.name }))}
        />
      )}
      <FieldRow>
        <TextField
          label="Taken out"
          value={wet}
          onChange={setWet}
          unit="g wet"
          numeric
          error={error.wet}
          testID="harvest-wet"
        />
        <TextField
          label="Left of the mat"
          value={left}
          onChange={setLeft}
          unit="g wet"
          numeric
          hint="empty = not weighed"
          error={error.left}
          testID="harvest-left"
        />
      </FieldRow>
      <Choice
        label="How it was drained"
        value={drained}
        onChange={setDrained}
        options={(Object.entries(DRAINED_WORDS) as [Drained, string][]).map(([value, label]) => ({
          value,
          label,
        }))}
      />
      {took && ppm && (
        <Type testID="harvest-took">
          {`That is ${between(took.nitrogenG)} g of nitrogen and ${between(took.phosphorusG)} g of phosphorus: ${between(ppm.nitrate)} ppm nitrate and ${between(ppm.phosphate)} ppm phosphate of ${Math.round(litres)} l${said ? '' : ' (reckoned from the boxes)'}.`}
        </Type>
      )}
      <WhenFields label="When" value={when} testID="harvest" />
      <TextField
        label="In your words"
        value={note}
        onChange={setNote}
        hint="colour, how much was shed, what grew on it; may stay empty"
        testID="harvest-note"
      />
      <Note>
        Drain it the same way each time: what drips off weighs as much as algae. Never put it into the sea, a
        river or a drain that leads there: some of these algae are pests where they do not belong.
      </Note>
      <EventFoot eventId={event?.id} onKeep={keep} onClose={onClose} testID="keep-harvest" />
    </Sheet>
  );
}
