import { ScrollView, View } from 'react-native';

import { inWords } from '@/core/shape/counts';
import { type Compared } from '@/core/library/compare';
import {
  excessWords,
  feedsWords,
  saturatedWords,
  steadyResponse,
  type TenantResponse,
} from '@/core/case/dayFigures';
import { TYPICAL_SHARE } from '@/core/feeding/symbiont';
import type { NeedId } from '@/core/record/needs';
import { bandName } from '@/core/mix/shape';
import { BANDS } from '@/core/spectrum/bands';
import { DashSample } from '@/pieces/Outlines';
import { usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { font, space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { percent } from '@/core/shape/percent';

import { mol, umol } from '../shared/words';

const NAME_WIDTH = 118;
const WHOLE_NAME = 170;
const CELL_WIDTH = 78;

const useStyles = themed((p) => ({
  line: {
    flexDirection: 'row',
    borderBottomWidth: 1,
    borderColor: p.line,
    minHeight: 38,
    alignItems: 'center',
  },
  head: { borderColor: p.ink },
  name: { paddingRight: space.s },
  stacked: { flexWrap: 'wrap' },
  over: { width: '100%' },
  cell: { textAlign: 'right', paddingLeft: space.s },
}));

/** Figures of lights side by side. */
export function Table({ all, need }: { all: readonly Compared[]; need: NeedId | null }) {
  const styles = useStyles();
  const page = usePageSize();
  // where the columns would go off the page, a figure's name stands over its row
  const over = (page.main - NAME_WIDTH) / all.length < CELL_WIDTH;
  // few columns leave room for names in one line
  const names = Math.max(NAME_WIDTH, Math.min(WHOLE_NAME, page.main - all.length * CELL_WIDTH));
  const width = Math.max(CELL_WIDTH, (page.main - (over ? 0 : names)) / all.length);
  const named = over ? styles.over : [styles.name, { width: names }];
  const row = (name: string, cells: readonly string[], bold = false) => (
    <View key={name} style={[styles.line, over && styles.stacked]} role="row">
      <Type kind="small" style={named} role="rowheader">
        {name}
      </Type>
      {cells.map((c, i) => (
        <Type
          key={i}
          kind="label"
          style={[styles.cell, { width }, bold ? { fontFamily: font.bold } : null]}
          role="cell"
        >
          {c}
        </Type>
      ))}
    </View>
  );
  const does = all.map((c) =>
    steadyResponse(need, ((c.usable ?? 0) * c.parUmol) / TYPICAL_SHARE, c.candidate.hours),
  );
  const said = (words: (r: TenantResponse) => string) => does.map((r) => (r ? words(r) : '–'));
  const holds = (c: Compared, id: string) => c.bands.find((b) => b.id === id)!.holds;
  return (
    <ScrollView horizontal contentContainerStyle={{ flexGrow: 1 }}>
      <View role="table" aria-label="Figures side by side">
        <View style={[styles.line, styles.head, over && styles.stacked]} role="row">
          <Type kind="small" style={named} role="columnheader">
            at the coral
          </Type>
          {all.map((c, i) => (
            <View key={i} style={{ width, alignItems: 'flex-end', paddingLeft: space.s }} role="columnheader">
              <DashSample index={i} />
              <Type kind="small" numberOfLines={2} style={{ textAlign: 'right' }}>
                {c.candidate.name}
              </Type>
            </View>
          ))}
        </View>
        {row(
          'PAR, µmol',
          all.map((c) => umol(c.parUmol)),
          true,
        )}
        {row(
          'Light a day, mol',
          all.map((c) => mol(c.dli)),
          true,
        )}
        {BANDS.map((b) =>
          row(
            `${b.name}, µmol · mol`,
            all.map((c) => {
              const token = holds(c, b.id) === 'token' ? ' token' : holds(c, b.id) === 'none' ? ' none' : '';
              return `${umol(c.photons[b.id])} · ${c.dose[b.id].toFixed(2)}${token && b.id !== 'farRed' ? ` ▲${token}` : ''}`;
            }),
          ),
        )}
        {row(
          'Usable, of PAR',
          all.map((c) => (c.usable === null ? '–' : percent(c.usable))),
        )}
        {row('Above saturation', said(saturatedWords))}
        {row('Feeds, of its light', said(feedsWords))}
        {row('Beyond its use', said(excessWords))}
        {row(
          'Blue breadth, nm',
          all.map((c) => (c.breadthNm === null ? '–' : String(Math.round(c.breadthNm)))),
        )}
        {row(
          'Watts per µmol/s',
          all.map((c) => (c.joulesPerUmol === null ? '–' : c.joulesPerUmol.toFixed(2))),
        )}
        {row(
          'Unused emitters',
          all.map((c) => `${c.unused.emitters} of ${c.unused.emittersAll}`),
        )}
        {row(
          'Unused watts',
          all.map((c) => `${Math.round(c.unused.watts)} of ${Math.round(c.unused.wattsAll)}`),
        )}
        {row(
          'Unused PAR, µmol/s',
          all.map((c) => `${Math.round(c.unused.par)} of ${Math.round(c.unused.parAll)}`),
        )}
      </View>
    </ScrollView>
  );
}

/** What each lamp cannot do, and the cheapest addition that restores it. */
export function Cannot({ all }: { all: readonly Compared[] }) {
  const kinds = all.filter((c, i) => all.findIndex((x) => x.candidate.kind.id === c.candidate.kind.id) === i);
  return (
    <Section title="What each cannot do">
      {kinds.map((c) => (
        <View key={c.candidate.kind.id} style={{ gap: 2 }}>
          <Type kind="label">{c.candidate.kind.name}</Type>
          {c.cannot.length === 0 && <Type kind="small">Real output in every band.</Type>}
          {c.cannot.map((x) => (
            <Type key={x.band} kind="small">
              {`${x.holds === 'none' ? 'No' : 'Only a token of'} ${bandName(x.band)}: ${
                x.addition
                  ? `${x.addition.name}, price about ${x.addition.price}, would add it.`
                  : 'no lamp of the library adds it.'
              }`}
            </Type>
          ))}
        </View>
      ))}
      <Type kind="small">
        {`Above saturation, what feeds and what is beyond use are reckoned for the coral’s kind, only to compare these lights. ▲ token: under 2 % of photons with all blues full. Unused: of one lamp at this mix, before cap and strength. ${all.length > 1 ? `The ${inWords(all.length)} are scaled to the same light; w` : 'W'}atts and prices are typical of the kind (rule of thumb, made up).`}
      </Type>
    </Section>
  );
}
