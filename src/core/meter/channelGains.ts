import { type Fit, fit } from './fit';
import { GAIN_BOUNDS, LEAST_READINGS, PRIOR_SHARE, UNREAD_SHARE } from './noise';

export interface ChannelGains {
  gain: number[];
  standardError: number[];
  fit: Fit;
}

/**
 * One gain per channel from readings of a linear model: reading = Σ gain × light. With fewer than three readings only one
 * overall gain moves, and a channel not read alone keeps a standard error of at least 0.10.
 * @param light [reading][channel] the model's value of each channel in each reading, µmol m⁻² s⁻¹
 */
export function channelGains(
  observed: readonly number[],
  light: readonly (readonly number[])[],
): ChannelGains {
  const channels = light[0]?.length ?? 0;
  const few = observed.length < LEAST_READINGS;
  const rows = few ? light.map((row) => [row.reduce((s, v) => s + v, 0)]) : light;
  const size = few ? 1 : channels;
  const found = fit({
    observed,
    predict: (p) => ({
      value: rows.map((row) => row.reduce((s, v, c) => s + v * p[c]!, 0)),
      slope: rows.map((row) => [...row]),
    }),
    prior: {
      mean: Array.from({ length: size }, () => 1),
      covariance: Array.from({ length: size }, (_, i) =>
        Array.from({ length: size }, (__, j) => (i === j ? PRIOR_SHARE ** 2 : 0)),
      ),
    },
    bounds: Array.from({ length: size }, () => GAIN_BOUNDS),
  });
  const error = (c: number) => {
    const own = Math.sqrt(found.covariance[few ? 0 : c]![few ? 0 : c]!);
    return few && !readAlone(light, c) ? Math.max(own, UNREAD_SHARE) : own;
  };
  return {
    gain: Array.from({ length: channels }, (_, c) => found.parameters[few ? 0 : c]!),
    standardError: Array.from({ length: channels }, (_, c) => error(c)),
    fit: found,
  };
}

/** True when some reading saw this channel and no other. */
const readAlone = (light: readonly (readonly number[])[], c: number): boolean =>
  light.some((row) => row[c]! > 0 && row.every((v, k) => k === c || v === 0));
