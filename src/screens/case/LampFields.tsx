import { CAP_MEANS } from './capMeans';
import { useFieldArray, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';
import { newId } from '@/state/id';
import { Button } from '@/ui/Button';
import { FieldRow } from '@/ui/Field';
import { Fold, Hairline, Note } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { TubeCaution } from '../shared/Cautions';
import { emptyChannel, type Setting } from './lampForm';
import { LampControl, FormField, FormChoice } from './FormField';
import { Emitters } from './EmitterFields';
import { SettingFields } from './SettingFields';
import { Dimming } from './DimmingFields';

const SETTINGS: readonly { value: Setting; label: string }[] = [
  { value: 'each', label: 'Each colour on its own' },
  { value: 'tied', label: 'Colours tied to keys' },
  { value: 'onOff', label: 'On and off only' },
  { value: 'tint', label: 'Tint and brightness' },
  { value: 'balance', label: 'Locked balance with trims' },
];

/** A lamp as a channel list. The form may hold more than the lamp, under `lamp`. */
export function LampFields({ control }: { control: LampControl }) {
  const { fields, append, remove } = useFieldArray({ control, name: 'lamp.channels', keyName: 'key' });
  const source = useWatch({ control, name: 'lamp.source' });
  const setting = useWatch({ control, name: 'lamp.setting' });
  return (
    <View style={{ gap: space.m }}>
      <FormField control={control} name="lamp.name" label="Name of the lamp" testID="lamp-name" />
      <FieldRow>
        <FormField control={control} name="lamp.beam" label="Beam angle" unit="°" numeric testID="beam" />
        <FormField control={control} name="lamp.faceLength" label="Face length" unit="cm" numeric />
        <FormField control={control} name="lamp.faceWidth" label="Face width" unit="cm" numeric />
      </FieldRow>
      {source !== 'led' && <TubeCaution />}
      <Note kind="eyes">
        Count emitters one colour at a time, at the lowest level, from the side and through dark glass: never
        look into a lit lamp.
      </Note>
      {fields.map((field, i) => (
        <View key={field.key} style={{ gap: space.s }} testID={`channel-${i}`}>
          <Hairline />
          <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: space.s }}>
            <FormField
              control={control}
              name={`lamp.channels.${i}.name`}
              label={`Channel ${i + 1}`}
              testID={`channel-${i}-name`}
            />
            <Button
              label="Remove"
              name={`Remove channel ${i + 1}`}
              icon={Trash}
              iconOnly
              kind="plain"
              disabled={fields.length < 2}
              onPress={() => remove(i)}
            />
          </View>
          <Emitters control={control} index={i} />
          <SettingFields control={control} index={i} setting={setting} />
          <Dimming control={control} index={i} />
        </View>
      ))}
      <Button
        label="Add a channel"
        icon={Plus}
        onPress={() => append(emptyChannel(newId()))}
        testID="add-channel"
      />
      <Type kind="small">
        A channel is what one drive signal of the lamp lights. Peak and width stand in the maker’s data; 20 nm
        is usual for one colour. Watts are electrical, at full.
      </Type>
      <FormChoice
        control={control}
        name="lamp.setting"
        label="How it is set"
        options={setting === 'kept' ? [...SETTINGS, { value: 'kept', label: 'As it is' }] : SETTINGS}
      />
      <Type kind="heading">How its day is set</Type>
      <FormChoice
        control={control}
        name="lamp.interpolation"
        label="Between two points of its day"
        options={[
          { value: 'ramp', label: 'it fades evenly' },
          { value: 'hold', label: 'it holds, then jumps' },
        ]}
      />
      <FieldRow>
        <FormField
          control={control}
          name="lamp.points"
          label="Points a day"
          numeric
          hint="At most; empty = any number."
          testID="lamp-points"
        />
        <FormField
          control={control}
          name="lamp.step"
          label="Step of its percents"
          unit="%"
          numeric
          hint="1 = whole percents, 20 = five steps, 0 = any value."
          testID="lamp-step"
        />
        <FormField
          control={control}
          name="lamp.everyMin"
          label="Step of its times"
          unit="min"
          numeric
          hint="1 = any minute, 30 = half hours."
          testID="lamp-every"
        />
      </FieldRow>
      <FormChoice
        control={control}
        name="lamp.clock"
        label="When clocks change between summer and winter"
        options={[
          { value: 'follows', label: 'its clock goes along' },
          { value: 'keeps', label: 'it keeps its time' },
        ]}
      />
      <FormChoice
        control={control}
        name="lamp.capMeans"
        label="One percent over all its values (a cap)"
        options={CAP_MEANS}
      />
      <Type kind="small">
        Cap 35 % on a day that reaches 100 % gives 35 % where it multiplies; where it becomes the highest, a
        day that reaches 60 % is lifted or lowered until its highest channel is at 35 %. Where there is none,
        the sheet’s values carry the strength.
      </Type>
      <Fold title="Kind, layout, power and price" testID="lamp-more">
        <FormChoice
          control={control}
          name="lamp.source"
          label="Light source"
          options={[
            { value: 'led', label: 'LED' },
            { value: 'tube', label: 'fluorescent tubes' },
            { value: 'halide', label: 'halide' },
          ]}
        />
        <FormChoice
          control={control}
          name="lamp.layout"
          label="Emitters on the face"
          options={[
            { value: 'spread', label: 'spread over it' },
            { value: 'cluster', label: 'one cluster in its middle' },
            { value: 'line', label: 'lines along it (tubes, bars)' },
          ]}
        />
        <FieldRow>
          <FormField
            control={control}
            name="lamp.budget"
            label="Shared power"
            unit="W"
            numeric
            hint="From the wall, at most; empty = every channel can be full at once."
            testID="lamp-budget"
          />
          <FormField
            control={control}
            name="lamp.price"
            label="Price"
            numeric
            hint="Of one lamp, in your money; for comparing."
            testID="lamp-price"
          />
        </FieldRow>
        <FormChoice
          control={control}
          name="lamp.easingOf"
          label="Percents of its own easing in are of"
          options={[
            { value: 'lamp', label: 'the lamp' },
            { value: 'cap', label: 'the cap' },
            { value: 'target', label: 'the target' },
          ]}
        />
      </Fold>
    </View>
  );
}
