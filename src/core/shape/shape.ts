import * as v from 'valibot';

/** What stored shapes are made of: each says in an error what to give. Everything that is stored is described with these. */

/** Most items of a list that is not said to be longer. */
const MOST = 1000;

/** Names that every object has already: a record could not tell them from its own. */
const EVERY_OBJECTS = new Set(Object.getOwnPropertyNames(Object.prototype));
export const id = v.pipe(
  v.string('give text'),
  v.minLength(1, 'must not be empty'),
  v.maxLength(80, 'at most 80 characters'),
  v.check((t) => !EVERY_OBJECTS.has(t), 'is a name that programs keep for themselves; give another'),
);
/** Longest name, in characters. */
export const NAME_LENGTH = 120;
export const name = v.pipe(
  v.string('give text'),
  v.trim(),
  v.minLength(1, 'must not be empty'),
  v.maxLength(NAME_LENGTH, `at most ${NAME_LENGTH} characters`),
);
export const text = v.pipe(v.string('give text'), v.maxLength(4000, 'at most 4000 characters'));
const finite = v.pipe(v.number('give a number'), v.finite('give a finite number'));
/** A number in a range; the unit stands in its errors. */
export const between = (low: number, high: number, unit = '') =>
  v.pipe(
    finite,
    v.minValue(low, `must be at least ${low}${unit}`),
    v.maxValue(high, `must be at most ${high}${unit}`),
  );
export const share = between(0, 1);
export const whole = (low: number, high: number, unit = '', say = 'give a whole number') =>
  v.pipe(between(low, high, unit), v.integer(say));
export const wholeDays = (low: number, most: number) => whole(low, most, ' days', 'give whole days');
export const truth = v.boolean('is true or false');
/** Values by id, 0..1: levels of channels or controls, amounts of pigments. */
export const shares = v.record(id, share);

/** As `toISOString` spells it, on a day that every month has: ten years of entries are read without making a date of each. */
const SPELT = /^\d{4}-\d\d-(?:[01]\d|2[0-8])T\d\d:\d\d:\d\d\.\d{3}Z$/;
/** An instant, UTC ISO 8601. Two spellings of one instant are one, so that instants can be compared as texts. */
export const instant = v.pipe(
  v.string('give text'),
  v.isoTimestamp('give an instant such as 2026-01-31T12:00:00.000Z'),
  v.check(
    (t) => SPELT.test(t) || Number.isFinite(Date.parse(t)),
    'is no instant of any calendar; give one such as 2026-01-31T12:00:00.000Z',
  ),
  v.transform((t) => (SPELT.test(t) ? t : new Date(t).toISOString())),
);
const isDay = (date: string): boolean => {
  const ms = Date.parse(`${date}T00:00:00.000Z`);
  return Number.isFinite(ms) && new Date(ms).toISOString().startsWith(date);
};
/** A local date. */
export const date = v.pipe(
  v.string('give text'),
  v.isoDate('give a date such as 2026-01-31'),
  v.check(isDay, 'is no date of the calendar; give one such as 2026-01-31'),
);
/** Wall-clock minute of the day. */
export const minute = v.pipe(between(0, 1439), v.integer('give a whole minute'));
/** A stretch of the wall-clock day; it may run over midnight. */
export const window = { fromMinute: minute, toMinute: minute };

export const list = <S extends v.GenericSchema>(item: S, least = 0, most = MOST) =>
  v.pipe(
    v.array(item, 'give a list'),
    v.minLength(least, `at least ${least} needed`),
    v.maxLength(most, `at most ${most} allowed`),
  );

/** IANA name of a time zone. */
export const timeZone = v.pipe(
  v.string('give text'),
  v.check(isTimeZone, 'is no time zone known here, such as Europe/Berlin'),
);
function isTimeZone(zoneName: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zoneName });
    return true;
  } catch {
    return false;
  }
}
