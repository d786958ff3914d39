import { View } from 'react-native';

import { isDate } from '@/state/time';
import { Choice, ValueField } from '@/ui/Field';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

export type Shows = 'plain' | 'today' | 'date';

/** Which day is drawn, where something acts on some days and not on others. */
export function WhichDay({
  shows,
  setShows,
  date,
  setDate,
  storm,
}: {
  shows: Shows;
  setShows: (shows: Shows) => void;
  date: string;
  setDate: (date: string) => void;
  /** what is said of its storm; null = none */
  storm: string | null;
}) {
  return (
    <View style={{ gap: space.s }}>
      <Choice
        label="Which day is drawn"
        value={shows}
        onChange={setShows}
        options={[
          { value: 'plain', label: 'The plain day' },
          { value: 'today', label: 'Today' },
          { value: 'date', label: 'Another date' },
        ]}
      />
      {shows === 'date' && (
        <ValueField
          label="Date"
          pick="date"
          value={date}
          testID="day-date"
          onCommit={(text) => {
            if (!isDate(text.trim())) return 'Date: give a date such as 2026-12-24.';
            setDate(text.trim());
            return null;
          }}
        />
      )}
      {storm && (
        <Type kind="small" testID="storm-said">
          {storm}
        </Type>
      )}
      <Type kind="small">
        {shows !== 'plain'
          ? 'With what acts on that date: interludes, moon, clouds, drift.'
          : 'Without interludes, clouds and drift; a moon as at its fullest.'}
      </Type>
    </View>
  );
}
