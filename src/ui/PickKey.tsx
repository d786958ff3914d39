import { useRef } from 'react';
import { Pressable, View } from 'react-native';
import CalendarDays from 'lucide-react-native/icons/calendar-days';
import Clock from 'lucide-react-native/icons/clock';

import { usePaper } from './theme';

/** A key that opens the device's own picker of dates or times, in the device's language. */
export function PickKey({
  kind,
  label,
  value,
  onPick,
}: {
  kind: 'date' | 'time';
  label: string;
  /** as it is typed: 2026-11-28, 14:05 */
  value: string;
  onPick: (value: string) => void;
}) {
  const paper = usePaper();
  const input = useRef<HTMLInputElement>(null);
  const Mark = kind === 'date' ? CalendarDays : Clock;
  const valid = kind === 'date' ? /^\d{4}-\d\d-\d\d$/ : /^\d\d:\d\d$/;
  return (
    <View>
      <Pressable
        role="button"
        aria-label={`Pick: ${label}`}
        onPress={() => {
          try {
            input.current?.showPicker();
          } catch {
            // a browser without a picker to show leaves the typing
          }
        }}
        style={{ width: 36, height: 44, alignItems: 'center', justifyContent: 'center', marginRight: -8 }}
      >
        <Mark size={18} color={paper.ink} strokeWidth={1.75} />
      </Pressable>
      <input
        ref={input}
        type={kind}
        value={valid.test(value) ? value : ''}
        onChange={(e) => e.target.value !== '' && onPick(e.target.value.slice(0, kind === 'time' ? 5 : 10))}
        tabIndex={-1}
        aria-hidden
        style={{ position: 'absolute', bottom: 0, right: 0, width: 1, height: 1, opacity: 0, border: 0 }}
      />
    </View>
  );
}
