import { View } from 'react-native';

import type { Criticism } from '@/core/case/critic';
import { moveSpot } from '@/state/commands/spots';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { criticWords } from './hangWords';

/** Who would have to stand elsewhere under the lamps as they hang; a coral that was carried there is put there. */
export function HangCritic({ desk: { zone }, criticism }: { desk: Desk; criticism: Criticism }) {
  const words = criticWords(criticism, zone);
  if (words === '') return null;
  return (
    <View style={{ gap: space.s }}>
      <Type testID="hang-critic">{`As they hang, ${words}`}</Type>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        {criticism.moves.map(({ spot, to: { xCm, yCm, depthCm, name } }) => {
          const coral = zone.spots[spot];
          if (!coral) return null;
          return (
            <Button
              key={coral.id}
              label={`${coral.name} stands there now`}
              name={`${coral.name} stands ${name} now`}
              onPress={() =>
                run(moveSpot(zone.id, { ...coral, xCm, yCm, depthCm }, { id: newId(), atUtc: nowUtcIso() }))
              }
              testID={`moved-${coral.id}`}
            />
          );
        })}
      </View>
    </View>
  );
}
