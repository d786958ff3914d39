import { plural } from '@/core/shape/counts';
import { lengthFigure, lengthWords, sizeWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { useState } from 'react';

import type { LitGroup } from '@/core/case/lit';
import { rigGroups } from '@/core/case/plateaus';
import type { Reading, Session } from '@/core/record/readings';
import type { ReadReadings } from '@/core/formats/readingsCsv';
import { meterKind } from '@/core/meter/kinds';
import { levelsByName, lightings } from '@/core/case/walk';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { useSettings } from '@/state/settings';
import { nowUtcIso, useNowMs, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, TextField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { chosenLighting, LitChoice } from './LitChoice';
import { useMeterFields } from './SetupSheet';

/** A list that was read in becomes a session: which meter, and what was lit. */
export function ImportSheet({
  desk,
  groups,
  read,
  onKeep,
  onClose,
}: {
  desk: Desk;
  groups: LitGroup[];
  read: ReadReadings & { fileName: string };
  onKeep: (session: Session) => void;
  onClose: () => void;
}) {
  const { zone, doc } = desk;
  const nowMs = useNowMs();
  const habits = useSettings((s) => s.readings);
  const meterId = useSettings((s) => s.meter);
  const typed = useTyped(`import ${read.fileName}`);
  const [name, setName] = typed.of('name', read.fileName.replace(/\.[a-z]+$/i, '').slice(0, 100) || 'A list');
  const [unit, setUnit] = typed.of<'µmol' | 'lux' | ''>('unit', read.unit ?? '');
  const [problems, setProblems] = useState<string[]>([]);
  const { fields, read: readMeter } = useMeterFields(typed);
  const all = lightings(doc, groups, wallMinute(nowMs, zone.timeZone));
  const carries = read.readings.every((r) => levelsByName(r.levels, groups) !== null);
  const keep = () => {
    const meter = readMeter();
    const wrong: string[] = [];
    if (unit === '') wrong.push('No heading says what the numbers are: choose µmol or lux.');
    else if (meterKind(meterId).unit !== unit)
      wrong.push(`The list is in ${unit}; choose a meter that shows ${unit}.`);
    const lit = chosenLighting(all, habits.lit);
    const atUtc = nowUtcIso();
    const readings = read.readings.flatMap((r): Reading[] => {
      const spot = zone.spots.find((s) => s.name.trim().toLowerCase() === r.name.trim().toLowerCase());
      const place = r.xCm === null ? spot : { xCm: r.xCm, yCm: r.yCm!, depthCm: r.depthCm! };
      if (!place) {
        wrong.push(
          `line ${r.line}: "${r.name}" is no spot of this tank. Give its place, or make a spot of that name.`,
        );
        return [];
      }
      if (
        place.xCm > zone.tank.lengthCm ||
        place.yCm > zone.tank.widthCm ||
        place.depthCm > zone.tank.depthCm
      ) {
        wrong.push(
          `line ${r.line}: ${[place.xCm, place.yCm].map((cm) => lengthFigure(cm, true)).join(', ')}, ${lengthWords(place.depthCm, true)} lies outside the water (${sizeWords(zone.tank.lengthCm, zone.tank.widthCm, zone.tank.depthCm)}).`,
        );
        return [];
      }
      const { xCm, yCm, depthCm } = place;
      return [
        {
          id: newId(),
          // a list that gives a place means that place
          spotId: r.xCm === null ? spot!.id : null,
          name: r.name,
          xCm,
          yCm,
          depthCm,
          atUtc,
          tries: r.tries.slice(0, 50),
          bands: null,
          levels: levelsByName(r.levels, groups) ?? lit.levelsAt(lit.scaled ? habits.litShare : 1),
        },
      ];
    });
    setProblems(wrong);
    if (!meter || wrong.length > 0 || name.trim() === '') return;
    typed.clear();
    onKeep({
      id: newId(),
      zoneId: zone.id,
      name: name.trim(),
      atUtc,
      meter: { ...meter, simulated: false },
      pumpsOn: habits.pumpsOn,
      lit: carries ? 'levels from the list' : lit.label,
      counts: true,
      rig: rigGroups(groups),
      readings,
    });
  };
  return (
    <Sheet
      title={`${plural(read.readings.length, 'reading')} from ${read.fileName}`}
      onClose={onClose}
      typed={typed}
    >
      <TextField label="Name of the session" value={name} onChange={setName} />
      {read.unit === null && (
        <Choice
          label="No heading says the unit. The numbers are"
          value={unit}
          onChange={setUnit}
          options={[
            { value: 'µmol', label: 'µmol (PAR)' },
            { value: 'lux', label: 'lux' },
          ]}
        />
      )}
      {fields}
      {carries ? (
        <Type kind="small">The list says what was lit at each reading.</Type>
      ) : (
        <LitChoice lightings={all} />
      )}
      {problems.map((p) => (
        <Type key={p} kind="label" role="alert">
          {`▲ ${p}`}
        </Type>
      ))}
      <Button label="Keep these readings" kind="filled" wide onPress={keep} testID="keep-list" />
    </Sheet>
  );
}
