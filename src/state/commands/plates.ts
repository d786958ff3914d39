import { resolveThread } from '@/core/case/lit';
import type { Plate, SavedSpectrum } from '@/core/record/caseDoc';
import type { Levels } from '@/core/spectrum/lampKind';
import { type Command, onCase, replace } from './edit';

export const setMix = (plateId: string, mix: Levels, merge?: string): Command =>
  onCase('mix', (doc) => ({ ...doc, plates: replace(doc.plates, plateId, (p) => ({ ...p, mix })) }), merge);

export const renamePlate = (plateId: string, name: string): Command =>
  onCase('rename a plate', (doc) => ({
    ...doc,
    plates: replace(doc.plates, plateId, (p) => ({ ...p, name })),
  }));

/** Adds a plate, behind another one when that is named. */
export const addPlate = (plate: Plate, afterId?: string): Command =>
  onCase('new plate', (doc) => {
    const at = doc.plates.findIndex((p) => p.id === afterId);
    const plates = [...doc.plates];
    plates.splice(at < 0 ? plates.length : at + 1, 0, plate);
    return { ...doc, plates };
  });

const onPlate = (name: string, plateId: string, change: (plate: Plate) => Plate, merge?: string): Command =>
  onCase(name, (doc) => ({ ...doc, plates: replace(doc.plates, plateId, change) }), merge);

export const setPlateNotes = (plateId: string, notes: string): Command =>
  onPlate('notes of a plate', plateId, (p) => ({ ...p, notes }));

/** Locks or frees a control of a plate. */
export const setLocked = (plateId: string, controlId: string, locked: boolean): Command =>
  onPlate(locked ? 'lock a channel' : 'free a channel', plateId, (p) => ({
    ...p,
    locked: locked ? [...new Set([...p.locked, controlId])] : p.locked.filter((id) => id !== controlId),
  }));

/** Keeps the present mix of a plate as a version of its own. */
export const saveVersion = (plateId: string, version: { id: string; atUtc: string; note: string }): Command =>
  onPlate('keep a version', plateId, (p) => ({
    ...p,
    versions: [...p.versions, { ...version, mix: p.mix }],
  }));

/** Goes back to a version; what stood before is kept as a version unless one has it already. */
export const restoreVersion = (
  plateId: string,
  versionId: string,
  present: { id: string; atUtc: string },
): Command =>
  onPlate('go back to a version', plateId, (p) => {
    const version = p.versions.find((x) => x.id === versionId);
    if (!version) return p;
    const known = p.versions.some((x) => sameMix(x.mix, p.mix));
    return {
      ...p,
      mix: version.mix,
      versions: known ? p.versions : [...p.versions, { ...present, note: 'before going back', mix: p.mix }],
    };
  });

export const removeVersion = (plateId: string, versionId: string): Command =>
  onPlate('drop a version', plateId, (p) => ({
    ...p,
    versions: p.versions.filter((x) => x.id !== versionId),
  }));

const sameMix = (a: Levels, b: Levels) =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every((id) => (a[id] ?? 0) === (b[id] ?? 0));

/** Moves a plate up or down in the order of the case. */
export const movePlate = (plateId: string, by: 1 | -1): Command =>
  onCase('order of plates', (doc) => {
    const from = doc.plates.findIndex((p) => p.id === plateId);
    const to = from + by;
    if (from < 0 || to < 0 || to >= doc.plates.length) return doc;
    const plates = [...doc.plates];
    [plates[from], plates[to]] = [plates[to]!, plates[from]!];
    return { ...doc, plates };
  });

export const addReference = (reference: SavedSpectrum): Command =>
  onCase(`spectrum ${reference.name}`, (doc) => ({ ...doc, references: [...doc.references, reference] }));

export const removeReference = (id: string): Command =>
  onCase('remove a spectrum', (doc) => ({ ...doc, references: doc.references.filter((r) => r.id !== id) }));

/** Removes a plate; threads that used it keep its mix as their own. */
export const removePlate = (plateId: string): Command =>
  onCase('remove a plate', (doc) => ({
    ...doc,
    plates: doc.plates.filter((p) => p.id !== plateId),
    zones: doc.zones.map((z) => ({
      ...z,
      groups: z.groups.map((g) => ({
        ...g,
        threads: g.threads.map((t) =>
          'plateId' in t.mix && t.mix.plateId === plateId
            ? { ...t, mix: { own: resolveThread(doc, t).mix } }
            : t,
        ),
      })),
    })),
  }));
