import { View } from 'react-native';

import type { CoralJudgement, Judgement } from '@/core/case/judgement';
import { PLACES, verdict } from '@/core/case/verdict';
import type { Zone } from '@/core/record/zone';
import { Note, Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { mol, tenantsOf, timesOf, umol } from '../shared/words';

/** What a coral is used to, what it would get, and how that lies against what it wants. */
function rowWords({ step, peak, dayMol, wants, placed }: CoralJudgement): string {
  const gets = `${mol(dayMol!)}, ${umol(peak.umol)}`;
  return [
    step
      ? `used to ${mol(step.accustomed.dli)} mol a day, peak ${umol(step.accustomed.peak)} µmol → ${gets}`
      : `does not live by light; ${gets} µmol`,
    wants && placed && `${PLACES[placed.place].words} for its ${wants.fromUmol}–${wants.toUmol}`,
  ]
    .filter(Boolean)
    .join('; ');
}

/** Whether the day is safe, coral by coral. */
export function Safe({
  zone,
  judged,
  error,
  usedToIt,
  known,
  basis,
}: {
  zone: Zone;
  judged: Judgement | null;
  error: string | null;
  /** said to be what they are used to already */
  usedToIt: boolean;
  /** false where nothing is known to have run */
  known: boolean;
  basis: () => string;
}) {
  return (
    <Section title="Is it safe?">
      {error ? (
        <Note>{`The light could not be computed: ${error}. Reload the page; nothing is lost.`}</Note>
      ) : !judged ? (
        <Type quiet>
          {zone.spots.length === 0
            ? 'Add a spot under Case to see what light it would get.'
            : 'Computing the light …'}
        </Type>
      ) : (
        <>
          <Type kind="strong" testID="safety">
            {verdict(judged, tenantsOf(zone.spots))}
          </Type>
          {judged.corals.map((c) => (
            <Row key={zone.spots[c.spot]!.id}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{c.name}</Type>
                <Type kind="small">{rowWords(c)}</Type>
              </View>
              {c.step && !usedToIt && (
                <Type kind="strong" testID={`ratio-${c.name}`}>
                  {timesOf(c.step)}
                </Type>
              )}
            </Row>
          ))}
          <Type kind="small">
            {known
              ? 'Used to: from what ran here; 10 days to grow used to more light, 7 to less, 4 and 3 for macroalgae (rule of thumb). × counts light as corals take it, µmol and mol are PAR.'
              : 'Nothing is known to have run: each counts as used to the lower edge of its band for 8 hours (rule of thumb).'}
            {` Light: ${basis()}.`}
          </Type>
        </>
      )}
    </Section>
  );
}
