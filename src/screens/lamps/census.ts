import { emptyChannel, emptyGroup, emptyLamp, type LampForm } from '../case/lampForm';

/** What a colour looks like, and the light it most likely is. Mark: rule of thumb. */
export const SEEN = [
  { id: 'nearUv', label: 'barely visible, dim purple', name: 'Near UV', nm: 390, width: 12 },
  { id: 'violet', label: 'violet', name: 'Violet', nm: 420, width: 15 },
  { id: 'royalBlue', label: 'deep blue', name: 'Royal blue', nm: 450, width: 20 },
  { id: 'blue', label: 'clear blue', name: 'Blue', nm: 470, width: 22 },
  { id: 'cyan', label: 'blue-green', name: 'Cyan', nm: 497, width: 28 },
  { id: 'green', label: 'green', name: 'Green', nm: 523, width: 33 },
  { id: 'lime', label: 'yellow-green', name: 'Lime', nm: 548, width: 100 },
  { id: 'red', label: 'orange-red', name: 'Red', nm: 628, width: 18 },
  { id: 'deepRed', label: 'dark red', name: 'Deep red', nm: 660, width: 20 },
  { id: 'cool', label: 'white with a blue cast', name: 'Cool white', kelvin: 9000 },
  { id: 'neutral', label: 'neutral white', name: 'White', kelvin: 6500 },
  { id: 'warm', label: 'warm white', name: 'Warm white', kelvin: 3500 },
] as const;
export type SeenId = (typeof SEEN)[number]['id'];

/** One colour of the census: everything one key or number of the lamp lights, as counted. */
export interface Counted {
  id: string;
  /** kinds of emitters that lit together */
  kinds: { seen: SeenId; count: number }[];
}

/** An emitter whose watts nobody knows. Mark: rule of thumb. */
const USUAL_WATTS = 2.5;
/** Wall watts of which this share reaches the emitters. Mark: rule of thumb. */
const DRIVER = 0.88;

/**
 * A lamp form from a census. Watts per emitter follow from the lamp's stated watts spread evenly over all emitters, or are
 * taken as usual; either is a guess until it is corrected.
 */
export function formFromCensus(
  name: string,
  statedWatts: number | null,
  colours: readonly Counted[],
): LampForm {
  const emitters = colours.flatMap((c) => c.kinds).reduce((sum, k) => sum + k.count, 0);
  const each = statedWatts !== null && emitters > 0 ? (statedWatts * DRIVER) / emitters : USUAL_WATTS;
  const watts = String(Number(each.toPrecision(2)));
  const used = new Map<string, number>();
  return {
    ...emptyLamp('census'),
    name,
    channels: colours.map((c) => {
      const names = c.kinds.map((k) => SEEN.find((s) => s.id === k.seen)!.name);
      const base = names.length > 1 ? names.join(' and ') : (names[0] ?? 'Colour');
      const nth = (used.get(base) ?? 0) + 1;
      used.set(base, nth);
      return {
        ...emptyChannel(c.id),
        name: nth === 1 ? base : `${base} ${nth}`,
        groups: c.kinds.map((k) => {
          const seen = SEEN.find((s) => s.id === k.seen)!;
          return {
            ...emptyGroup(),
            ...('kelvin' in seen
              ? { light: 'white' as const, peak: String(seen.kelvin), width: '' }
              : { light: 'line' as const, peak: String(seen.nm), width: String(seen.width) }),
            count: String(k.count),
            watts,
          };
        }),
      };
    }),
  };
}
