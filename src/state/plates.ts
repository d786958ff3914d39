import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import { bad, good, type Read } from '@/core/record/read';
import type { LampKind } from '@/core/spectrum/lampKind';
import { slug } from '@/core/shape/slug';
import { plateText, readPlate } from '@/store/plateFile';

import { addLampKind } from './commands/lamps';
import { addPlate } from './commands/plates';
import { newId } from './id';
import { run } from './session';

export { readPlate };

/** One plate as the text of a file, with its file name. */
export function plateFile(plate: Plate, kind: LampKind): { name: string; text: string } {
  return { name: `${slug(plate.name, 'plate')}.plate.json`, text: plateText(plate, kind) };
}

/** The same lamp, whatever it is called here. */
const sameLamp = (a: LampKind, b: LampKind) =>
  JSON.stringify([a.channels, a.controls]) === JSON.stringify([b.channels, b.controls]);

/** Takes a plate from a file into the case. Its lamp kind comes along when the case does not have it. */
export function importPlate(
  doc: CaseDoc,
  text: string,
): Read<{ plateId: string; name: string; foreign: boolean }> {
  const read = readPlate(text);
  if (!read.ok) return read;
  const { plate, lampKind } = read.value;
  const own = doc.lampKinds.find((k) => sameLamp(k, lampKind));
  const hung = doc.zones.some((z) => z.groups.some((g) => g.lampKindId === own?.id));
  const id = newId();
  const kindId = own?.id ?? (doc.lampKinds.some((k) => k.id === lampKind.id) ? newId() : lampKind.id);
  const taken: Plate = { ...plate, id, lampKindId: kindId };
  const done = own ? run(addPlate(taken)) : run(addLampKind({ ...lampKind, id: kindId }, taken));
  return done
    ? good({ plateId: id, name: plate.name, foreign: !hung })
    : bad('invalid', '', 'the plate does not fit into this case', 'Look at what is said above.');
}
