import { View } from 'react-native';

import { endsWords, type LampTable } from '@/core/case/table';
import { Strip } from '@/pieces/Strip';
import type { Spectrum } from '@/core/spectrum/grid';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { SheetCautions } from '../shared/Cautions';
import { SheetTable } from './SheetTable';

/** What fits between the margins of A4 and of Letter, px of 96 to the inch. */
const PAPER_WIDTH = 640;

/** The sheet on paper: what it is and gives, a box to tick for every row, the light at its brightest; cautions below. */
export function SheetPrint({
  title,
  date,
  gives,
  cap,
  table,
  byTime,
  safety,
  brightest,
  switched,
  over,
}: {
  title: string;
  date: string;
  /** light a day and its brightest, where it is judged; null = not computed */
  gives: string | null;
  cap: string;
  table: LampTable;
  byTime: boolean;
  safety: string | null;
  brightest: { spectrum: Spectrum; words: string } | null;
  switched: boolean;
  over: string;
}) {
  return (
    <View style={{ width: PAPER_WIDTH, gap: space.m }} testID="sheet-print">
      <Type kind="sentence">{title}</Type>
      <Type kind="strong">{[date, cap, gives].filter(Boolean).join(' · ')}</Type>
      <SheetTable table={table} byTime={byTime} width={PAPER_WIDTH} ticks />
      <Type kind="strong">{endsWords(table)}</Type>
      {safety !== null && <Type kind="body">{safety}</Type>}
      {brightest && (
        <View style={{ gap: space.xs }}>
          <Strip spectrum={brightest.spectrum} width={PAPER_WIDTH} height={20} name={brightest.words} />
          <Type kind="label">{brightest.words}</Type>
        </View>
      )}
      <SheetCautions switched={switched} over={over} />
    </View>
  );
}
