import { View } from 'react-native';

import { type LampTable, tableCell } from '@/core/case/table';
import { font, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

const NAME_WIDTH = 84;

const useStyles = themed((p) => ({
  cell: { textAlign: 'right', paddingVertical: 7, fontFamily: font.medium, fontSize: 15 },
  head: { borderBottomWidth: 1.5, borderColor: p.ink },
  line: { flexDirection: 'row', borderBottomWidth: 1, borderColor: p.line },
  name: { width: NAME_WIDTH, paddingVertical: 7 },
}));

/** The percents in the order of the controller's own page: a row per colour, or a row per time. */
export function SheetTable({
  table,
  byTime,
  width,
  ticks = false,
}: {
  table: LampTable;
  byTime: boolean;
  width: number;
  /** a box before every row, for a pencil */
  ticks?: boolean;
}) {
  const styles = useStyles();
  const columns = byTime ? table.controls.map((c) => c.name) : table.times;
  const rows = byTime
    ? table.times.map((t, i) => ({
        name: t,
        cells: table.controls.map((c) => tableCell(c.kind, c.percents[i]!)),
      }))
    : table.controls.map((c) => ({ name: c.name, cells: c.percents.map((p) => tableCell(c.kind, p)) }));
  const first = (byTime ? 58 : NAME_WIDTH) + (ticks ? 24 : 0);
  const least = byTime ? 62 : 45;
  // what does not stand beside each other stands below each other: no column is ever out of sight
  const most = width > first + least ? Math.floor((width - first) / least) : columns.length;
  const blocks = Math.max(1, Math.ceil(columns.length / most));
  const each = Math.ceil(columns.length / blocks);
  const cell = { width: Math.min(byTime ? 92 : 72, Math.max(least, (width - first) / Math.max(1, each))) };
  return Array.from({ length: blocks }, (_, block) => {
    const [from, to] = [block * each, Math.min(columns.length, (block + 1) * each)];
    return (
      <View
        key={block}
        style={{ alignSelf: 'flex-start' }}
        role="table"
        aria-label={`Percents to type in, ${table.times.length} times and ${table.controls.length} controls${blocks > 1 ? `, ${columns[from]} to ${columns[to - 1]}` : ''}`}
      >
        <View style={[styles.line, styles.head]} role="row">
          <Type kind="small" style={[styles.name, { width: first }]} role="columnheader">
            {byTime ? 'time' : '% of full'}
          </Type>
          {columns.slice(from, to).map((t) => (
            <Type
              key={t}
              kind="label"
              style={[styles.cell, cell, { fontFamily: font.bold }, byTime && { fontSize: 13 }]}
              role="columnheader"
            >
              {t}
            </Type>
          ))}
        </View>
        {rows.map((r) => (
          <View key={r.name} style={styles.line} role="row">
            <Type kind="label" style={[styles.name, { width: first }]} role="rowheader">
              {ticks ? `☐ ${r.name}` : r.name}
            </Type>
            {r.cells.slice(from, to).map((text, i) => (
              <Type key={columns[from + i]} style={[styles.cell, cell]} role="cell">
                {text}
              </Type>
            ))}
          </View>
        ))}
      </View>
    );
  });
}
