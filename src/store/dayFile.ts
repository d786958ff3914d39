import * as v from 'valibot';

import { runningThreads } from '@/core/record/history';
import { bad, good, parseObject, type Read, validated } from '@/core/record/read';
import { hungLampSchema } from '@/core/record/zone';
import { between, name, share } from '@/core/shape/shape';
import { GRID_SIZE } from '@/core/spectrum/grid';
import { lampKindSchema } from '@/core/spectrum/lampKind';

import { FORMAT, VERSION } from './dayText';

const dayEntries = {
  name,
  lampKind: lampKindSchema,
  lamps: v.pipe(v.array(hungLampSchema, 'give a list'), v.minLength(1, 'at least 1 needed'), v.maxLength(50)),
  capShare: share,
  threads: runningThreads,
  /** how deep the coral sits that it was made for, cm */
  depthCm: between(0, 300, ' cm'),
  /** the light that coral has of it, so that light is matched and not lamps; older files have none */
  light: v.optional(
    v.object({
      spot: name,
      /** mol m⁻² d⁻¹ */
      dli: between(0, 200, ' mol'),
      /** of each channel at full there, µmol m⁻² s⁻¹ nm⁻¹ at every whole nm of the grid */
      channels: v.pipe(
        v.array(
          v.pipe(v.array(between(0, 1000), 'give a list'), v.length(GRID_SIZE, `${GRID_SIZE} values needed`)),
          'give a list',
        ),
        v.maxLength(60),
      ),
    }),
  ),
};
const fileSchema = v.object({ format: v.literal(FORMAT), version: v.literal(VERSION), ...dayEntries });
export type DayFile = v.InferOutput<v.ObjectSchema<typeof dayEntries, undefined>>;

/** Reads a day file. */
export function readDay(text: string): Read<DayFile> {
  const file = parseObject(text);
  if (!file.ok) return file;
  if (file.value.format !== FORMAT)
    return bad(
      'invalid',
      'format',
      'this is no Chromatheca day',
      file.value.format === 'chromatheca-file'
        ? 'This is a whole case: import it under Case.'
        : 'Choose a day file (.day.json) that Chromatheca wrote on its sheet.',
    );
  const read = validated(fileSchema, file.value, VERSION);
  if (!read.ok) return read;
  const { format: _f, version: _v, ...day } = read.value;
  if (day.light && day.light.channels.length !== day.lampKind.channels.length)
    return bad(
      'invalid',
      'light.channels',
      `has ${day.light.channels.length} spectra for ${day.lampKind.channels.length} channels`,
      'Write the file anew, or take “light” out of it.',
    );
  return good(day);
}
