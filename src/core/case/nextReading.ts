import { dot, times } from '../meter/linear';
import { METER_NOISE_SHARE, METER_NOISE_UMOL, NINETY } from '../meter/noise';
import { type Calibration, slopesOf } from './calibration';
import { partsOf, parUnder, type ZoneLight } from './light';
import type { HungGroup } from './lit';

export interface NextReading {
  spot: number;
  /** group and channel to light alone at full; null = the levels asked about */
  alone: { groupId: string; channelId: string } | null;
  /** mean 90 % half band over the corals now and after it, as shares */
  bandBefore: number;
  bandAfter: number;
}

/**
 * The reading that would narrow the bands over the corals most: the place and light that take the most from their mean relative
 * variance (A-optimal, one step ahead). Source: optimal design of experiments. Mark: standard.
 * @param levels the light that matters at the corals; @param corals places that matter, as spots of the light
 */
export function nextReading(
  cal: Calibration,
  light: ZoneLight,
  groups: readonly HungGroup[],
  levels: readonly (readonly number[])[],
  corals: readonly number[],
): NextReading | null {
  const lit = corals.filter((s) => parUnder(light, levels, s) > 1);
  if (lit.length === 0) return null;
  const relative = lit.map((s) => {
    const sum = parUnder(light, levels, s);
    return slopesOf(cal, partsOf(light, groups, levels, s)).map((v) => v / sum);
  });
  const spread = relative.map((g) => times(cal.covariance, g));
  const before = relative.map((g, i) => dot(g, spread[i]!));
  let best: NextReading | null = null;
  let most = 0;
  for (let spot = 0; spot < light.spots; spot += 1) {
    for (const { alone, under } of lightings(groups, levels)) {
      const sum = parUnder(light, under, spot);
      if (sum < 5) continue;
      const h = slopesOf(cal, partsOf(light, groups, under, spot));
      // the same meter reads with the same scale again: what it shares with the parameters is no news
      const { variance, cross } = cal.meter;
      const Ch = times(cal.covariance, h).map((v, i) => v + sum * cross[i]!);
      const seen = dot(h, times(cal.covariance, h)) + 2 * sum * dot(h, cross) + sum * sum * variance;
      const noise = (METER_NOISE_SHARE * sum + METER_NOISE_UMOL) ** 2;
      const after = relative.map((g, i) => Math.max(0, before[i]! - dot(g, Ch) ** 2 / (noise + seen)));
      const gain = mean(before) - mean(after);
      if (gain > most * (1 + 1e-9)) {
        most = gain;
        best = {
          spot,
          alone,
          bandBefore: NINETY * mean(before.map(Math.sqrt)),
          bandAfter: NINETY * mean(after.map(Math.sqrt)),
        };
      }
    }
  }
  return best;
}

const mean = (values: readonly number[]) => values.reduce((s, v) => s + v, 0) / values.length;

function lightings(groups: readonly HungGroup[], levels: readonly (readonly number[])[]) {
  const dark = groups.map((g) => g.lampKind.channels.map(() => 0));
  return [
    { alone: null as NextReading['alone'], under: levels },
    ...groups.flatMap((g, i) =>
      g.lampKind.channels.map((c, k) => ({
        alone: { groupId: g.groupId, channelId: c.id } as NextReading['alone'],
        under: dark.map((row, j) => (j === i ? row.map((_, m) => (m === k ? 1 : 0)) : row)),
      })),
    ),
  ];
}
