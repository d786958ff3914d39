import { useMemo } from 'react';
import { View } from 'react-native';

import {
  type Edge,
  LEAST_EPISODES,
  LEAST_STEPS,
  livedThrough,
  shownCeiling,
  shownRange,
} from '@/core/case/shown';
import { ceilingFor, CEILINGS } from '@/core/easing/accustomed';
import { BEARS_LEAST, BEARS_MOST, kindPace, type Wants } from '@/core/record/needs';
import type { Spot, Zone } from '@/core/record/zone';
import { inWords, plural } from '@/core/shape/counts';
import { useDesk } from '@/state/desk';
import { useAccustomed, useCalibration } from '@/state/light';
import { useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Fold } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { times, umol } from '../shared/words';

const edgeWords = ({ low, mid, high }: Edge) => `${umol(mid)} µmol (${umol(low)} to ${umol(high)})`;

/** What a coral has shown of the light it likes, beside its kind's range: taken only when the keeper takes it. */
export function Shown({
  zone,
  spot,
  kind,
  onTake,
  onBears,
}: {
  zone: Zone;
  spot: Spot;
  /** what its kind wants */
  kind: Wants;
  onTake: (wants: Wants) => void;
  /** the step it bears at once is taken from what it has shown */
  onBears: (ratio: number) => void;
}) {
  const { bundle } = useDesk();
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const index = zone.spots.findIndex((s) => s.id === spot.id);
  const lived = useMemo(
    () =>
      accustomed && index >= 0
        ? livedThrough(zone, bundle.history, bundle.log, accustomed.changes, index, utcIso(nowMs))
        : null,
    [accustomed, zone, bundle.history, bundle.log, index, nowMs],
  );
  if (!lived) return null;
  const { episodes, steps } = lived;
  const shown = shownRange(kind, episodes);
  const [well, badly] = [true, false].map((w) => steps.filter((s) => s.well === w).map((s) => s.ratio));
  const usual = ceilingFor(CEILINGS.usual, kindPace(spot));
  const bears = shownCeiling(usual, steps);
  // down to the twentieth: what is taken is never more than was shown
  const taking = Math.min(BEARS_MOST, Math.max(BEARS_LEAST, Math.floor(bears.mid * 20) / 20));
  const enough = episodes.length >= LEAST_EPISODES;
  const taken = {
    fromUmol: Math.round(shown.from.mid / 5) * 5,
    toUmol: Math.round(shown.to.mid / 5) * 5,
  };
  return (
    <Fold title="What it has shown" testID="shown-open">
      <View style={{ gap: space.s }} testID="shown">
        <Type>
          {enough
            ? `By ${inWords(episodes.length)} stretches of three weeks and more under one light, with what was seen in them, it wants from ${edgeWords(shown.from)} to ${edgeWords(shown.to)}; its kind ${kind.fromUmol} to ${kind.toUmol}.`
            : `${plural(episodes.length, 'stretch', 'stretches')} of three weeks and more under one light with something seen in ${episodes.length === 1 ? 'it' : 'them'}: below ${inWords(LEAST_EPISODES)} its kind's ${kind.fromUmol} to ${kind.toUmol} µmol stand.`}
        </Type>
        {shown.confounded > 0 && (
          <Type kind="small">
            {`In ${inWords(shown.confounded)} of them something else that changed fits as well; they count for less.`}
          </Type>
        )}
        {steps.length > 0 && (
          <Type kind="small">
            {[
              well!.length > 0 ? `Steps borne well: up to ${times(Math.max(...well!))}.` : '',
              badly!.length > 0
                ? `Steps after which it paled or drew in: from ${times(Math.min(...badly!))}.`
                : '',
            ]
              .filter(Boolean)
              .join(' ')}
          </Type>
        )}
        {steps.length >= LEAST_STEPS && (
          <>
            <Type testID="shown-bears">
              {`After ${inWords(steps.length)} steps up of which it is logged how it looked, it seems to bear a step up of ${times(bears.mid)} at once (${times(bears.low)} to ${times(bears.high)}); corals of its kind usually ${times(usual)}.`}
            </Type>
            <Button
              label={`Take ${times(taking)} as its ceiling`}
              onPress={() => onBears(taking)}
              testID="shown-take-bears"
            />
          </>
        )}
        <Type kind="small">
          In brackets 90 of 100. By the light as reckoned and the signs in the log; how sharp an edge is and
          how far corals of a kind differ are rules of thumb.
        </Type>
        {enough && taken.toUmol > taken.fromUmol && (
          <Button
            label={`Take ${taken.fromUmol} to ${taken.toUmol} µmol for it`}
            onPress={() => onTake(taken)}
            testID="shown-take"
          />
        )}
      </View>
    </Fold>
  );
}
