import { FIRST_NM, LAST_NM } from '@/core/spectrum/grid';
import { channelSpectrum, type LampKind, needsEyeCaution } from '@/core/spectrum/lamp';

/** A channel as the comb draws it. */
export interface Crest {
  id: string;
  name: string;
  /** where its grip stands */
  nm: number;
  /** photon flux per nm at full, on the grid, all lamps of the kind alike */
  full: Float64Array;
  top: number;
  caution: boolean;
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
  return found.sort((a, b) => s[b]! - s[a]!).map((i) => i + FIRST_NM);
}

/** The centre of gravity of a channel's broad part: its photons above 480 nm, or all of them. */
function centre(s: Float64Array): number {
  const from = 480 - FIRST_NM;
  let sum = 0;
  let moment = 0;
  for (let i = from; i < s.length; i += 1) {
    sum += s[i]!;
    moment += s[i]! * (i + FIRST_NM);
  }
  return sum > 0 ? Math.round(moment / sum) : 480;
}

/**
 * Grips of a lamp: each channel's highest peak that is at least 12 nm from another grip, else its broad band's centre.
 * Channels with the sharpest claim (narrowest light) choose first.
 */
export function crestsOf(kind: LampKind): Crest[] {
  const spectra = kind.channels.map((c) => channelSpectrum(c));
  const breadth = spectra.map((s) => {
    const top = Math.max(...s);
    return top > 0 ? s.reduce((sum, v) => sum + v, 0) / top : Infinity;
  });
  const order = kind.channels.map((_, i) => i).sort((a, b) => breadth[a]! - breadth[b]!);
  const places: number[] = [];
  for (const i of order) {
    const free = (nm: number) => places.every((p) => p === undefined || Math.abs(p - nm) >= APART_NM);
    let nm = peaks(spectra[i]!).find(free) ?? centre(spectra[i]!);
    // two channels of the same colour stand side by side
    while (!free(nm) && nm < LAST_NM) nm += 1;
    places[i] = nm;
  }
  return kind.channels.map((c, i) => ({
    id: c.id,
    name: c.name,
    nm: places[i]!,
    full: spectra[i]!,
    top: Math.max(...spectra[i]!),
    caution: needsEyeCaution(c),
  }));
}

/** The wavelengths a comb spans, rounded to 10 nm around what its channels hold. */
export function combSpan(crests: readonly Crest[]): [fromNm: number, toNm: number] {
  const first = Math.min(...crests.map((c) => c.nm));
  const last = Math.max(...crests.map((c) => c.nm));
  return [
    Math.max(FIRST_NM, Math.min(390, Math.floor((first - 24) / 10) * 10)),
    Math.min(LAST_NM, Math.max(700, Math.ceil((last + 24) / 10) * 10)),
  ];
}
