import * as v from 'valibot';

import type { Plate } from '@/core/case/types';
import type { LampKind } from '@/core/spectrum/lampKind';

import { PLATE_MIGRATIONS } from './migrations';
import { DocumentError, parseObject, validate } from './read';
import { lampKind, plate } from './schema';

/** The plate file: one plate with the lamp it was made for (docs/formats.md). */
const FORMAT = 'chromatheca-plate';
const VERSION = 2;

const fileSchema = v.pipe(
  v.object({ format: v.literal(FORMAT), version: v.literal(VERSION), plate, lampKind }),
  v.check(
    (f) => f.plate.lampKindId === f.lampKind.id,
    'the plate belongs to another lamp than the file holds',
  ),
);

export const plateText = (p: Plate, kind: LampKind): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, plate: p, lampKind: kind }, null, 1)}\n`;

/** Reads a plate file. @throws DocumentError naming the path and the remedy */
export function readPlate(text: string): { plate: Plate; lampKind: LampKind } {
  const file = parseObject(text);
  if (file.format !== FORMAT) {
    throw new DocumentError(
      'invalid',
      'format',
      'this is no Chromatheca plate',
      file.format === 'chromatheca-file'
        ? 'This is a whole case: import it under Case.'
        : 'Choose a plate file that Chromatheca exported.',
    );
  }
  const { plate: p, lampKind: kind } = validate(fileSchema, file, VERSION, PLATE_MIGRATIONS);
  return { plate: p, lampKind: kind };
}
