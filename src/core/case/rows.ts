import { fullSeconds } from '../day/day';
import { type Calibration, gainOf } from './calibration';
import { levelsOfGroups } from './light';
import { type HungGroup, type LitGroup, rowNames } from './lit';

/** What every row of light counts for: the level of its channel, or its seconds, times its gain. */
export function rowShares(
  groups: readonly LitGroup[],
  levels: readonly (readonly number[])[],
  cal: Pick<Calibration, 'gains'>,
): Float64Array {
  const of = new Map(
    groups.flatMap((g, i) =>
      g.lampKind.channels.map(
        (c, k) => [channelName(g.groupId, c.id), levels[i]![k]! * gainOf(cal, g.groupId, c.id)] as const,
      ),
    ),
  );
  return Float64Array.from(rowNames(groups), (n) => of.get(channelName(n.groupId, n.channelId))!);
}
const channelName = (groupId: string, channelId: string) => JSON.stringify([groupId, channelId]);

export const sharesAt = (
  groups: readonly LitGroup[],
  minute: number,
  cal: Pick<Calibration, 'gains'>,
): Float64Array => rowShares(groups, levelsOfGroups(groups, minute), cal);

/** For a day's dose, mol m⁻²: seconds at full / 10⁶. */
export const doseShares = (groups: readonly LitGroup[], cal: Pick<Calibration, 'gains'>): Float64Array =>
  rowShares(
    groups,
    groups.map((g) => {
      const seconds = fullSeconds(g.day);
      return g.lampKind.channels.map((_, c) => (seconds[c] ?? 0) / 1e6);
    }),
    cal,
  );

/** The channel of every row: rows of one channel of one group belong together. */
export function channelOfRow(groups: readonly HungGroup[]): number[] {
  const numbers = new Map<string, number>();
  groups.forEach((g) =>
    g.lampKind.channels.forEach((c) => numbers.set(channelName(g.groupId, c.id), numbers.size)),
  );
  return rowNames(groups).map((n) => numbers.get(channelName(n.groupId, n.channelId))!);
}
