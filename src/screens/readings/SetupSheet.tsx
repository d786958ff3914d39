import { lengthRange } from '@/core/shape/units';
import { type Typed, useTyped } from '@/state/typed';
import { dequal } from 'dequal';
import { router } from 'expo-router';
import { useState } from 'react';

import type { LitGroup } from '@/core/case/lit';
import { rigGroups } from '@/core/case/plateaus';
import type { MeterUse } from '@/core/record/readings';
import { METER_KINDS, meterKind, type MeterKindId } from '@/core/meter/kinds';
import { stopsOf } from '@/core/case/walk';
import { addSession } from '@/state/commands/readings';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { nowUtcIso, shortDate, localDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note } from '@/ui/Parts';
import { Sentence, type SetPart } from '@/ui/Sentence';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { chooseHabits } from './LitChoice';

/** Meter kind and how it is held: shared by a session and a list that is read in. */
export function useMeterFields(typed: Typed) {
  const habits = useSettings((s) => s.readings);
  const kind = useSettings((s) => s.meter);
  const [immersion, setImmersion] = typed.of('immersion', String(habits.immersionFactor));
  const [above, setAbove] = typed.of('above', String(habits.sensorAboveCm));
  const [errors, setErrors] = useState<{ immersion?: string; above?: string }>({});
  const read = (): Omit<MeterUse, 'simulated'> | null => {
    const [i, a] = [parseNumber(immersion), parseNumber(above)];
    const found = {
      ...((i === null || i < 0.5 || i > 3) && { immersion: 'Give 0.5 to 3; 1 where none is stated.' }),
      ...((a === null || a < 0 || a > 50) && { above: `Give ${lengthRange(0, 50)}.` }),
    };
    setErrors(found);
    if (Object.keys(found).length > 0) return null;
    chooseHabits({ immersionFactor: i!, sensorAboveCm: a! });
    return { kind, immersionFactor: i!, sensorAboveCm: a! };
  };
  const fields = (
    <>
      <Choice
        label="Meter"
        value={kind}
        onChange={(meter: MeterKindId) => changeSettings({ meter })}
        options={METER_KINDS.map((m) => ({ value: m.id, label: m.name }))}
      />
      <FieldRow>
        <TextField
          label="Immersion factor"
          value={immersion}
          onChange={setImmersion}
          numeric
          error={errors.immersion}
          hint="from its maker, typically 1.08 to 1.34 for a sensor calibrated in air"
          testID="immersion"
        />
        <TextField
          label="Sensor above"
          value={above}
          onChange={setAbove}
          unit="cm"
          numeric
          error={errors.above}
          hint="its face over the coral it stands for"
          testID="sensor-above"
        />
      </FieldRow>
    </>
  );
  return { fields, read };
}

const WHO = { mine: 'my meter', simulated: 'a simulated meter' };
const WHERE = { spots: 'at the corals', grid: 'on a grid', both: 'at the corals and on a grid' };
const PUMPS = { off: 'pumps off', on: 'pumps on' };
const part = (
  id: string,
  name: string,
  chosen: string,
  says: Readonly<Record<string, string>>,
  onChoose: (value: string) => void,
): SetPart => ({
  id,
  name,
  chosen,
  onChoose,
  value: says[chosen]!,
  options: Object.entries(says).map(([value, label]) => ({ value, label })),
});

/** Before a session: eyes, meter, pumps, and where readings are taken. */
export function SetupSheet({
  desk,
  groups,
  readAt,
  lit = 'now',
  onClose,
}: {
  desk: Desk;
  groups: LitGroup[];
  /** a spot that is to be read at once, with the meter used last */
  readAt: string | undefined;
  /** what is lit for it */
  lit: string | undefined;
  onClose: () => void;
}) {
  const { zone, bundle } = desk;
  const meterId = useSettings((s) => s.meter);
  const habits = useSettings((s) => s.readings);
  const nowMs = useNowMs();
  const [shaded, setShaded] = useState(false);
  const typed = useTyped(`session ${zone.id}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [name, setName] = typed.of('name', `Session of ${shortDate(localDate(nowMs, zone.timeZone))}`);
  const [grid, setGrid] = typed.of('grid', {
    columns: String(habits.gridColumns),
    rows: String(habits.gridRows),
    depth: String(Math.min(habits.gridDepthCm, zone.tank.depthCm)),
  });
  const [gridError, setGridError] = useState<string | null>(null);
  const { fields, read } = useMeterFields(typed);
  const stops = stopsOf(zone, habits);
  const walk = (at: string) => {
    // what is lit is asked anew: yesterday's "everything at full" is not lit today
    chooseHabits({ lit, litShare: 1 });
    if (readAt && habits.places === 'grid') chooseHabits({ places: 'spots' });
    kept();
    router.navigate({ pathname: '/readings', params: { at, read: readAt } });
  };
  /** goes on with today's session of this meter under these lamps, or begins one */
  const readOn = () => {
    const today = localDate(nowMs, zone.timeZone);
    const begun = bundle.readings.sessions.findLast(
      (s) =>
        s.zoneId === zone.id &&
        localDate(Date.parse(s.atUtc), zone.timeZone) === today &&
        s.meter.kind === meterId &&
        s.meter.simulated === habits.simulated &&
        dequal(s.rig, rigGroups(groups)),
    );
    if (begun) walk(begun.id);
    else start();
  };
  const start = () => {
    const meter = read();
    const [columns, rows, depth] = [
      parseNumber(grid.columns),
      parseNumber(grid.rows),
      parseNumber(grid.depth),
    ];
    const whole = (n: number | null, most: number) =>
      n !== null && Number.isInteger(n) && n >= 1 && n <= most;
    if (
      habits.places !== 'spots' &&
      (!whole(columns, 12) || !whole(rows, 8) || depth === null || depth < 0 || depth > zone.tank.depthCm)
    )
      return setGridError(`Give 1 to 12 columns, 1 to 8 rows, and ${lengthRange(0, zone.tank.depthCm)}.`);
    if (!meter || name.trim() === '') return;
    if (habits.places !== 'spots')
      chooseHabits({ gridColumns: columns!, gridRows: rows!, gridDepthCm: depth! });
    const id = newId();
    const done = run(
      addSession({
        id,
        zoneId: zone.id,
        name: name.trim(),
        atUtc: nowUtcIso(),
        meter: { ...meter, simulated: habits.simulated },
        pumpsOn: habits.pumpsOn,
        lit: '',
        counts: true,
        rig: rigGroups(groups),
        readings: [],
      }),
    );
    if (done) walk(id);
  };
  if (!shaded)
    return (
      <Sheet title="Before you read" onClose={onClose} typed={typed}>
        <Note kind="eyes">
          Shade your eyes from the lamp: a cap with a brim, glasses that block violet and UV, or turn it down
          until the sensor is in place. Never look into it; blue and violet are stronger than they look.
        </Note>
        <Note kind="mains">
          Dry hands at plugs, drip loops in place, residual-current protection tried. Unplug heaters and pumps
          you reach past where you can. Keep the meter’s body and your phone out of the water.
        </Note>
        <Button
          label="My eyes are shaded"
          kind="filled"
          wide
          onPress={() => (readAt === undefined || stops.length === 0 ? setShaded(true) : readOn())}
          testID="eyes-shaded"
        />
        {readAt !== undefined && (
          <>
            <Type kind="small">
              {`Read with: ${meterKind(meterId).name}${habits.simulated ? ', simulated' : ''}${bundle.readings.sessions.length > 0 ? ', as last time' : ''}.`}
            </Type>
            <Button label="Another meter or other places" wide onPress={() => setShaded(true)} />
          </>
        )}
      </Sheet>
    );
  return (
    <Sheet title="A session with the meter" onClose={onClose} typed={typed}>
      <TextField
        label="Name"
        value={name}
        onChange={setName}
        error={name.trim() === '' ? 'Give it a name.' : undefined}
        testID="session-name"
      />
      <Sentence
        parts={[
          'Read by ',
          part('reads', 'Who reads', habits.simulated ? 'simulated' : 'mine', WHO, (who) =>
            chooseHabits({ simulated: who === 'simulated' }),
          ),
          ' ',
          part('places', 'Where', habits.places, WHERE, (places) =>
            chooseHabits({ places: places as typeof habits.places }),
          ),
          ', ',
          part('pumps', 'Pumps', habits.pumpsOn ? 'on' : 'off', PUMPS, (pumps) =>
            chooseHabits({ pumpsOn: pumps === 'on' }),
          ),
          habits.pumpsOn ? '; a calm surface reads best.' : '.',
        ]}
      />
      {habits.simulated && (
        <Note>
          Simulated: it reads a made-up truth that differs from the model in lamps, beams and water. To learn
          and to try out; remove its session before you trust the calibration.
        </Note>
      )}
      {fields}
      {habits.places !== 'spots' && (
        <>
          <FieldRow>
            <TextField
              label="Columns"
              value={grid.columns}
              onChange={(columns) => setGrid({ ...grid, columns })}
              numeric
              testID="grid-columns"
            />
            <TextField
              label="Rows"
              value={grid.rows}
              onChange={(rows) => setGrid({ ...grid, rows })}
              numeric
            />
            <TextField
              label="Depth"
              value={grid.depth}
              onChange={(depth) => setGrid({ ...grid, depth })}
              unit="cm"
              numeric
            />
          </FieldRow>
          {gridError && (
            <Type kind="label" role="alert">
              {`▲ ${gridError}`}
            </Type>
          )}
        </>
      )}
      {habits.places === 'spots' && stops.length === 0 && (
        <Note>There is no spot yet: read on a grid, or make spots on the chart first.</Note>
      )}
      <Button
        label="Walk the places"
        kind="filled"
        wide
        onPress={start}
        disabled={habits.places === 'spots' && stops.length === 0}
        testID="walk"
      />
    </Sheet>
  );
}
