import { View } from 'react-native';

import { formatHours } from '@/core/day/clock';
import { daylightHours, driftMinutes } from '@/core/day/extras';
import { localDate, shortDate, useNowMs } from '@/state/time';
import { Choice, FieldRow } from '@/ui/Field';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { NumberField } from '../../shared/fields';
import { type PartProps, setting } from './part';

/** First and last light through the year. */
export function Drift({ desk }: PartProps) {
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
