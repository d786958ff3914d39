import { lightFigures } from '@/core/mix/figures';
import { centreNm } from '@/core/library/held';
import { blueBreadthNm } from '@/core/mix/shape';
import { type BandId, BANDS } from '@/core/spectrum/bands';

import { percent } from '@/core/shape/percent';
import { tintWords, usableWords } from '../shared/words';

/** What light of a band does in a reef tank, in a sentence each. Mark: rule of thumb, literature where pigments are named. */
const DOES: Record<BandId, string> = {
  nearUv:
    'Nearly invisible. Wakes some pigments and glow; its use for colour is held by many and proven little. Hard on eyes and on some tissue: sparingly.',
  violet:
    'Absorbed by chlorophyll a, so it feeds; lights cyan and many green pigments. Looks much dimmer than it is.',
  royalBlue:
    'The best-absorbed light of all: it carries growth. Lights nearly every fluorescent pigment; alone it makes a tank deep blue.',
  blue: 'Feeds through chlorophyll c₂ and a little peridinin; lights green pigments strongly and widens the blue region.',
  cyan: 'Feeds through peridinin, lights yellow and orange pigments, and fills the gap between blue and white.',
  green:
    'Feeds, though less than blue; very bright to the eye: a little makes fish, sand and a natural look, more washes glow out.',
  amber: 'Feeds less than blue. Shows warm colours of fish and coral; soon looks yellow.',
  red: 'Absorbed by chlorophyll a near 675 nm. Shows red and brown, dirt and algae too; much of it is widely held to harm.',
  farRed: 'Outside PAR from 700 nm on; looks dim deep red and warms.',
};

/** Blue and red together, and blue alone, between which a broad light is a white. Mark: rule of thumb. */
const BOTH_ENDS = 0.25;
const MOSTLY = 0.6;

/** "What this channel does": its light in figures and in words. */
export function whatItDoes(light: Float64Array): { figures: string; does: string } {
  const f = lightFigures(light);
  const centre = centreNm(light);
  const band = BANDS.find((b) => centre < b.toNm) ?? BANDS[BANDS.length - 1]!;
  const main = BANDS.map((b) => ({ b, share: f.bandShares[b.id] })).sort((x, y) => y.share - x.share);
  const { violet, royalBlue, blue, red } = f.bandShares;
  const blues = violet + royalBlue + blue;
  // white has both ends; lime has neither, and a broad blue tube has one
  const broad = main[0]!.share < 0.5 && blues + red > BOTH_ENDS && blues < MOSTLY;
  const breadth = blueBreadthNm(light);
  const usable = usableWords(f.usableShare);
  return {
    figures: [
      main
        .filter((m) => m.share >= 0.08)
        .slice(0, 3)
        .map((m) => `${percent(m.share)} ${m.b.name}`)
        .join(', '),
      usable === null ? null : `usable ${usable}`,
      f.luxPerPar === null ? null : `${f.luxPerPar.toFixed(1)} lux per µmol`,
      breadth !== null && f.bandShares.royalBlue + f.bandShares.blue > 0.5
        ? `${Math.round(breadth)} nm broad`
        : null,
      tintWords(f.tint),
    ]
      .filter(Boolean)
      .join(' · '),
    does: broad
      ? 'Broad light: it shows reflecting pigment, fish, rock and sand as they are, and feeds across its bands. How much is worth it depends on the stock.'
      : DOES[band.id],
  };
}
