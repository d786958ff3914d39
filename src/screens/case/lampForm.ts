import * as v from 'valibot';

import { phosphorWhiteTable, WHITE_FROM_K, WHITE_TO_K } from '@/core/mix/phosphor';
import type { Channel, EmitterGroup, LampKind } from '@/core/spectrum/lamp';
import { parseNumber } from '@/ui/parseNumber';

/** A lamp as it is typed: everything is text until it is read. */
export interface ChannelRow {
  id: string;
  name: string;
  light: 'line' | 'white' | 'table';
  /** peak in nm, or kelvin of a white */
  peak: string;
  width: string;
  count: string;
  watts: string;
}
export interface LampForm {
  name: string;
  beam: string;
  faceLength: string;
  faceWidth: string;
  channels: ChannelRow[];
}

const number = (low: number, high: number, unit: string) =>
  v.pipe(
    v.string(),
    v.check((text) => parseNumber(text) !== null, `Give a number${unit ? ` in ${unit}` : ''}.`),
    v.check(
      (text) => {
        const n = parseNumber(text);
        return n === null || (n >= low && n <= high);
      },
      `Give ${low} to ${high}${unit ? ` ${unit}` : ''}.`,
    ),
  );
const name = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Give it a name.'),
  v.maxLength(60, 'At most 60 letters.'),
);
const count = v.pipe(
  number(1, 500, ''),
  v.check((text) => Number.isInteger(parseNumber(text)), 'Give a whole number.'),
);
const emitters = { id: v.string(), name, count, watts: number(0.01, 1000, 'W') };

export const lampFormSchema = v.object({
  name,
  beam: number(5, 175, 'degrees'),
  faceLength: number(0, 300, 'cm'),
  faceWidth: number(0, 300, 'cm'),
  channels: v.pipe(
    v.array(
      v.variant('light', [
        v.object({
          light: v.literal('line'),
          ...emitters,
          peak: number(360, 780, 'nm'),
          width: number(1, 300, 'nm'),
        }),
        v.object({
          light: v.literal('white'),
          ...emitters,
          peak: number(WHITE_FROM_K, WHITE_TO_K, 'K'),
          width: v.string(),
        }),
        v.object({ light: v.literal('table'), ...emitters, peak: v.string(), width: v.string() }),
      ]),
    ),
    v.minLength(1, 'Give at least one channel.'),
    v.maxLength(24, 'At most 24 channels.'),
  ),
});

export const emptyChannel = (id: string): ChannelRow => ({
  id,
  name: '',
  light: 'line',
  peak: '',
  width: '20',
  count: '',
  watts: '',
});
export const emptyLamp = (id: string): LampForm => ({
  name: '',
  beam: '90',
  faceLength: '30',
  faceWidth: '15',
  channels: [emptyChannel(id)],
});

/** Photon efficacy of phosphor whites, µmol J⁻¹. Mark: rule of thumb (2.0-2.5). */
const WHITE_EFFICACY = 2.25;

const read = (text: string) => parseNumber(text)!;

/** A checked form as a lamp kind. Tables cannot be typed: they are kept from the kind that is edited. */
export function lampFromForm(form: LampForm, id: string, before?: LampKind): LampKind {
  return {
    id,
    name: form.name.trim(),
    beamAngleDeg: read(form.beam),
    faceLengthCm: read(form.faceLength),
    faceWidthCm: read(form.faceWidth),
    controller: before?.controller ?? { pointStepShare: 0.01, interpolation: 'ramp' },
    channels: form.channels.map((row): Channel => {
      const emitter = { count: read(row.count), wattsEach: read(row.watts) };
      const old = before?.channels.find((c) => c.id === row.id);
      const light: EmitterGroup['light'] =
        row.light === 'line'
          ? { shape: 'line', peakNm: read(row.peak), fwhmNm: read(row.width) }
          : row.light === 'white'
            ? {
                shape: 'table',
                quantity: 'photon',
                efficacyUmolPerJ: WHITE_EFFICACY,
                points: phosphorWhiteTable(read(row.peak)),
              }
            : old!.groups[0]!.light;
      return {
        id: row.id,
        name: row.name.trim(),
        groups: [{ light, ...emitter }, ...(old?.groups.slice(1) ?? [])],
      };
    }),
  };
}

export const formFromLamp = (kind: LampKind): LampForm => ({
  name: kind.name,
  beam: String(kind.beamAngleDeg),
  faceLength: String(kind.faceLengthCm),
  faceWidth: String(kind.faceWidthCm),
  channels: kind.channels.map((c) => {
    const g = c.groups[0]!;
    return {
      id: c.id,
      name: c.name,
      light: g.light.shape,
      peak: g.light.shape === 'line' ? String(g.light.peakNm) : '',
      width: g.light.shape === 'line' ? String(g.light.fwhmNm) : '',
      count: String(g.count),
      watts: String(g.wattsEach),
    };
  }),
});
