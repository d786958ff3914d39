import { PAR_FROM_NM, PAR_TO_NM, par } from '../spectrum/bands';
import { FIRST_NM, integrateWeighted, sample, type Spectrum } from '../spectrum/grid';

export type PigmentId =
  | 'chlorophyllA'
  | 'chlorophyllB'
  | 'chlorophyllC'
  | 'fucoxanthin'
  | 'siphonaxanthin'
  | 'phycoerythrin'
  | 'phycocyanin'
  | 'carotenoids';

/** A pigment in living tissue: where it absorbs, per unit of it, and the share of that which it hands on to photosynthesis. */
export interface Pigment {
  id: PigmentId;
  name: string;
  bands: readonly (readonly [peakNm: number, fwhmNm: number, height: number])[];
  /** photons used per photon absorbed: 1 = as good as chlorophyll, 0 = kept from feeding */
  handsOn: number;
}

/**
 * Pigments of macroalgae in vivo as Gaussian bands. Centres and heights of chlorophylls, fucoxanthin and carotenoids after Bidigare
 * et al. 1990 and Hoepffner & Sathyendranath 1991; of phycoerythrin and phycocyanin after Haxo & Blinks 1950; of siphonaxanthin
 * after Kageyama et al. 1977 (it takes up green at 540 nm). What accessory pigments hand on after Emerson & Lewis 1943, Haxo &
 * Blinks 1950 and Lüning & Dring 1985; protective carotenoids hand on nothing. Mark: literature, rounded.
 */
export const PIGMENTS: readonly Pigment[] = [
  {
    id: 'chlorophyllA',
    name: 'chlorophyll a',
    bands: [
      [418, 30, 0.6],
      [438, 28, 1],
      [560, 170, 0.09],
      [620, 30, 0.1],
      [676, 24, 0.7],
    ],
    handsOn: 1,
  },
  {
    id: 'chlorophyllB',
    name: 'chlorophyll b',
    bands: [
      [470, 30, 1],
      [650, 26, 0.45],
    ],
    handsOn: 1,
  },
  {
    id: 'chlorophyllC',
    name: 'chlorophyll c',
    bands: [
      [460, 32, 1],
      [586, 28, 0.14],
      [635, 26, 0.24],
    ],
    handsOn: 1,
  },
  {
    id: 'fucoxanthin',
    name: 'fucoxanthin',
    bands: [
      [490, 46, 0.8],
      [530, 50, 0.65],
    ],
    handsOn: 0.85,
  },
  {
    id: 'siphonaxanthin',
    name: 'siphonaxanthin',
    bands: [
      [488, 42, 0.6],
      [540, 38, 0.6],
    ],
    handsOn: 0.9,
  },
  {
    id: 'phycoerythrin',
    name: 'phycoerythrin',
    bands: [
      [497, 26, 0.6],
      [540, 36, 0.9],
      [566, 24, 1],
    ],
    handsOn: 0.95,
  },
  {
    id: 'phycocyanin',
    name: 'phycocyanin',
    bands: [
      [618, 42, 1],
      [650, 22, 0.45],
    ],
    handsOn: 0.95,
  },
  {
    id: 'carotenoids',
    name: 'protective carotenoids',
    bands: [
      [458, 36, 0.8],
      [488, 34, 0.8],
    ],
    handsOn: 0,
  },
];

export const ALGA_IDS = [
  'greenTangle',
  'featheryGreen',
  'grapeGreen',
  'redLeaf',
  'redBush',
  'brownBlade',
] as const;
export type AlgaId = (typeof ALGA_IDS)[number];

/** A kind of macroalga: what it is made of, what it wants. */
export interface Alga {
  id: AlgaId;
  name: string;
  group: 'green' | 'red' | 'brown';
  /** what it is and does, in a line or two */
  about: string;
  /** pigments by their absorption, chlorophyll a = 1 */
  pigments: Partial<Record<PigmentId, number>>;
  /** of its chlorophyll a, what works where light drives the splitting of water; most of a red's does not (Haxo & Blinks 1950) */
  chlorophyllShare: number;
  /** optical depth of a grown mat or thallus where it absorbs most */
  depth: number;
  /** what it wants at its top, µmol m⁻² s⁻¹ */
  fromUmol: number;
  toUmol: number;
  /** light at which its photosynthesis saturates, in daylight, µmol m⁻² s⁻¹ */
  ekUmol: number;
  /** hours of light a day it wants */
  fromHours: number;
  toHours: number;
  /** can be lit round the clock */
  roundClock: boolean;
  /** dry g a mat of 1 m² puts on in an hour of saturating light with nothing else wanting, lowest to highest */
  dryGPerM2H: readonly [number, number];
}

/**
 * Macroalgae that grow in reef tanks, generic. Pigment proportions follow their groups (Haxo & Blinks 1950; Lüning & Dring 1985;
 * Yokohama 1981 for siphonaxanthin in coenocytic greens). Mark of light, hours and depths: rule of thumb. Growth: literature, rounded
 * (5-25 g dry m⁻² a day in cultures with light and nutrients), widened downwards for reef water.
 */
export const ALGAE: readonly Alga[] = [
  {
    id: 'greenTangle',
    name: 'Green tangle',
    group: 'green',
    about: 'Stiff threads in a ball that lies loose. Hardy, fast, sheds little: the workhorse of a sump.',
    pigments: { chlorophyllA: 1, chlorophyllB: 0.6, carotenoids: 0.7 },
    chlorophyllShare: 1,
    depth: 10,
    fromUmol: 80,
    toUmol: 350,
    ekUmol: 150,
    fromHours: 10,
    toHours: 18,
    roundClock: true,
    dryGPerM2H: [0.3, 1.2],
  },
  {
    id: 'featheryGreen',
    name: 'Feathery green',
    group: 'green',
    about:
      'Runners with feathers. Fast; may turn white and spill its contents at once when light or days change.',
    pigments: { chlorophyllA: 1, chlorophyllB: 0.7, siphonaxanthin: 0.06, carotenoids: 0.7 },
    chlorophyllShare: 1,
    depth: 8,
    fromUmol: 60,
    toUmol: 250,
    ekUmol: 110,
    fromHours: 10,
    toHours: 18,
    roundClock: true,
    dryGPerM2H: [0.3, 1.2],
  },
  {
    id: 'grapeGreen',
    name: 'Grape-like green',
    group: 'green',
    about:
      'Runners with little bladders. Uses some green light; grips rock and is hard to be rid of in a display.',
    pigments: { chlorophyllA: 1, chlorophyllB: 0.7, siphonaxanthin: 0.35, carotenoids: 0.5 },
    chlorophyllShare: 1,
    depth: 7,
    fromUmol: 50,
    toUmol: 220,
    ekUmol: 100,
    fromHours: 10,
    toHours: 18,
    roundClock: true,
    dryGPerM2H: [0.25, 1],
  },
  {
    id: 'redLeaf',
    name: 'Red leaf',
    group: 'red',
    about:
      'Thin blades, a show of their own. Lives on little light through its own pigments and bleaches in much.',
    pigments: { chlorophyllA: 1, phycoerythrin: 1.7, phycocyanin: 0.15, carotenoids: 0.5 },
    chlorophyllShare: 0.35,
    depth: 2,
    fromUmol: 25,
    toUmol: 100,
    ekUmol: 50,
    fromHours: 8,
    toHours: 12,
    roundClock: false,
    dryGPerM2H: [0.1, 0.5],
  },
  {
    id: 'redBush',
    name: 'Red bush',
    group: 'red',
    about:
      'Firm branching bush, eaten gladly by fish. Takes more light than thin blades, still pales when overlit.',
    pigments: { chlorophyllA: 1, phycoerythrin: 1.4, phycocyanin: 0.25, carotenoids: 0.5 },
    chlorophyllShare: 0.35,
    depth: 5,
    fromUmol: 40,
    toUmol: 180,
    ekUmol: 90,
    fromHours: 8,
    toHours: 14,
    roundClock: false,
    dryGPerM2H: [0.15, 0.8],
  },
  {
    id: 'brownBlade',
    name: 'Brown blade',
    group: 'brown',
    about: 'Leathery fronds. Feeds on blue-green through fucoxanthin; slower, and wants water that moves.',
    pigments: { chlorophyllA: 1, chlorophyllC: 0.3, fucoxanthin: 1.1, carotenoids: 0.15 },
    chlorophyllShare: 1,
    depth: 5,
    fromUmol: 60,
    toUmol: 300,
    ekUmol: 130,
    fromHours: 9,
    toHours: 14,
    roundClock: false,
    dryGPerM2H: [0.1, 0.6],
  },
];
export const alga = (id: AlgaId): Alga => ALGAE.find((a) => a.id === id)!;

const gauss = (nm: number, peakNm: number, fwhmNm: number) =>
  Math.exp(-4 * Math.LN2 * ((nm - peakNm) / fwhmNm) ** 2);

/** Absorption of a pigment per unit of it. */
export const pigmentAt = (pigment: Pigment, nm: number): number =>
  pigment.bands.reduce((sum, [peak, width, height]) => sum + height * gauss(nm, peak, width), 0);

interface AlgaLight {
  /** optical depth of a grown mat */
  depth: Spectrum;
  /** share of the photons that fall on it which feed it */
  feeds: Spectrum;
}

const kept = new Map<AlgaId, AlgaLight>();

/**
 * What a mat takes from light: of the photons that fall on it 1 − e^(−depth) are absorbed; they are shared among its pigments by
 * absorption, and each hands on its part. A thick mat so lives on every colour a little, but blue is shared with protective
 * carotenoids, and a red's with chlorophyll that does not split water.
 */
export function algaLight(a: Alga): AlgaLight {
  const found = kept.get(a.id);
  if (found) return found;
  const parts = PIGMENTS.flatMap((p) => {
    const amount = a.pigments[p.id] ?? 0;
    const handsOn = p.handsOn * (p.id === 'chlorophyllA' ? a.chlorophyllShare : 1);
    return amount > 0 ? [{ handsOn, absorbs: sample((nm) => amount * pigmentAt(p, nm)) }] : [];
  });
  const all = parts[0]!.absorbs.map((_, i) => parts.reduce((sum, p) => sum + p.absorbs[i]!, 0));
  const top = Math.max(...all);
  const depth = all.map((v) => (a.depth * v) / top);
  const feeds = depth.map((d, i) =>
    all[i]! > 0
      ? ((1 - Math.exp(-d)) * parts.reduce((sum, p) => sum + p.handsOn * p.absorbs[i]!, 0)) / all[i]!
      : 0,
  );
  const made = { depth, feeds };
  kept.set(a.id, made);
  return made;
}

/** Share of the PAR of a light that feeds an alga: ∫E·feeds dλ / ∫E dλ over 400-700 nm, photons. Null without PAR. */
export function feedingShare(spectrum: ArrayLike<number>, a: Alga): number | null {
  const all = par(spectrum);
  return all > 0 ? integrateWeighted(spectrum, algaLight(a).feeds, PAR_FROM_NM, PAR_TO_NM) / all : null;
}

/** Light as an alga takes it, ∫E·feeds dλ from the near UV to 700 nm, in µmol of an even light, unit of the spectrum. */
export const takenByAlga = (spectrum: ArrayLike<number>, a: Alga): number =>
  integrateWeighted(spectrum, algaLight(a).feeds, FIRST_NM, PAR_TO_NM) / evenShare(a);
const evenShares = new Map<AlgaId, number>();
function evenShare(a: Alga): number {
  let share = evenShares.get(a.id);
  if (share === undefined)
    evenShares.set(
      a.id,
      (share = feedingShare(
        sample(() => 1),
        a,
      )!),
    );
  return share;
}
