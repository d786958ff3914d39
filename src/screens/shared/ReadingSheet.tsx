import { useTyped } from '@/state/typed';
import { civilDay } from '@/core/day/wallClock';
import { useState } from 'react';

import { levelsOfGroups, parUnder, spectrumUnder } from '@/core/case/light';
import { channelIds, litRunning, runningAt } from '@/core/case/lit';
import { levelsById, rigGroups } from '@/core/case/plateaus';
import { formatTime, parseTypedTime } from '@/core/day/clock';
import { METER_KINDS, meterKind, type MeterKindId, shownUnder } from '@/core/meter/kinds';
import { addSession } from '@/state/commands/readings';
import { draftOf, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useBare, useLight } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { localDate, nowUtcIso, useNowMs, utcIso, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { LightPending } from './LightPending';
import { umol } from './words';

/** Readings further than this from the model deserve a second look at lamp, height or unit. Mark: rule of thumb. */
const ODD_RATIO = 3;

/** "My meter says …": one reading at a spot, with what was lit then. */
export function ReadingSheet({ onClose }: { onClose: () => void }) {
  const desk = useDesk();
  const { zone, bundle } = desk;
  const nowMs = useNowMs();
  const meterId = useSettings((s) => s.meter);
  const meter = meterKind(meterId);
  const running = runningAt(bundle.history, zone, utcIso(nowMs)).map((e) =>
    litRunning(e, civilDay(nowMs, zone.timeZone)),
  );
  // what was read on another day, at another time, is not offered as today's
  const typed = useTyped(`reading ${zone.id} ${localDate(nowMs, zone.timeZone)}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [source, setSource] = typed.of<'running' | 'draft' | 'full'>(
    'source',
    running.length > 0 ? 'running' : 'draft',
  );
  const [spotId, setSpotId] = typed.of('spotId', desk.spot?.id ?? '');
  const [text, setText] = typed.of('text', '');
  const draft = draftOf(desk);
  const brightest = [...(desk.group?.threads ?? [])].sort((a, b) => b.strengthShare - a.strengthShare)[0];
  const [time, setTime] = typed.of(
    'time',
    formatTime(
      running.length > 0 ? Math.floor(wallMinute(nowMs, zone.timeZone)) : (brightest?.minute ?? 720),
    ),
  );
  const [error, setError] = useState<string | null>(null);
  const groups = source === 'running' ? running : draft;
  const { light, error: lightError } = useLight(groups, zone, useBare(bundle, zone));
  const minute = parseTypedTime(time);
  const spotIndex = zone.spots.findIndex((s) => s.id === spotId);
  const levels =
    source === 'full'
      ? groups.map((g) => channelIds(g.lampKind).map(() => 1))
      : minute === null
        ? null
        : levelsOfGroups(groups, minute);
  const known = light && levels && spotIndex >= 0;
  const model = known ? parUnder(light, levels, spotIndex) : null;
  const shown = known ? shownUnder(meter, spectrumUnder(light, levels, spotIndex)) : null;

  const keep = () => {
    const value = parseNumber(text);
    if (value === null || value <= 0)
      return setError(`Reading: give what the meter shows in ${meter.unit}, above 0.`);
    if (value > (meter.unit === 'lux' ? 300_000 : 20_000))
      return setError(`Reading: more ${meter.unit} than the sun gives; check the unit.`);
    if (levels === null || model === null) return setError('Time: give a time of day such as 14:30.');
    if (model < 1)
      return setError(
        'Nothing is lit at this spot then, so a reading says nothing about the lamps. Choose a lit moment.',
      );
    const spot = zone.spots[spotIndex]!;
    const { name, xCm, yCm, depthCm } = spot;
    const atUtc = nowUtcIso();
    const done = run(
      addSession({
        id: newId(),
        zoneId: zone.id,
        name: 'One reading',
        atUtc,
        meter: { kind: meterId, immersionFactor: 1, sensorAboveCm: 0, simulated: false },
        pumpsOn: true,
        lit:
          source === 'full'
            ? 'every channel at full'
            : `the day as ${source === 'running' ? 'it runs' : 'drafted'}, ${time}`,
        counts: true,
        rig: rigGroups(groups),
        readings: [
          {
            id: newId(),
            spotId: spot.id,
            name,
            xCm,
            yCm,
            depthCm,
            atUtc,
            tries: [value],
            bands: null,
            levels: levelsById(groups, levels),
          },
        ],
      }),
    );
    if (done) kept();
  };
  const read = parseNumber(text);
  const ratio = read !== null && shown !== null && model !== null && model >= 1 ? read / shown : null;

  return (
    <Sheet title="My meter says" onClose={onClose} typed={typed}>
      <Note kind="eyes">
        Shade your eyes from the lamp before you lean over the tank, and never look into it. Unplug before
        hands go in where you can.
      </Note>
      {zone.spots.length === 0 || zone.groups.length === 0 ? (
        <LightPending error={null} noSpot={zone.spots.length === 0} height={60} />
      ) : (
        <>
          <Choice
            label="At"
            value={spotId}
            onChange={setSpotId}
            options={zone.spots.map((s) => ({ value: s.id, label: s.name }))}
          />
          <Choice
            label="Meter"
            value={meterId}
            onChange={(id: MeterKindId) => changeSettings({ meter: id })}
            options={METER_KINDS.filter((m) => m.id !== 'spectrometer').map((m) => ({
              value: m.id,
              label: m.name,
            }))}
          />
          <TextField
            label="Reading"
            value={text}
            onChange={(t) => {
              setText(t);
              setError(null);
            }}
            unit={meter.unit}
            numeric
            error={error ?? undefined}
            onSubmit={keep}
            testID="reading"
          />
          <Choice
            label="What was lit"
            value={source}
            onChange={setSource}
            options={[
              ...(running.length > 0 ? [{ value: 'running' as const, label: 'The day as it runs' }] : []),
              { value: 'draft', label: 'The day as drafted' },
              { value: 'full', label: 'Every channel at full' },
            ]}
          />
          {source !== 'full' && (
            <TextField
              label="At what time of that day"
              value={time}
              onChange={setTime}
              error={minute === null ? 'Give a time of day such as 14:30.' : undefined}
              testID="reading-time"
            />
          )}
          {lightError ? (
            <LightPending error={lightError} noSpot={false} height={40} />
          ) : (
            <Type quiet testID="reading-model">
              {model === null
                ? 'Computing what the model says …'
                : `The model says ${umol(model)} µmol there${meter.unit === 'lux' ? `, about ${umol(shown!)} lux` : ''}.`}
            </Type>
          )}
          {ratio !== null && (
            <Type testID="reading-gain">{`That is ${ratio.toFixed(2)} times what the model lets this meter show.`}</Type>
          )}
          {ratio !== null && (ratio > ODD_RATIO || ratio < 1 / ODD_RATIO) && (
            <Note>
              That is far from the model. Check the unit, the height of the lamp, its watts and beam, and that
              exactly this was lit.
            </Note>
          )}
          <Button label="Keep this reading" kind="filled" wide onPress={keep} testID="keep-reading" />
        </>
      )}
    </Sheet>
  );
}
