import { FieldRow } from '@/ui/Field';
import { type Setting } from './lampForm';
import { LampControl, FormField } from './FormField';

/** What a channel has to do with the controls, where it is not simply its own. */
export function SettingFields({
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
