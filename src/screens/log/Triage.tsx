import { useMemo } from 'react';
import { View } from 'react-native';

import { type Cause, fitWords, triage, type Triage as Found } from '@/core/case/triage';
import { signWords } from '@/core/record/log/sign';
import type { LogEventOf } from '@/core/record/log';
import { capital, plural } from '@/core/shape/counts';
import { useDesk } from '@/state/desk';
import { useAccustomed, useCalibration } from '@/state/light';
import { useNowMs } from '@/state/time';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { apart, giveOrTake, MOL, timesUsed, UMOL } from '../shared/words';

const causeWords = ({ light, words }: Cause): string =>
  light
    ? `light ${apart(UMOL, light.before.peak, light.after.peak).join(' → ')} µmol, ${apart(MOL, light.before.dli, light.after.dli).join(' → ')} mol a day: ${timesUsed(light.ratio, 'it was', light.bandShare)}${giveOrTake(light.bandShare).replace(/.+/, ' ($&)')}`
    : words;

const firstWords = ({ causes, lightStill, days, knownDays }: Found, name: string): string =>
  lightStill && knownDays > 0
    ? `The light at ${name} did not change in the ${knownDays < days ? `${plural(knownDays, 'day')} of which it is known what ran` : `${days} days`} before: leave the lamp alone.`
    : causes.length > 0
      ? `What changed for ${name} in the ${days} days before, what fits best first. Fitting is not proof.`
      : `Nothing that is logged changed for ${name} in the ${days} days before.`;

/** Before the lamp is touched: what changed in the weeks before a sign, by how well it fits, and what to look at. */
export function Triage({ event }: { event: Pick<LogEventOf<'sign'>, 'spotId' | 'sign' | 'atUtc'> }) {
  const { zone, bundle } = useDesk();
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const spot = zone.spots.findIndex((s) => s.id === event.spotId);
  const found = useMemo(
    () =>
      accustomed && spot >= 0
        ? triage(zone, bundle.history, bundle.log, accustomed.changes, spot, event.sign, event.atUtc)
        : null,
    [zone, bundle.history, bundle.log, accustomed, spot, event.sign, event.atUtc],
  );
  if (spot < 0) return null;
  if (!found) return <Type role="status">Looking at what changed before …</Type>;
  const { name } = zone.spots[spot]!;
  return (
    <Section title={`Before it was ${signWords(event.sign, zone.spots[spot]!)}`}>
      <Type testID="triage">{firstWords(found, name)}</Type>
      <View>
        {found.causes.map((c) => (
          <Row key={`${c.what} ${c.daysBefore} ${c.words}`} style={{ alignItems: 'flex-start' }}>
            <View style={{ flex: 1, gap: 2 }} testID={`cause-${c.what}`}>
              <Type>{capital(causeWords(c))}</Type>
              <Type kind="small">{`${c.daysBefore === 0 ? 'on that day' : `${plural(c.daysBefore, 'day')} before`}`}</Type>
            </View>
            <Type kind="label">{fitWords(c.fit)}</Type>
          </Row>
        ))}
      </View>
      <View style={{ gap: space.xs }}>
        {found.check.map((words) => (
          <Type key={words} kind="small">
            {`${capital(words)}.`}
          </Type>
        ))}
        <Type kind="small">
          When a cause shows, and how much of it, are rules of thumb. What nobody logged is not seen here.
        </Type>
      </View>
    </Section>
  );
}
