import { CAP_MEANS } from './capMeans';
import { useState } from 'react';
import {
  type Control,
  Controller,
  type FieldPath,
  type FieldValues,
  useController,
  useFieldArray,
  useWatch,
} from 'react-hook-form';
import { View } from 'react-native';
import FileUp from 'lucide-react-native/icons/file-up';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';

import { droopCurve } from '@/core/spectrum/lampState';
import { emissionSpectrum } from '@/core/spectrum/emission';
import { Strip } from '@/pieces/Strip';
import { newId } from '@/state/id';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Fold, Hairline, Note } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { TubeCaution } from '../shared/Cautions';
import { pickSpectrum, SpectrumKeys } from '../shared/spectrumFiles';
import {
  curveText,
  efficacyOfTable,
  emptyChannel,
  emptyGroup,
  type LampForm,
  type Setting,
} from './lampForm';

type LampControl = Control<{ lamp: LampForm }>;

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

/** A choice bound to a form. */
function FormChoice<V extends string>({
  control,
  name,
  label,
  options,
}: {
  control: LampControl;
  name: FieldPath<{ lamp: LampForm }>;
  label: string;
  options: readonly { value: V; label: string }[];
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <Choice label={label} value={field.value as V} onChange={field.onChange} options={options} />
      )}
    />
  );
}

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

/** The emitters of one channel: one kind usually, more where a channel lights several. */
function Emitters({ control, index }: { control: LampControl; index: number }) {
  const { fields, append, remove } = useFieldArray({
    control,
    name: `lamp.channels.${index}.groups`,
    keyName: 'key',
  });
  return (
    <>
      {fields.map((field, g) => (
        <View key={field.key} style={{ gap: space.s }}>
          <EmitterLight
            control={control}
            index={index}
            group={g}
            prefix={g === 0 ? `channel-${index}` : `channel-${index}-${g}`}
          />
          {fields.length > 1 && (
            <Button
              label="Remove these emitters"
              kind="plain"
              icon={Trash}
              name={`Remove emitters ${g + 1} of channel ${index + 1}`}
              onPress={() => remove(g)}
            />
          )}
        </View>
      ))}
      <Button
        label="More emitters in this channel"
        kind="plain"
        icon={Plus}
        name={`More emitters in channel ${index + 1}`}
        onPress={() => append(emptyGroup())}
      />
    </>
  );
}

function EmitterLight({
  control,
  index,
  group,
  prefix,
}: {
  control: LampControl;
  index: number;
  group: number;
  prefix: string;
}) {
  const at = `lamp.channels.${index}.groups.${group}` as const;
  const light = useWatch({ control, name: `${at}.light` });
  const table = useController({ control, name: `${at}.table` });
  const setLight = useController({ control, name: `${at}.light` });
  const name = useWatch({ control, name: `lamp.channels.${index}.name` });
  const [problem, setProblem] = useState<string | null>(null);
  const pick = async () => {
    const picked = await pickSpectrum();
    if (!picked) return;
    if ('problem' in picked) return setProblem(picked.problem);
    setProblem(null);
    table.field.onChange({ ...picked.spectrum, efficacyUmolPerJ: efficacyOfTable(picked.spectrum) });
    setLight.field.onChange('table');
  };
  const value = table.field.value;
  return (
    <>
      <Choice
        label="Light"
        value={light}
        onChange={(to) => {
          if (to !== 'table') return setLight.field.onChange(to);
          if (value) setLight.field.onChange('table');
          else void pick();
        }}
        options={[
          { value: 'line', label: 'One colour' },
          { value: 'white', label: 'White' },
          { value: 'table', label: 'Measured' },
        ]}
      />
      {light === 'table' && value ? (
        <View style={{ gap: space.s }}>
          <Strip
            spectrum={emissionSpectrum({
              shape: 'table',
              points: value.points,
              quantity: value.quantity,
              flux: 1,
            })}
            width={280}
            height={14}
            name={`Measured spectrum of ${name || 'this channel'}`}
          />
          <Type kind="small" testID={`${prefix}-table`}>
            {`${value.points.length} points from ${value.points[0]![0]} to ${value.points[value.points.length - 1]![0]} nm, ${value.quantity === 'photon' ? 'photons' : 'energy'}${value.description ? `, ${value.description}` : ''}.`}
          </Type>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button label="Another file" icon={FileUp} onPress={() => void pick()} />
            <SpectrumKeys points={value.points} quantity={value.quantity} name={name || 'channel'} />
          </View>
        </View>
      ) : (
        <FieldRow>
          <FormField
            control={control}
            name={`${at}.peak`}
            label={light === 'white' ? 'Kelvin' : 'Peak'}
            unit={light === 'white' ? 'K' : 'nm'}
            numeric
            testID={`${prefix}-peak`}
          />
          {light === 'line' && (
            <FormField
              control={control}
              name={`${at}.width`}
              label="Width (FWHM)"
              unit="nm"
              numeric
              testID={`${prefix}-width`}
            />
          )}
        </FieldRow>
      )}
      {problem && (
        <Type kind="label" role="alert" testID={`${prefix}-problem`}>
          {`▲ ${problem}`}
        </Type>
      )}
      <FieldRow>
        <FormField
          control={control}
          name={`${at}.count`}
          label="Emitters"
          numeric
          testID={`${prefix}-count`}
        />
        <FormField
          control={control}
          name={`${at}.watts`}
          label="Watts each"
          unit="W"
          numeric
          testID={`${prefix}-watts`}
        />
        <FormField
          control={control}
          name={`${at}.flux`}
          label="or µmol/s each"
          numeric
          testID={`${prefix}-flux`}
        />
      </FieldRow>
    </>
  );
}

/** What a channel has to do with the controls, where it is not simply its own. */
function SettingFields({
  control,
  index,
  setting,
}: {
  control: LampControl;
  index: number;
  setting: Setting;
}) {
  const at = `lamp.channels.${index}` as const;
  if (setting === 'tied')
    return (
      <FormField
        control={control}
        name={`${at}.key`}
        label="Hangs on the key"
        testID={`channel-${index}-key`}
      />
    );
  if (setting === 'tint')
    return (
      <FieldRow>
        <FormField
          control={control}
          name={`${at}.white`}
          label="At white"
          unit="%"
          numeric
          testID={`channel-${index}-white`}
        />
        <FormField
          control={control}
          name={`${at}.middle`}
          label="Middle"
          unit="%"
          numeric
          testID={`channel-${index}-middle`}
        />
        <FormField
          control={control}
          name={`${at}.blue`}
          label="At blue"
          unit="%"
          numeric
          testID={`channel-${index}-blue`}
        />
      </FieldRow>
    );
  if (setting === 'balance')
    return (
      <FieldRow>
        <FormField
          control={control}
          name={`${at}.share`}
          label="In the balance"
          unit="%"
          numeric
          testID={`channel-${index}-share`}
        />
        <FormField control={control} name={`${at}.trimFrom`} label="Trim from" unit="×" numeric />
        <FormField control={control} name={`${at}.trimTo`} label="to" unit="×" numeric />
      </FieldRow>
    );
  return null;
}

function Dimming({ control, index }: { control: LampControl; index: number }) {
  const at = `lamp.channels.${index}` as const;
  const { field: curve } = useController({ control, name: `${at}.curve` });
  return (
    <Fold title="How it dims">
      <FieldRow>
        <FormField
          control={control}
          name={`${at}.lowest`}
          label="Lights from"
          unit="%"
          numeric
          hint="Below this it stays dark."
        />
        <FormField
          control={control}
          name={`${at}.curve`}
          label="Measured points"
          hint="% of drive : % of light, such as 20:5, 60:40. Empty = even."
          testID={`curve-${index}`}
        />
      </FieldRow>
      {curve.value.trim() === '' && (
        <Button
          label="As emitters droop (typical)"
          name="Points as emitters droop when their current is set: half the drive gives about 53 % of the light"
          onPress={() => curve.onChange(curveText(droopCurve()))}
          testID={`droop-${index}`}
        />
      )}
    </Fold>
  );
}
