import * as v from 'valibot';

import { asPpm, DRAINED_IDS, DRAINED_WORDS, type Drained, removed } from '../../feeding/removal';
import { boundsWords as bounds } from '../../feeding/range';
import { between, id } from '../../shape/shape';
import { systemLitres } from '../system';
import type { Zone } from '../zone';
import { logBase, logKind, spotName } from './logKind';

const MOST_G = 1e6;
const schema = v.object({
  ...logBase,
  kind: v.literal('harvest'),
  spotId: id,
  wetG: between(0, MOST_G, ' g'),
  drained: v.picklist(DRAINED_IDS, 'is no way of draining known here'),
  /** what was left of the mat by the same scale; null = not said */
  leftG: v.nullable(between(0, MOST_G, ' g')),
});
export type Harvest = v.InferOutput<typeof schema>;

/** Spots of a zone where algae grow. */
export const algaeSpots = (zone: Pick<Zone, 'spots'>) => zone.spots.filter((s) => s.need === 'macroalgae');

/** Algae taken out, weighed wet, with how they were drained. */
export const harvest = logKind<Harvest>({
  kind: 'harvest',
  schema,
  lane: { id: 'harvest', label: 'Harvests', always: false },
  words: (e, zone) =>
    `${spotName(zone, e.spotId)}: ${Math.round(e.wetG)} g harvested${e.leftG === null ? '' : `, ${Math.round(e.leftG)} g left`}`,
  form: {
    key: 'Harvest',
    title: 'Harvest',
    when: 'When',
    whenLast: true,
    offered: (zone) => algaeSpots(zone).length > 0,
    closed: (zone) =>
      algaeSpots(zone).length > 0
        ? null
        : 'No algae are known in this water yet. Add a spot with macroalgae on Case or Tank first.',
    fields: [
      {
        is: 'choice',
        key: 'spotId',
        label: 'Of',
        options: (zone) => algaeSpots(zone).map((s) => ({ value: s.id, label: s.name })),
        from: (e, zone) => e?.spotId ?? algaeSpots(zone)[0]?.id ?? '',
      },
      {
        is: 'number',
        key: 'wet',
        label: 'Taken out',
        unit: 'g wet',
        low: 0,
        high: MOST_G,
        say: 'Give grams from 0 on.',
        from: (e) => e?.wetG ?? null,
      },
      {
        is: 'number',
        key: 'left',
        label: 'Left of the mat',
        unit: 'g wet',
        hint: 'empty = not weighed',
        beside: true,
        low: 0,
        high: MOST_G,
        say: 'Give grams from 0 on, or leave it empty.',
        mayBeEmpty: true,
        from: (e) => e?.leftG ?? null,
      },
      {
        is: 'choice',
        key: 'drained',
        label: 'How it was drained',
        options: () => DRAINED_IDS.map((d) => ({ value: d, label: DRAINED_WORDS[d] })),
        from: (e) => e?.drained ?? 'drained',
      },
    ],
    live: ({ wet, drained }, doc) => {
      if (typeof wet !== 'number' || wet <= 0) return null;
      const { litres, said } = systemLitres(doc);
      const took = removed(wet, drained as Drained);
      const ppm = asPpm(took, litres);
      return `That is ${bounds(took.nitrogenG)} g of nitrogen and ${bounds(took.phosphorusG)} g of phosphorus: ${bounds(ppm.nitrate)} ppm nitrate and ${bounds(ppm.phosphate)} ppm phosphate of ${Math.round(litres)} l${said ? '' : ' (reckoned from the boxes)'}.`;
    },
    note: {
      label: 'In your words',
      hint: 'colour, how much was shed, what grew on it; may stay empty',
    },
    caution: {
      kind: 'note',
      words:
        'Drain it the same way each time: what drips off weighs as much as algae. Never put it into the sea, a river or a drain that leads there: some of these algae are pests where they do not belong.',
      onlyNew: false,
    },
    make: ({ spotId, wet, left, drained }) => ({
      spotId: String(spotId),
      wetG: Number(wet),
      drained: drained as Drained,
      leftG: left as number | null,
    }),
  },
});
