import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { levelsAt } from '../day/day';
import { formatTime } from '../day/clock';
import { lampDay, lampLevels } from '../day/thread';
import { channelLevels, typedControls } from '../spectrum/controls';
import { channelWallWatts } from '../spectrum/watts';
import type { ZoneLight } from './light';
import type { LitGroup } from './lit';

/** What a lamp may really run, or what may lie between it and the corals. */
export type CauseId =
  | 'asPlanned'
  | 'clockOff'
  | 'capTwice'
  | 'otherCap'
  | 'manual'
  | 'neverActivated'
  | 'oneLampOut'
  | 'colourDown'
  | 'row'
  | 'dark'
  | 'weak'
  | 'yellow'
  | 'budget'
  | 'other';

/** One thing a cause may mean. */
export interface Variant {
  words: string;
  weight: number;
  /** levels of the group in question, per lamp, by channel */
  at: (minute: number) => readonly (readonly number[])[];
  /** what reaches a spot of a channel's light, of lamp by lamp of every group, whatever their displays show; left out = all the model says */
  passes?: (group: number, lamp: number, spot: number, channel: number) => number;
}
export interface Cause {
  id: CauseId;
  variants: Variant[];
}

export interface FaultsInput {
  /** all lamps of the water as they are to run; the one in question among them */
  groups: readonly LitGroup[];
  index: number;
  /** what the one in question ran before; null = not known */
  before: LitGroup | null;
  light: ZoneLight;
}

/** Clocks are looked at in steps of this, min; less is not seen by a few readings. */
const CLOCK_STEP = 15;
const LEAST_OFF = 30;
/** What moves the light by less than this share of a spot's brightest, wherever and whenever it moves it most, is beyond a meter. Mark: rule of thumb. */
export const SEEN_SHARE = 0.1;
/** What may be left of a colour. Mark: rule of thumb. */
const LEFT = [0, 0.1, 0.2, 0.35, 0.5, 0.65];
/** What dirt on lenses, worn emitters or a meter too low leave of all light. Mark: rule of thumb. */
const WEAKER = [0.4, 0.45, 0.5, 0.55, 0.6, 0.65, 0.7, 0.75, 0.8];
/** Yellow substances beyond those known, m⁻¹ at 440 nm. Mark: rule of thumb. */
const YELLOWER = [0.3, 0.5, 0.8, 1.2, 1.6];
/** What a lamp that shares its power, or is too warm, gives of its brightest. Mark: rule of thumb. */
const SHARED_POWER = [0.4, 0.5, 0.6, 0.7, 0.8];

const signed = (minutes: number): string => {
  const abs = Math.abs(minutes);
  const words =
    abs % 60 === 0 ? `${abs / 60} h` : abs > 60 ? `${Math.floor(abs / 60)} h ${abs % 60} min` : `${abs} min`;
  return `${words} ${minutes > 0 ? 'ahead' : 'behind'}`;
};
const about = (share: number): string => `about ${Math.round(share * 100)} %`;

const OFFSETS = Array.from(
  { length: DAY_MINUTES / CLOCK_STEP - 1 },
  (_, i) => -DAY_MINUTES / 2 + (i + 1) * CLOCK_STEP,
).filter((d) => Math.abs(d) >= LEAST_OFF);
/** An hour is what a clock change makes. Mark: rule of thumb. */
const offWeight = (d: number) => (Math.abs(d) === 60 ? 8 : 1);

/** Everything a lamp may run instead of what it is to run, and what else may weaken its light; only what it can have. */
export function causesOf({ groups, index, before, light }: FaultsInput): Cause[] {
  const group = groups[index]!;
  const { lampKind: kind, day, lamps } = group;
  const alike = (levels: readonly number[]) => lamps.map(() => levels);
  const at = (g: LitGroup, minute: number) =>
    g.day.knots.length > 0 ? levelsAt(g.day, wrapMinute(minute)) : kind.channels.map(() => 0);
  const planned = (m: number) => at(group, m);
  const lit = group.threads.filter((t) => t.strengthShare > 0);
  const out: Cause[] = [];
  const looked = day.knots.flatMap((k, i) => {
    const span = (day.knots[(i + 1) % day.knots.length]!.minute - k.minute + DAY_MINUTES) % DAY_MINUTES;
    return [k.minute, wrapMinute(k.minute + span / 2)];
  });
  const lightOf = (v: Variant, minute: number, spot: number) =>
    v.at(minute).reduce((all, levels, l) => {
      const full = light.lampPar[index]![l]![spot]!;
      return all + levels.reduce((s, x, c) => s + x * full[c]! * (v.passes?.(index, l, spot, c) ?? 1), 0);
    }, 0);
  const asPlanned: Variant = { words: 'as planned', weight: 1, at: (m) => alike(planned(m)) };
  const wanted = looked.map((m) => light.par[index]!.map((_, spot) => lightOf(asPlanned, m, spot)));
  const peaks = light.par[index]!.map((_, spot) => Math.max(0, ...wanted.map((w) => w[spot]!)));
  /** it moves the light somewhere, at some time, by what a meter cannot miss */
  const seen = (v: Variant) =>
    looked.some((m, i) =>
      peaks.some((peak, spot) => Math.abs(lightOf(v, m, spot) - wanted[i]![spot]!) > SEEN_SHARE * peak),
    );
  const add = (id: CauseId, variants: readonly Variant[]) => {
    const kept = id === 'asPlanned' ? variants : variants.filter(seen);
    if (kept.length > 0) out.push({ id, variants: [...kept] });
  };

  add('asPlanned', [asPlanned]);
  add(
    'clockOff',
    OFFSETS.map((d) => ({
      words: `clock ${signed(d)}`,
      weight: offWeight(d),
      at: (m) => alike(planned(m + d)),
    })),
  );
  const dims = kind.controller.sets !== 'switch' && day.capShare > 0;
  if (dims && day.capShare < 0.97) {
    const twice = { ...group, day: { ...day, capShare: day.capShare ** 2 } };
    add('capTwice', [{ words: 'cap applied twice', weight: 1, at: (m) => alike(at(twice, m)) }]);
  }
  const top = Math.max(0, ...day.knots.flatMap((k) => k.levels));
  if (dims && top > 0 && top < 0.97) {
    const rescales = day.capMeans === 'rescales';
    const other: LitGroup = {
      ...group,
      day: { ...day, capMeans: rescales ? 'multiplies' : 'rescales', top },
    };
    add('otherCap', [
      {
        words: rescales ? 'cap multiplies every point' : 'cap rescales the day to its largest point',
        weight: 1,
        at: (m) => alike(at(other, m)),
      },
    ]);
  }
  add(
    'manual',
    [...new Map(lit.map((t) => [t.mixName, t.mix]))].flatMap(([name, mix]) =>
      Array.from({ length: 20 }, (_, i) => (i + 1) / 20).map((s) => {
        const levels = lampLevels(kind, mix, s);
        return { words: `in manual, ${about(s)} of ${name}`, weight: 1, at: () => alike(levels) };
      }),
    ),
  );
  if (before)
    add('neverActivated', [
      { words: 'never activated: it runs what it ran before', weight: 1, at: (m) => alike(at(before, m)) },
    ]);
  if (lamps.length > 1)
    add(
      'oneLampOut',
      lamps.flatMap((l, k) =>
        OFFSETS.map((d) => ({
          words: `${l.name} alone has its clock ${signed(d)}`,
          weight: offWeight(d),
          at: (m: number) => lamps.map((_, i) => planned(i === k ? m + d : m)),
        })),
      ),
    );
  add(
    'row',
    rowsWrong(group).map(({ words, day: typed }) => ({
      words,
      weight: 1,
      at: (m: number) => alike(levelsAt(typed, wrapMinute(m))),
    })),
  );
  add('colourDown', [...coloursDown(group, top), ...deadOfOne(group, index)]);
  const none = kind.channels.map(() => 0);
  add('dark', [
    {
      words: `${lamps.length > 1 ? 'all of them are' : 'it is'} dark`,
      weight: lamps.length,
      at: () => alike(none),
    },
    ...(lamps.length > 1
      ? lamps.map((l, k) => ({
          words: `${l.name} is dark`,
          weight: 1,
          at: (m: number) => lamps.map((_, i) => (i === k ? none : planned(m))),
        }))
      : []),
  ]);
  const brightest = Math.max(0, ...day.knots.map((k) => sum(planned(k.minute), channelWallWatts(kind))));
  add(
    'weak',
    WEAKER.map((left) => ({
      words: `all of its light at ${about(left)}: dirty lenses, a worn lamp, or the meter is off`,
      weight: 1,
      at: (m: number) => alike(planned(m)),
      passes: (g: number) => (g === index ? left : 1),
    })),
  );
  add(
    'yellow',
    YELLOWER.map((more) => ({
      words: `the water is yellower than said, by about ${more.toFixed(1)} per m at 440 nm`,
      weight: 1,
      at: (m: number) => alike(planned(m)),
      passes: (g: number, _: number, spot: number, c: number) => {
        const par = light.par[g]![spot]![c]!;
        return par > 0 ? Math.exp((light.byYellow[g]![spot]![c]! / par) * more) : 1;
      },
    })),
  );
  if (kind.channels.length > 1 && brightest > 0)
    add(
      'budget',
      SHARED_POWER.map((share) => ({
        words: `it holds back when much is on: ${about(share)} of what is set at its brightest`,
        weight: 1,
        at: (m: number) => {
          const levels = planned(m);
          const wanted = sum(levels, channelWallWatts(kind));
          const held = Math.min(1, (share * brightest) / Math.max(wanted, 1e-9));
          return alike(levels.map((v) => v * held));
        },
      })),
    );
  return out;
}

const sum = (levels: readonly number[], each: readonly number[]) =>
  levels.reduce((s, v, c) => s + v * each[c]!, 0);

/** A colour set lower than planned, weak or dead: on all lamps, or on one of several. */
function coloursDown(group: LitGroup, top: number): Variant[] {
  const { lampKind: kind, day, lamps } = group;
  if (kind.controls.length < 2) return [];
  return kind.controls
    .filter((c) => c.kind === 'level' || c.kind === 'onOff')
    .flatMap((c) =>
      LEFT.map((left): Variant => {
        const down: LitGroup = {
          ...group,
          day: {
            ...day,
            top: day.top ?? top,
            knots: day.knots.map((k) => {
              const thread = group.threads.find((t) => t.minute === k.minute);
              if (!thread) return k;
              const typed = typedControls(kind, thread.mix, thread.strengthShare);
              return { ...k, levels: channelLevels(kind, { ...typed, [c.id]: (typed[c.id] ?? 0) * left }) };
            }),
          },
        };
        return {
          words:
            left > 0
              ? `${c.name} at ${about(left)} of what is set: set lower, or weak`
              : `${c.name} dark: left down, or dead`,
          weight: left > 0 ? 1 : 2,
          at: (m) => lamps.map(() => levelsAt(down.day, wrapMinute(m))),
        };
      }),
    );
}

/** A channel of one lamp of several that is dead: its display knows nothing of it. */
const deadOfOne = ({ lampKind: kind, day, lamps }: LitGroup, index: number): Variant[] =>
  lamps.length < 2
    ? []
    : kind.channels.flatMap((channel, c) =>
        lamps.map((l, k): Variant => ({
          words: `${channel.name} of ${l.name} dark`,
          weight: 1,
          at: (m) => lamps.map(() => levelsAt(day, wrapMinute(m))),
          passes: (g, lamp, _, at) => (g === index && lamp === k && at === c ? 0 : 1),
        })),
      );

/** Mistakes in typing one row: its strength, as parts of what is planned, and its time, min. Mark: rule of thumb. */
const ROW_AT = [0, 0.1, 0.5];
const ROW_OFF = [-120, -60, 60, 120];

/** A day with one row typed wrong: dark, a tenth (a digit left out), half, or hours early or late. */
function rowsWrong(group: LitGroup): { words: string; day: LitGroup['day'] }[] {
  const { lampKind: kind, threads, day } = group;
  // the largest point of a day that is rescaled stays what the plan's is
  const top = day.top ?? Math.max(0, ...day.knots.flatMap((k) => k.levels));
  const typed = (i: number, change: Partial<LitGroup['threads'][number]>) => {
    const rows = threads.map((t, k) => (k === i ? { ...t, ...change } : t));
    return {
      ...lampDay(
        kind,
        [...rows].sort((a, b) => a.minute - b.minute),
        day,
      ),
      top,
    };
  };
  return threads.flatMap((t, i) => {
    const name = `the row of ${formatTime(t.minute)}`;
    const strengths = ROW_AT.map((left) => ({
      words: left > 0 ? `${name} at ${about(left)} of what is planned` : `${name} dark`,
      day: typed(i, { strengthShare: t.strengthShare * left }),
    }));
    const times = ROW_OFF.map((by) => wrapMinute(t.minute + by))
      .filter((minute) => !threads.some((other) => other.minute === minute))
      .map((minute) => ({ words: `${name} typed as ${formatTime(minute)}`, day: typed(i, { minute }) }));
    return [...(t.strengthShare > 0 ? strengths : []), ...times];
  });
}
