import { valibotResolver } from '@hookform/resolvers/valibot';
import { type DefaultValues, type FieldValues, useForm, type UseFormReturn, useWatch } from 'react-hook-form';
import type { GenericSchema } from 'valibot';

import { type Typed, useTypedValues } from '@/state/typed';

/**
 * A form whose typed values stay until they are kept or started over; an error comes when its field is left or the form is kept.
 * @param stands what it holds when nothing is typed; the same object for as long as the form is drawn
 * @param given what it begins with instead, as if it had been typed
 */
export function useKeptForm<F extends FieldValues>(
  typed: Typed,
  stands: F,
  schema: GenericSchema,
  given?: F,
): UseFormReturn<F> & { typed: { changed: boolean; clear: () => void } } {
  const form = useForm<F>({
    // what was typed under an older app may lack a field
    defaultValues: (given ?? (typed.all ? { ...stands, ...typed.all } : stands)) as DefaultValues<F>,
    resolver: valibotResolver(schema as never) as never,
    mode: 'onBlur',
  });
  useTypedValues(typed, useWatch({ control: form.control }) as object, stands);
  return {
    ...form,
    typed: {
      changed: typed.changed,
      clear: () => {
        form.reset(stands);
        typed.clear();
      },
    },
  };
}
