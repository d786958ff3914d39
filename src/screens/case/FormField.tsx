import { type Control, Controller, type FieldPath, type FieldValues } from 'react-hook-form';
import { Choice, TextField } from '@/ui/Field';
import { type LampForm } from './lampForm';

export type LampControl = Control<{ lamp: LampForm }>;

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
export function FormChoice<V extends string>({
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
