import { View } from 'react-native';

import { broughtBack, writtenAhead } from '@/core/case/clockAhead';
import { plural } from '@/core/shape/counts';
import type { Desk } from '@/state/desk';
import { run } from '@/state/session';
import { paperDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { space } from '@/ui/theme';

/** Records that lie in the time to come: asked about, never guessed at. */
export function ClockAhead({ desk, nowMs }: { desk: Desk; nowMs: number }) {
  const { bundle, zone } = desk;
  const ids = writtenAhead(bundle, nowMs);
  if (ids.length === 0) return null;
  const all = [...bundle.history.entries, ...bundle.log.events];
  const last = all.find((e) => e.id === ids.at(-1))!;
  return (
    <View style={{ gap: space.s }} testID="clock-ahead">
      <Note>
        {`${plural(ids.length, 'entry', 'entries')} of this case ${ids.length === 1 ? 'is' : 'are'} dated later than now, up to ${paperDate(Date.parse(last.atUtc), zone.timeZone)}. Did the clock of a device run ahead? As ${ids.length === 1 ? 'it stands, it counts from its' : 'they stand, they count from their'} date on.`}
      </Note>
      <Button
        label={ids.length === 1 ? 'Date it now' : 'Date them now'}
        onPress={() => run({ name: 'entries brought back to now', apply: (b) => broughtBack(b, nowMs) })}
        testID="bring-back"
      />
    </View>
  );
}
