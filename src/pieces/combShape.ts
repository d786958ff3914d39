import { tintOf } from '@/core/colour/tint';
import { channelLevels } from '@/core/spectrum/controls';
import type { Control, Levels, LampKind } from '@/core/spectrum/lampKind';
import { FIRST_NM, LAST_NM, addScaled, indexOfNm, nmAt, zeroSpectrum } from '@/core/spectrum/grid';
import { keptSpectrum, needsEyeCaution } from '@/core/spectrum/lamp';

/** A control as the comb draws it: one hump with one grip. A tint has none: it moves sideways, on its own rail. */
export interface Crest {
  id: string;
  name: string;
  kind: Exclude<Control['kind'], 'tint'>;
  /** where its grip stands: by its light, but apart from the others */
  nm: number;
  /** what its light is called: where it peaks, or how white it is */
  light: string;
  /** photon flux per nm with the control at full and the others as they are, on the grid */
  full: Float64Array;
  top: number;
  caution: boolean;
  /** a trim's lowest and highest factor, over the highest: how much of `full` stands at its two ends */
  from: number;
}

/** Grips stand at least this far apart. */
const APART_NM = 12;
/** Peaks below this share of the highest are no place for a grip. */
const NOTABLE = 0.25;

/** A channel's peaks, highest first. */
function peaks(s: Float64Array): number[] {
  const found: number[] = [];
  const top = Math.max(...s);
  for (let i = 1; i < s.length - 1; i += 1) {
    if (s[i]! >= NOTABLE * top && s[i]! > s[i - 1]! && s[i]! >= s[i + 1]!) found.push(i);
  }
  return found.sort((a, b) => s[b]! - s[a]!).map(nmAt);
}

/** Light at least this broad can be white, and has no one peak to go by. Mark: rule of thumb. */
const BROAD_NM = 60;
/** Peaks so far apart are two colours. Mark: rule of thumb. */
const TWO_NM = 40;

/** A white by its colour temperature, other light by where it peaks. */
function called(s: Float64Array, grip: number): string {
  const found = peaks(s);
  if (found.length === 0) return `${grip} nm`;
  const cctK = breadthOf(s) >= BROAD_NM ? tintOf(s)?.cctK : null;
  if (cctK) return `about ${Math.round(cctK / 100) * 100} K`;
  const first = found.includes(grip) ? grip : found[0]!;
  const second = found.find((nm) => Math.abs(nm - first) >= TWO_NM);
  return `${[first, second].filter((nm) => nm !== undefined).join(' + ')} nm`;
}

/** How wide the light would be if it were all as strong as at its highest, nm. */
function breadthOf(s: Float64Array): number {
  const top = Math.max(...s);
  return top > 0 ? s.reduce((sum, v) => sum + v, 0) / top : Infinity;
}

/** The centre of gravity of a channel's broad part: its photons above 480 nm, or all of them. */
function centre(s: Float64Array): number {
  const from = indexOfNm(480);
  let sum = 0;
  let moment = 0;
  for (let i = from; i < s.length; i += 1) {
    sum += s[i]!;
    moment += s[i]! * nmAt(i);
  }
  return sum > 0 ? Math.round(moment / sum) : 480;
}

/** Light of channels at these drive levels. */
function lightOf(kind: LampKind, levels: readonly number[]): Float64Array {
  const out = zeroSpectrum();
  levels.forEach((v, i) => {
    if (v > 0) addScaled(out, keptSpectrum(kind.channels[i]!), v);
  });
  return out;
}

/** What one control does at full while the others stay: its hump. */
function fullOf(kind: LampKind, control: Control, mix: Levels): Float64Array {
  if (control.kind === 'level' || control.kind === 'onOff') {
    const out = zeroSpectrum();
    kind.channels.forEach((c, i) => {
      const share = control.drives[c.id] ?? 0;
      if (share > 0) addScaled(out, keptSpectrum(kind.channels[i]!), share);
    });
    return out;
  }
  const tint = kind.controls.find((c) => c.kind === 'tint');
  if (control.kind === 'brightness')
    return lightOf(
      kind,
      channelLevels(kind, { [control.id]: 1, ...(tint ? { [tint.id]: mix[tint.id] ?? 0 } : {}) }),
    );
  // a trim: only its own channels, at its highest factor
  const own = new Set(control.kind === 'trim' ? control.channelIds : []);
  const levels = channelLevels(kind, { ...mix, [control.id]: 1 });
  return lightOf(
    kind,
    levels.map((v, i) => (own.has(kind.channels[i]!.id) ? v : 0)),
  );
}

/** What of a mix the humps of a lamp depend on: nothing, unless one control acts on what another drives. */
export const crestMix = (kind: LampKind, mix: Levels): Levels =>
  kind.controls.some((c) => c.kind === 'tint' || c.kind === 'trim') ? mix : {};

/**
 * Grips of a lamp: each control's highest peak that is at least 12 nm from another grip, else its broad band's centre.
 * Controls with the sharpest claim (narrowest light) choose first; a trim stands beside what it trims.
 */
export function crestsOf(kind: LampKind, mix: Levels = {}): Crest[] {
  const controls = kind.controls.filter((c): c is Exclude<Control, { kind: 'tint' }> => c.kind !== 'tint');
  const spectra = controls.map((c) => fullOf(kind, c, mix));
  // places must not wander while something is pulled: they are found with everything up
  const still = controls.map((c) =>
    c.kind === 'trim' || c.kind === 'brightness'
      ? fullOf(kind, c, Object.fromEntries(kind.controls.map((x) => [x.id, x.kind === 'tint' ? 0.5 : 1])))
      : fullOf(kind, c, mix),
  );
  const breadth = still.map(breadthOf);
  const order = controls.map((_, i) => i).sort((a, b) => breadth[a]! - breadth[b]!);
  const places: number[] = [];
  for (const i of order) {
    const free = (nm: number) => places.every((p) => p === undefined || Math.abs(p - nm) >= APART_NM);
    let nm = peaks(still[i]!).find(free) ?? centre(still[i]!);
    // two controls of the same colour stand side by side
    while (!free(nm) && nm < LAST_NM) nm += 1;
    places[i] = nm;
  }
  const caution = (c: (typeof controls)[number]) => {
    const ids = c.kind === 'trim' ? c.channelIds : c.kind === 'brightness' ? [] : Object.keys(c.drives);
    return kind.channels.some((ch) => ids.includes(ch.id) && needsEyeCaution(ch));
  };
  return controls.map((c, i) => ({
    id: c.id,
    name: c.name,
    kind: c.kind,
    nm: places[i]!,
    light: c.kind === 'brightness' ? 'all colours' : called(still[i]!, places[i]!),
    full: spectra[i]!,
    top: Math.max(...spectra[i]!),
    caution: caution(c),
    from: c.kind === 'trim' && c.toFactor > 0 ? c.fromFactor / c.toFactor : 0,
  }));
}

/** Share of its full hump that a control's value stands for. */
export const heightShare = (crest: Pick<Crest, 'kind' | 'from'>, value: number): number =>
  crest.kind === 'onOff'
    ? value > 0
      ? 1
      : 0
    : crest.kind === 'trim'
      ? crest.from + (1 - crest.from) * value
      : value;

/** The wavelengths a comb spans, rounded to 10 nm around what its channels hold. */
export function combSpan(crests: readonly Crest[]): [fromNm: number, toNm: number] {
  const first = Math.min(...crests.map((c) => c.nm));
  const last = Math.max(...crests.map((c) => c.nm));
  return [
    Math.max(FIRST_NM, Math.min(390, Math.floor((first - 24) / 10) * 10)),
    Math.min(LAST_NM, Math.max(700, Math.ceil((last + 24) / 10) * 10)),
  ];
}
