import { View } from 'react-native';

import type { Zone } from '@/core/record/zone';
import { type Alga, algaLight, PIGMENTS } from '@/core/feeding/algae';
import { fitOf, hoursWords } from '@/core/refugium/families';
import { plainDaylight } from '@/core/refugium/growth';
import { DashSample } from '@/pieces/Outlines';
import { setSpot } from '@/state/commands/spots';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { usePageSize } from '@/ui/Page';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Figure } from '../shared/Figure';
import { TakenOutlines } from '../shared/TakenOutlines';

import { percent } from '@/core/shape/percent';
import { algaeSpots } from '@/core/record/log/harvest';

const toOne = (s: Float64Array): Float64Array => {
  const top = Math.max(...s, 1e-12);
  return s.map((v) => v / top);
};

/** One alga of the library: its pigments against the light here, what it wants, and making a mat of it. */
export function AlgaSheet({
  alga,
  light,
  zone,
  onClose,
}: {
  alga: Alga;
  light: Float64Array | null;
  zone: Zone;
  onClose: () => void;
}) {
  const page = usePageSize();
  const seen = light ?? plainDaylight();
  const fit = light ? fitOf(light, alga) : null;
  const { feeds } = algaLight(alga);
  const width = Math.min(page.wide ? 528 : page.main, 528);
  const lights = [
    { name: 'what feeds it', spectrum: toOne(feeds) },
    { name: light ? 'the light here' : 'plain daylight', spectrum: toOne(seen) },
  ];
  const spots = algaeSpots(zone);
  return (
    <Sheet title={alga.name} onClose={onClose}>
      <View style={{ flexDirection: 'row', gap: space.l }}>
        <Figure
          of={{ algaId: alga.id }}
          id={alga.id}
          light={seen}
          size={132}
          name={`${alga.name} in this light`}
        />
        <View style={{ flex: 1, gap: space.s }}>
          <Type>{alga.about}</Type>
          <Type kind="small">{`${alga.fromUmol} to ${alga.toUmol} µmol at its top, saturated near ${alga.ekUmol} µmol of daylight (rule of thumb).`}</Type>
        </View>
      </View>
      {fit && <Type testID="alga-fit">{fit.words}</Type>}
      <TakenOutlines
        file="feeds"
        caption={`${alga.name}: what of each wavelength feeds a mat of it, and ${lights[1]!.name}, each scaled to its highest. From published pigment spectra.`}
        unit="of its highest"
        lights={lights}
        width={width}
        height={150}
        name={`What of each wavelength feeds a mat of ${alga.name}, and the light here; both scaled to their highest`}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.l }}>
        {lights.map(({ name }, i) => (
          <View key={name} style={{ flexDirection: 'row', alignItems: 'center', gap: space.s }}>
            <DashSample index={i} />
            <Type kind="small">{name}</Type>
          </View>
        ))}
      </View>
      <Type kind="small">
        {`Pigments: ${PIGMENTS.filter((p) => (alga.pigments[p.id] ?? 0) > 0)
          .map((p) => p.name)
          .join(', ')}. ${
          alga.chlorophyllShare < 1
            ? `Only about ${percent(alga.chlorophyllShare)} of its chlorophyll a feeds it by itself (literature).`
            : ''
        }`}
      </Type>
      <Type kind="small">{`Lit ${hoursWords(alga)}`}</Type>
      {spots
        .filter((s) => s.algaId !== alga.id)
        .map((s) => (
          <Button
            key={s.id}
            label={`${s.name} is this one`}
            wide
            onPress={() => {
              if (run(setSpot(zone.id, { ...s, algaId: alga.id }))) onClose();
            }}
          />
        ))}
    </Sheet>
  );
}
