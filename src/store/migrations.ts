import { controlPerChannel } from '@/core/spectrum/controls';

import type { Migration } from './read';

type Loose = Record<string, unknown>;
const isObject = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
/** Changes every object of a list; what is no list of objects is left for validation to name. */
const each = (list: unknown, change: (item: Loose) => Loose): unknown =>
  Array.isArray(list) ? list.map((item) => (isObject(item) ? change(item) : item)) : list;

/** Version 1 lamps had a level per channel, light proportional to it, and no budget. */
function lampTo2(kind: Loose): Loose {
  const channels = Array.isArray(kind.channels) ? kind.channels.filter(isObject) : [];
  return {
    ...kind,
    source: 'led',
    channels: each(kind.channels, (c) => ({ ...c, dimming: { lowestLitShare: 0, curve: [] } })),
    controls: controlPerChannel(channels as { id: string; name: string }[]),
    layout: 'spread',
    powerBudgetWatts: null,
    price: null,
    controller: isObject(kind.controller)
      ? { ...kind.controller, capMeans: 'multiplies', easingOf: 'target' }
      : kind.controller,
  };
}

/** Steps of the case document; index 0 leads from version 1 to 2. */
export const CASE_MIGRATIONS: readonly Migration[] = [
  (doc) => ({
    ...doc,
    lampKinds: each(doc.lampKinds, lampTo2),
    plates: each(doc.plates, (p) => ({ ...p, locked: [], versions: [] })),
    references: [],
    forms: [],
    zones: each(doc.zones, (z) => ({
      ...z,
      spots: each(z.spots, (s) => ({ ...s, formId: null, soloNotes: [] })),
    })),
  }),
];

/** Steps of the history of running. */
export const HISTORY_MIGRATIONS: readonly Migration[] = [
  (doc) => ({
    ...doc,
    entries: each(doc.entries, (e) => (isObject(e.lampKind) ? { ...e, lampKind: lampTo2(e.lampKind) } : e)),
  }),
];
