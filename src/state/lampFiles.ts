import type { CaseDoc } from '@/core/record/caseDoc';
import { bad, good, type Read } from '@/core/record/read';
import type { LampKind } from '@/core/spectrum/lampKind';
import { slug } from '@/core/shape/slug';
import { lampText, readLamp } from '@/store/lampFile';

import { addLampKind } from './commands/lamps';
import { newId } from './id';
import { run } from './session';

export { readLamp };

/** A kind of lamp as the text of a file, with its file name. */
export const lampFile = (kind: LampKind): { name: string; text: string } => ({
  name: `${slug(kind.name, 'lamp')}.lamp.json`,
  text: lampText(kind),
});

const withoutId = ({ id: _, ...rest }: LampKind): string => JSON.stringify(rest);

/** Takes a kind of lamp from a file into the case; one that is here already stays as it is. */
export function importLamp(doc: CaseDoc, text: string): Read<{ kind: LampKind; known: boolean }> {
  const read = readLamp(text);
  if (!read.ok) return read;
  const known = doc.lampKinds.find((k) => withoutId(k) === withoutId(read.value));
  if (known) return good({ kind: known, known: true });
  const taken = doc.lampKinds.some((k) => k.id === read.value.id)
    ? { ...read.value, id: newId() }
    : read.value;
  return run(addLampKind(taken))
    ? good({ kind: taken, known: false })
    : bad('invalid', '', 'the lamp does not fit into this case', 'Look at what is said above.');
}
