import { type SoloNote, type Spot, placeOf, samePlace } from '@/core/record/zone';
import type { LogEvent } from '@/core/record/log';
import type { CoralForm } from '@/core/coral/form';
import { type Command, keep, onCase, onSpot, onZone, put, within } from './edit';
import { withEvents } from './log';

export const setSpot = (zoneId: string, spot: Spot): Command =>
  onZone(`spot ${spot.name}`, zoneId, (z) => put(z.spots, spot));

/** Widths of one coral typed within this time are one measurement. */
const SAME_WIDTH_MS = 12 * 3_600_000;

/** How wide a coral is across, cm: measured now, so that the log can tell how it grew; null = as is usual for its shape. */
export function setSpotSize(
  zoneId: string,
  spotId: string,
  cm: number | null,
  measured: { id: string; atUtc: string },
): Command {
  const edit = onSpot('width of a coral', zoneId, spotId, (spot) => {
    if (cm === null) delete spot.sizeCm;
    else spot.sizeCm = cm;
  });
  return {
    ...edit,
    apply: (b) => {
      const { events } = b.log;
      const last = events.findLast(
        (e): e is LogEvent & { kind: 'width' } =>
          e.kind === 'width' &&
          e.spotId === spotId &&
          Math.abs(Date.parse(measured.atUtc) - Date.parse(e.atUtc)) < SAME_WIDTH_MS,
      );
      const rest = events.filter((e) => e !== last);
      const event = { ...measured, note: '', ...last, zoneId, kind: 'width', spotId } as const;
      return withEvents(edit.apply(b), cm === null ? rest : [...rest, { ...event, widthCm: cm }]);
    },
  };
}

/** Says what the coral at a spot is made of. */
export const setSpotForm = (zoneId: string, spotId: string, formId: string | null): Command =>
  onSpot('colour form of a coral', zoneId, spotId, (s) => {
    s.formId = formId;
  });

/**
 * Changes the form of a coral. A form of the library is copied into the case first, for this coral alone; `copyId` is the id
 * the copy gets.
 */
export const editForm = (
  zoneId: string,
  spotId: string,
  form: CoralForm,
  copyId: string,
  merge?: string,
): Command =>
  onCase(
    `colour form ${form.name}`,
    (doc) => {
      const own = doc.forms.some((f) => f.id === form.id);
      put(doc.forms, own ? form : { ...form, id: copyId });
      if (own) return;
      within(doc.zones, zoneId, (z) =>
        within(z.spots, spotId, (s) => {
          s.formId = copyId;
        }),
      );
    },
    merge,
  );

export const removeForm = (formId: string): Command =>
  onCase('remove a colour form', (doc) => {
    keep(doc.forms, (f) => f.id !== formId);
    for (const s of doc.zones.flatMap((z) => [...z.spots, ...(z.inHand ?? [])]))
      if (s.formId === formId) s.formId = null;
  });

export const addSoloNote = (zoneId: string, spotId: string, note: SoloNote): Command =>
  onSpot('what a lone colour did', zoneId, spotId, (s) => {
    // the newest word on a colour and region counts
    keep(s.soloNotes, (x) => x.colour !== note.colour || x.region !== note.region);
    s.soloNotes.push(note);
  });

export const removeSoloNote = (zoneId: string, spotId: string, noteId: string): Command =>
  onSpot('remove a note', zoneId, spotId, (s) => keep(s.soloNotes, (x) => x.id !== noteId));

export const removeSpot = (zoneId: string, spotId: string): Command =>
  onZone('remove a spot', zoneId, (z) => keep(z.spots, (s) => s.id !== spotId));

/** Moves of one coral within this time are one move. */
const SAME_MOVE_MS = 3_600_000;

/**
 * Puts a coral elsewhere. Where something already runs, that is a move in the tank: the log keeps from where to where, so that
 * what the coral is used to goes with it.
 */
export function moveSpot(zoneId: string, spot: Spot, moved: { id: string; atUtc: string }): Command {
  const edit = setSpot(zoneId, spot);
  return {
    ...edit,
    apply: (b) => {
      const next = edit.apply(b);
      const old = b.case.zones.find((z) => z.id === zoneId)?.spots.find((s) => s.id === spot.id);
      const runs = b.history.entries.some((e) => e.zoneId === zoneId && e.atUtc <= moved.atUtc);
      if (!old || old.need === null || !runs || samePlace(old, spot)) return next;
      const { events } = b.log;
      const last = events.findLast(
        (e): e is LogEvent & { kind: 'moved' } =>
          e.kind === 'moved' &&
          e.spotId === spot.id &&
          Date.parse(moved.atUtc) - Date.parse(e.atUtc) < SAME_MOVE_MS &&
          e.atUtc <= moved.atUtc,
      );
      const rest = events.filter((e) => e !== last);
      const from = last?.from ?? placeOf(old);
      const event: LogEvent = {
        id: last?.id ?? moved.id,
        zoneId,
        atUtc: last?.atUtc ?? moved.atUtc,
        note: last?.note ?? '',
        kind: 'moved',
        spotId: spot.id,
        from,
        to: placeOf(spot),
      };
      // back where it was: it has not moved
      return withEvents(next, samePlace(from, spot) ? rest : [...rest, event]);
    },
  };
}
