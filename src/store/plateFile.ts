import * as v from 'valibot';

import { type Plate, plateSchema } from '@/core/record/caseDoc';
import { PLATE_MIGRATIONS } from '@/core/record/migrations';
import { bad, parseObject, type Read, validated } from '@/core/record/read';
import { type LampKind, lampKindSchema } from '@/core/spectrum/lampKind';

/** The plate file: one plate with the lamp it was made for (docs/formats.md). */
const FORMAT = 'chromatheca-plate';
const VERSION = 2;

const fileSchema = v.pipe(
  v.object({
    format: v.literal(FORMAT),
    version: v.literal(VERSION),
    plate: plateSchema,
    lampKind: lampKindSchema,
  }),
  v.check(
    (f) => f.plate.lampKindId === f.lampKind.id,
    'the plate belongs to another lamp than the file holds',
  ),
);
export type PlateFile = Pick<v.InferOutput<typeof fileSchema>, 'plate' | 'lampKind'>;

export const plateText = (plate: Plate, lampKind: LampKind): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, plate, lampKind }, null, 1)}\n`;

/** Reads a plate file. */
export function readPlate(text: string): Read<PlateFile> {
  const file = parseObject(text);
  if (!file.ok) return file;
  if (file.value.format !== FORMAT)
    return bad(
      'invalid',
      'format',
      'this is no Chromatheca plate',
      file.value.format === 'chromatheca-file'
        ? 'This is a whole case: import it under Case.'
        : 'Choose a plate file that Chromatheca exported.',
    );
  return validated(fileSchema, file.value, VERSION, PLATE_MIGRATIONS);
}
