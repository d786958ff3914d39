import Papa from 'papaparse';

import type { LampTable } from '../case/table';

/** The sheet as CSV: time, one column of percents per channel, the cap repeated in each row. Formulas are defused. */
export function sheetCsv(table: LampTable): string {
  const fields = ['time', ...table.channels.map((c) => `${c.name} (%)`), 'cap (%)'];
  const data = table.times.map((time, i) => [
    time,
    ...table.channels.map((c) => c.percents[i]),
    table.capPercent,
  ]);
  return `${Papa.unparse({ fields, data }, { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}

/** The sheet as aligned plain text, for pasting into a note. */
export function sheetPlainText(title: string, table: LampTable): string {
  const name = Math.max(7, ...table.channels.map((c) => c.name.length));
  const cell = (v: string | number) => String(v).padStart(6);
  return [
    title,
    `Cap ${table.capPercent} %`,
    `${'%'.padEnd(name)}${table.times.map(cell).join('')}`,
    ...table.channels.map((c) => `${c.name.padEnd(name)}${c.percents.map(cell).join('')}`),
    '',
  ].join('\n');
}
