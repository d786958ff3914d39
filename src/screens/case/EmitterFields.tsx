import { useState } from 'react';
import { useController, useFieldArray, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import FileUp from 'lucide-react-native/icons/file-up';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';
import { emissionSpectrum } from '@/core/spectrum/emission';
import { Strip } from '@/pieces/Strip';
import { Button } from '@/ui/Button';
import { Choice, FieldRow } from '@/ui/Field';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { pickSpectrum, SpectrumKeys } from '../shared/spectrumFiles';
import { efficacyOfTable, emptyGroup } from './lampForm';
import { LampControl, FormField } from './FormField';

/** The emitters of one channel: one kind usually, more where a channel lights several. */
export function Emitters({ control, index }: { control: LampControl; index: number }) {
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
