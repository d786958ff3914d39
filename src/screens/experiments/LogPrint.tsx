import { useQueries } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { View } from 'react-native';

import { resultOf } from '@/core/case/experiment';
import { picturesOf } from '@/core/case/pictures';
import type { MetChange } from '@/core/case/replay';
import type { Stillness } from '@/core/case/stillness';
import type { LogLine } from '@/core/case/timeline';
import type { Desk } from '@/state/desk';
import { photoQuery } from '@/state/photos';
import { paperDate, timeOfDay } from '@/state/time';
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
  const { zone, doc, bundle, spot, spotIndex } = desk;
  const all = spot ? picturesOf(bundle.log, spot.id) : [];
  const pictures = all.length > 1 ? [all[0]!, all.at(-1)!] : all;
  const pixels = useQueries({ queries: pictures.map((p) => photoQuery(p.id)) });
  const waiting = pixels.some((q) => q.isPending);
  const [drawn, setDrawn] = useState(0);
  const images = pixels.filter((q) => q.data).length;
  const done = !waiting && drawn >= images;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when all of it stands there
  useEffect(() => void (done && onDrawn()), [done]);
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
      {images > 0 && (
        <View style={{ flexDirection: 'row', gap: space.m }}>
          {pictures.map((p, i) => {
            const url = pixels[i]!.data?.url;
            const wide = (width - space.m) / 2;
            return url ? (
              <View key={p.id} style={{ width: wide }}>
                <img
                  src={url}
                  alt=""
                  width={wide}
                  height={(wide * p.heightPx) / p.widthPx}
                  onLoad={() => setDrawn((n) => n + 1)}
                  onError={() => setDrawn((n) => n + 1)}
                />
                <Type kind="small">
                  {[paperDate(Date.parse(p.atUtc), zone.timeZone), p.lit].filter(Boolean).join(', ')}
                </Type>
              </View>
            ) : null;
          })}
        </View>
      )}
      {children}
      {shown.slice(0, MOST_LINES).map((l) => (
        <View key={l.id} style={{ flexDirection: 'row', gap: space.m }}>
          <Type kind="small" style={{ width: 180 }}>
            {`${paperDate(Date.parse(l.atUtc), zone.timeZone)}, ${timeOfDay(Date.parse(l.atUtc), zone.timeZone)}`}
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
