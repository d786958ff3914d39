import type { Group, Spot } from '@/core/record/zone';
import type { LitGroup } from '@/core/case/lit';
import { dli } from '@/core/day/day';
import { par } from '@/core/spectrum/bands';
import type { Spectrum } from '@/core/spectrum/grid';
import { slug } from '@/core/shape/slug';
import { dayText } from '@/store/dayText';

/**
 * A group's day as the text of a file: by value, with its lamps, the coral it was judged at and the light that has of it.
 * @param spectra of its channels at full at that coral; null = not computed yet
 */
export const dayFile = (
  lit: LitGroup,
  group: Group,
  spot: Spot | null,
  spectra: readonly Spectrum[] | null,
): { name: string; text: string } => ({
  name: `${slug(group.name, 'day')}.day.json`,
  text: dayText({
    name: group.name,
    lampKind: lit.lampKind,
    lamps: group.lamps,
    capShare: group.capShare,
    threads: lit.threads.map(({ minute, strengthShare, mix, mixName }) => ({
      minute,
      strengthShare,
      mix,
      mixName,
    })),
    depthCm: spot?.depthCm ?? 0,
    ...(spot && spectra
      ? {
          light: {
            spot: spot.name,
            dli: dli(lit.day, spectra.map(par)),
            channels: spectra.map((s) => Array.from(s, (x) => Number(x.toPrecision(5)))),
          },
        }
      : {}),
  }),
});
