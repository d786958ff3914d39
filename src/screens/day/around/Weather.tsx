import { plural } from '@/core/shape/counts';
import { useState } from 'react';
import { View } from 'react-native';

import { weatherLoss } from '@/core/case/acted';
import { CLOUD_DEPTH_MOST, FLASHES_MOST } from '@/core/day/extras';
import { dims } from '@/core/spectrum/controls';
import { changeSettings, useSettings } from '@/state/settings';
import { addDays, localDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow } from '@/ui/Field';
import { Note, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { space } from '@/ui/theme';

import { NumberField } from '../../shared/fields';
import { percent } from '@/core/shape/percent';
import { type PartProps, setting } from './part';

const PLAIN_WEATHER = { seed: 1, depthShare: 0.3, cloudyShare: 0.5, storms: false, flashesPerSecond: 1 };

/** Clouds and distant storms, for fun; storms only after the caution. */
export function Weather({ desk, light, groups }: PartProps) {
  const { zone, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const read = useSettings((s) => s.flashesRead);
  const [asking, setAsking] = useState(false);
  const weather = group.extras?.weather;
  const index = groups.findIndex((g) => g.groupId === group.id);
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
    const { cloudy, storms, meanShare, mostShare } = weatherLoss(
      groups[index]!,
      weather,
      days,
      light.par[index]![spotIndex]!,
    );
    return `Of the next 30 days ${plural(cloudy, 'has', 'have')} clouds${weather.storms ? `, ${storms} a distant storm` : ''}; they take ${percent(meanShare)} of the light on average, ${percent(mostShare)} on the darkest day.`;
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
              hint="No more than web guidance allows on screens (WCAG 2.3.1). Where flashes can harm somebody, leave storms off."
              take={(v) => set({ flashesPerSecond: v })}
            />
          )}
        </>
      )}
    </Section>
  );
}
