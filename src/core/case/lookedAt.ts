import type { Day } from '../day/day';
import type { CaseDoc } from '../record/caseDoc';
import { ZONE_KINDS } from '../record/chores';
import type { Zone } from '../record/zone';
import { draftGroups } from './lit';

/** Days of the waters that are looked at, of some waters as drafted. */
export const lookedAtDays = (doc: CaseDoc, zones: readonly Zone[]): Day[] =>
  zones
    .filter((z) => ZONE_KINDS[z.kind].lookedAt)
    .flatMap((z) => draftGroups(doc, z))
    .map((g) => g.day);
