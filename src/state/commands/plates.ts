import { resolveThread } from '@/core/case/lit';
import type { Plate, SavedSpectrum } from '@/core/record/caseDoc';
import type { Levels } from '@/core/spectrum/lampKind';
import { NAME_LENGTH } from '@/core/shape/shape';
import { newId } from '../id';
import { nowUtcIso } from '../time';
import { type Command, groupsOf, keep, onCase, within } from './edit';

const onPlate = (name: string, plateId: string, change: (plate: Plate) => void, merge?: string): Command =>
  onCase(name, (doc) => within(doc.plates, plateId, change), merge);

/** After so long a plate counts as put away: the next change keeps what it was, ms. Mark: rule of thumb. */
const PUT_AWAY_MS = 2 * 3_600_000;
/** So many versions that came by themselves are kept; the oldest go first. */
const MOST_BY_ITSELF = 30;
export const BY_ITSELF = 'as it was before this change';

/** Changes a plate. The first change since it was put away makes a version of what it was by itself. */
export function setMix(plateId: string, mix: Levels, merge?: string): Command {
  const version = { id: newId(), atUtc: nowUtcIso(), note: BY_ITSELF };
  const since = new Date(Date.parse(version.atUtc) - PUT_AWAY_MS).toISOString();
  return onPlate(
    'mix',
    plateId,
    (p) => {
      const inHand = p.versions.some((x) => x.atUtc > since);
      const known = p.versions.some((x) => sameMix(x.mix, p.mix));
      if (!inHand && !known && !sameMix(p.mix, mix)) {
        p.versions.push({ ...version, mix: p.mix });
        const own = p.versions.filter((x) => x.note === BY_ITSELF);
        const gone = new Set(own.slice(0, Math.max(0, own.length - MOST_BY_ITSELF)).map((x) => x.id));
        keep(p.versions, (x) => !gone.has(x.id));
      }
      p.mix = mix;
    },
    merge,
  );
}

/** A plate like another, behind it. */
export const copyPlate = (plate: Plate, id: string): Command =>
  addPlate({ ...plate, id, name: `${plate.name}, copy`.slice(0, NAME_LENGTH), versions: [] }, plate.id);

export const renamePlate = (plateId: string, name: string): Command =>
  onPlate('rename a plate', plateId, (p) => {
    p.name = name;
  });

/** Adds a plate, behind another one when that is named. */
export const addPlate = (plate: Plate, afterId?: string): Command =>
  onCase('new plate', (doc) => {
    const at = doc.plates.findIndex((p) => p.id === afterId);
    doc.plates.splice(at < 0 ? doc.plates.length : at + 1, 0, plate);
  });

export const setPlateNotes = (plateId: string, notes: string): Command =>
  onPlate('notes of a plate', plateId, (p) => {
    p.notes = notes;
  });

/** Locks or frees a control of a plate. */
export const setLocked = (plateId: string, controlId: string, locked: boolean): Command =>
  onPlate(locked ? 'lock a channel' : 'free a channel', plateId, (p) => {
    keep(p.locked, (id) => id !== controlId);
    if (locked) p.locked.push(controlId);
  });

/** Keeps the present mix of a plate as a version of its own. */
export const saveVersion = (plateId: string, version: { id: string; atUtc: string; note: string }): Command =>
  onPlate('keep a version', plateId, (p) => {
    p.versions.push({ ...version, mix: p.mix });
  });

/** Goes back to a version; what stood before is kept as a version unless one has it already. */
export const restoreVersion = (
  plateId: string,
  versionId: string,
  present: { id: string; atUtc: string },
): Command =>
  onPlate('go back to a version', plateId, (p) => {
    const version = p.versions.find((x) => x.id === versionId);
    if (!version) return;
    const known = p.versions.some((x) => sameMix(x.mix, p.mix));
    if (!known) p.versions.push({ ...present, note: 'before going back', mix: p.mix });
    p.mix = version.mix;
  });

export const removeVersion = (plateId: string, versionId: string): Command =>
  onPlate('drop a version', plateId, (p) => keep(p.versions, (x) => x.id !== versionId));

const sameMix = (a: Levels, b: Levels) =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every((id) => (a[id] ?? 0) === (b[id] ?? 0));

/** Moves a plate up or down in the order of the case. */
export const movePlate = (plateId: string, by: 1 | -1): Command =>
  onCase('order of plates', (doc) => {
    const from = doc.plates.findIndex((p) => p.id === plateId);
    const to = from + by;
    if (from >= 0 && to >= 0 && to < doc.plates.length)
      doc.plates.splice(to, 0, ...doc.plates.splice(from, 1));
  });

export const addReference = (reference: SavedSpectrum): Command =>
  onCase(`spectrum ${reference.name}`, (doc) => {
    doc.references.push(reference);
  });

export const removeReference = (id: string): Command =>
  onCase('remove a spectrum', (doc) => keep(doc.references, (r) => r.id !== id));

/** Removes a plate; threads that used it keep its mix as their own. */
export const removePlate = (plateId: string): Command =>
  onCase('remove a plate', (doc) => {
    for (const t of groupsOf(doc).flatMap((g) => g.threads))
      if ('plateId' in t.mix && t.mix.plateId === plateId) t.mix = { own: resolveThread(doc, t).mix };
    keep(doc.plates, (p) => p.id !== plateId);
  });
