import { percent } from '../shape/percent';
import { ALGAE, type Alga, type AlgaId, feedingShare } from '../feeding/algae';
import { libraryLamp } from '../library/lamps';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { channelLevels } from '../spectrum/controls';
import { type Spectrum, addScaled, at, zeroSpectrum } from '../spectrum/grid';
import { keptSpectrum } from '../spectrum/lamp';

/** What the algae are there for. */
export type Purpose = 'filter' | 'among' | 'show';
export const PURPOSES: Readonly<Record<Purpose, string>> = {
  filter: 'Only a filter, out of sight',
  among: 'Some algae among corals',
  show: 'Algae as the show',
};

export type FamilyId = 'redBlue' | 'reef' | 'daylight' | 'blue';

/** A family of lamps, by the one of the library that stands for it and a mix of it. */
export interface Family {
  id: FamilyId;
  name: string;
  about: string;
  lampId: string;
  mix: Levels;
  /** what a tank under it looks like, in words */
  look: string;
}

export const FAMILIES: readonly Family[] = [
  {
    id: 'redBlue',
    name: 'Red and blue',
    about: 'Deep red with a little blue, as plant lamps have it.',
    lampId: 'lib-refugium-fixed',
    mix: { grow: 1 },
    look: 'Everything magenta: no natural colour is left. Nobody wants to look at it, and it shines out of a cabinet.',
  },
  {
    id: 'reef',
    name: 'Reef lamp with real white and red',
    about: 'A full-spectrum panel run whiter and redder than corals alone would have it.',
    lampId: 'lib-nine',
    mix: {
      'royal-blue': 0.7,
      blue: 0.7,
      violet: 0.5,
      cyan: 0.5,
      lime: 0.4,
      'warm-white': 0.7,
      'cool-white': 0.8,
      'deep-red': 0.9,
    },
    look: 'A blue-white tank that keeps much of its glow; red makes algae, dirt and brown corals show.',
  },
  {
    id: 'daylight',
    name: 'Daylight white',
    about: 'White of about 6500 K, nothing else.',
    lampId: 'lib-refugium-day',
    mix: { white: 1 },
    look: 'Algae, fish and rock as in the sun; yellower than reef keepers are used to, and corals hardly glow.',
  },
  {
    id: 'blue',
    name: 'Near-pure blue',
    about: 'Royal blue and blue without white or red.',
    lampId: 'lib-blue-bar',
    mix: { blue: 1 },
    look: 'Strong glow; algae look black, and little of the light is theirs.',
  },
];

export const familyLamp = (f: Family): LampKind => libraryLamp(f.lampId);

/** Light of a lamp at a mix, µmol s⁻¹ nm⁻¹. */
export function lampLight(kind: LampKind, mix: Levels): Spectrum {
  const out = zeroSpectrum();
  channelLevels(kind, mix).forEach((level, c) => addScaled(out, keptSpectrum(kind.channels[c]!), level));
  return out;
}
const lights = new Map<FamilyId, Spectrum>();
/** Light of a family at its mix, kept. Not to be written to. */
export function familyLight(f: Family): Spectrum {
  let light = lights.get(f.id);
  if (!light) lights.set(f.id, (light = lampLight(familyLamp(f), f.mix)));
  return light;
}

/** A light is refused for an alga that can use less of it than this share of what it can use of its best family. Mark: rule of thumb. */
const REFUSED_BELOW = 0.8;
/** A light is near-pure blue with more than this share of its PAR between 400 and 480 nm. Mark: rule of thumb. */
const BLUE_ABOVE = 0.85;

const bests = new Map<AlgaId, { family: Family; share: number }>();
/** The family an alga can use most of: asked for with every pull, found once. */
export function bestFamily(a: Alga): { family: Family; share: number } {
  let best = bests.get(a.id);
  if (!best) {
    best = FAMILIES.map((family) => ({ family, share: feedingShare(familyLight(family), a)! })).reduce(
      (x, y) => (y.share > x.share ? y : x),
    );
    bests.set(a.id, best);
  }
  return best;
}

export const isNearPureBlue = (light: ArrayLike<number>): boolean => {
  let blue = 0;
  let all = 0;
  for (let nm = 400; nm <= 700; nm += 1) {
    const v = at(light, nm);
    all += v;
    if (nm < 480) blue += v;
  }
  return all > 0 && blue / all > BLUE_ABOVE;
};

export interface Fit {
  share: number;
  best: { family: Family; share: number };
  /** of what its best family gives it */
  ofBest: number;
  standing: 'good' | 'poor' | 'refused';
  words: string;
}

/** How well a light feeds an alga; near-pure blue is refused where it wastes more than a fifth of what a better light would not. Null without light. */
export function fitOf(light: ArrayLike<number>, a: Alga): Fit | null {
  const share = feedingShare(light, a);
  if (share === null) return null;
  const best = bestFamily(a);
  const ofBest = share / best.share;
  const blue = isNearPureBlue(light);
  const standing = ofBest >= REFUSED_BELOW ? 'good' : blue ? 'refused' : 'poor';
  const name = a.name.toLowerCase();
  const words =
    standing === 'refused'
      ? `Near-pure blue is no light for a ${name}: it can use ${percent(share)} of it, against ${percent(best.share)} of ${best.family.name.toLowerCase()}. ${
          a.group === 'red'
            ? 'Its own pigments take green and orange, and most of the chlorophyll that takes blue does not feed it.'
            : 'The rest goes into pigments that only protect it.'
        }`
      : standing === 'poor'
        ? `A ${name} can use ${percent(share)} of this light, against ${percent(best.share)} of ${best.family.name.toLowerCase()}.`
        : blue
          ? `A ${name} can use ${percent(share)} of even this blue: its own pigments take it. It will look black in it.`
          : `A ${name} can use ${percent(share)} of this light, about as much as of any.`;
  return { share, best, ofBest, standing, words };
}

/** Algae for which near-pure blue is refused. */
export const refusedInBlue = (): Alga[] =>
  ALGAE.filter((a) => fitOf(familyLight(FAMILIES.find((f) => f.id === 'blue')!), a)!.standing === 'refused');

/** Which family a purpose asks for, and why. */
const CHOICE: Readonly<Record<Purpose, { family: FamilyId; why: string; others: string[] }>> = {
  filter: {
    family: 'redBlue',
    why: 'Nobody looks: what counts is growth per watt, and red with a little blue gives most of it.',
    others: [
      'Others light sumps in daylight: about as much growth of reds and browns, a sight one can bear while working there, more watts for greens.',
      'Others hang an old reef lamp there: it works with its white and red on, and wastes watts.',
    ],
  },
  among: {
    family: 'reef',
    why: 'Corals and algae share one light: real white and red feed the algae, the blues keep corals fed and glowing.',
    others: [
      'Others keep the display blue and grow algae elsewhere: more glow, algae only in the sump.',
      'Others hold that any red harms corals: keep deep red below a tenth of PAR and ease it in.',
    ],
  },
  show: {
    family: 'daylight',
    why: 'Algae are seen by what they send back: white light shows greens, reds and browns as they are.',
    others: [
      'Others want some blue over it for the corals at its edge: more glow, a cooler look, reds gain nothing.',
      'Others use plant lamps for the growth: faster, and nobody likes the look.',
    ],
  },
};

export interface FamilyOffer {
  family: Family;
  light: Spectrum;
  fit: Fit;
  standing: 'recommended' | 'possible' | 'refused';
}

/** Families for a purpose and an alga, the recommended first, the refused last; what it is for, and what other schools say. */
export function familiesFor(
  purpose: Purpose,
  a: Alga,
): { offers: FamilyOffer[]; why: string; others: string[] } {
  const { family: chosen, why, others } = CHOICE[purpose];
  const offers = FAMILIES.map((family): FamilyOffer => {
    const light = familyLight(family);
    const fit = fitOf(light, a)!;
    return {
      family,
      light,
      fit,
      standing: fit.standing === 'refused' ? 'refused' : family.id === chosen ? 'recommended' : 'possible',
    };
  });
  // for a red that nobody looks at red and blue is not the light: take what feeds it
  const wanted = offers.find((o) => o.standing === 'recommended')!;
  let reason = why;
  if (purpose === 'filter' && wanted.fit.standing === 'poor') {
    const better = offers.reduce(
      (x, y) => (y.standing !== 'refused' && y.family.id !== 'blue' && y.fit.share > x.fit.share ? y : x),
      wanted,
    );
    wanted.standing = 'possible';
    better.standing = 'recommended';
    reason = `Nobody looks: what counts is growth. A ${a.name.toLowerCase()} uses ${percent(better.fit.share)} of ${better.family.name.toLowerCase()} and only ${percent(wanted.fit.share)} of ${wanted.family.name.toLowerCase()}.`;
  }
  const order = { recommended: 0, possible: 1, refused: 2 };
  return {
    offers: offers.sort((x, y) => order[x.standing] - order[y.standing] || y.fit.share - x.fit.share),
    why: reason,
    others,
  };
}

/** How long such algae are lit, and why. */
export const hoursWords = (a: Alga): string =>
  a.roundClock
    ? `${a.fromHours} to ${a.toHours} h a day; about half the clock does for most, and hardy greens can be lit round the clock: more growth at more watts, the hours beyond ${a.toHours} counting half.`
    : `${a.fromHours} to ${a.toHours} h a day. It needs its night: not round the clock.`;
