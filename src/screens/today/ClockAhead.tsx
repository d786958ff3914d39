import { View } from 'react-native';

import { broughtBack, writtenAhead } from '@/core/case/clockAhead';
import { plural } from '@/core/shape/counts';
import type { Desk } from '@/state/desk';
import { run } from '@/state/session';
import { longDate } from '@/state/time';
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
        {`${plural(ids.length, 'entry', 'entries')} of this case ${ids.length === 1 ? 'is' : 'are'} of a time to come, up to ${longDate(Date.parse(last.atUtc), zone.timeZone)}. Did the clock of a device run ahead? Until then ${ids.length === 1 ? 'it does' : 'they do'} not count.`}
      </Note>
      <Button
        label="They are of now"
        onPress={() => run({ name: 'entries brought back to now', apply: (b) => broughtBack(b, nowMs) })}
        testID="bring-back"
      />
    </View>
  );
}
