import { useState } from 'react';
import { View } from 'react-native';

import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { judge, worstOf } from '@/core/case/safety';
import type { Group } from '@/core/case/types';
import { formatHours, formatTime, parseTypedTime } from '@/core/day/clock';
import { dli, fullSeconds, levelsAt } from '@/core/day/day';
import {
  CLOUD_DEPTH_MOST,
  cloudsOn,
  daylightHours,
  driftMinutes,
  extraDay,
  type Extras,
  FLASHES_MOST,
  flashesOn,
  type InterludeKind,
  MOON_MOST_UMOL,
  moonAsThreads,
  moonOn,
} from '@/core/day/extras';
import { clockRuns, nextClockChange, secondsOver } from '@/core/day/wallClock';
import { lampDay } from '@/core/day/thread';
import { colourClass } from '@/core/library/colours';
import { dims, type Levels } from '@/core/spectrum/controls';
import { setExtras } from '@/state/commands';
import { takeDay } from '@/state/days';
import { type Desk, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import type { Accustomed } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { addDays, isDate, localDate, shortDate, useNowMs, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField, ValueField } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { parseNumber } from '@/ui/parseNumber';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField, TimeField } from '../shared/fields';
import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { SpotChoice } from '../shared/SpotChoice';
import { useDraftLight } from '../shared/useDraftLight';
import { mol, percent, plural, times, umol } from '../shared/words';

/** What acts on a group's days besides its threads: night, interludes, weather, clock. */
export function Around() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Night, interludes, weather, clock" />;
}

interface PartProps {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight | null;
  accustomed: Accustomed | null;
}

function Filled({ desk }: { desk: Desk }) {
  const { zone, spot } = desk;
  const { groups, light, accustomed } = useDraftLight(desk);
  const part = { desk, groups, light, accustomed };
  const id = desk.group!.id;
  return (
    <Page
      testID="around"
      title="Night, interludes, weather, clock"
      under={`${desk.group!.name} · drafts like everything on Day: typed in with the sheet`}
      side={
        <>
          <Weather key={`w${id}`} {...part} />
          <Clock {...part} />
          <SpotChoice label="µmol at" spots={zone.spots} spotId={spot?.id} />
        </>
      }
    >
      <GroupChoice />
      <Interludes key={`i${id}`} {...part} />
      <Night key={`n${id}`} {...part} />
      <Drift key={`d${id}`} {...part} />
    </Page>
  );
}

const setting = (group: Group, change: Partial<Extras>, merge?: string) =>
  run(setExtras(group.id, (e) => ({ ...e, ...change }), merge));

const MOST_DEG = { latitudeDeg: 90, longitudeDeg: 180 } as const;

const KINDS: Readonly<
  Record<InterludeKind, { name: string; minutes: number; strength: number; about: string }>
> = {
  photograph: {
    name: 'Photograph',
    minutes: 20,
    strength: 0.6,
    about: 'a whiter mix that a camera can balance',
  },
  feeding: { name: 'Feeding', minutes: 15, strength: 0.3, about: 'dimmer, so that polyps open' },
  viewing: {
    name: 'Viewing',
    minutes: 120,
    strength: 0.5,
    about: 'a mix to look at, outside the usual hours',
  },
  maintenance: {
    name: 'Maintenance',
    minutes: 60,
    strength: 0.25,
    about: 'dim and white, for hands in the water',
  },
};

function Interludes({ desk, groups, light, accustomed }: PartProps) {
  const { doc, zone, spot, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const today = localDate(nowMs, zone.timeZone);
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const [what, setWhat] = useState<InterludeKind>('photograph');
  /** share of white, green and red in a plate's controls: the whitest is what a camera balances best */
  const whiteness = (mix: Levels) => {
    const all = kind.controls.reduce((sum, c) => sum + (mix[c.id] ?? 0), 0);
    const white = kind.controls.filter((c) => ['white', 'warm'].includes(colourClass(kind, c)));
    return all > 0 ? white.reduce((sum, c) => sum + (mix[c.id] ?? 0), 0) / all : 0;
  };
  const whitest = [...plates].sort((a, b) => whiteness(b.mix) - whiteness(a.mix))[0];
  const [plateId, setPlateId] = useState(whitest?.id ?? '');
  const [date, setDate] = useState(today);
  const [time, setTime] = useState(() => formatTime(Math.ceil(wallMinute(nowMs, zone.timeZone) / 5) * 5));
  const [minutes, setMinutes] = useState(String(KINDS.photograph.minutes));
  const [strength, setStrength] = useState(String(KINDS.photograph.strength * 100));
  const [error, setError] = useState<string | null>(null);
  const all = group.extras?.interludes ?? [];
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;

  const choose = (next: InterludeKind) => {
    setWhat(next);
    setMinutes(String(KINDS[next].minutes));
    setStrength(String(KINDS[next].strength * 100));
  };
  const add = () => {
    const fromMinute = parseTypedTime(time);
    const length = parseNumber(minutes);
    const share = parseNumber(strength);
    const plate = plates.find((p) => p.id === plateId);
    if (fromMinute === null) return setError('From: give a time of day such as 19:30.');
    if (!isDate(date.trim())) return setError('Date: give a date such as 2026-12-24.');
    if (length === null || length < 1 || length > 720) return setError('Minutes: give 1 to 720.');
    if (share === null || share < 0 || share > 100) return setError('Strength: give 0 to 100 %.');
    if (!plate) return setError('Mix: choose a plate; Mix makes them.');
    setError(null);
    setting(group, {
      interludes: [
        ...all,
        {
          id: newId(),
          kind: what,
          date: date.trim(),
          fromMinute,
          minutes: Math.round(length),
          strengthShare: share / 100,
          mix: plate.mix,
          mixName: plate.name,
        },
      ],
    });
  };
  /** What an interlude costs or adds at the coral, and what it is beside what the corals are used to. */
  const costOf = (id: string): string => {
    if (!light || spotIndex < 0) return '';
    const on = { date: all.find((i) => i.id === id)!.date, timeZone: zone.timeZone };
    const shares = { capShare: lit.day.capShare, easingShare: lit.day.easingShare };
    const day = (extras: Extras) => extraDay(kind, lit.threads, shares, extras, on);
    const withIt = day(group.extras ?? {});
    const without = day({ ...group.extras, interludes: all.filter((i) => i.id !== id) });
    const par = light.par[index]![spotIndex]!;
    const change = dli(withIt, par) - dli(without, par);
    const worst = accustomed
      ? worstOf(
          judge(
            light,
            groups.map((g, i) => (i === index ? { ...g, day: withIt } : g)),
            accustomed.perSpot,
          ),
        )
      : undefined;
    const words =
      Math.abs(change) < 0.005
        ? 'costs no light worth naming'
        : `${change < 0 ? 'costs' : 'adds'} ${Math.abs(change).toFixed(2)} mol that day at ${spot!.name} (${percent(Math.abs(change) / Math.max(dli(without, par), 1e-9))})`;
    return worst && worst.ratio > 1.3
      ? `${words}; ${zone.spots[worst.spot]!.name} gets ${times(worst.ratio)} what it is used to, by ${worst.by}`
      : words;
  };
  return (
    <Section title="Interludes">
      <Type kind="small">
        {`One mix for a stretch of time, then the day goes on by itself. ${kind.controller.interludeUnderCap ? 'The cap holds meanwhile.' : 'On this lamp the cap does not hold meanwhile.'}`}
      </Type>
      {all.length === 0 && <Type quiet>None is set. The next one begins here.</Type>}
      <View testID="interludes">
        {[...all]
          .sort((a, b) => `${a.date}${a.fromMinute}`.localeCompare(`${b.date}${b.fromMinute}`))
          .map((i) => (
            <Row key={i.id}>
              <View style={{ flex: 1 }}>
                <Type kind="label">
                  {`${KINDS[i.kind].name}, ${shortDate(i.date)} ${formatTime(i.fromMinute)}-${formatTime(i.fromMinute + i.minutes)}`}
                </Type>
                <Type kind="small">{`${i.mixName} at ${percent(i.strengthShare)}; ${costOf(i.id)}.`}</Type>
              </View>
              <Button
                label="Remove"
                name={`Remove the interlude of ${shortDate(i.date)} ${formatTime(i.fromMinute)}`}
                kind="plain"
                onPress={() => setting(group, { interludes: all.filter((x) => x.id !== i.id) })}
              />
            </Row>
          ))}
      </View>
      <Choice
        label="What for"
        value={what}
        onChange={choose}
        options={(Object.keys(KINDS) as InterludeKind[]).map((k) => ({ value: k, label: KINDS[k].name }))}
      />
      <Type kind="small">{`${KINDS[what].about}.`}</Type>
      {plates.length > 0 ? (
        <Choice
          label="Mix"
          value={plateId}
          onChange={setPlateId}
          options={plates.map((p) => ({ value: p.id, label: p.name }))}
        />
      ) : (
        <Note>No plate of this lamp yet: Mix makes one, and then it can be shown for a while.</Note>
      )}
      <FieldRow>
        <TextField label="Date" value={date} onChange={setDate} testID="interlude-date" />
        <TextField label="From" value={time} onChange={setTime} testID="interlude-time" />
      </FieldRow>
      <FieldRow>
        <TextField
          label="For"
          value={minutes}
          onChange={setMinutes}
          unit="min"
          numeric
          testID="interlude-minutes"
        />
        <TextField
          label="Strength"
          value={strength}
          onChange={setStrength}
          unit="% of its mix"
          numeric
          testID="interlude-strength"
        />
      </FieldRow>
      {error && (
        <Type kind="label" role="alert" testID="interlude-error">
          {`▲ ${error}`}
        </Type>
      )}
      <Button label="Set this interlude" kind="filled" onPress={add} testID="add-interlude" />
      {what === 'maintenance' && (
        <Note kind="mains">
          Plug out before hands go in; shade your eyes from the lamp. A dim interlude is no safety.
        </Note>
      )}
    </Section>
  );
}

function Night({ desk, light, groups }: PartProps) {
  const { doc, zone, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const moon = group.extras?.moon;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const [problem, setProblem] = useState<string | null>(null);
  /** PAR at the brightest spot under levels of this group alone, through cap and lowest level. */
  const brightest = (mix: Levels, strengthShare: number): number | null => {
    if (!light) return null;
    const levels = levelsAt(
      lampDay(kind, [{ minute: 0, strengthShare, mix }], { capShare: group.capShare, easingShare: 1 }),
      0,
    );
    return Math.max(
      0,
      ...zone.spots.map((_, s) => levels.reduce((sum, v, c) => sum + v * light.par[index]![s]![c]!, 0)),
    );
  };
  const step = kind.controller.pointStepShare > 0 ? kind.controller.pointStepShare : 0.001;
  /** The faintest light a control can give at the brightest coral. */
  const faintest = (id: string): number | null => {
    for (let k = 1; k <= 100; k += 1) {
      const v = brightest({ [id]: 1 }, Math.min(1, k * step));
      if (v !== null && v > 0) return v;
    }
    return null;
  };
  // blue, but no violet: it looks dimmer than it is; of several the first that is faint enough
  const blues = kind.controls
    .filter((c) => c.kind === 'level' && colourClass(kind, c) === 'blue')
    .map((c) => ({ id: c.id, name: c.name, least: faintest(c.id) }));
  const lamp =
    blues.find((b) => b.least !== null && b.least <= MOON_MOST_UMOL) ??
    [...blues].sort((a, b) => (a.least ?? Infinity) - (b.least ?? Infinity))[0];
  if (!dims(kind) || !lamp)
    return (
      <Section title="Moonlight">
        <Type>
          {dims(kind)
            ? 'This lamp has no blue that can be set alone, so no faint night. A small night light of its own is the cheapest remedy.'
            : 'This lamp is on or off: it has no faint night. A small night light of its own is the cheapest remedy.'}
        </Type>
      </Section>
    );
  /** The settable strength nearest to a wanted µmol at the brightest coral, never above the limit. */
  const strengthFor = (wanted: number): { strengthShare: number; umol: number } | null => {
    let best: { strengthShare: number; umol: number } | null = null;
    for (let k = 1; k <= 40; k += 1) {
      const strengthShare = Math.round(k * step * 1e4) / 1e4;
      const umolAt = brightest({ [lamp.id]: 1 }, strengthShare);
      if (umolAt === null || umolAt > MOON_MOST_UMOL) break;
      if (umolAt > 0 && (!best || Math.abs(umolAt - wanted) < Math.abs(best.umol - wanted)))
        best = { strengthShare, umol: umolAt };
    }
    return best;
  };
  const now = moon ? brightest(moon.mix, moon.strengthShare) : null;
  const sky = moon?.real
    ? moonOn(moon.real, { date: localDate(nowMs, zone.timeZone), timeZone: zone.timeZone })
    : null;
  const turnOn = (wanted: number): string | null => {
    const found = strengthFor(wanted);
    if (lamp.least === null) return 'The light is still being computed: try again in a moment.';
    if (!found)
      return `The faintest setting of ${lamp.name} already gives ${umol(lamp.least)} µmol at the brightest coral; a moon is at most ${MOON_MOST_UMOL} µmol. A small night light of its own is the cheapest remedy.`;
    return setting(group, {
      moon: {
        fromMinute: moon?.fromMinute ?? 1320,
        toMinute: moon?.toMinute ?? 360,
        real: moon?.real ?? null,
        mix: { [lamp.id]: 1 },
        strengthShare: found.strengthShare,
      },
    })
      ? null
      : 'Not taken.';
  };
  return (
    <Section title="Moonlight">
      <Type testID="moon-said">
        {moon
          ? `${kind.controls.find((c) => (moon.mix[c.id] ?? 0) > 0)?.name ?? 'Its mix'} at ${Math.round(moon.strengthShare * 1000) / 10} %: ${now === null ? '…' : umol(now)} µmol at the brightest coral, in the dark from ${formatTime(moon.fromMinute)} to ${formatTime(moon.toMinute)}.`
          : 'No moonlight. Nights without light are the rule; a faint one is for looking.'}
      </Type>
      {sky && (
        <Type kind="small" testID="moon-tonight">
          {`Tonight the moon is ${percent(sky.litShare)} lit; up ${sky.up.length === 0 ? 'not at all' : sky.up.map(([a, b]) => `${formatTime(a)}-${b >= 1440 ? '24:00' : formatTime(b)}`).join(' and ')}.`}
        </Type>
      )}
      <ValueField
        label={`Moonlight at the brightest coral, at most ${MOON_MOST_UMOL} µmol (rule of thumb)`}
        value={now === null ? '' : now.toFixed(2)}
        unit="µmol"
        numeric
        testID="moon-umol"
        onCommit={(text) => {
          setProblem(null);
          if (text.trim() === '' || text.trim() === '0')
            return setting(group, { moon: undefined }) ? null : 'Not taken.';
          const v = parseNumber(text);
          if (v === null || v < 0 || v > MOON_MOST_UMOL)
            return `Give 0 to ${MOON_MOST_UMOL} µmol: more is no moon but a night without dark.`;
          return turnOn(v);
        }}
      />
      {moon ? (
        <>
          <FieldRow>
            <TimeField
              label="From"
              value={moon.fromMinute}
              testID="moon-from"
              take={(fromMinute) => setting(group, { moon: { ...moon, fromMinute } })}
            />
            <TimeField
              label="until"
              value={moon.toMinute}
              testID="moon-to"
              take={(toMinute) => setting(group, { moon: { ...moon, toMinute } })}
            />
          </FieldRow>
          <Choice
            label="It is"
            value={moon.real ? 'real' : 'fixed'}
            onChange={(v) =>
              setting(group, {
                moon: { ...moon, real: v === 'real' ? { latitudeDeg: 50, longitudeDeg: 10 } : null },
              })
            }
            options={[
              { value: 'fixed', label: 'The same every night' },
              { value: 'real', label: 'As the real moon' },
            ]}
          />
          {moon.real && (
            <FieldRow>
              {(['latitudeDeg', 'longitudeDeg'] as const).map((key) => (
                <NumberField
                  key={key}
                  label={key === 'latitudeDeg' ? 'Latitude' : 'Longitude'}
                  value={moon.real![key]}
                  unit={key === 'latitudeDeg' ? '° north' : '° east'}
                  low={-MOST_DEG[key]}
                  high={MOST_DEG[key]}
                  wrong={`Give −${MOST_DEG[key]} to ${MOST_DEG[key]}.`}
                  testID={`moon-${key}`}
                  take={(v) => setting(group, { moon: { ...moon, real: { ...moon.real!, [key]: v } } })}
                />
              ))}
            </FieldRow>
          )}
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button label="No moonlight" onPress={() => setting(group, { moon: undefined })} />
            {!moon.real && (
              <Button
                label="Turn it into threads"
                name="Turn the moonlight into threads, for a lamp without a moon of its own"
                testID="moon-threads"
                onPress={() => {
                  const threads = moonAsThreads(kind, groups[index]!.threads, moon);
                  const day = takeDay(doc, group, 'moonlight as threads', threads);
                  const none = setExtras(group.id, (e) => ({ ...e, moon: undefined }));
                  run({ name: day.name, apply: (b) => none.apply(day.apply(b)) });
                }}
              />
            )}
          </View>
        </>
      ) : (
        <Button
          label={light ? 'A faint moon' : 'Computing the light …'}
          disabled={!light}
          testID="moon-on"
          onPress={() => setProblem(turnOn(0.3))}
        />
      )}
      {problem && !moon && (
        <Type kind="label" role="alert">
          {`▲ ${problem}`}
        </Type>
      )}
      <Type kind="small">{`µmol through cap and lowest lit level${spot ? '' : '; add a spot to see it'}.`}</Type>
    </Section>
  );
}

const PLAIN_WEATHER = { seed: 1, depthShare: 0.3, cloudyShare: 0.5, storms: false, flashesPerSecond: 1 };

function Weather({ desk, light, groups }: PartProps) {
  const { zone, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const read = useSettings((s) => s.flashesRead);
  const [asking, setAsking] = useState(false);
  const weather = group.extras?.weather;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  if (kind.controller.interpolation === 'hold' || !dims(kind))
    return (
      <Section title="Weather">
        <Type>Clouds need a lamp that dims and ramps: this one holds its values.</Type>
      </Section>
    );
  const days = Array.from({ length: 30 }, (_, d) => ({
    date: addDays(localDate(nowMs, zone.timeZone), d),
    timeZone: zone.timeZone,
  }));
  const lost = (): string | null => {
    if (!weather || !light || spotIndex < 0) return null;
    const par = light.par[index]![spotIndex]!;
    const shares = { capShare: lit.day.capShare, easingShare: lit.day.easingShare };
    const open = dli(extraDay(kind, lit.threads, shares, undefined, null), par);
    const under = days.map((on) => dli(extraDay(kind, lit.threads, shares, { weather }, on), par));
    const mean = under.reduce((a, b) => a + b, 0) / under.length;
    const evening = Math.max(0, ...lit.threads.map((t) => t.minute));
    const storms = days.filter((on) => flashesOn(weather, on, evening).length > 0).length;
    return `Of the next 30 days ${plural(days.filter((on) => cloudsOn(weather, on).length > 0).length, 'has', 'have')} clouds${weather.storms ? `, ${storms} a distant storm` : ''}; they take ${percent(open > 0 ? 1 - mean / open : 0)} of the light on average, ${percent(open > 0 ? 1 - Math.min(...under) / open : 0)} on the darkest day.`;
  };
  const set = (change: Partial<typeof PLAIN_WEATHER>) =>
    setting(group, { weather: { ...PLAIN_WEATHER, ...weather, ...change } });
  return (
    <Section title="Weather">
      <Type testID="weather-said">
        {lost() ?? 'No clouds, no storms. They are for fun; no coral needs them.'}
      </Type>
      <Choice
        label="Clouds"
        value={weather ? 'on' : 'off'}
        onChange={(v) => (v === 'on' ? set({}) : setting(group, { weather: undefined }))}
        options={[
          { value: 'off', label: 'None' },
          { value: 'on', label: 'Passing' },
        ]}
      />
      {weather && (
        <>
          <FieldRow>
            <NumberField
              label="Deepest cloud takes"
              value={Math.round(weather.depthShare * 100)}
              unit="% of the light"
              low={0}
              high={CLOUD_DEPTH_MOST * 100}
              wrong={`Give 0 to ${CLOUD_DEPTH_MOST * 100} %.`}
              testID="cloud-depth"
              take={(v) => set({ depthShare: v / 100 })}
            />
            <NumberField
              label="on so many days"
              value={Math.round(weather.cloudyShare * 100)}
              unit="%"
              low={0}
              high={100}
              wrong="Give 0 to 100 %."
              testID="cloudy-share"
              take={(v) => set({ cloudyShare: v / 100 })}
            />
          </FieldRow>
          <Button
            label="Other weather"
            name="Other weather: draw the clouds anew"
            onPress={() => set({ seed: (weather.seed * 1103515245 + 12345) % 2147483648 })}
          />
          <Choice
            label="Distant storms, in the evening"
            value={weather.storms ? 'on' : 'off'}
            onChange={(v) =>
              v === 'off' ? set({ storms: false }) : read ? set({ storms: true }) : setAsking(true)
            }
            options={[
              { value: 'off', label: 'None' },
              { value: 'on', label: 'Now and then' },
            ]}
          />
          {asking && !weather.storms && (
            <View style={{ gap: space.s }} testID="storm-caution">
              <Note kind="eyes">
                Flashing light can trigger seizures in people with photosensitive epilepsy, also in guests and
                children who do not know of it. Leave storms off where anybody could be affected; ask a
                doctor, not this app.
              </Note>
              <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
                <Button
                  label="Nobody here is at risk: switch on"
                  testID="storm-agree"
                  onPress={() => {
                    changeSettings({ flashesRead: true });
                    setAsking(false);
                    set({ storms: true });
                  }}
                />
                <Button label="Leave them off" kind="filled" onPress={() => setAsking(false)} />
              </View>
            </View>
          )}
          {weather.storms && (
            <NumberField
              label={`Flashes a second, at most ${FLASHES_MOST}`}
              value={weather.flashesPerSecond}
              low={0.1}
              high={FLASHES_MOST}
              wrong={`Give 0.1 to ${FLASHES_MOST} a second.`}
              testID="flash-rate"
              hint="The ceiling is that of WCAG 2.3.1; fewer is gentler."
              take={(v) => set({ flashesPerSecond: v })}
            />
          )}
        </>
      )}
    </Section>
  );
}

function Drift({ desk }: PartProps) {
  const { zone } = desk;
  const group = desk.group!;
  const nowMs = useNowMs();
  const drift = group.extras?.drift;
  const year = localDate(nowMs, zone.timeZone).slice(0, 4);
  const dates = [`${year}-12-21`, `${year}-03-20`, `${year}-06-21`, `${year}-09-22`];
  return (
    <Section title="Drift through the year">
      <Type kind="small">
        First and last light move with the sun of a latitude; what lies between is stretched with them. Off
        for most tanks: a reef near the equator hardly knows it.
      </Type>
      <Choice
        label="Drift"
        value={drift ? 'on' : 'off'}
        onChange={(v) =>
          setting(group, { drift: v === 'on' ? { latitudeDeg: 18, mostMinutes: 60 } : undefined })
        }
        options={[
          { value: 'off', label: 'None' },
          { value: 'on', label: 'As the sun' },
        ]}
      />
      {drift && (
        <>
          <FieldRow>
            <NumberField
              label="Latitude"
              value={drift.latitudeDeg}
              unit="° north"
              low={-66}
              high={66}
              wrong="Give −66 to 66: beyond it the sun does not set all year."
              testID="drift-latitude"
              take={(latitudeDeg) => setting(group, { drift: { ...drift, latitudeDeg } })}
            />
            <NumberField
              label="at most"
              value={drift.mostMinutes}
              unit="min each end"
              low={1}
              high={180}
              wrong="Give 1 to 180 min."
              testID="drift-most"
              take={(mostMinutes) => setting(group, { drift: { ...drift, mostMinutes } })}
            />
          </FieldRow>
          <View testID="drift-year">
            {dates.map((d) => {
              const by = Math.round(driftMinutes(drift, d));
              return (
                <Row key={d} style={{ minHeight: 32 }}>
                  <Type style={{ flex: 1 }}>{shortDate(d)}</Type>
                  <Type kind="label">
                    {`${formatHours(daylightHours(drift.latitudeDeg, d))} of sun; ${by === 0 ? 'as on Day' : `${Math.abs(by)} min ${by > 0 ? 'longer' : 'shorter'} at each end`}`}
                  </Type>
                </Row>
              );
            })}
          </View>
        </>
      )}
    </Section>
  );
}

function Clock({ desk, light, groups }: PartProps) {
  const { zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const today = { date: localDate(nowMs, zone.timeZone), timeZone: zone.timeZone };
  const change = nextClockChange(today);
  const index = groups.findIndex((g) => g.groupId === group.id);
  const own = !kind.controller.followsClockChange;
  const words = () => {
    if (!change) return `Clocks do not change in ${zone.timeZone}.`;
    const day = groups[index]!.day;
    const clock = own
      ? ({ follows: false, setUtc: new Date(nowMs).toISOString() } as const)
      : ({ follows: true } as const);
    const seconds = secondsOver(day, clockRuns({ ...today, date: change.date }, clock));
    const at = (s: readonly number[]) =>
      light && spotIndex >= 0
        ? s.reduce((sum, v, c) => sum + v * light.par[index]![spotIndex]![c]!, 0) / 1e6
        : null;
    const [then, usual] = [at(seconds), at(fullSeconds(day))];
    const dose =
      then === null || usual === null
        ? ''
        : ` That day gives ${mol(then)} mol at ${spot!.name} from ${group.name}, against ${mol(usual)} usually.`;
    return own
      ? `On ${shortDate(change.date)} clocks go ${change.hours < 24 ? 'forward' : 'back'}. This lamp keeps its own time: from then on its day runs an hour ${change.hours < 24 ? 'later' : 'earlier'} by the wall, until its clock is set.${dose}`
      : `On ${shortDate(change.date)} clocks go ${change.hours < 24 ? `forward: the skipped hour is not lit, the day has ${change.hours} hours` : `back: the repeated hour is lit twice, the day has ${change.hours} hours`}.${dose}`;
  };
  return (
    <Section title="Clock">
      <Type testID="clock-said">{words()}</Type>
      <Type kind="small">{`Days follow ${zone.timeZone}. Whether a lamp’s clock does is a property of its controller.`}</Type>
    </Section>
  );
}
