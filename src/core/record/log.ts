import * as v from 'valibot';

import { id } from '../shape/shape';
import type { DocumentKind } from './documentKind';
import { LOG_KINDS } from './log/kinds';
import type { Act, LogBase, LogKind } from './log/logKind';
import { LOG_MIGRATIONS } from './migrations';

/** What happened besides changes of what runs. */
export type LogEvent = v.InferOutput<(typeof LOG_KINDS)[number]['schema']>;
export type LogEventOf<K extends LogEvent['kind']> = Extract<LogEvent, { kind: K }>;

const ALL_KINDS: readonly LogKind[] = LOG_KINDS;
const byKind = new Map(ALL_KINDS.map((k) => [k.kind, k]));
/** A kind by its name. */
export const kindNamed = (kind: LogEvent['kind']): LogKind => byKind.get(kind)!;
/** Everything that depends on the kind of an entry. */
export const kindOf = (event: Pick<LogBase, 'kind'>): LogKind => byKind.get(event.kind)!;
export const logKinds = (): readonly LogKind[] => ALL_KINDS;

/** What an entry does to the light of its zone. */
export const actsOf = (event: LogEvent): Act[] => kindOf(event).acts?.(event) ?? [];
/** True for entries that may change light. */
export const actsOnLight = (event: LogEvent): boolean => kindOf(event).acts !== undefined;
/** True for entries after which the light stays other than it was: not a cut in power, which ends. */
export const changesLight = (event: LogEvent): boolean =>
  actsOnLight(event) && actsOf(event).some((a) => a.does !== 'dark');

const names = ALL_KINDS.map((k) => `"${k.kind}"`);
const anyKind = v.variant(
  'kind',
  // a variant reads the schemas it is given, however many there are
  ALL_KINDS.map((k) => k.schema) as unknown as [
    (typeof LOG_KINDS)[number]['schema'] &
      v.ObjectSchema<{ kind: v.LiteralSchema<string, undefined> }, undefined>,
  ],
  `kind is ${names.slice(0, -1).join(', ')} or ${names.at(-1)}`,
) as unknown as v.GenericSchema<unknown, LogEvent>;
/** The kind of an entry is looked up: tried one after the other, ten years of entries took three times as long to read. */
const event: v.GenericSchema<unknown, LogEvent> = {
  ...anyKind,
  '~run': (dataset, config) => {
    const kind = (dataset.value as { kind?: LogEvent['kind'] } | null | undefined)?.kind;
    return ((kind && byKind.get(kind)?.schema) || anyKind)['~run'](dataset, config) as ReturnType<
      (typeof anyKind)['~run']
    >;
  },
};

/** Ten years of a diligent keeper are 20 000: with room for a lifetime, and for a file that somebody made to be too large. */
export const MOST_EVENTS = 100_000;
const log = v.object({
  format: v.literal('chromatheca-log', 'is no Chromatheca log'),
  version: v.literal(2),
  caseId: id,
  events: v.pipe(v.array(event, 'give a list'), v.maxLength(MOST_EVENTS, `at most ${MOST_EVENTS} allowed`)),
});
export type LogDoc = v.InferOutput<typeof log>;

export const logDocKind: DocumentKind<LogDoc> = {
  format: 'chromatheca-log',
  version: 2,
  schema: log,
  migrations: LOG_MIGRATIONS,
  empty: (caseId) => ({ format: 'chromatheca-log', version: 2, caseId, events: [] }),
  idKey: 'caseId',
  lists: { events: MOST_EVENTS },
  spare: ['events.*'],
};
