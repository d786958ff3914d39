import type { Measured } from '../record/experiment';
import type { Window } from '../record/zone';
import { wrapMinute } from '../shape/ring';
import { dli, litSpan } from '../day/day';
import { lampDay, type ResolvedThread } from '../day/thread';
import type { MixTurns } from '../library/colours';
import { type PatternDay, patternDay, type PatternsInput, sameDay, turnedDay } from './patterns';
import { type PatternId, patternOf } from './schools';

/** Questions that keepers disagree on. Each school of one is a day for a lamp, all of them with the same light at the coral. */

/** How a school's day is made from the wanted one. */
type Making =
  | { turn: keyof MixTurns }
  | { pattern: PatternId }
  /** the broad day, lit for so many hours */
  | { hours: number };

export interface School {
  id: string;
  name: string;
  /** what is done */
  does: string;
  gains: string;
  givesUp: string;
  making: Making;
}

export interface Dispute {
  id: DisputeId;
  asks: string;
  schools: readonly School[];
  /** what is proven, with whose work where it is one's; null = nothing that is known here */
  proven: string | null;
  unproven: string;
  /** what an experiment on it would measure first */
  measure: Measured;
}
export type DisputeId = 'colour' | 'height' | 'hours' | 'slopes' | 'pause' | 'violet' | 'algae';

const pattern = (id: PatternId, name = patternOf(id).name): School => {
  const { about, gives, givesUp } = patternOf(id);
  return { id, name, does: about, gains: gives, givesUp, making: { pattern: id } };
};

const LOOKED_AT: readonly Dispute[] = [
  {
    id: 'colour',
    asks: 'Mostly blue, or white?',
    schools: [
      {
        ...{ id: 'blue', name: 'Mostly blue', making: { turn: 'blue' } },
        does: 'Blue and violet alone, as far as the lamp can, raised until the coral has its light.',
        gains: 'Glow shows best, and more of the light is of the kind that corals take.',
        givesUp: 'Fish, rock and corals that do not glow look dull; blue looks dimmer than it is.',
      },
      {
        ...{ id: 'mixed', name: 'The mix as it is', making: { turn: 'base' } },
        does: 'The mix that gives most of the present light, all day.',
        gains: 'The tank looks at every hour as it does at its strongest.',
        givesUp: 'Neither the most glow nor the most natural look.',
      },
      {
        ...{ id: 'white', name: 'Whiter', making: { turn: 'white' } },
        does: 'Its white is turned up; then all of it is set to the same light.',
        gains: 'A bright tank in which everything shows its own colour.',
        givesUp: 'Less glow; of the same light, corals take less.',
      },
    ],
    proven:
      'The algae in corals take up blue and violet best and green least. Several corals make more of their glowing and coloured proteins under blue light (D’Angelo and others, 2008).',
    unproven:
      'That a tank grows better under mostly blue. Results differ between kinds of coral and from study to study.',
    measure: 'chroma',
  },
  {
    id: 'height',
    asks: 'A long plateau, or a short height?',
    schools: [pattern('broad'), pattern('summit')],
    proven:
      'Photosynthesis saturates: above a certain light more adds little, and what is too much has to be got rid of. Of the same light a day, a higher peak spends more above that.',
    unproven: 'That corals colour better under one than under the other.',
    measure: 'mass',
  },
  {
    id: 'hours',
    asks: 'A short day, or a long one?',
    schools: [
      {
        ...{ id: 'short', name: 'Eight hours', making: { hours: 8 } },
        does: 'All of the light within eight hours.',
        gains: 'Long dark hours, and less time in which algae on rock and panes are lit.',
        givesUp: 'The same light needs a higher peak.',
      },
      {
        ...{ id: 'long', name: 'Twelve hours', making: { hours: 12 } },
        does: 'All of the light over twelve hours.',
        gains: 'A lower peak, and a tank to look at for longer.',
        givesUp: 'More hours for everything else that grows by light.',
      },
    ],
    proven: 'Light a day is strength times hours: fewer hours need a higher peak. That is arithmetic.',
    unproven: 'Which of two days with the same light suits corals better.',
    measure: 'mass',
  },
  {
    id: 'slopes',
    asks: 'A dawn, or just on and off?',
    schools: [pattern('broad', 'With a dawn'), pattern('switched')],
    proven: 'Without slopes the same light a day takes a lower peak or fewer hours. That is arithmetic.',
    unproven:
      'That corals need a dawn. That fish are less startled with one is what keepers see, not a trial.',
    measure: 'mass',
  },
  {
    id: 'pause',
    asks: 'Should white pause at noon?',
    schools: [pattern('broad', 'No pause'), pattern('rest')],
    proven: null,
    unproven: 'That a stretch of pure blue in the middle of the day changes colour or growth at all.',
    measure: 'chroma',
  },
  {
    id: 'violet',
    asks: 'Hours of violet alone?',
    schools: [pattern('broad', 'Violet in the mix'), pattern('violet')],
    proven:
      'Violet is taken up by the algae in corals and makes several of their proteins glow. To the eye it looks dimmer than it is.',
    unproven: 'That hours of violet alone bring more colour than the same light without them.',
    measure: 'chroma',
  },
];

const UNSEEN: readonly Dispute[] = [
  {
    id: 'algae',
    asks: 'When are algae lit?',
    schools: (['opposite', 'half', 'round', 'along'] as const).map((id) => pattern(id)),
    proven:
      'Algae that are lit while the display is dark take up carbon dioxide then, so that pH falls less by night.',
    unproven: 'That they grow more at one hour than at another, for the same light.',
    measure: 'mass',
  },
];

/** What is asked of a water. @param lookedAt somebody looks at it @param others it has a display to go by */
export const disputesFor = (lookedAt: boolean, others: boolean): readonly Dispute[] =>
  lookedAt
    ? LOOKED_AT
    : UNSEEN.map((d) => ({
        ...d,
        schools: d.schools.filter((s) => others || s.id === 'half' || s.id === 'round'),
      }));

/** What a school comes to for a lamp. */
export interface SchoolDay {
  id: string;
  day: PatternDay;
  /** the school before it in the same question whose day this one is too: the lamp cannot do what they differ by */
  sameAs: string | null;
  /** it is the day as it is */
  isPresent: boolean;
}
export interface DisputeAnswer {
  id: DisputeId;
  schools: SchoolDay[];
}

/** So many hours that end when those at home do. */
function litFor(hours: number, home: Window): Window {
  return { fromMinute: wrapMinute(home.toMinute - hours * 60), toMinute: home.toMinute };
}

/** Every school's day for a group, all with the wanted light at the coral; yields how far it is. */
export function* disputeSteps(input: PatternsInput): Generator<number, DisputeAnswer[]> {
  const { kind, par, easingShare, present } = input;
  const dliOf = (threads: readonly ResolvedThread[], capShare: number) =>
    dli(lampDay(kind, threads, { capShare, easingShare }), par);
  const lampOf = ({ threads, capShare }: Pick<PatternDay, 'threads' | 'capShare'>) =>
    lampDay(kind, threads, { capShare, easingShare });
  const now = present.length > 0 ? lampOf({ threads: [...present], capShare: input.capShare }) : null;
  const asked = disputesFor(input.lookedAt, litSpan(input.others) !== null);
  const all = asked.reduce((sum, d) => sum + d.schools.length, 0);
  const made = new Map<string, PatternDay>();
  const out: DisputeAnswer[] = [];
  let done = 0;
  for (const { id, schools } of asked) {
    const days: SchoolDay[] = [];
    for (const school of schools) {
      yield done / all;
      done += 1;
      const { making } = school;
      const key = JSON.stringify(making);
      // the broad day is a school of several questions
      const day =
        made.get(key) ??
        ('turn' in making
          ? turnedDay(making.turn, present, { ...input, dliOf })
          : 'hours' in making
            ? patternDay('broad', { ...input, lit: litFor(making.hours, input.home), dliOf })
            : patternDay(making.pattern, { ...input, dliOf }));
      made.set(key, day);
      const lamp = lampOf(day);
      const lit = day.threads.length > 0;
      const twin = lit && days.find((d) => d.day.threads.length > 0 && sameDay(lampOf(d.day), lamp));
      days.push({
        ...{ id: school.id, day, sameAs: twin ? twin.id : null },
        isPresent: lit && now !== null && day.reason === null && sameDay(now, lamp),
      });
    }
    out.push({ id, schools: days });
  }
  return out;
}
