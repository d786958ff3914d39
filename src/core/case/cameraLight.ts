import type { Interlude } from '../day/extras';
import { colourClass } from '../library/colours';
import type { CaseDoc, Plate } from '../record/caseDoc';
import type { Group } from '../record/zone';
import { dims } from '../spectrum/controls';
import type { LampKind, Levels } from '../spectrum/lampKind';

/** How long and how strong light for the camera begins; a lamp of circuits is on or off. Mark: rule of thumb. */
export const CAMERA_MINUTES = 20;
export const CAMERA_STRENGTH = 0.6;

/** Share of white in a mix's controls: the whitest is what a camera balances best. */
function whiteness(kind: LampKind, mix: Levels): number {
  const all = kind.controls.reduce((sum, c) => sum + (mix[c.id] ?? 0), 0);
  const white = kind.controls.filter((c) => ['white', 'warm'].includes(colourClass(kind, c)));
  return all > 0 ? white.reduce((sum, c) => sum + (mix[c.id] ?? 0), 0) / all : 0;
}

/** The plate of a lamp that a camera balances best; undefined where it has none. */
export const whitestPlate = (kind: LampKind, plates: readonly Plate[]): Plate | undefined =>
  plates
    .filter((p) => p.lampKindId === kind.id)
    .sort((a, b) => whiteness(kind, b.mix) - whiteness(kind, a.mix))[0];

/** Light for a series of pictures: as it was set last, else the whitest plate; null where the lamp has no plate. */
export function cameraLight(
  doc: Pick<CaseDoc, 'plates'>,
  kind: LampKind,
  group: Group,
  at: Pick<Interlude, 'id' | 'date' | 'fromMinute'>,
): Interlude | null {
  const before = group.extras?.interludes?.findLast((i) => i.kind === 'photograph');
  if (before) return { ...before, ...at };
  const plate = whitestPlate(kind, doc.plates);
  return plate
    ? {
        ...{ ...at, kind: 'photograph', minutes: CAMERA_MINUTES },
        strengthShare: dims(kind) ? CAMERA_STRENGTH : 1,
        ...{ mix: plate.mix, mixName: plate.name },
      }
    : null;
}
