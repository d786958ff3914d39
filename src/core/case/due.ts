import { civilDay, dateOf, dayNumber } from '../day/wallClock';
import { MEASURED, measurings } from '../record/experiment';
import type { CaseBundle } from '../record/documents';
import { activePlans } from '../record/history';
import type { ChoreId, Zone } from '../record/zone';
import { dueChores } from './chores';
import { toBeAsked } from './foretold';
import { openSteps } from './planAhead';
import { stepWords } from './stepWords';

/** Something to be done on a day, of whatever kind. */
export interface DueItem {
  key: string;
  zoneId: string;
  zoneName: string;
  /** local date of the water */
  date: string;
  title: string;
  what:
    | { is: 'step'; planId: string }
    | { is: 'chore'; choreId: ChoreId }
    | { is: 'measure'; experimentId: string }
    | { is: 'ask'; eventId: string };
}

/** What of an experiment is measured no more once it is so late. Mark: rule of thumb. */
const MISSED_DAYS = 30;

/** All that is to be done in any water by so many days from now, what is late first. */
export function dueList(bundle: CaseBundle, nowMs: number, days: number): DueItem[] {
  return bundle.case.zones
    .flatMap((zone) => inWater(bundle, zone, nowMs, days))
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

function inWater(bundle: CaseBundle, zone: Zone, nowMs: number, days: number): DueItem[] {
  const today = civilDay(nowMs, zone.timeZone).date;
  const until = dateOf(dayNumber(today) + days);
  const item = (key: string, date: string, title: string, what: DueItem['what']): DueItem[] =>
    date > until
      ? []
      : [{ key: `${zone.id} ${key}`, zoneId: zone.id, zoneName: zone.name, date, title, what }];
  return [
    ...activePlans(bundle.history, zone.id).flatMap((p) => {
      const next = openSteps(p)[0];
      return p.state === 'active' && next
        ? item(`step ${p.id}`, next.date, stepWords(p, next.setting), { is: 'step', planId: p.id })
        : [];
    }),
    ...toBeAsked(bundle.log, zone, today).flatMap((e) =>
      item(`ask ${e.id}`, e.askDate, `What came of it: ${e.of}`, { is: 'ask', eventId: e.id }),
    ),
    ...(zone.experiments ?? []).flatMap((e) => {
      const next = measurings(e).find(
        (m) => m.done < e.fragments.length && dayNumber(today) - dayNumber(m.date) <= MISSED_DAYS,
      );
      return next
        ? item(`measure ${e.id}`, next.date, `${MEASURED[e.measure].name}: ${e.name}`, {
            is: 'measure',
            experimentId: e.id,
          })
        : [];
    }),
    ...dueChores(bundle, zone).flatMap((d) =>
      item(`chore ${d.chore.id}`, civilDay(d.dueMs, zone.timeZone).date, d.chore.name, {
        is: 'chore',
        choreId: d.chore.id,
      }),
    ),
  ];
}
