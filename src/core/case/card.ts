import { measured, type MeasureId, MEASURES } from '../record/log/measures';
import { type InHand, LIGHT_KINDS, type LightKind } from '../record/zone';

/** A card that goes with a coral from keeper to keeper: lines of "what: value", any of which may be missing. */

/** Share of blue photons (400–500) of PAR that a kind of light usually has. Mark: rule of thumb. */
export const BLUE_SHARE: Readonly<Record<LightKind, number>> = {
  deepBlue: 0.93,
  blue: 0.8,
  white: 0.6,
  sun: 0.4,
};
export const LIGHT_NAMES: Readonly<Record<LightKind, string>> = {
  deepBlue: 'deep blue',
  blue: 'blue with some white',
  white: 'white',
  sun: 'sunlight',
};

/** The kind that a light is nearest to. */
export const lightKindOf = (blueShare: number): LightKind =>
  LIGHT_KINDS.reduce((a, b) =>
    Math.abs(BLUE_SHARE[b] - blueShare) < Math.abs(BLUE_SHARE[a] - blueShare) ? b : a,
  );

export interface CoralCard {
  name: string | null;
  peakUmol: number | null;
  hours: number | null;
  light: LightKind | null;
  origin: 'farmed' | 'wild' | null;
  /** what was tested last, as far as it was */
  water: Partial<Record<MeasureId, number>>;
}

/** What to ask who gives a coral away. */
export const QUESTIONS = [
  'coral: its kind, and what it is called',
  'light at its brightest (µmol, or the lamp, its height and percent):',
  'lit for (hours a day):',
  'kind of light (deep blue, blue with some white, white, sunlight):',
  'since when under this light:',
  'origin (farmed, wild):',
  ...MEASURES.slice(0, 3).map((m) => `${m.name}${m.unit === '' ? '' : ` (${m.unit})`}:`),
] as const;

export const cardText = (c: CoralCard): string =>
  [
    c.name && `coral: ${c.name}`,
    c.peakUmol !== null && `light at its brightest: ${Math.round(c.peakUmol)} µmol`,
    c.hours !== null && `lit for: ${Math.round(2 * c.hours) / 2} h`,
    c.light && `kind of light: ${LIGHT_NAMES[c.light]}`,
    c.origin && `origin: ${c.origin}`,
    ...MEASURES.map((m) => {
      const x = c.water[m.id];
      return x === undefined ? null : `${m.name}: ${measured(m, x)}`;
    }),
  ]
    .filter(Boolean)
    .join('\n');

const LONGEST = 5000;
const LONGEST_NAME = 120;

/** What a card says; what it does not say, or says beyond what can be, is null. */
export function readCard(text: string): CoralCard {
  const lines = new Map(
    text
      .slice(0, LONGEST)
      .split(/\r\n|\n|\r/)
      .flatMap((line): [string, string][] => {
        const at = line.indexOf(':');
        return at < 0
          ? []
          : [[line.slice(0, at).replace(/\(.*$/, '').trim().toLowerCase(), line.slice(at + 1).trim()]];
      }),
  );
  const number = (key: string, low: number, high: number) => {
    const found = /^[<>~ca. ]{0,6}(\d{1,6}(?:[.,]\d{1,6})?)/i.exec(lines.get(key) ?? '');
    const v = found ? Number(found[1]!.replace(',', '.')) : NaN;
    return v >= low && v <= high ? v : null;
  };
  const said = (lines.get('kind of light') ?? '').toLowerCase();
  const named = LIGHT_KINDS.find((k) => said === LIGHT_NAMES[k]);
  const origin = (lines.get('origin') ?? '').toLowerCase();
  return {
    name: lines.get('coral')?.slice(0, LONGEST_NAME) || null,
    peakUmol: number('light at its brightest', 1, 3000),
    hours: number('lit for', 0.5, 24),
    light:
      named ??
      (/deep/.test(said)
        ? 'deepBlue'
        : /sun|day/.test(said)
          ? 'sun'
          : /white/.test(said)
            ? /blue/.test(said)
              ? 'blue'
              : 'white'
            : /blue/.test(said)
              ? 'blue'
              : null),
    origin: /farm|cultur|grown|aqua/.test(origin) ? 'farmed' : /wild|ocean|sea/.test(origin) ? 'wild' : null,
    water: Object.fromEntries(
      MEASURES.flatMap((m) => {
        const v = number(m.name.toLowerCase(), m.low, m.high);
        return v === null ? [] : [[m.id, v]];
      }),
    ),
  };
}

/** Light that is so much bluer or whiter is another look and another food. Mark: rule of thumb. */
const APART = 0.1;
/** How the light here differs from what a coral comes from. */
export const lookApart = (light: LightKind, blueShareHere: number): 'bluer' | 'whiter' | 'alike' =>
  blueShareHere > BLUE_SHARE[light] + APART
    ? 'bluer'
    : blueShareHere < BLUE_SHARE[light] - APART
      ? 'whiter'
      : 'alike';

/** Hours of a day of which nobody has said how long it is lit. Mark: rule of thumb. */
const USUAL_HOURS = 9;

/** What a card says of a coral that is taken in hand. */
export const inHandOf = (card: CoralCard): Partial<InHand> => ({
  ...(card.name ? { name: card.name } : {}),
  ...(card.peakUmol === null
    ? {}
    : { cameFrom: { peakUmol: card.peakUmol, hours: card.hours ?? USUAL_HOURS } }),
  ...(card.light ? { light: card.light } : {}),
  ...(card.origin ? { origin: card.origin } : {}),
});
