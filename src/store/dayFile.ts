import * as v from 'valibot';

import type { HungLamp, RunningThread } from '@/core/case/types';
import type { LampKind } from '@/core/spectrum/lampKind';

import { DocumentError, parseObject, validate } from './read';
import { hungLamp, lampKind, runningThreads, share, name } from './schema';

/** The day file: a day by value with the lamps it was made for and the coral it was judged at (docs/formats.md). */
const FORMAT = 'chromatheca-day';
const VERSION = 1;

export interface DayFile {
  name: string;
  lampKind: LampKind;
  lamps: HungLamp[];
  capShare: number;
  threads: RunningThread[];
  /** how deep the coral sits that it was made for, cm */
  depthCm: number;
}

const fileSchema = v.object({
  format: v.literal(FORMAT),
  version: v.literal(VERSION),
  name,
  lampKind,
  lamps: v.pipe(v.array(hungLamp, 'give a list'), v.minLength(1, 'at least 1 needed'), v.maxLength(50)),
  capShare: share,
  threads: runningThreads,
  depthCm: v.pipe(
    v.number('give a number'),
    v.minValue(0, 'must be at least 0 cm'),
    v.maxValue(300, 'must be at most 300 cm'),
  ),
});

export const dayText = (day: DayFile): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, ...day }, null, 1)}\n`;

/** Reads a day file. @throws DocumentError naming the path and the remedy */
export function readDay(text: string): DayFile {
  const file = parseObject(text);
  if (file.format !== FORMAT) {
    throw new DocumentError(
      'invalid',
      'format',
      'this is no Chromatheca day',
      file.format === 'chromatheca-file'
        ? 'This is a whole case: import it under Case.'
        : 'Choose a day file (.day.json) that Chromatheca wrote on its sheet.',
    );
  }
  const { format: _f, version: _v, ...day } = validate(fileSchema, file, VERSION);
  return day;
}
