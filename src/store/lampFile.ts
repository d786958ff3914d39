import * as v from 'valibot';

import { bad, good, parseObject, type Read, validated } from '@/core/record/read';
import { type LampKind, lampKindSchema } from '@/core/spectrum/lampKind';

import { readPlate } from './plateFile';

/** The lamp file: one kind of lamp with its spectra, optics, layout and controller (docs/formats.md). */
const FORMAT = 'chromatheca-lamp';
const VERSION = 1;

const fileSchema = v.object({
  format: v.literal(FORMAT),
  version: v.literal(VERSION),
  lampKind: lampKindSchema,
});

export const lampText = (lampKind: LampKind): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, lampKind }, null, 1)}\n`;

/** Reads a lamp file, or the lamp that came along in a plate's. */
export function readLamp(text: string): Read<LampKind> {
  const file = parseObject(text);
  if (!file.ok) return file;
  if (file.value.format === 'chromatheca-plate') {
    const plate = readPlate(text);
    return plate.ok ? good(plate.value.lampKind) : plate;
  }
  if (file.value.format !== FORMAT)
    return bad(
      'invalid',
      'format',
      'this is no Chromatheca lamp',
      file.value.format === 'chromatheca-file'
        ? 'This is a whole case: import it under Case.'
        : 'Choose a lamp or plate file that Chromatheca exported, or type the lamp in.',
    );
  const read = validated(fileSchema, file.value, VERSION);
  return read.ok ? good(read.value.lampKind) : read;
}
