import Papa from 'papaparse';

import type { LogLine } from '../case/timeline';

const round = (v: number | null | undefined, places: number) =>
  v === null || v === undefined || !Number.isFinite(v) ? '' : v.toFixed(places);

/** The log as CSV, oldest first: what happened, and peak, dose and step ratio at one spot before and after. */
export function logCsv(lines: readonly LogLine[], spotName: string): string {
  const head = [
    'instant (UTC)',
    'kind',
    'what',
    'details',
    `peak before at ${spotName} (µmol)`,
    'peak after (µmol)',
    'dose before (mol/d)',
    'dose after (mol/d)',
    'step ratio before',
    'step ratio after',
  ];
  const rows = [...lines].reverse().map((l) => [
    l.atUtc,
    l.lane,
    // a spreadsheet would take these for formulas
    l.title.replace(/^[=+\-@]/, "'$&"),
    l.details.join('; ').replace(/^[=+\-@]/, "'$&"),
    round(l.met?.before?.peak, 1),
    round(l.met?.after.peak, 1),
    round(l.met?.before?.dli, 3),
    round(l.met?.after.dli, 3),
    round(l.met?.ratioBefore, 3),
    round(l.met?.ratioAfter, 3),
  ]);
  return `${Papa.unparse([head, ...rows])}\r\n`;
}
