import { fit, type Fit } from './fit';
import { dot, times } from './linear';
import { NINETY } from './noise';

/** Light at places from each channel of each lamp at the levels it has there: [place][lamp][channel], µmol m⁻² s⁻¹. */
export type ByLamp = readonly (readonly (readonly number[])[])[];

/** How far off may be what is asked for, before any reading: standard deviations of logarithms. */
export interface GainDoubt {
  /** shared by all channels, of each channel, of each lamp, of the meter's scale */
  shared: number;
  channel: number;
  lamp: number;
  scale: number;
}

export interface LampGains {
  /** per channel and per lamp, factors on the model, with standard errors of them */
  gain: number[];
  standardError: number[];
  lampGain: number[];
  lampStandardError: number[];
  /** light at any places, and the half width of its 90 % band as a share */
  at: { par: number; bandShare: number }[];
  fit: Fit;
}

const BOUND = Math.log(20);
/** Degrees of freedom: readings have heavy tails, lamps heavier ones. Mark: rule of thumb. */
const TAILS = { noise: 4, lamp: 2 } as const;

/** Gains of channels and of lamps from readings, each kept as doubtful as before where readings do not tell it. */
export function lampGains(
  observed: readonly number[],
  light: ByLamp,
  doubt: GainDoubt,
  places: ByLamp = [],
): LampGains {
  const lamps = light[0]?.length ?? 0;
  const channels = light[0]?.[0]?.length ?? 0;
  const size = channels + lamps + 1;
  const scale = size - 1;
  const sum = (p: readonly number[], of: ByLamp[number]) => {
    const slope = new Array<number>(size).fill(0);
    of.forEach((own, l) =>
      own.forEach((v, c) => {
        const term = v * Math.exp(p[c]! + p[channels + l]!);
        slope[c]! += term;
        slope[channels + l]! += term;
      }),
    );
    return { value: slope.slice(0, channels).reduce((s, v) => s + v, 0), slope };
  };
  const found = fit({
    observed,
    predict: (p) => {
      const rows = light.map((of) => {
        const { value, slope } = sum(p, of);
        const shown = Math.exp(p[scale]!);
        return { value: value * shown, slope: slope.map((s, i) => (i === scale ? value : s) * shown) };
      });
      return { value: rows.map((r) => r.value), slope: rows.map((r) => r.slope) };
    },
    prior: {
      mean: new Array<number>(size).fill(0),
      covariance: Array.from({ length: size }, (_, i) =>
        Array.from({ length: size }, (__, j) => {
          if (i < channels && j < channels) return doubt.shared ** 2 + (i === j ? doubt.channel ** 2 : 0);
          return i !== j ? 0 : (i === scale ? doubt.scale : doubt.lamp) ** 2;
        }),
      ),
    },
    bounds: Array.from({ length: size }, () => [-BOUND, BOUND]),
    noiseTails: TAILS.noise,
    priorTails: new Map(
      Array.from({ length: lamps }, (_, l) => [channels + l, { nu: TAILS.lamp, heldAtMost: 1 }]),
    ),
  });
  const factor = (i: number) => Math.exp(found.parameters[i]!);
  const error = (i: number) => factor(i) * Math.sqrt(found.covariance[i]![i]!);
  const all = Array.from({ length: channels }, (_, c) => c);
  const hung = Array.from({ length: lamps }, (_, l) => channels + l);
  return {
    gain: all.map(factor),
    standardError: all.map(error),
    lampGain: hung.map(factor),
    lampStandardError: hung.map(error),
    at: places.map((of) => {
      const { value, slope } = sum(found.parameters, of);
      const share = slope.map((s) => (value > 0 ? s / value : 0));
      return {
        par: value,
        bandShare: NINETY * Math.sqrt(Math.max(0, dot(share, times(found.covariance, share)))),
      };
    }),
    fit: found,
  };
}
