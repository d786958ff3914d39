import { type ReactNode, useEffect } from 'react';
import { View } from 'react-native';

import { resultOf } from '@/core/case/experiment';
import type { MetChange } from '@/core/case/replay';
import type { Stillness } from '@/core/case/stillness';
import type { LogLine } from '@/core/case/timeline';
import type { Desk } from '@/state/desk';
import { longDate, paperDate } from '@/state/time';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { resultWords } from './words';
import { stillWords } from '../shared/stillWords';
import { mol, umol } from '../shared/words';

/** So many lines go on paper. */
const MOST_LINES = 120;

/** A report on paper: the light of a coral and its water, what was asked of it, a year on one axis, and what is shown of the log. */
export function LogPrint({
  desk,
  width,
  shown,
  changes,
  still,
  nowMs,
  onDrawn,
  children,
}: {
  desk: Desk;
  /** of the paper, px */
  width: number;
  /** what is found of the log */
  shown: readonly LogLine[];
  changes: readonly MetChange[];
  still: Stillness;
  nowMs: number;
  /** it stands on the page, to be printed */
  onDrawn: () => void;
  /** a year on one axis */
  children: ReactNode;
}) {
  const { zone, doc, spot, spotIndex } = desk;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- once, as it is drawn
  useEffect(() => onDrawn(), []);
  const light = changes.at(-1)?.after[spotIndex];
  return (
    <View style={{ width, gap: space.m }} testID="log-print">
      <Type kind="sentence">{`${doc.name}, ${zone.name}: ${spot?.name ?? 'the water'}`}</Type>
      <Type kind="strong">
        {[
          paperDate(nowMs, zone.timeZone),
          light ? `${umol(light.peak)} µmol at its brightest, ${mol(light.dli)} mol a day, as reckoned` : '',
        ]
          .filter(Boolean)
          .join(' · ')}
      </Type>
      <Type>{stillWords(still)}</Type>
      {(zone.experiments ?? []).map((e) => (
        <Type key={e.id}>{`${e.name} ${resultWords(e, resultOf(e))}`}</Type>
      ))}
      {children}
      {shown.slice(0, MOST_LINES).map((l) => (
        <View key={l.id} style={{ flexDirection: 'row', gap: space.m }}>
          <Type kind="small" style={{ width: 150 }}>
            {longDate(Date.parse(l.atUtc), zone.timeZone)}
          </Type>
          <Type kind="small" style={{ flex: 1 }}>
            {[l.title, ...l.details].join('; ')}
          </Type>
        </View>
      ))}
      {shown.length > MOST_LINES && (
        <Type kind="small">{`${shown.length - MOST_LINES} older entries are left out.`}</Type>
      )}
    </View>
  );
}
