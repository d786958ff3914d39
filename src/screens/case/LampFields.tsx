import {
  type Control,
  Controller,
  type FieldPath,
  type FieldValues,
  useFieldArray,
  useWatch,
} from 'react-hook-form';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';

import { newId } from '@/state/id';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Hairline, Note } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { emptyChannel, type LampForm } from './lampForm';

/** A text field bound to a form. */
export function FormField<T extends FieldValues>({
  control,
  name,
  ...rest
}: {
  control: Control<T>;
  name: FieldPath<T>;
  label: string;
  unit?: string;
  numeric?: boolean;
  hint?: string;
  testID?: string;
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <TextField
          {...rest}
          value={(field.value as string) ?? ''}
          onChange={field.onChange}
          onBlur={field.onBlur}
          error={fieldState.error?.message}
        />
      )}
    />
  );
}

/** A lamp as a channel list. The form may hold more than the lamp, under `lamp`. */
export function LampFields({ control }: { control: Control<{ lamp: LampForm }> }) {
  const { fields, append, remove } = useFieldArray({ control, name: 'lamp.channels', keyName: 'key' });
  return (
    <View style={{ gap: space.m }}>
      <FormField control={control} name="lamp.name" label="Name of the lamp" testID="lamp-name" />
      <FieldRow>
        <FormField control={control} name="lamp.beam" label="Beam angle" unit="°" numeric testID="beam" />
        <FormField control={control} name="lamp.faceLength" label="Face length" unit="cm" numeric />
        <FormField control={control} name="lamp.faceWidth" label="Face width" unit="cm" numeric />
      </FieldRow>
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
          <ChannelLight control={control} index={i} />
          <FieldRow>
            <FormField
              control={control}
              name={`lamp.channels.${i}.count`}
              label="Emitters"
              numeric
              testID={`channel-${i}-count`}
            />
            <FormField
              control={control}
              name={`lamp.channels.${i}.watts`}
              label="Watts each"
              unit="W"
              numeric
              testID={`channel-${i}-watts`}
            />
          </FieldRow>
        </View>
      ))}
      <Button
        label="Add a channel"
        icon={Plus}
        onPress={() => append(emptyChannel(newId()))}
        testID="add-channel"
      />
      <Type kind="small">
        A channel is what one slider or number of your lamp lights. Peak and width stand in the maker’s data;
        20 nm is usual for one colour. Watts are electrical, at full.
      </Type>
    </View>
  );
}

function ChannelLight({ control, index }: { control: Control<{ lamp: LampForm }>; index: number }) {
  const light = useWatch({ control, name: `lamp.channels.${index}.light` });
  if (light === 'table') return <Type kind="small">Light from a table, kept as it is.</Type>;
  return (
    <>
      <Controller
        control={control}
        name={`lamp.channels.${index}.light`}
        render={({ field }) => (
          <Choice
            label="Light"
            value={field.value as 'line' | 'white'}
            onChange={field.onChange}
            options={[
              { value: 'line', label: 'One colour' },
              { value: 'white', label: 'White' },
            ]}
          />
        )}
      />
      <FieldRow>
        <FormField
          control={control}
          name={`lamp.channels.${index}.peak`}
          label={light === 'white' ? 'Kelvin' : 'Peak'}
          unit={light === 'white' ? 'K' : 'nm'}
          numeric
          testID={`channel-${index}-peak`}
        />
        {light === 'line' && (
          <FormField
            control={control}
            name={`lamp.channels.${index}.width`}
            label="Width (FWHM)"
            unit="nm"
            numeric
            testID={`channel-${index}-width`}
          />
        )}
      </FieldRow>
    </>
  );
}
