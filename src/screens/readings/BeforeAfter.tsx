import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { beforeAfter, type Under } from '@/core/case/beforeAfter';
import { type Calibration, levelsIn } from '@/core/case/calibration';
import { parUnder, zoneLight } from '@/core/case/light';
import type { Session } from '@/core/record/readings';
import type { Zone } from '@/core/record/zone';
import type { CaseBundle } from '@/core/record/documents';
import { useDesk } from '@/state/desk';
import { useCalibration } from '@/state/light';
import { remembered } from '@/state/remembered';
import { useSettings } from '@/state/settings';
import { usePlaces } from '@/state/tank';
import { longDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { Rail } from '@/ui/Rail';
import { Sentence } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';
import { umolExact } from '../shared/words';
import { chooseTank } from '../tank/useTankLight';

/** A case with two sessions alone; one that is set aside is compared all the same. */
const onlyTwo = remembered(
  (bundle: CaseBundle, a: string | undefined, b: string | undefined): CaseBundle => ({
    ...bundle,
    readings: {
      ...bundle.readings,
      sessions: bundle.readings.sessions
        .filter((s) => s.id === a || s.id === b)
        .map((s) => (s.counts ? s : { ...s, counts: true })),
    },
  }),
);

/** Two sessions set side by side, place by place, and whether evenness really changed. */
export function BeforeAfterPage() {
  const { zone, bundle } = useDesk();
  const page = usePageSize();
  const bound = useSettings((s) => s.tank.bound);
  const sessions = bundle.readings.sessions.filter((s) => s.zoneId === zone.id && s.readings.length > 0);
  const [first, setFirst] = useState<string | null>(null);
  const [second, setSecond] = useState<string | null>(null);
  const before = sessions.find((s) => s.id === first) ?? sessions[sessions.length - 2];
  const after = sessions.find((s) => s.id === second) ?? sessions[sessions.length - 1];
  const cal = useCalibration(onlyTwo(bundle, before?.id, after?.id), zone);
  const under = useUnder(before, zone, cal);
  const compared =
    before && after && before !== after && under ? beforeAfter(cal, before.id, after.id, bound, under) : null;
  const found = compared?.found;
  const modelled = found?.places.filter((p) => p.readBefore !== null).length ?? 0;
  const label = (s: (typeof sessions)[number]) =>
    `${s.name}, ${longDate(Date.parse(s.atUtc), zone.timeZone)}`;
  if (!before || !after || sessions.length < 2)
    return (
      <Page title="Before and after" under={zone.name} testID="before-after">
        <Type>
          Two sessions at the same places are compared here, coral by coral: before and after a new lamp, a
          moved one, fresh carbon. There {sessions.length === 1 ? 'is one session' : 'is none'} yet.
        </Type>
        <Button label="Start a session" kind="filled" wide onPress={() => router.navigate('/readings')} />
      </Page>
    );
  const options = sessions.map((s) => ({ value: s.id, label: label(s) }));
  return (
    <Page
      title="Before and after"
      under={zone.name}
      testID="before-after"
      sentence={
        <Type kind="sentence" testID="evenness-verdict" style={{ maxWidth: 700 }}>
          {found
            ? `${VERDICTS[found.verdict]} The spread went from ${percent(found.before.cv)} to ${percent(found.after.cv)} of the mean; the meter’s noise alone could make it differ by ${(100 * 1.645 * found.cvNoise).toFixed(1)} points.`
            : before === after
              ? 'Choose two different sessions.'
              : !compared
                ? 'Computing …'
                : 'These two sessions share fewer than two places: read the same ones again.'}
          {modelled > 0 &&
            ` ${modelled === found!.places.length ? 'All were' : modelled === 1 ? 'One place was' : `${modelled} places were`} read under another light before: the model brings ${modelled === 1 ? 'it' : 'them'} under the later one.`}
          {compared &&
            compared.unlike.length > 0 &&
            ` Not compared, because read under another light: ${compared.unlike.join(', ')}.`}
        </Type>
      }
      side={
        <>
          <Sentence
            parts={[
              'From ',
              {
                ...{ id: 'before', name: 'Before', value: label(before), chosen: before.id },
                ...{ options, onChoose: setFirst },
              },
              ' to ',
              {
                ...{ id: 'after', name: 'After', value: label(after), chosen: after.id },
                ...{ options, onChoose: setSecond },
              },
              '.',
            ]}
          />
        </>
      }
    >
      {found && (
        <>
          <Section title="Place by place">
            <View testID="changes">
              {found.places.map((p) => (
                <Row key={p.name} style={{ minHeight: 48 }}>
                  <View style={{ flex: 1 }}>
                    <Type kind="label">{p.name}</Type>
                    <Type kind="small">
                      {p.real
                        ? `beyond noise, ±\u00a0${percent(1.645 * p.error)}`
                        : `within noise, ±\u00a0${percent(1.645 * p.error)}`}
                      {p.readBefore !== null &&
                        ` · ${umolExact(p.readBefore)} read before, ${umolExact(p.before)} under the later light by the model`}
                    </Type>
                  </View>
                  <Type kind="small">{`${umolExact(p.before)} → ${umolExact(p.after)} µmol`}</Type>
                  <Type kind="strong" style={{ width: 70, textAlign: 'right' }}>
                    {`${p.change >= 0 ? '+' : '−'}${percent(Math.abs(p.change))}`}
                  </Type>
                </Row>
              ))}
            </View>
          </Section>
          <Section title="Evenness over these places">
            <View testID="evenness-table">
              {(
                [
                  ['Mean', umolExact(found.before.mean), umolExact(found.after.mean)],
                  ['Standard deviation', umolExact(found.before.sd), umolExact(found.after.sd)],
                  ['Coefficient of variation', percent(found.before.cv), percent(found.after.cv)],
                  [
                    'Hot places',
                    count(found.before.hot, found.before.count),
                    count(found.after.hot, found.after.count),
                  ],
                  [
                    'Cold places',
                    count(found.before.cold, found.before.count),
                    count(found.after.cold, found.after.count),
                  ],
                ] as const
              ).map(([name, a, b]) => (
                <Row key={name} style={{ minHeight: 44 }}>
                  <Type kind="label" style={{ flex: 1 }}>
                    {name}
                  </Type>
                  <Type kind="small">{a}</Type>
                  <Type kind="strong" style={{ width: 70, textAlign: 'right' }}>
                    {b}
                  </Type>
                </Row>
              ))}
            </View>
            <Rail
              label="Hot or cold beyond"
              value={Math.round(bound * 100)}
              min={5}
              max={60}
              step={1}
              valueText={`± ${percent(bound)} of the mean`}
              width={page.main}
              onChange={(v) => chooseTank({ bound: v / 100 })}
              testID="bound"
            />
          </Section>
          <Type kind="small">
            PAR, each reading corrected for its meter and mix; where a place was read under several lights,
            one that both sessions share, else the brightest.
          </Type>
        </>
      )}
    </Page>
  );
}

/** What the model gives the places of a session under other levels; null until it is known. */
function useUnder(session: Session | undefined, zone: Zone, cal: Calibration): Under | null {
  const read = cal.residuals.filter((r) => r.sessionId === session?.id);
  const rig = session?.rig ?? [];
  const places = read.map((r) => ({
    xCm: r.xCm,
    yCm: r.yCm,
    depthCm: Math.max(0, r.depthCm - session!.meter.sensorAboveCm),
    openShare: zone.spots.find((s) => s.id === r.spotId)?.openShare ?? 1,
  }));
  const matrix = usePlaces(rig, zone, places, cal);
  const light = matrix && zoneLight(matrix, rig, cal);
  if (places.length > 0 && rig.length > 0 && !light) return null;
  return ({ readingId }, levels) => {
    const i = read.findIndex((r) => r.readingId === readingId);
    const lit = rig.map((g) => levelsIn(g, levels));
    return light && i >= 0 ? parUnder(light, lit, i) : null;
  };
}

const count = (share: number, of: number) => `${Math.round(share * of)} of ${of}`;
const VERDICTS = {
  'more even': 'The light is more even now.',
  'less even': 'The light is less even now.',
  'cannot tell': 'Whether evenness changed cannot be told from these readings.',
} as const;
