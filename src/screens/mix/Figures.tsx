import { memo } from 'react';
import { View } from 'react-native';

import { wattsUnder } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Alga } from '@/core/feeding/algae';
import { percent } from '@/core/shape/percent';
import { fullWallWatts } from '@/core/spectrum/watts';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { tintWords, umolExact, usableWords, watts } from '../shared/words';
import type { MixModel } from './model';

/** The figures of a mix where it is looked at; until they are known their room is kept. */
export function Figures({
  model: { figures, feeds, levels, parts },
  groups,
  alga,
  room,
}: {
  model: MixModel;
  groups: readonly LitGroup[];
  alga: Alga | null;
  room: boolean;
}) {
  if (!figures && !room) return null;
  return (
    <Section title="Figures">
      {!figures ? (
        <View style={{ minHeight: 275 }} />
      ) : (
        <View testID="figures">
          <Figure name="PAR here" value={`${umolExact(figures.par)} µmol m⁻² s⁻¹`} />
          {alga ? (
            <Figure
              name={`Feeds a mat of ${alga.name.toLowerCase()}`}
              value={feeds === null ? '–' : `${percent(feeds.share)} of PAR`}
            />
          ) : (
            <Figure name="Usable share (PUR/PAR)" value={usableWords(figures.usableShare) ?? '–'} />
          )}
          <Figure
            name="Lux per µmol of PAR"
            value={figures.luxPerPar === null ? '–' : figures.luxPerPar.toFixed(1)}
          />
          <Figure name="Tint" value={tintWords(figures.tint)} />
          <Figure
            name="Watts, all lamps"
            value={`${watts(wattsUnder(groups, levels))} of ${watts(groups.reduce((s, g) => s + g.lamps.length * fullWallWatts(g.lampKind), 0))}`}
          />
          {parts.length > 1 && (
            <Figure name="By lamp" value={parts.map((p) => `${p.name} ${umolExact(p.umol)}`).join(' · ')} />
          )}
          <Type kind="small">
            Usable share from published pigment spectra; watts from typical drivers (rule of thumb).
          </Type>
        </View>
      )}
    </Section>
  );
}

const Figure = memo(function Figure({ name, value }: { name: string; value: string }) {
  return (
    <Row style={{ minHeight: 38, paddingVertical: 5 }}>
      <Type kind="small" style={{ flex: 1 }}>
        {name}
      </Type>
      <Type kind="label" style={{ flexShrink: 1, textAlign: 'right', maxWidth: '62%' }}>
        {value}
      </Type>
    </Row>
  );
});
