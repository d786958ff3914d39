import { useState, useMemo } from 'react';
import { View } from 'react-native';

import { brightestUmol, moonColour, moonStrength } from '@/core/case/moonlight';
import { formatEnd, formatTime } from '@/core/day/clock';
import { MOON_MOST_UMOL, moonAsThreads, moonOn } from '@/core/day/extras';
import { colourClass } from '@/core/library/colours';
import { dims } from '@/core/spectrum/controls';
import { setExtras } from '@/state/commands/days';
import { takeDay } from '@/state/days';
import { run } from '@/state/session';
import { localDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { parseNumber } from '@/ui/parseNumber';
import { space } from '@/ui/theme';

import { NumberField, TimeField } from '../../shared/fields';
import { percent } from '@/core/shape/percent';
import { umol } from '../../shared/words';
import { type PartProps, setting } from './part';

const MOST_DEG = { latitudeDeg: 90, longitudeDeg: 180 } as const;

/** Moonlight: fixed or as the real moon, limited to what a moon may be. */
export function Night({ desk, light, groups }: PartProps) {
  const { doc, zone, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const moon = group.extras?.moon;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const [problem, setProblem] = useState<string | null>(null);
  const lamp = useMemo(
    () => (light ? { kind, capShare: group.capShare, par: light.par[index]! } : null),
    [light, kind, group.capShare, index],
  );
  const colour = useMemo(() => (lamp ? moonColour(lamp) : null), [lamp]);
  const blues = kind.controls.some((c) => c.kind === 'level' && colourClass(kind, c) === 'blue');
  if (!dims(kind) || !blues)
    return (
      <Section title="Moonlight">
        <Type>
          {dims(kind)
            ? 'This lamp has no blue that can be set alone, so no faint night. A small night light of its own is the cheapest remedy.'
            : 'This lamp is on or off: it has no faint night. A small night light of its own is the cheapest remedy.'}
        </Type>
      </Section>
    );
  const now = moon && lamp ? brightestUmol(lamp, moon.mix, moon.strengthShare) : null;
  const sky = moon?.real
    ? moonOn(moon.real, { date: localDate(nowMs, zone.timeZone), timeZone: zone.timeZone })
    : null;
  const turnOn = (wanted: number): string | null => {
    if (!lamp || !colour) return 'The light is still being computed: try again in a moment.';
    const strengthShare = moonStrength(lamp, colour.id, wanted);
    if (strengthShare === null)
      return `The faintest setting of ${colour.name} already gives ${umol(colour.leastUmol)} µmol at the brightest coral; a moon is at most ${MOON_MOST_UMOL} µmol. A small night light of its own is the cheapest remedy.`;
    return setting(group, {
      moon: {
        fromMinute: moon?.fromMinute ?? 1320,
        toMinute: moon?.toMinute ?? 360,
        real: moon?.real ?? null,
        mix: { [colour.id]: 1 },
        strengthShare,
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
          {`Tonight the moon is ${percent(sky.litShare)} lit; up ${sky.up.length === 0 ? 'not at all' : sky.up.map(([a, b]) => `${formatTime(a)}–${formatEnd(b)}`).join(' and ')}.`}
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
