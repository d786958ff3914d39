import { type Spectrum, at, sample } from '../spectrum/grid';
import { symbiontDepth } from './pigments';

/** What else lies or swims in a tank, as diffuse reflectance: generic, smooth. Mark: rule of thumb. */
export type ThingId =
  'orangeFish' | 'redFish' | 'blueFish' | 'yellowFish' | 'sand' | 'rock' | 'coralline' | 'algae' | 'detritus';

const rise = (nm: number, at: number, width: number) => 1 / (1 + Math.exp(-(nm - at) / width));
const bump = (nm: number, at: number, fwhm: number) => Math.exp(-4 * Math.LN2 * ((nm - at) / fwhm) ** 2);

export const THINGS: readonly { id: ThingId; name: string; reflectance: Spectrum }[] = [
  {
    id: 'orangeFish',
    name: 'orange-red fish',
    reflectance: sample((nm) => 0.05 + 0.62 * rise(nm, 585, 9)),
  },
  { id: 'redFish', name: 'deep red fish', reflectance: sample((nm) => 0.04 + 0.5 * rise(nm, 618, 10)) },
  {
    id: 'blueFish',
    name: 'blue fish',
    reflectance: sample((nm) => 0.06 + 0.5 * bump(nm, 455, 95) + 0.12 * rise(nm, 690, 10)),
  },
  { id: 'yellowFish', name: 'yellow fish', reflectance: sample((nm) => 0.06 + 0.7 * rise(nm, 505, 9)) },
  {
    id: 'sand',
    name: 'white sand',
    reflectance: sample((nm) => 0.62 + 0.12 * Math.min(1, Math.max(0, (nm - 400) / 250))),
  },
  {
    id: 'rock',
    name: 'rock',
    reflectance: sample((nm) => 0.26 + 0.06 * Math.min(1, Math.max(0, (nm - 420) / 250))),
  },
  {
    id: 'coralline',
    name: 'coralline',
    reflectance: sample(
      (nm) => 0.2 + 0.22 * bump(nm, 430, 70) + 0.34 * rise(nm, 605, 12) - 0.1 * bump(nm, 550, 70),
    ),
  },
  {
    id: 'algae',
    name: 'nuisance algae',
    reflectance: sample((nm) => 0.04 + 0.16 * bump(nm, 555, 90) + 0.3 * rise(nm, 700, 8)),
  },
  {
    id: 'detritus',
    name: 'detritus',
    reflectance: sample(
      (nm) => 0.34 * Math.exp(-0.7 * at(symbiontDepth(), nm)) * (0.45 + 0.55 * rise(nm, 560, 45)),
    ),
  },
];
export const thing = (id: ThingId) => THINGS.find((t) => t.id === id)!;
