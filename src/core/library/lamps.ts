import { partsTable, phosphorWhite, type LightPart } from '../mix/phosphor';
import type { Control, EmitterGroup, GroupShape, LampKind } from '../spectrum/lampKind';
import { lampKind, type PlainLamp } from '../spectrum/lamp';

/**
 * The library: invented lamps that span what hangs over reef tanks. None is a product; figures are typical of the kind and
 * prices are made up, so that lamps can be compared. Mark of every figure here: rule of thumb.
 */
export interface LibraryLamp {
  kind: LampKind;
  /** what it is, in one line */
  about: string;
}

const led = (peakNm: number, fwhmNm: number, count: number, wattsEach: number): EmitterGroup => ({
  light: { shape: 'line', peakNm, fwhmNm },
  count,
  wattsEach,
});
const white = (cctK: number, count: number, wattsEach: number): EmitterGroup => ({
  light: phosphorWhite(cctK),
  count,
  wattsEach,
});
const broad = (
  parts: readonly LightPart[],
  efficacyUmolPerJ: number,
  count: number,
  wattsEach: number,
  stepNm = 5,
): EmitterGroup => {
  const light: GroupShape = {
    shape: 'table',
    points: partsTable(parts, 380, 730, stepNm),
    quantity: 'photon',
    efficacyUmolPerJ,
  };
  return { light, count, wattsEach };
};
/** Lime: a broad phosphor over a little leak of its pump. */
const lime = (count: number, wattsEach: number) =>
  broad(
    [
      { peakNm: 452, fwhmNm: 20, photons: 0.07 },
      { peakNm: 548, fwhmNm: 100, photons: 0.93 },
    ],
    2.2,
    count,
    wattsEach,
  );

const channel = (id: string, name: string, ...groups: EmitterGroup[]) => ({ id, name, groups });
type Channels = PlainLamp['channels'];

const eightBlue = (): Channels => [
  channel('near-uv', 'Near UV', led(385, 12, 4, 1.8)),
  channel('violet', 'Violet', led(405, 14, 6, 2), led(422, 15, 8, 2)),
  channel('royal-blue', 'Royal blue', led(448, 19, 22, 2.6)),
  channel('blue', 'Blue', led(472, 23, 14, 2.6)),
  channel('cyan', 'Cyan', led(496, 28, 4, 2)),
  channel('green', 'Green', led(524, 32, 2, 2)),
  channel('red', 'Deep red', led(658, 18, 2, 2)),
  channel('white', 'Cool white', white(8000, 8, 2.5)),
];

const nineChannels = (half: boolean): Channels => {
  const n = (count: number) => (half ? Math.max(1, Math.round(count / 2)) : count);
  return [
    channel('near-uv', 'Near UV', led(392, 12, n(4), 1.5)),
    channel('violet', 'Violet', led(415, 14, n(8), 1.8)),
    channel('royal-blue', 'Royal blue', led(453, 20, n(16), 2.2)),
    channel('blue', 'Blue', led(468, 22, n(10), 2.2)),
    channel('cyan', 'Cyan', led(492, 27, n(6), 1.8)),
    channel('lime', 'Lime', lime(n(6), 2)),
    channel('warm-white', 'Warm white', white(4000, n(8), 2.2)),
    channel('cool-white', 'Cool white', white(10_000, n(8), 2.2)),
    channel('deep-red', 'Deep red', led(662, 18, n(4), 1.8)),
  ];
};

const TINT_CONTROLS: Control[] = [
  { kind: 'brightness', id: 'brightness', name: 'Brightness' },
  {
    kind: 'tint',
    id: 'tint',
    name: 'Tint',
    fromName: 'white',
    toName: 'deep blue',
    stops: [
      { at: 0, shares: { white: 1, 'royal-blue': 0.45, blue: 0.4 } },
      { at: 0.5, shares: { white: 0.4, 'royal-blue': 0.9, blue: 0.8 } },
      { at: 1, shares: { white: 0, 'royal-blue': 1, blue: 0.85 } },
    ],
  },
  { kind: 'level', id: 'violet', name: 'Violet', drives: { violet: 1 } },
  { kind: 'level', id: 'green', name: 'Green', drives: { green: 1 } },
  { kind: 'level', id: 'red', name: 'Red', drives: { red: 1 } },
];

const BALANCE_CONTROLS: Control[] = [
  {
    kind: 'level',
    id: 'balance',
    name: 'Blue balance',
    drives: { violet: 0.9, 'royal-blue': 1, blue: 0.85, cyan: 0.4 },
  },
  {
    kind: 'trim',
    id: 'violet-trim',
    name: 'Violet trim',
    channelIds: ['violet'],
    fromFactor: 0.5,
    toFactor: 1.1,
  },
  { kind: 'trim', id: 'cyan-trim', name: 'Cyan trim', channelIds: ['cyan'], fromFactor: 0, toFactor: 2 },
  { kind: 'level', id: 'white', name: 'White', drives: { white: 1 } },
];

const FIVE_STEP_CONTROLS: Control[] = [
  { kind: 'level', id: 'blue-key', name: 'Blue key', drives: { violet: 1, blue: 1 } },
  { kind: 'level', id: 'white-key', name: 'White key', drives: { white: 1, green: 1, red: 1 } },
];

const onOff = (id: string, name: string): Control => ({ kind: 'onOff', id, name, drives: { [id]: 1 } });

/** Mercury lines of a fluorescent tube, by share of its photons. Standard wavelengths; shares rule of thumb. */
export const MERCURY_LINES: readonly LightPart[] = [
  { peakNm: 405, fwhmNm: 3, photons: 0.02 },
  { peakNm: 436, fwhmNm: 3, photons: 0.07 },
  { peakNm: 546, fwhmNm: 3, photons: 0.03 },
  { peakNm: 578, fwhmNm: 4, photons: 0.01 },
];
/** Phosphors of a broad-blue and of an actinic tube, modelled. Mark: rule of thumb. */
export const BROAD_BLUE_TUBE: readonly LightPart[] = [
  { peakNm: 452, fwhmNm: 62, photons: 0.74 },
  { peakNm: 490, fwhmNm: 60, photons: 0.13 },
  ...MERCURY_LINES,
];
export const ACTINIC_TUBE: readonly LightPart[] = [
  { peakNm: 421, fwhmNm: 30, photons: 0.87 },
  ...MERCURY_LINES,
];

/** Each is made when it is asked for: a white's table is solved from its chromaticity. */
const LAMPS: Readonly<Record<string, { about: string; plain: () => Omit<PlainLamp, 'id'> }>> = {
  'lib-eight-blue': {
    about: 'Panel with much violet and blue, a little of everything else; every colour on its own.',
    plain: () => ({
      name: 'Blue-heavy eight-channel panel',
      channels: eightBlue(),
      beamAngleDeg: 95,
      faceLengthCm: 38,
      faceWidthCm: 18,
      powerBudgetWatts: 165,
      price: 720,
    }),
  },
  'lib-nine': {
    about: 'Large panel from near UV to deep red with two whites; every colour on its own.',
    plain: () => ({
      name: 'Full-spectrum nine-channel panel',
      channels: nineChannels(false),
      beamAngleDeg: 110,
      faceLengthCm: 52,
      faceWidthCm: 24,
      price: 840,
    }),
  },
  'lib-nine-half': {
    about: 'The nine-channel panel in half size.',
    plain: () => ({
      name: 'Half-size nine-channel panel',
      channels: nineChannels(true),
      beamAngleDeg: 110,
      faceLengthCm: 26,
      faceWidthCm: 24,
      price: 450,
    }),
  },
  'lib-tint': {
    about: 'One key for tint, one for brightness, and three trim colours.',
    plain: () => ({
      name: 'Tint-and-brightness lamp',
      channels: [
        channel('white', 'White', white(7000, 14, 2.4)),
        channel('royal-blue', 'Royal blue', led(450, 20, 18, 2.4)),
        channel('blue', 'Blue', led(470, 22, 10, 2.4)),
        channel('violet', 'Violet', led(420, 15, 6, 1.8)),
        channel('green', 'Green', led(522, 32, 2, 1.8)),
        channel('red', 'Red', led(630, 17, 2, 1.8)),
      ],
      controls: TINT_CONTROLS,
      layout: 'cluster',
      beamAngleDeg: 90,
      faceLengthCm: 18,
      faceWidthCm: 18,
      powerBudgetWatts: 110,
      price: 390,
    }),
  },
  'lib-balance': {
    about: 'A proven blue balance that cannot be upset, with two trims and white.',
    plain: () => ({
      name: 'Locked-balance panel',
      channels: [
        channel('violet', 'Violet', led(410, 14, 6, 1.8), led(425, 15, 6, 1.8)),
        channel('royal-blue', 'Royal blue', led(450, 20, 16, 2.4)),
        channel('blue', 'Blue', led(469, 22, 10, 2.4)),
        channel('cyan', 'Cyan', led(494, 27, 4, 1.8)),
        channel('white', 'White', white(6500, 8, 2.4)),
      ],
      controls: BALANCE_CONTROLS,
      beamAngleDeg: 120,
      faceLengthCm: 40,
      faceWidthCm: 20,
      price: 480,
    }),
  },
  'lib-two-circuit': {
    about: 'Two circuits, blue and white, each switched by its own clock; no ramp.',
    plain: () => ({
      name: 'Two-circuit fixture',
      channels: [
        channel('blue', 'Blue circuit', led(455, 22, 24, 1.8), led(468, 24, 8, 1.8)),
        channel('white', 'White circuit', white(10_000, 24, 1.8)),
      ],
      controls: [onOff('blue', 'Blue circuit'), onOff('white', 'White circuit')],
      beamAngleDeg: 100,
      faceLengthCm: 88,
      faceWidthCm: 14,
      controller: { pointStepShare: 0, interpolation: 'hold' },
      price: 190,
    }),
  },
  'lib-five-step': {
    about: 'Low-priced panel: two keys in five steps, violet tied to blue, red and green tied to white.',
    plain: () => ({
      name: 'Five-step panel with tied colours',
      channels: [
        channel('violet', 'Violet', led(415, 16, 4, 2)),
        channel('blue', 'Blue', led(452, 22, 20, 2)),
        channel('white', 'White', white(9000, 18, 2)),
        channel('green', 'Green', led(520, 34, 3, 2)),
        channel('red', 'Red', led(660, 20, 5, 2)),
      ],
      controls: FIVE_STEP_CONTROLS,
      beamAngleDeg: 90,
      faceLengthCm: 40,
      faceWidthCm: 20,
      controller: { pointStepShare: 0.2, interpolation: 'hold' },
      price: 130,
    }),
  },
  'lib-blue-bar': {
    about: 'Slim bar of two blues, dimmable as one.',
    plain: () => ({
      name: 'Blue bar',
      channels: [channel('blue', 'Blue', led(451, 20, 18, 1.2), led(470, 22, 12, 1.2))],
      layout: 'line',
      beamAngleDeg: 120,
      faceLengthCm: 90,
      faceWidthCm: 3,
      price: 95,
    }),
  },
  'lib-violet-bar': {
    about: 'Slim bar of violet, switched on and off.',
    plain: () => ({
      name: 'Violet bar',
      channels: [channel('violet', 'Violet', led(405, 14, 12, 1), led(420, 15, 18, 1))],
      controls: [onOff('violet', 'Violet')],
      layout: 'line',
      beamAngleDeg: 120,
      faceLengthCm: 90,
      faceWidthCm: 3,
      controller: { pointStepShare: 0, interpolation: 'hold' },
      price: 110,
    }),
  },
  'lib-day-bar': {
    about: 'Slim bar of neutral white with deep red, for fish and a natural look.',
    plain: () => ({
      name: 'White-and-red bar',
      channels: [
        channel('white', 'White', white(5500, 20, 1.1)),
        channel('red', 'Deep red', led(660, 18, 6, 1)),
      ],
      layout: 'line',
      beamAngleDeg: 120,
      faceLengthCm: 90,
      faceWidthCm: 3,
      price: 85,
    }),
  },
  'lib-tubes': {
    about: 'Two fluorescent tubes, broad blue and actinic, each on or off.',
    plain: () => ({
      name: 'Pair of fluorescent tubes',
      source: 'tube',
      channels: [
        channel('broad', 'Broad blue tube', broad(BROAD_BLUE_TUBE, 1.25, 1, 39, 1)),
        channel('actinic', 'Actinic tube', broad(ACTINIC_TUBE, 1.1, 1, 39, 1)),
      ],
      controls: [onOff('broad', 'Broad blue tube'), onOff('actinic', 'Actinic tube')],
      layout: 'line',
      beamAngleDeg: 120,
      faceLengthCm: 85,
      faceWidthCm: 12,
      controller: { pointStepShare: 0, interpolation: 'hold' },
      price: 140,
    }),
  },
  'lib-refugium-fixed': {
    about: 'Refugium lamp, red and blue together, not dimmable.',
    plain: () => ({
      name: 'Red-and-blue refugium lamp',
      channels: [channel('grow', 'Red and blue', led(660, 20, 9, 2), led(630, 18, 3, 2), led(452, 22, 4, 2))],
      controls: [onOff('grow', 'Red and blue')],
      layout: 'cluster',
      beamAngleDeg: 80,
      faceLengthCm: 12,
      faceWidthCm: 12,
      controller: { pointStepShare: 0, interpolation: 'hold' },
      price: 45,
    }),
  },
  'lib-refugium-dim': {
    about: 'Refugium lamp with red and blue on separate keys.',
    plain: () => ({
      name: 'Dimmable red-and-blue refugium lamp',
      channels: [
        channel('red', 'Red', led(660, 20, 14, 2), led(628, 18, 4, 2)),
        channel('blue', 'Blue', led(450, 21, 8, 2)),
      ].map((c) => ({ ...c, dimming: { lowestLitShare: 0.05, curve: [] } })),
      beamAngleDeg: 90,
      faceLengthCm: 20,
      faceWidthCm: 14,
      price: 120,
    }),
  },
  'lib-refugium-day': {
    about: 'Refugium lamp in daylight white, not dimmable; shows algae as they are.',
    plain: () => ({
      name: 'Daylight refugium lamp',
      channels: [channel('white', 'White', white(6500, 12, 2))],
      controls: [onOff('white', 'White')],
      beamAngleDeg: 100,
      faceLengthCm: 24,
      faceWidthCm: 8,
      controller: { pointStepShare: 0, interpolation: 'hold' },
      price: 40,
    }),
  },
};

const made = new Map<string, LibraryLamp>();
function lampOf(id: string): LibraryLamp {
  let lamp = made.get(id);
  if (!lamp) {
    const { plain, about } = LAMPS[id]!;
    made.set(id, (lamp = { kind: lampKind({ id, ...plain() }), about }));
  }
  return lamp;
}

/** The lamps of the library. */
export const lampLibrary = (): LibraryLamp[] => Object.keys(LAMPS).map(lampOf);

/** A lamp of the library by its id. @throws TypeError where there is none of it */
export const libraryLamp = (id: string): LampKind => lampOf(id).kind;
