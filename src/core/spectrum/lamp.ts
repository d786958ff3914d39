import { lookUp } from '../shape/table';
import { emissionSpectrum, type Emission } from './emission';
import { channelLevels, controlPerChannel, dims } from './controls';
import { emittedShares } from './drive';
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

/** Photon efficacy of a narrow emitter at this peak, µmol J⁻¹ (rule of thumb). */
export const efficacyUmolPerJ = (peakNm: number): number => lookUp(EFFICACY, peakNm);

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

const spectraKept = new WeakMap<Channel, Spectrum>();

/** `channelSpectrum`, kept with the channel, which never changes in place. Not to be written to. */
export function keptSpectrum(channel: Channel): Spectrum {
  let s = spectraKept.get(channel);
  if (!s) spectraKept.set(channel, (s = channelSpectrum(channel)));
  return s;
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
