import { civilDay, dayNumber } from '../day/wallClock';
import { NINETY } from '../meter/noise';
import type { Photo } from '../record/log/photo';
import type { Zone } from '../record/zone';
import { apartOf, areaOf } from '../shape/outline';

/** A picture with a line around its coral. */
export interface Outlined {
  photo: Photo;
  /** over the square between the two points that do not grow: to be held against another picture's */
  relative: number;
  /** null where it is not known how far apart those points are */
  cm2: number | null;
}

/** Pictures on which the coral is outlined and the two points are set, oldest first. Their distance is one for the whole series. */
export function outlinedOf(pictures: readonly Photo[]): Outlined[] {
  const apartCm = pictures.findLast((p) => p.apartCm !== undefined)?.apartCm ?? null;
  return pictures.flatMap((photo) => {
    const { outline, first, second } = photo;
    const shape = photo.heightPx / photo.widthPx;
    const apart = first && second ? apartOf(first, second, shape) : 0;
    if (!outline || apart <= 0) return [];
    const relative = areaOf(outline, shape) / apart ** 2;
    return [{ photo, relative, cm2: apartCm === null ? null : relative * apartCm ** 2 }];
  });
}

/** A hand draws one outline twice to about this share of its area. Mark: rule of thumb. */
export const USUAL_OUTLINE = 0.04;

/** What is usual counts as so many pairs of one's own. Mark: rule of thumb. */
const USUAL_COUNTS = 3;

export interface Grown {
  days: number;
  /** area over area before */
  ratio: number;
  /** half width of its 90 % band, as a share */
  bandShare: number;
  /** how far outlines of one day differed, as a share of the area, mean; null = no day has two */
  noise: number | null;
}

/** How much larger a coral is in a later picture, seen from where both were taken. */
export function grownBetween(from: Outlined, to: Outlined, all: readonly Outlined[], zone: Zone): Grown {
  const day = (o: Outlined) => dayNumber(civilDay(Date.parse(o.photo.atUtc), zone.timeZone).date);
  const repeats = all.flatMap((a, i) =>
    all.slice(i + 1).flatMap((b) => (day(a) === day(b) ? [Math.abs(Math.log(a.relative / b.relative))] : [])),
  );
  const noise = repeats.length === 0 ? null : repeats.reduce((s, v) => s + v, 0) / repeats.length;
  // a line's variance from differences of two, which have twice as much; what is usual counts as a few of them
  const squares = repeats.reduce((s, v) => s + v ** 2 / 2, USUAL_COUNTS * USUAL_OUTLINE ** 2);
  const one = Math.sqrt(squares / (USUAL_COUNTS + repeats.length));
  return {
    ...{ days: day(to) - day(from), ratio: to.relative / from.relative, noise },
    bandShare: NINETY * Math.SQRT2 * one,
  };
}
