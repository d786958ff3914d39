import { formatTime } from '@/core/day/clock';
import type { CaseDoc } from '@/core/record/caseDoc';
import { logKinds } from '@/core/record/log';
import type { Thread } from '@/core/record/zone';
import { NOTHING_CHOSEN, type Settings } from '@/state/settings';

import { TERMS, wholeTerm } from '../shared/terms';

/** Something that can be gone to by its name. */
export interface Found {
  id: string;
  name: string;
  /** what kind of thing it is */
  kind: string;
  /** other words it is known by */
  also?: string;
  /** where it is */
  to?: string;
  /** what is chosen with it */
  chooses?: Partial<Settings>;
  /** a word that is explained on the spot */
  means?: string;
}

const PAGES: readonly (readonly [to: string, name: string, also: string])[] = [
  ['/', 'Today', 'now home'],
  ['/mix', 'Mix', 'comb channels levels spectrum colour'],
  ['/day', 'Day', 'schedule ramp threads weave cap'],
  ['/tank', 'Tank', 'chart map light par placement'],
  ['/log', 'Log', 'history diary notes'],
  ['/case', 'Case', 'settings data files export import backup paper night units inches gallons clock'],
  ['/start', 'Start my tank', 'new begin own setup wizard'],
  ['/lamps', 'Lamps', 'library add lamp hang fixture'],
  ['/hang', 'Hang the lamps', 'height spacing tilt diffuser arrange even section'],
  ['/choose', 'Choose a lamp', 'buy which lamp best price watts rank compare new'],
  ['/swap', 'Swap a lamp', 'exchange new lamp upgrade take down match'],
  ['/place', 'A coral in hand', 'place new coral where position neighbours stings'],
  ['/whole', 'The whole tank', 'plan proposal stock everything together new tank'],
  ['/plates', 'Plates', 'presets versions notes files'],
  ['/compare', 'Compare lamps and mixes', 'side by side'],
  ['/corals', 'Corals and their colours', 'glow white advice'],
  ['/design', 'Design a mix', 'answers aims school'],
  ['/sheet', 'Sheet to type into the lamp', 'print program enter'],
  ['/load', 'Load into simulated lamp heads', 'send device check'],
  ['/prove', 'Prove what the lamp runs', 'fault wrong check'],
  ['/schools', 'Where keepers disagree', 'schools disputes blue white plateau dawn violet pause proven'],
  ['/patterns', 'A day as I want it', 'wanted shape dawn noon pattern beauty'],
  ['/around', 'Night, interludes, weather, clock', 'moon storm clouds daylight saving'],
  ['/fit', 'Fit the day to a controller', 'slots timer points'],
  ['/carry', 'Carry a day here', 'transfer copy match friend'],
  ['/hours', 'Hours of each colour and coral', 'saturation photoperiod'],
  ['/ease', 'Ease a change in', 'acclimate plan steps'],
  ['/rescue', 'Too much at once', 'burn bleach help emergency'],
  ['/pictures', 'Pictures', 'photographs camera compare colour blind before after'],
  ['/experiments', 'Experiments', 'question growth weigh compare test effect chance'],
  ['/readings', 'Readings with a meter', 'par measure lux'],
  ['/calibration', 'Calibration from readings', 'fit doubt meter'],
  ['/before-after', 'Before and after, from readings', 'compare sessions'],
  ['/algae', 'Algae and refugium', 'macroalgae mat harvest nitrate'],
  ['/sizing', 'Size a refugium light', 'grow light'],
  ['/which', 'Which algae for this light', 'choose macroalgae'],
  ['/bench', 'Bench of simulated lamp heads', 'devices simulate'],
  ['/given', 'Given in a link', 'share link qr code received open paste friend'],
  ['/practice', 'Practice', 'learn trainer quiz exercise teach score'],
  ['/upkeep', 'Upkeep', 'chores lens carbon lamp age'],
];

const mixName = (doc: CaseDoc, { mix }: Thread): string =>
  'plateId' in mix ? (doc.plates.find((p) => p.id === mix.plateId)?.name ?? 'dark') : 'own mix';

/** Everything of a case that has a name, and every place. */
export function findable(doc: CaseDoc): Found[] {
  return [
    ...PAGES.map(([to, name, also]): Found => ({ id: `page ${to}`, name, kind: 'place', also, to })),
    ...logKinds().flatMap(({ kind, form }): Found[] =>
      form
        ? [
            {
              id: `log ${kind}`,
              name: `Log: ${form.key}`,
              kind: 'action',
              also: `note ${kind}`,
              to: `/log?enter=${kind}`,
            },
          ]
        : [],
    ),
    {
      id: 'log sign',
      name: 'Log: how a coral looks',
      kind: 'action',
      also: 'pale brown sign',
      to: '/log?enter=sign',
    },
    ...doc.zones.flatMap((z): Found[] => {
      const water = { ...NOTHING_CHOSEN, zoneId: z.id };
      return [
        { id: `water ${z.id}`, name: z.name, kind: 'water', to: '/', chooses: water },
        ...z.spots.map((s) => ({
          id: `spot ${s.id}`,
          name: s.name,
          kind: s.need === null ? `spot, ${z.name}` : `lives in ${z.name}`,
          to: '/tank',
          chooses: { ...water, spotId: s.id },
        })),
        ...z.groups.flatMap((g) => [
          {
            id: `group ${g.id}`,
            name: g.name,
            kind: `lamps, ${z.name}`,
            to: '/mix',
            chooses: { ...water, groupId: g.id },
          },
          ...g.lamps.map((l) => ({
            id: `lamp ${g.id} ${l.id}`,
            name: l.name,
            kind: `lamp, ${z.name}`,
            also: g.name,
            to: '/tank',
            chooses: { ...water, groupId: g.id },
          })),
          ...g.threads.map((t) => ({
            id: `thread ${g.id} ${t.id}`,
            name: `${formatTime(t.minute)} ${mixName(doc, t)}`,
            kind: `thread, ${g.name}`,
            to: '/day',
            chooses: { ...water, groupId: g.id },
          })),
        ]),
      ];
    }),
    ...doc.plates.map((p) => {
      const home = doc.zones
        .flatMap((z) => z.groups.map((g) => ({ z, g })))
        .find(({ g }) => g.lampKindId === p.lampKindId);
      return {
        id: `plate ${p.id}`,
        name: p.name,
        kind: 'plate',
        also: p.notes,
        to: home ? '/mix' : '/plates',
        chooses: home ? { ...NOTHING_CHOSEN, zoneId: home.z.id, groupId: home.g.id, plateId: p.id } : {},
      };
    }),
    ...TERMS.map((t): Found => ({
      id: `term ${t.name}`,
      name: t.name,
      kind: 'word',
      also: t.also,
      means: wholeTerm(t),
    })),
  ];
}

/** The words of a page that are explained: what it says of itself is looked through for each. */
export const wordsOn = (page: string): string[] =>
  TERMS.filter((t) => t.seen.test(page)).map((t) => `term ${t.name}`);

const plain = (text: string) => text.toLowerCase().normalize('NFKD').replace(/\p{M}/gu, '');

/** What fits typed words, the best first: every word is in its name, its kind or its other words; nothing typed: what was gone to last. */
export function finds(all: readonly Found[], typed: string, recent: readonly string[], most = 12): Found[] {
  const words = plain(typed).split(/\s+/).filter(Boolean);
  const late = (f: Found) => (recent.includes(f.id) ? recent.indexOf(f.id) : recent.length);
  if (words.length === 0)
    return all
      .filter((f) => recent.includes(f.id) || f.kind === 'place')
      .sort((a, b) => late(a) - late(b))
      .slice(0, most);
  const rank = (f: Found): number => {
    const name = plain(f.name);
    const rest = plain(`${f.kind} ${f.also ?? ''}`);
    if (!words.every((w) => name.includes(w) || rest.includes(w))) return Infinity;
    if (name.startsWith(words[0]!)) return 0;
    return words.every((w) => name.includes(w)) ? 1 : 2;
  };
  return all
    .map((f) => ({ f, rank: rank(f) }))
    .filter((x) => x.rank < Infinity)
    .sort((a, b) => a.rank - b.rank || late(a.f) - late(b.f))
    .map((x) => x.f)
    .slice(0, most);
}
