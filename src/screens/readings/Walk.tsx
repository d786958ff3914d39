import { plural } from '@/core/shape/counts';
import { lengthFigure, lengthWords } from '@/core/shape/units';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { shownOf, type Reading, type Session } from '@/core/record/readings';
import { levelsIn } from '@/core/case/calibration';
import { bandUnder, parUnder, spectrumUnder, zoneLight } from '@/core/case/light';
import { formatTime } from '@/core/day/clock';
import { meterKind, shownUnder } from '@/core/meter/kinds';
import {
  type Lighting,
  lightings,
  likelyLit,
  readingAt,
  readUnderDay,
  type Stop,
  stopsOf,
} from '@/core/case/walk';
import { setReading } from '@/state/commands/readings';
import { litNow, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { useSettings } from '@/state/settings';
import { simulate, usePlaces } from '@/state/tank';
import { nowUtcIso, useNowMs, wallMinute } from '@/state/time';
import { useTyped } from '@/state/typed';
import { useAwake } from '@/ui/awake';
import { Button } from '@/ui/Button';
import { usePageKeys } from '@/ui/keys';
import { Page, usePageSize } from '@/ui/Page';
import { Note } from '@/ui/Parts';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol, umolExact } from '../shared/words';
import { chooseHabits, chosenLighting } from './LitChoice';
import { BigKey, Doubted, Keypad, LitSheet, StopsSheet } from './WalkParts';

const useStyles = themed((p) => ({
  shown: {
    flexDirection: 'row',
    alignItems: 'baseline',
    justifyContent: 'space-between',
    borderBottomWidth: 2,
    borderColor: p.ink,
    minHeight: 56,
  },
}));
const MOST_LETTERS = 7;
const MOST_TRIES = 50;

/** A session at the tank, one-handed: place after place, big keys, several tries. */
export function Walk({
  session,
  from,
}: {
  session: Session;
  /** spot to begin at */
  from: string | undefined;
}) {
  const styles = useStyles();
  const page = usePageSize();
  const desk = useDesk();
  const { zone, bundle, doc } = desk;
  const nowMs = useNowMs();
  const habits = useSettings((s) => s.readings);
  const cal = useCalibration(bundle, zone);
  const stops = stopsOf(zone, habits);
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      stops.findIndex((s) => s.spotId === from),
    ),
  );
  const [text, setText] = useTyped(`walk ${session.id}`).of('text', '');
  const [error, setError] = useState<string | null>(null);
  /** a first reading that is not what was expected: asked once, before it is kept */
  const [doubt, setDoubt] = useState<{ value: number; goesOn: boolean } | null>(null);
  const [choosing, setChoosing] = useState(false);
  const [listing, setListing] = useState(false);
  useAwake();

  const meter = meterKind(session.meter.kind);
  const rig = session.rig ?? [];
  // the day that runs under these lamps, or was drafted, says what is lit; the lamps are the session's own
  const all = useSessionLightings(session, wallMinute(nowMs, zone.timeZone), doc);
  const lighting = chosenLighting(all, habits.lit);
  const levels = lighting.levelsAt(lighting.scaled ? habits.litShare : 1);
  const index = Math.min(at, Math.max(0, stops.length - 1));
  const stop = stops[index];
  const reading = stop && readingAt(session, stop, levels);
  const tries = reading?.tries ?? [];
  const minuteOf = (atUtc: string) => wallMinute(Date.parse(atUtc), zone.timeZone);
  const readHere = (s: Stop) => readingAt(session, s, levels) ?? readUnderDay(session, s, lighting, minuteOf);
  const done = stops.filter(readHere).length;
  const earlier = stop && !reading ? readHere(stop) : undefined;

  const places = stops.map((s) => ({
    xCm: s.xCm,
    yCm: s.yCm,
    depthCm: Math.max(0, s.depthCm - session.meter.sensorAboveCm),
    openShare: zone.spots.find((x) => x.id === s.spotId)?.openShare ?? 1,
  }));
  const matrix = usePlaces(rig, zone, places, cal);
  const light = matrix ? zoneLight(matrix, rig, cal) : null;
  const own = rig.map((g) => levelsIn(g, levels));
  const expected = light && stop ? parUnder(light, own, index) : null;
  const expectedShown =
    light && stop
      ? shownUnder(meter, spectrumUnder(light, own, index)) / session.meter.immersionFactor
      : null;

  const shownBy = (l: Lighting): number => {
    const lit = rig.map((g) => levelsIn(g, l.levelsAt(l.scaled ? habits.litShare : 1)));
    return shownUnder(meter, spectrumUnder(light!, lit, index)) / session.meter.immersionFactor;
  };
  const likely =
    doubt !== null && light && expectedShown !== null
      ? likelyLit(
          doubt.value,
          expectedShown,
          bandUnder(cal, light, rig, own, index),
          all.filter((l) => l.id !== lighting.id).map((l) => ({ ...l, shown: shownBy(l) })),
        )
      : null;
  /** whether a value is to be asked about before it is kept */
  const odd = (value: number, goesOn: boolean): boolean => {
    if (doubt?.value === value || session.readings.length > 0 || !light || expectedShown === null)
      return false;
    const asked = likelyLit(value, expectedShown, bandUnder(cal, light, rig, own, index), []) !== null;
    if (asked) setDoubt({ value, goesOn });
    return asked;
  };
  const keepTry = (value: number, bands: Reading['bands']): boolean => {
    if (!stop) return false;
    if (tries.length >= MOST_TRIES) {
      setError(`${MOST_TRIES} tries are enough at one place.`);
      return false;
    }
    const next: Reading = reading
      ? { ...reading, tries: [...reading.tries, value], bands: bands ?? reading.bands }
      : { ...stop, id: newId(), atUtc: nowUtcIso(), tries: [value], bands, levels };
    setText('');
    setError(null);
    setDoubt(null);
    return run(setReading(session.id, next));
  };
  const typed = (): number | null => {
    const value = text === '' || text === '.' ? NaN : Number(text);
    if (!Number.isFinite(value)) {
      setError(`Type what the meter shows in ${meter.unit}.`);
      return null;
    }
    if (value > (meter.unit === 'lux' ? 300_000 : 20_000)) {
      setError(`More ${meter.unit} than the sun gives: check the digits.`);
      return null;
    }
    return value;
  };
  const go = (to: number) => {
    setAt(Math.min(stops.length - 1, Math.max(0, to)));
    setText('');
    setError(null);
  };
  const onwards = () => (index < stops.length - 1 ? go(index + 1) : setListing(true));
  const another = () => {
    const value = typed();
    if (value !== null && !odd(value, false)) keepTry(value, null);
  };
  const next = () => {
    if (text !== '') {
      const value = typed();
      if (value === null || odd(value, true) || !keepTry(value, null)) return;
    } else if (tries.length === 0 && !earlier) {
      setError('Type a reading first, or leave this place out with the arrow.');
      return;
    }
    onwards();
  };
  const press = (key: string) => {
    setError(null);
    setDoubt(null);
    if (key === 'back') setText((t) => t.slice(0, -1));
    else if (key === '.' || key === ',') setText((t) => (t.includes('.') ? t : `${t === '' ? '0' : t}.`));
    else setText((t) => (t.length < MOST_LETTERS ? t + key : t));
  };
  usePageKeys((k) => {
    if (k.typing || k.command || choosing || listing) return;
    if (/^[\d.,]$/.test(k.key)) press(k.key);
    else if (k.key === 'Backspace') press('back');
    else if (k.key === 'Enter') next();
    else if (k.key === '+') another();
    else return;
    k.preventDefault();
  });
  const [asking, setAsking] = useState(false);
  const askSimulated = async () => {
    if (!stop) return;
    setAsking(true);
    try {
      const { shown, bands } = await simulate(
        zone,
        { rig, meter: session.meter, pumpsOn: session.pumpsOn },
        places[index]!,
        levels,
        `${session.id} ${stop.name} ${JSON.stringify(levels)} ${tries.length}`,
      );
      keepTry(shown, bands);
    } catch (e) {
      setError(`The simulated meter gave up: ${(e as Error).message}. Ask again.`);
    } finally {
      setAsking(false);
    }
  };

  if (!stop)
    return (
      <Page title={session.name} testID="walk-page">
        <Note>There is no place to read at: make a spot on the chart, or start a session on a grid.</Note>
        <Button label="To the chart" wide onPress={() => router.navigate('/tank')} />
      </Page>
    );
  const spread = tries.length > 1 ? Math.max(...tries) - Math.min(...tries) : null;
  return (
    <Page
      testID="walk-page"
      title={stop.name}
      under={`${index + 1} of ${stops.length} · ${plural(done, 'place')} read · ${lengthWords(stop.xCm, true)} left, ${lengthFigure(stop.yCm, true)} front, ${lengthFigure(stop.depthCm, true)} deep${session.meter.simulated ? ' · simulated meter' : ''} · ${meter.name.toLowerCase()}`}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.s }}>
        <View style={{ flex: 1 }}>
          <Type
            kind="label"
            testID="walk-lit"
          >{`Lit: ${lighting.label}${lighting.scaled ? ` at ${Math.round(habits.litShare * 100)} %` : ''}`}</Type>
          <Type kind="small" testID="walk-expected">
            {expected === null
              ? 'Computing what to expect …'
              : expected < 0.5
                ? 'The model expects darkness here: light something first.'
                : `The model expects ${umol(expected)} µmol${meter.unit === 'lux' ? `, about ${umol(expectedShown!)} lux on this meter` : session.meter.immersionFactor !== 1 ? `, ${umol(expectedShown!)} on this meter` : ''}.`}
          </Type>
        </View>
        <Button
          label="Change"
          name="Change what is lit"
          kind="plain"
          onPress={() => setChoosing(true)}
          testID="change-lit"
        />
      </View>
      <View style={styles.shown}>
        <Type kind="figure" testID="walk-value">
          {text === '' ? '–' : text}
        </Type>
        <Type style={{ fontSize: 18 }}>{meter.unit}</Type>
      </View>
      {error ? (
        <Type kind="label" role="alert">
          {`▲ ${error}`}
        </Type>
      ) : (
        <Type kind="small" testID="walk-tries">
          {earlier
            ? `Read at ${formatTime(Math.floor(minuteOf(earlier.atUtc)))}: ${umolExact(shownOf(earlier))} ${meter.unit}, kept with the light of that minute.`
            : tries.length === 0
              ? 'No try here yet. Two or three are better than one.'
              : `${plural(tries.length, 'try', 'tries')}: ${tries.join(', ')}. Median ${umolExact(shownOf(reading!))}${spread === null ? '' : `, spread ${umolExact(spread)}`}.`}
        </Type>
      )}
      {likely && (
        <Doubted
          said={`▲ ${umol(expectedShown!)} ${meter.unit} expected, ${umolExact(doubt!.value)} read. ${likely.length > 0 ? 'Is something else lit?' : 'Look at meter, place and lamp before it is kept.'}`}
          likely={likely}
          value={doubt!.value}
          width={Math.min(page.main, 420)}
          onLit={(lit) => {
            chooseHabits({ lit });
            setDoubt(null);
          }}
          onKeep={() => {
            if (keepTry(doubt!.value, null) && doubt!.goesOn) onwards();
          }}
        />
      )}
      {session.meter.simulated ? (
        <View style={{ flexDirection: 'row' }}>
          <BigKey
            label="Read the simulated meter"
            filled
            disabled={asking}
            onPress={() => void askSimulated()}
            testID="simulate"
          />
        </View>
      ) : (
        <Keypad width={Math.min(page.main, 420)} onPress={press} />
      )}
      <View style={{ flexDirection: 'row', gap: space.s, width: Math.min(page.main, 420) }}>
        {!session.meter.simulated && <BigKey label="Another try" onPress={another} testID="another-try" />}
        <BigKey
          label={index < stops.length - 1 ? 'Next place' : 'Done'}
          filled
          onPress={next}
          testID="next-place"
        />
      </View>
      <View
        style={{ flexDirection: 'row', justifyContent: 'space-between', width: Math.min(page.main, 420) }}
      >
        <Button
          label="← Back"
          name="Place before"
          kind="plain"
          onPress={() => go(index - 1)}
          disabled={index === 0}
        />
        <Button label="All places" kind="plain" onPress={() => setListing(true)} testID="all-places" />
        <Button label="Leave out →" name="Leave this place out" kind="plain" onPress={onwards} />
      </View>
      {choosing && <LitSheet lightings={all} onClose={() => setChoosing(false)} />}
      {listing && (
        <StopsSheet
          title={`${done} of ${stops.length} read under this light`}
          stops={stops}
          shown={(s) => {
            const r = readHere(s);
            return r ? `${umolExact(shownOf(r))} ${meter.unit}` : null;
          }}
          onGo={go}
          onOther={() => {
            go(0);
            setChoosing(true);
          }}
          onClose={() => setListing(false)}
        />
      )}
    </Page>
  );
}

/** Lightings of a session: by the day that its lamps run or have drafted now, on the lamps it was begun with. */
function useSessionLightings(session: Session, minute: number, doc: Parameters<typeof lightings>[0]) {
  const desk = useDesk();
  const nowMs = useNowMs();
  const groups = litNow(desk, nowMs);
  const kept = groups.filter((g) => session.rig?.some((r) => r.groupId === g.groupId) ?? true);
  const all = lightings(doc, kept.length > 0 ? kept : groups, minute);
  return all.map((l) => ({
    ...l,
    label: l.id === 'now' ? `The day now, ${formatTime(Math.floor(minute))}` : l.label,
  }));
}
