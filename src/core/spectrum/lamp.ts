import { emissionSpectrum, type Emission } from './emission';
import { channelLevels, controlPerChannel, dims } from './controls';
import {
  type Channel,
  type ControllerProfile,
  type Dimming,
  type EmitterGroup,
  type LampKind,
  type Levels,
  LINEAR,
  PLAIN_CONTROLLER,
} from './lampKind';
import { addScaled, type Spectrum, withoutTails, zeroSpectrum } from './grid';

/** What a lamp kind needs at least; the rest is what most lamps are: LEDs spread over the face, a level per channel, no shared budget. */
export type PlainLamp = Pick<LampKind, 'id' | 'name' | 'beamAngleDeg' | 'faceLengthCm' | 'faceWidthCm'> & {
  channels: (Omit<Channel, 'dimming'> & { dimming?: Dimming })[];
  controller?: Partial<ControllerProfile>;
} & Partial<Pick<LampKind, 'source' | 'controls' | 'layout' | 'powerBudgetWatts' | 'price'>>;

/** A lamp kind from its particulars. */
export function lampKind(plain: PlainLamp): LampKind {
  const channels = plain.channels.map((c): Channel => ({ ...c, dimming: c.dimming ?? LINEAR }));
  const controls = plain.controls ?? controlPerChannel(channels);
  return {
    id: plain.id,
    name: plain.name,
    source: plain.source ?? 'led',
    channels,
    controls,
    layout: plain.layout ?? 'spread',
    powerBudgetWatts: plain.powerBudgetWatts ?? null,
    price: plain.price ?? null,
    beamAngleDeg: plain.beamAngleDeg,
    faceLengthCm: plain.faceLengthCm,
    faceWidthCm: plain.faceWidthCm,
    controller: {
      ...PLAIN_CONTROLLER,
      // what is only on or off hangs on clocks
      ...(controls.length === 0 || dims({ controls })
        ? {}
        : { name: 'Clock per circuit', sets: 'switch' as const }),
      ...plain.controller,
    },
  };
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
  g.count * (g.fluxEachUmolPerS ?? g.wattsEach * groupEfficacy(g) * OPTIC_SHARE);

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
  return withoutTails(out);
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

/** Wall watts of each channel at full, in order. */
export const channelWallWatts = (kind: LampKind): number[] =>
  kind.channels.map((c) => channelEmitterWatts(c) / DRIVER_EFFICIENCY);

/** The same with every channel at full. */
export const fullWallWatts = (kind: LampKind): number =>
  Math.min(
    channelWallWatts(kind).reduce((a, b) => a + b, 0),
    kind.powerBudgetWatts ?? Infinity,
  );

const spectraKept = new WeakMap<Channel, Spectrum>();

/** `channelSpectrum`, kept with the channel, which never changes in place. Not to be written to. */
export function keptSpectrum(channel: Channel): Spectrum {
  let s = spectraKept.get(channel);
  if (!s) spectraKept.set(channel, (s = channelSpectrum(channel)));
  return s;
}

/** Share of its full light that a channel emits at a drive level. */
export function lightOfDrive({ lowestLitShare, curve }: Dimming, level: number): number {
  if (level < lowestLitShare - 1e-9 || level <= 0) return 0;
  if (curve.length === 0) return level;
  const [x0, y0, x1, y1] = curvePiece(curve, level);
  return y0 + ((y1 - y0) * (level - x0)) / (x1 - x0);
}

/** The straight piece of a dimming curve that a level lies on; the curve starts at 0,0 and ends at 1,1. */
export function curvePiece(
  curve: Dimming['curve'],
  level: number,
): [x0: number, y0: number, x1: number, y1: number] {
  const next = curve.findIndex(([x]) => x >= level);
  const [x1, y1] = next < 0 ? [1, 1] : curve[next]!;
  const [x0, y0] = next === 0 ? [0, 0] : next < 0 ? curve[curve.length - 1]! : curve[next - 1]!;
  return [x0, y0, x1, y1];
}

const plain = new WeakMap<LampKind, boolean>();

/** Emitted share of full light per channel for drive levels: lowest lit level → power budget → dimming curve. */
export function emittedShares(kind: LampKind, drive: readonly number[]): number[] {
  let linear = plain.get(kind);
  if (linear === undefined) {
    linear =
      kind.powerBudgetWatts === null &&
      kind.channels.every((c) => c.dimming.lowestLitShare === 0 && c.dimming.curve.length === 0);
    plain.set(kind, linear);
  }
  if (linear) return [...drive];
  const lit = kind.channels.map((c, i) => (drive[i]! < c.dimming.lowestLitShare - 1e-9 ? 0 : drive[i]!));
  const factor = budgetFactor(kind, lit);
  return kind.channels.map((c, i) => lightOfDrive({ ...c.dimming, lowestLitShare: 0 }, lit[i]! * factor));
}

/** What the shared power budget leaves of lit drive levels, 0..1. */
export function budgetFactor(kind: LampKind, lit: readonly number[]): number {
  if (kind.powerBudgetWatts === null) return 1;
  const wanted = channelWallWatts(kind).reduce((sum, w, i) => sum + w * lit[i]!, 0);
  return wanted > kind.powerBudgetWatts ? kind.powerBudgetWatts / wanted : 1;
}

/** Photon spectrum that leaves one lamp for values of its controls, before any cap, µmol s⁻¹ nm⁻¹. */
export function mixSpectrum(kind: LampKind, mix: Levels): Spectrum {
  const out = zeroSpectrum();
  emittedShares(kind, channelLevels(kind, mix)).forEach((share, i) => {
    if (share > 0) addScaled(out, keptSpectrum(kind.channels[i]!), share);
  });
  return out;
}

/** Exponent m of cosᵐθ for a full beam angle (half intensity at half the angle), degrees. */
export function beamExponent(beamAngleDeg: number): number {
  return Math.log(0.5) / Math.log(Math.cos((beamAngleDeg * Math.PI) / 360));
}

/** True when a channel has photons that look dimmer than they are: eyes need care beside it (peak below 435 nm). */
export const needsEyeCaution = (channel: Channel): boolean =>
  channel.groups.some((g) => g.light.shape === 'line' && g.light.peakNm < 435);
