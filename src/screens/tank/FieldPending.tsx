import { View } from 'react-native';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { percent } from '@/core/shape/percent';
import { type TankLight } from './useTankLight';

export function FieldPending({ state }: { state: TankLight['field'] }) {
  if (state.error)
    return (
      <View style={{ gap: space.s }}>
        <Note>{`The light in the water could not be computed: ${state.error}. Nothing is lost.`}</Note>
        <Button label="Compute it again" onPress={state.again} />
      </View>
    );
  return (
    <View style={{ gap: space.s }}>
      <Type>The light in the water is not computed yet.</Type>
      <Button label="Compute it" onPress={state.again} testID="field-again" />
    </View>
  );
}

export function FieldProgress({ state }: { state: TankLight['field'] }) {
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
      <Type
        kind="label"
        role="status"
        testID="field-progress"
      >{`Light in the water: ${percent(state.progress ?? 1)}`}</Type>
      <Button label="Stop" kind="plain" onPress={state.cancel} />
    </View>
  );
}
