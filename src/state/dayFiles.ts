import type { Group, Spot } from '@/core/record/zone';
import type { LitGroup } from '@/core/case/lit';
import { slug } from '@/core/shape/slug';
import { type DayFile, dayText, readDay } from '@/store/dayFile';

export type { DayFile };
export { readDay };

/** A group's day as the text of a file: by value, with its lamps and the coral it was judged at. */
export const dayFile = (lit: LitGroup, group: Group, spot: Spot | null): { name: string; text: string } => ({
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
  }),
});
