import { isoTime, parseTypedTime } from '@/core/day/clock';
import { ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';

/** A time of day of the document. `take` returns what is wrong, or null, or whether it was taken. */
export function TimeField({
  label,
  value,
  take,
  testID,
}: {
  label: string;
  value: number;
  take: (minute: number) => string | null | boolean;
  testID?: string;
}) {
  return (
    <ValueField
      label={label}
      value={isoTime(value)}
      pick="time"
      testID={testID}
      onCommit={(text) => {
        const minute = parseTypedTime(text);
        if (minute === null) return `${label}: give a time of day such as 14:30.`;
        return answer(take(minute));
      }}
    />
  );
}

const answer = (taken: string | null | boolean): string | null =>
  taken === true ? null : taken === false ? 'Not taken.' : taken;

/** A number of the document between two ends, in the unit it is read in. */
export function NumberField({
  value,
  low,
  high,
  wrong,
  whole,
  empty,
  take,
  ...rest
}: {
  label: string;
  hideLabel?: boolean;
  /** null = not said */
  value: number | null;
  low: number;
  high: number;
  /** what is said of anything else */
  wrong: string;
  whole?: boolean;
  /** taken when the field is emptied; without it an empty field is wrong */
  empty?: () => string | null | boolean;
  take: (value: number) => string | null | boolean;
  unit?: string;
  hint?: string;
  testID?: string;
}) {
  return (
    <ValueField
      {...rest}
      numeric
      value={value === null ? '' : String(value)}
      onCommit={(text) => {
        if (empty && text.trim() === '') return answer(empty());
        const v = parseNumber(text);
        if (v === null || v < low || v > high || (whole && !Number.isInteger(v))) return wrong;
        return answer(take(v));
      }}
    />
  );
}
