import { router } from 'expo-router';
import { memo } from 'react';
import { View } from 'react-native';

import { copyPlate } from '@/state/commands/plates';
import { newId } from '@/state/id';
import { run, useSession } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button, Stepper } from '@/ui/Button';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

export type Opened = 'plates' | 'behind' | 'meter' | 'photograph' | null;

/** The mix as it is now, as a plate of its own, which is then the one in hand. */
export function keepAsNew(plateId: string): void {
  const plate = useSession.getState().bundle?.case.plates.find((p) => p.id === plateId);
  const id = newId();
  if (plate && run(copyPlate(plate, id))) changeSettings({ plateId: id });
}

/** What one does with a mix; left alone while a finger pulls. */
export const MixKeys = memo(function MixKeys({
  plateId,
  onOpen,
}: {
  plateId: string;
  onOpen: (what: Opened) => void;
}) {
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
      <Button label="Keep as a new plate" onPress={() => keepAsNew(plateId)} testID="copy-plate" />
      <Button
        label="Compare"
        name="Compare this mix with lamps and other mixes"
        onPress={() => router.navigate(`/compare?with=plate.${plateId}` as never)}
      />
      <Button
        label="Plates"
        name="All plates: notes, versions, order, files"
        onPress={() => router.navigate('/plates' as never)}
      />
      <Button
        label="Corals"
        name="Corals: seen in their colours"
        onPress={() => router.navigate('/corals' as never)}
      />
      <Button label="Design" name="Design a mix" onPress={() => router.navigate('/design' as never)} />
      <Button label="Lamps" onPress={() => router.navigate('/lamps')} />
      <Button label="For photographs" onPress={() => onOpen('photograph')} />
      <Button label="My meter reads" name="Lux to PAR: my meter reads" onPress={() => onOpen('meter')} />
    </View>
  );
});

export const CombKeys = memo(function CombKeys({
  scales,
  solo,
  behind,
  onScale,
  onEndSolo,
  onOpen,
}: {
  /** false for a lamp whose circuits are on or off: there is nothing to scale */
  scales: boolean;
  solo: boolean;
  behind: boolean;
  onScale: (sign: 1 | -1) => void;
  onEndSolo: () => void;
  onOpen: (what: Opened) => void;
}) {
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: space.m }}>
      {scales && (
        <>
          <Type kind="label">All</Type>
          <Stepper name="All levels together" onStep={onScale} />
        </>
      )}
      <View style={{ flexGrow: 1, alignItems: 'flex-end' }}>
        {solo ? (
          <Button label="End solo" kind="filled" onPress={onEndSolo} testID="end-solo" />
        ) : (
          <Button
            label={behind ? 'Behind' : 'Lay behind'}
            name="Lay another light behind the comb"
            onPress={() => onOpen('behind')}
          />
        )}
      </View>
    </View>
  );
});
