import { emissionSpectrum, type Emission } from './emission';
import { addScaled, type Spectrum, zeroSpectrum } from './grid';

/** What the emitters of one group send out; the flux comes from count × watts. */
export type GroupShape =
  | { shape: 'line'; peakNm: number; fwhmNm: number }
  | {
      shape: 'table';
      points: [nm: number, value: number][];
      quantity: 'energy' | 'photon';
      efficacyUmolPerJ: number;
    };

export interface EmitterGroup {
  light: GroupShape;
  count: number;
  /** electrical watts per emitter at full drive */
  wattsEach: number;
}

/** What one drive signal lights. */
export interface Channel {
  id: string;
  name: string;
  groups: EmitterGroup[];
}

/** What the lamp's controller accepts. */
export interface ControllerProfile {
  /** step of the typed percents as a share: 0.01 = whole percents; 0 = any value */
  pointStepShare: number;
  /** how the lamp goes from one point to the next */
  interpolation: 'ramp' | 'hold';
}

/** The lamp as physics. */
export interface LampKind {
  id: string;
  name: string;
  channels: Channel[];
  /** full beam angle at half intensity, degrees */
  beamAngleDeg: number;
  faceLengthCm: number;
  faceWidthCm: number;
  controller: ControllerProfile;
}

/** Typical photon efficacy at the emitter, µmol J⁻¹ by peak wavelength, mid-range, linear between rows. Mark: rule of thumb. */
const EFFICACY: readonly (readonly [peakNm: number, umolPerJ: number])[] = [
  [365, 1.3],
  [395, 1.5],
  [410, 1.8],
  [430, 1.95],
  [445, 2.4],
  [456, 2.4],
  [470, 2.15],
  [495, 1.6],
  [525, 1.3],
  [590, 1.2],
  [630, 2.2],
  [660, 3.1],
  [680, 3.1],
  [730, 2.6],
];
/** Light that leaves the lens over light that leaves the emitter. Mark: rule of thumb. */
export const OPTIC_SHARE = 0.85;
/** Emitter watts over wall watts. Mark: rule of thumb. */
export const DRIVER_EFFICIENCY = 0.88;

/** Photon efficacy of a narrow emitter at this peak, µmol J⁻¹ (rule of thumb). */
export function efficacyUmolPerJ(peakNm: number): number {
  const first = EFFICACY[0]!;
  if (peakNm <= first[0]) return first[1];
  for (let i = 1; i < EFFICACY.length; i += 1) {
    const [x1, y1] = EFFICACY[i]!;
    const [x0, y0] = EFFICACY[i - 1]!;
    if (peakNm <= x1) return y0 + ((y1 - y0) * (peakNm - x0)) / (x1 - x0);
  }
  return EFFICACY[EFFICACY.length - 1]![1];
}

const groupEfficacy = (g: EmitterGroup) =>
  g.light.shape === 'table' ? g.light.efficacyUmolPerJ : efficacyUmolPerJ(g.light.peakNm);

/** Photon flux 360-780 nm that leaves the lamp from one emitter group at full drive, µmol s⁻¹. */
export const groupFluxUmolPerS = (g: EmitterGroup): number =>
  g.count * g.wattsEach * groupEfficacy(g) * OPTIC_SHARE;

/** The group's emission as it leaves the lamp at full drive. */
export function groupEmission(g: EmitterGroup): Emission {
  const flux = groupFluxUmolPerS(g);
  return g.light.shape === 'table'
    ? { shape: 'table', points: g.light.points, quantity: g.light.quantity, flux }
    : { shape: 'line', peakNm: g.light.peakNm, fwhmNm: g.light.fwhmNm, flux };
}

/** Emitted photon spectrum of a channel at full drive, µmol s⁻¹ nm⁻¹. */
export function channelSpectrum(channel: Channel): Spectrum {
  const out = zeroSpectrum();
  for (const g of channel.groups) addScaled(out, emissionSpectrum(groupEmission(g)), 1);
  return out;
}

/** Electrical watts at the emitters of a channel at full drive. */
const channelEmitterWatts = (channel: Channel): number =>
  channel.groups.reduce((sum, g) => sum + g.count * g.wattsEach, 0);

/** Watts drawn from the wall by one lamp at these channel levels (rule of thumb for the driver). */
export function wallWatts(kind: LampKind, levels: Readonly<Record<string, number>>): number {
  return (
    kind.channels.reduce((sum, c) => sum + channelEmitterWatts(c) * (levels[c.id] ?? 0), 0) /
    DRIVER_EFFICIENCY
  );
}

/** The same with every channel at full. */
export const fullWallWatts = (kind: LampKind): number =>
  wallWatts(kind, Object.fromEntries(kind.channels.map((c) => [c.id, 1])));

/** Exponent m of cosᵐθ for a full beam angle (half intensity at half the angle), degrees. */
export function beamExponent(beamAngleDeg: number): number {
  return Math.log(0.5) / Math.log(Math.cos((beamAngleDeg * Math.PI) / 360));
}

/** True when a channel has photons that look dimmer than they are: eyes need care beside it (peak below 435 nm). */
export const needsEyeCaution = (channel: Channel): boolean =>
  channel.groups.some((g) => g.light.shape === 'line' && g.light.peakNm < 435);
