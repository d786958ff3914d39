import { View } from 'react-native';

import type { Solving } from '@/state/solvers';
import { Button } from '@/ui/Button';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** What stands in place of the key that started a computation: how far it is, stopping it, and what went wrong. */
export function SolvingRow({
  solver: { progress, error, cancel },
  what,
}: {
  solver: Pick<Solving<unknown>, 'progress' | 'error'> & { cancel: () => void };
  /** what is being done: "Hanging lamps" */
  what: string;
}) {
  if (progress !== null)
    return (
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
        <Type kind="small" role="status" style={{ flex: 1 }}>
          {`${what} ${Math.round(progress * 100)} %`}
        </Type>
        <Button label="Stop" onPress={cancel} />
      </View>
    );
  return error ? <Type role="alert">{`${what} went wrong: ${error}. Try again.`}</Type> : null;
}
