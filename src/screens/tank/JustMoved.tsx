import { router } from 'expo-router';
import { View } from 'react-native';

import { actingEvents } from '@/core/case/course';
import type { Judgement } from '@/core/case/judgement';
import { CEILINGS } from '@/core/easing/accustomed';
import { removeEvent } from '@/state/commands/log';
import type { Desk } from '@/state/desk';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { times } from '../shared/words';

/** A move this young is still asked about, ms. */
const YOUNG_MS = 3_600_000;

/** A coral that was just moved on the chart: moved in the tank, or only corrected? */
export function JustMoved({ desk, judged, nowMs }: { desk: Desk; judged: Judgement | null; nowMs: number }) {
  const { zone, bundle } = desk;
  const event = actingEvents(bundle.log, zone.id).findLast(
    (e) => e.kind === 'moved' && Math.abs(nowMs - Date.parse(e.atUtc)) < YOUNG_MS,
  );
  if (event?.kind !== 'moved') return null;
  const index = zone.spots.findIndex((s) => s.id === event.spotId);
  const spot = zone.spots[index];
  if (!spot) return null;
  const ratio = judged?.corals[index]?.step?.ratio;
  return (
    <View style={{ gap: space.s }} testID="just-moved">
      <Type kind="label">
        {`${spot.name} counts as moved in the tank just now; what it is used to goes with it.${ratio === undefined ? '' : ` It gets ${times(ratio)} that.`}`}
      </Type>
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        {ratio !== undefined && ratio > CEILINGS.gentle && (
          <Button
            label="Ease it in"
            kind="filled"
            onPress={() => router.navigate(`/ease?of=running&coral=${encodeURIComponent(spot.id)}`)}
            testID="moved-ease"
          />
        )}
        <Button
          label="It always stood there"
          onPress={() => run(removeEvent(event.id))}
          testID="moved-corrected"
        />
      </View>
    </View>
  );
}
