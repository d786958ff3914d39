import { dateOf, dayNumber } from '@/core/day/wallClock';
import type { Experiment } from '@/core/record/experiment';
import { phasesOf } from '@/core/record/experiment';
import type { EasingPlan, RunningEntry } from '@/core/record/history';
import type { LogEvent } from '@/core/record/log';
import type { Photo } from '@/core/record/log/photo';
import { normal, seeded } from '@/core/spectrum/random';
import { CARD } from '@/core/portrait/sizes';

/**
 * Eight months of the reading-room lagoon, invented: what its keeper typed in, logged, photographed and weighed. All of it follows from
 * the hidden truth below: whoever replays what ran finds the same steps, and the signs and weights that it makes of them.
 */
export const TRUTH = {
  /** the largest step each coral bears at once; what is beyond it pales, and is seen so many days later */
  bears: { 'demo-copper': 1.2, 'demo-plum': 1.5, 'demo-moss': 1.6, 'demo-slate': 1.5, 'demo-straw': 1.6 },
  palesAfterDays: 9,
  /** share of its colour that is left then, and days until all of it is back */
  paleShare: 0.45,
  backDays: 55,
  /** the table's growth of mass a day; violet does nothing for it */
  growthPerDay: 0.0042,
  violetGrowth: 0,
  /** how fragments differ, and how well they are weighed, one standard deviation each */
  scatterShare: 0.15,
  scaleShare: 0.004,
} as const;

const DAY_MS = 86_400_000;
/** Days ago. */
export const STORY = {
  begins: 243,
  /** lens wiped and cap raised on one day; seen to pale; cut */
  both: 150,
  cut: 140,
  /** cap eased up again, step by step */
  steps: [110, 103, 97, 90, 84],
  /** the experiment begins; B; measured to the end */
  asked: 70,
  restDays: 7,
  phaseDays: 21,
} as const;
export const CAPS = { first: 0.66, raised: 0.74, cut: 0.62, eased: [0.66, 0.7, 0.74, 0.78, 0.8] } as const;
/** What a wiped lens gave back. */
export const WIPED = 0.12;
const MORE_VIOLET = 1.25;
/** B at as much light as A. */
const B_CAP = 0.78;

type Running = Omit<RunningEntry, 'id' | 'atUtc' | 'usedTo'>;
const utc = (nowMs: number, daysAgo: number) => new Date(nowMs - daysAgo * DAY_MS).toISOString();

/** What ran before today's day: the same day at other caps, then the experiment's. */
export function storyRuns(nowMs: number, today: Running): RunningEntry[] {
  const ran = (id: string, daysAgo: number, change: Partial<RunningEntry>): RunningEntry => ({
    ...{ ...today, id: `demo-ran-${id}`, atUtc: utc(nowMs, daysAgo), usedTo: false },
    ...change,
  });
  return [
    ran('first', STORY.begins, { capShare: CAPS.first, usedTo: true }),
    ran('raised', STORY.both, { capShare: CAPS.raised }),
    ran('cut', STORY.cut, { capShare: CAPS.cut }),
    ...STORY.steps.map((d, i) => ran(`step-${i + 1}`, d, { capShare: CAPS.eased[i]!, planId: 'demo-eased' })),
    ran('violet', STORY.asked - STORY.restDays - STORY.phaseDays, {
      capShare: B_CAP,
      threads: today.threads.map((t) => ({
        ...t,
        mix: { ...t.mix, violet: Math.min(1, (t.mix.violet ?? 0) * MORE_VIOLET) },
        mixName: `${t.mixName}, more violet`,
      })),
    }),
  ];
}

/** The plan by which it was eased up again, done. */
export function storyPlan(nowMs: number, today: Running, date: (daysAgo: number) => string): EasingPlan {
  const { groupId, groupName, lampKind, lamps, threads } = today;
  const target = (capShare: number) => ({ groupId, groupName, lampKind, lamps, threads, capShare });
  return {
    ...{ id: 'demo-eased', zoneId: today.zoneId, name: 'Up again after the cut', method: 'cap' },
    ...{ createdUtc: utc(nowMs, STORY.steps[0]), ceiling: 1.15, schedule: { kind: 'fastest' } },
    ...{ targets: [target(CAPS.eased.at(-1)!)], from: [target(CAPS.cut)], state: 'finished' },
    steps: STORY.steps.map((d, i) => ({
      ...{ date: date(d), setting: CAPS.eased[i]! / CAPS.eased.at(-1)!, doneUtc: utc(nowMs, d) },
    })),
    deeds: [],
  };
}

/** How much of the table's colour is left on a day. */
export function leftShare(daysAgo: number): number {
  const since = STORY.both - TRUTH.palesAfterDays - daysAgo;
  return since < 0 ? 1 : Math.min(1, TRUTH.paleShare + ((1 - TRUTH.paleShare) * since) / TRUTH.backDays);
}
/** How wide the table is on a day, as a share of what fills the frame: mass goes with the cube of it. */
export const widthShare = (daysAgo: number): number => 0.8 * Math.exp((-TRUTH.growthPerDay / 3) * daysAgo);

/** Pictures of the table, days ago; two of one day say what the camera does by itself. */
export const PICTURED = [240, 212, 182, 153, 139, 112, 84, 56, 28, 28, 6] as const;
/** The card is so wide, cm. */
const CARD_CM = 5;
/** A hand draws around the table's cap: its rim stays where it is, its top rises as it grows. As shares of the frame, by width. */
const CAP = { x: 0.5, halfX: 0.386, bottom: 0.69, topAtNothing: 0.661, rises: 0.619 } as const;
const CORNERS = 24;
/** How well a hand draws: sizes are off by so much, one standard deviation. */
const HAND = 0.012;

function outline(daysAgo: number, random: () => number): Photo['outline'] {
  const w = widthShare(daysAgo);
  const by = 1 + HAND * normal(random);
  const half = (CAP.bottom - (CAP.topAtNothing - CAP.rises * w)) / 2;
  return Array.from({ length: CORNERS }, (_, i) => {
    const turn = (2 * Math.PI * i) / CORNERS;
    return {
      x: CAP.x + CAP.halfX * w * by * Math.cos(turn),
      y: CAP.bottom - half + half * by * Math.sin(turn),
    };
  });
}

/** Width and height of its pictures. */
export const PHOTO_PX = [480, 360] as const;
const photos = (nowMs: number, zoneId: string): Photo[] => {
  const random = seeded(31);
  const middle = CARD.top + CARD.height / 2;
  return PICTURED.map((daysAgo, i): Photo => ({
    ...{ id: `demo-photo-${i + 1}`, zoneId, spotId: 'demo-copper', kind: 'photo', note: '' },
    // the second of a day a little later
    atUtc: new Date(nowMs - daysAgo * DAY_MS + (PICTURED[i - 1] === daysAgo ? 180_000 : 0)).toISOString(),
    ...{ widthPx: PHOTO_PX[0], heightPx: PHOTO_PX[1], bytes: 60_000, lit: 'Reading noon, a made-up picture' },
    grey: { x: CARD.left + CARD.width / 2, y: middle },
    ...{ first: { x: CARD.left, y: middle }, second: { x: CARD.left + CARD.width, y: middle } },
    ...{ apartCm: CARD_CM, outline: outline(daysAgo, random) },
  }));
};

/** Upkeep of the display's lamps, days ago. */
const SEEN_TO = [
  ['drip', 100],
  ['residual', 100],
  ['clock', 100],
  ['fan', 36],
  ['salt', 8],
] as const;
/** A lens that is wiped would have spoilt the experiment: it was put off until so many days from now. */
export const LENS_IN_DAYS = 3;

/** What was seen, done and photographed. */
export function storyEvents(nowMs: number, zoneId: string, date: (daysAgo: number) => string): LogEvent[] {
  const at = (id: string, daysAgo: number, note = '') => ({
    ...{ id: `demo-${id}`, zoneId, atUtc: utc(nowMs, daysAgo), note },
  });
  const sign = (id: string, daysAgo: number, spotId: string, of: string, note = ''): LogEvent =>
    ({ ...at(id, daysAgo, note), kind: 'sign', spotId, sign: of }) as LogEvent;
  return [
    sign('fine-1', 212, 'demo-copper', 'polypsOut'),
    {
      ...at('wiped', STORY.both, 'Wiped both lenses, and the cap went up while I was at it.'),
      ...{ kind: 'lens', groupId: null, gainShare: WIPED },
    },
    sign('paled', STORY.both - TRUTH.palesAfterDays, 'demo-copper', 'paling', 'Rim first.'),
    sign('plum-fine', STORY.both - TRUTH.palesAfterDays, 'demo-plum', 'asBefore'),
    sign('fine-2', 84, 'demo-copper', 'asBefore'),
    {
      ...at('told', STORY.steps[0]),
      ...{ kind: 'foretold', of: 'Up again after the cut', askDate: date(STORY.steps.at(-1)! - 21) },
      corals: [
        { spotId: 'demo-copper', chance: 0.86, came: 'well' },
        { spotId: 'demo-plum', chance: 0.9, came: 'well' },
      ],
    },
    sign('larger', 60, 'demo-copper', 'larger'),
    sign('fine-3', 20, 'demo-plum', 'polypsOut'),
    ...SEEN_TO.map(([chore, daysAgo]): LogEvent => ({
      ...at(`seen-to-${chore}`, daysAgo),
      kind: 'chore',
      chore,
    })),
    ...photos(nowMs, zoneId),
  ];
}

/** Does violet make the table grow? Five pieces of it, weighed; by the truth it does not. */
export function storyExperiment(date: (daysAgo: number) => string): Experiment {
  const random = seeded(17);
  const fragments = Array.from({ length: 5 }, (_, i) => ({
    ...{ id: `demo-piece-${i + 1}`, name: `Piece ${i + 1}`, spotId: 'demo-copper' },
  }));
  const bare: Experiment = {
    ...{
      id: 'demo-violet',
      name: 'Does violet make the table grow?',
      change: 'violet a quarter up, cap 80 → 78 %',
    },
    ...{ measure: 'mass', start: date(STORY.asked), phases: 'AB', values: [], fragments },
    ...{ restDays: STORY.restDays, phaseDays: STORY.phaseDays },
  };
  const now = fragments.map(() => 900 + 400 * random());
  const weigh = (mg: number) => Math.round(mg * (1 + TRUTH.scaleShare * normal(random)));
  const values = phasesOf(bare).flatMap(({ light, from, to }, phase) =>
    fragments.flatMap((f, i) => {
      const rate =
        TRUTH.growthPerDay *
        (1 + (light === 'B' ? TRUTH.violetGrowth : 0)) *
        (1 + TRUTH.scatterShare * normal(random));
      const start = { phase, fragmentId: f.id, at: 'start' as const, date: from, value: weigh(now[i]!) };
      now[i]! *= Math.exp(rate * (dayNumber(to) - dayNumber(from)));
      const end = { phase, fragmentId: f.id, at: 'end' as const, date: to, value: weigh(now[i]!) };
      // while it rests it grows on
      now[i]! *= Math.exp(rate * STORY.restDays);
      return [start, end];
    }),
  );
  return { ...bare, values };
}

/** Local dates by days ago. */
export const datesFrom = (today: string) => (daysAgo: number) => dateOf(dayNumber(today) - daysAgo);
