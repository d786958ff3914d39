import { useController } from 'react-hook-form';
import { droopCurve } from '@/core/spectrum/lampState';
import { Button } from '@/ui/Button';
import { FieldRow } from '@/ui/Field';
import { Fold } from '@/ui/Parts';
import { curveText } from './lampForm';
import { LampControl, FormField } from './FormField';

export function Dimming({ control, index }: { control: LampControl; index: number }) {
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
