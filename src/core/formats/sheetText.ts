import Papa from 'papaparse';

import { type LampTable, tableCell } from '../case/table';

/** The sheet as CSV: time, one column of percents per channel, the cap, where the lamp has one, repeated in each row. Formulas are defused. */
export function sheetCsv(table: LampTable): string {
  const cap = table.capPercent;
  const fields = [
    'time',
    ...table.controls.map((c) => (c.kind === 'onOff' ? c.name : `${c.name} (%)`)),
    ...(cap === null ? [] : ['cap (%)']),
  ];
  const data = table.times.map((time, i) => [
    time,
    ...table.controls.map((c) => (c.kind === 'onOff' ? tableCell(c.kind, c.percents[i]!) : c.percents[i])),
    ...(cap === null ? [] : [cap]),
  ]);
  return `${Papa.unparse({ fields, data }, { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}

/** The sheet as aligned plain text, for pasting into a note. */
export function sheetPlainText(title: string, table: LampTable): string {
  const name = Math.max(7, ...table.controls.map((c) => c.name.length));
  const cell = (v: string | number) => String(v).padStart(6);
  return [
    title,
    ...(table.capPercent === null ? [] : [`Cap ${table.capPercent} %`]),
    `${'%'.padEnd(name)}${table.times.map(cell).join('')}`,
    ...table.controls.map(
      (c) => `${c.name.padEnd(name)}${c.percents.map((p) => cell(tableCell(c.kind, p))).join('')}`,
    ),
    '',
  ].join('\n');
}
