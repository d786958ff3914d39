import { View } from 'react-native';
import { type Alga, ALGAE } from '@/core/feeding/algae';
import { fitOf } from '@/core/refugium/families';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { Figure } from '../shared/Figure';
import { percent } from '@/core/shape/percent';

/** Every alga of the library under this light. */
export function Library({
  spectrum,
  light,
  onOpen,
}: {
  spectrum: Float64Array | null;
  light: Float64Array;
  onOpen: (a: Alga) => void;
}) {
  return (
    <Section title="Algae, and what they can use">
      <View testID="alga-library">
        {ALGAE.map((a) => {
          const fit = spectrum ? fitOf(spectrum, a) : null;
          return (
            <Row key={a.id} onPress={() => onOpen(a)} name={`About ${a.name}`}>
              <Figure of={{ algaId: a.id }} id={a.id} light={light} size={52} name={a.name} />
              <View style={{ flex: 1 }}>
                <Type kind="label">{a.name}</Type>
                <Type kind="small">{`${a.fromUmol}–${a.toUmol} µmol, ${a.fromHours}–${a.toHours} h`}</Type>
              </View>
              <View style={{ alignItems: 'flex-end' }}>
                <Type kind="strong" testID={`share-${a.id}`}>
                  {fit ? percent(fit.share) : '–'}
                </Type>
                <Type kind="small">{fit ? STANDING[fit.standing] : ''}</Type>
              </View>
            </Row>
          );
        })}
      </View>
      <Type kind="small">
        {spectrum
          ? 'Share of the PAR here that feeds a grown mat of each, from its pigments (literature, rounded). Pictures are computed in this light.'
          : 'Shares follow when a lamp is lit over algae here. Pictures in plain daylight.'}
      </Type>
    </Section>
  );
}
const STANDING = { good: 'suits it', poor: 'poor', refused: 'refused' } as const;
