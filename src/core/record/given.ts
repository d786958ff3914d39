import type { CaseDoc } from './caseDoc';
import { bundleOf, type CaseBundle } from './documents';
import type { Zone } from './zone';

/**
 * One water as a case of its own, to be given along: its tank, lamps, mixes, draft days and corals with their forms. Records stay at
 * home, and so do the hours somebody is there, chores, prices, questions that are being tried and what was noted of corals.
 * @param id of the case it becomes
 */
export function waterAlone(doc: CaseDoc, zone: Zone, id: string): CaseBundle {
  const { home, choreDays, choreLater, inHand, experiments, ...given } = zone;
  const kinds = new Set(zone.groups.map((g) => g.lampKindId));
  const forms = new Set(zone.spots.map((s) => s.formId));
  const mixes = new Set(
    zone.groups.flatMap((g) => g.threads.flatMap((t) => ('plateId' in t.mix ? [t.mix.plateId] : []))),
  );
  return bundleOf({
    ...{ format: doc.format, version: doc.version, id, demo: false, references: [] },
    name: zone.name,
    zones: [
      {
        ...given,
        carbonDate: null,
        spots: zone.spots.map((s) => ({ ...s, arrived: null, sourceLight: '', soloNotes: [] })),
      },
    ],
    lampKinds: doc.lampKinds.filter((k) => kinds.has(k.id)),
    plates: doc.plates.filter((p) => mixes.has(p.id)).map((p) => ({ ...p, notes: '' })),
    forms: doc.forms.filter((f) => forms.has(f.id)),
  });
}
