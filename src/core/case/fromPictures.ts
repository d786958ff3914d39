import { civilDay, dayNumber } from '../day/wallClock';
import { type Experiment, MEASURED, type Measuring } from '../record/experiment';
import type { LogDoc } from '../record/log';
import type { Photo } from '../record/log/photo';
import type { Zone } from '../record/zone';
import { outlinedOf } from './outlines';
import { picturesOf } from './pictures';

/** Days a picture may lie beside the day it is taken for. Mark: rule of thumb. */
export const NEAR_DAYS = 4;

/** The picture of a coral nearest to a local date, of those that are good for something; null where none is near. */
export function pictureNear(
  pictures: readonly Photo[],
  date: string,
  timeZone: string,
  good: (p: Photo) => boolean,
): Photo | null {
  const off = (p: Photo) =>
    Math.abs(dayNumber(civilDay(Date.parse(p.atUtc), timeZone).date) - dayNumber(date));
  return pictures.filter((p) => off(p) <= NEAR_DAYS && good(p)).sort((a, b) => off(a) - off(b))[0] ?? null;
}

/** A picture from which a fragment's value can be taken. */
export interface FromPicture {
  fragmentId: string;
  photo: Photo;
  /** of an outline; null where the colour of its pixels is to be looked at */
  value: number | null;
}

/** Fragments that no picture can tell apart: they stand where another does, or nowhere. */
export const untold = ({ fragments }: Experiment): Experiment['fragments'] =>
  fragments.filter((f) => f.spotId === null || fragments.some((x) => x !== f && x.spotId === f.spotId));

/** What pictures there are for a day's measures, one a fragment: near that day, and with what the measure needs. */
export function fromPictures(
  e: Experiment,
  { date }: Pick<Measuring, 'date'>,
  log: LogDoc,
  zone: Zone,
): FromPicture[] {
  if (!MEASURED[e.measure].pictures) return [];
  const none = new Set(untold(e).map((f) => f.id));
  return e.fragments.flatMap(({ id, spotId }): FromPicture[] => {
    if (spotId === null || none.has(id)) return [];
    const all = picturesOf(log, spotId);
    const outlined = outlinedOf(all);
    const area = (p: Photo) => outlined.find((o) => o.photo.id === p.id)?.cm2 ?? null;
    const good = (p: Photo) =>
      e.measure === 'area'
        ? area(p) !== null
        : e.measure === 'blind' || Boolean(p.grey && (p.outline ?? p.patch));
    const photo = pictureNear(all, date, zone.timeZone, good);
    return photo ? [{ fragmentId: id, photo, value: e.measure === 'area' ? area(photo) : null }] : [];
  });
}
