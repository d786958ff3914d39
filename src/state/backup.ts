import type { CaseBundle } from '@/core/record/documents';
import { mergeDocuments } from '@/core/record/merge';
import type { Read } from '@/core/record/read';
import {
  type BackedUp,
  type BackupContent,
  putEach,
  putTexts,
  readBackup,
  type States,
  type Tell,
  writeBackup,
} from '@/store/backup';
import { within } from '@/store/answers';
import { isFree, listCases, loadCase } from '@/store/documents';
import { goesOut, partedFrom, partHere } from '@/store/parted';
import { exportText } from '@/core/record/caseFile';
import { putPhoto } from '@/store/photos';

import { switchCase } from './boot';
import { importBeside } from './importing';
import { newId } from './id';
import { flush, run, useSession } from './session';
import { changeSettings } from './settings';
import { localDate, nowUtcIso, deviceTimeZone } from './time';

export type { BackedUp, BackupContent };

/** Hears how far it has come, and stops it where that is asked for. */
const heard =
  (onShare?: (share: number) => void, signal?: AbortSignal): Tell =>
  (share) => {
    if (signal?.aborted) throw new DOMException('aborted', 'AbortError');
    onShare?.(share);
  };

/** Everything as one zip, with a name for it. What the cases are now is what another device can part from. */
export async function makeBackup(
  onShare?: (share: number) => void,
  signal?: AbortSignal,
): Promise<{ name: string; blob: Blob }> {
  await flush();
  const madeUtc = nowUtcIso();
  const states: States = [];
  for (const { id } of await listCases()) {
    const loaded = await loadCase(id);
    if (loaded.is !== 'open') continue;
    states.push({
      caseId: id,
      names: await goesOut(id, exportText(loaded.bundle), newId()),
    });
  }
  const blob = await writeBackup(madeUtc, states, heard(onShare, signal));
  changeSettings({ backedUpUtc: madeUtc });
  return { name: `chromatheca-backup-${localDate(Date.parse(madeUtc), deviceTimeZone())}.zip`, blob };
}

/** An export waits no longer for a store that does not answer, ms. Mark: rule of thumb. */
const SOON_MS = 1000;
/** Names under which the open case, as it is now, is known when it comes back from another device; none where the store does not answer. */
export async function partOpenCase(): Promise<string[]> {
  const { bundle } = useSession.getState();
  if (!bundle) return [];
  return within(SOON_MS, goesOut(bundle.case.id, exportText(bundle), newId())).catch(() => []);
}

/** What a backup file holds, or why it cannot be read. */
export async function openBackup(
  file: Blob,
  onShare?: (share: number) => void,
  signal?: AbortSignal,
): Promise<Read<BackupContent>> {
  try {
    return await readBackup(file, heard(onShare, signal));
  } catch (error) {
    if (signal?.aborted) throw error;
    return {
      ok: false,
      problem: {
        kind: 'invalid',
        path: '',
        problem: `it could not be unpacked: ${(error as Error).message}`,
        remedy: 'Choose a zip that Chromatheca made, unchanged.',
      },
    };
  }
}

/** What is done with a case of a backup or a file. */
export type Way = 'bring' | 'merge' | 'replace' | 'beside' | 'leave';
/** How a case of a backup stands to what is here. */
export interface Standing {
  here: boolean;
  same: boolean;
}
export async function standingOf({ id, bundle }: BackedUp): Promise<Standing> {
  if (await isFree(id)) return { here: false, same: false };
  const loaded = await loadCase(id);
  return { here: true, same: loaded.is === 'open' && exportText(loaded.bundle) === exportText(bundle) };
}

/** Takes a case out of a backup. @returns what was done, or why not, in a sentence */
export async function takeCase(
  backed: BackedUp,
  way: Exclude<Way, 'leave'>,
  onShare?: (share: number) => void,
): Promise<string> {
  const { id, bundle, texts, photos } = backed;
  const { name } = bundle.case;
  if (way === 'beside') return (await importBeside(bundle)).say;
  if (way === 'bring') {
    const refused = await putTexts(texts);
    if (refused !== null) return `${name}: ${refused} Nothing of it was changed.`;
    await shared(backed);
    return told(`${name} is back`, id, photos, onShare);
  }
  await flush();
  if (useSession.getState().bundle?.case.id !== id) {
    const problem = await switchCase(id);
    if (problem !== null) return `${name}: ${problem} Nothing of it was changed.`;
  }
  const ours = useSession.getState().bundle!;
  // what could not be read there was not removed there
  const base = backed.leftOut > 0 ? undefined : await partedFrom(id, backed.names);
  const merged =
    way === 'replace' ? { value: bundle, taken: 0, both: [] } : mergeDocuments(base, ours, bundle);
  if (
    !(way === 'merge' && merged.taken === 0) &&
    !run({
      name: way === 'replace' ? 'replace by what came in' : 'merge with what came in',
      apply: () => merged.value,
    })
  )
    return `${name}: ${useSession.getState().refusal ?? 'it could not be taken.'} Nothing of it was changed.`;
  await flush();
  await shared(backed);
  if (way === 'replace')
    return told(`${name} is as it was there; undo brings back what was here`, id, photos, onShare);
  const quarrels =
    merged.both.length === 0
      ? ''
      : `. ${base ? 'Changed on both' : 'Otherwise there'}, kept as it is here: ${merged.both
          .slice(0, 4)
          .map((path) => placeWords(path, ours))
          .join('; ')}${merged.both.length > 4 ? ` and ${merged.both.length - 4} more` : ''}`;
  return told(
    `${name}: ${merged.taken === 0 ? 'nothing new in it' : `${merged.taken} ${merged.taken === 1 ? 'change' : 'changes'} taken over`}${quarrels}`,
    id,
    photos,
    onShare,
  );
}

/** What came in is what both have now. */
const shared = async ({ id, bundle, names }: BackedUp): Promise<void> => {
  if (names[0] !== undefined) await partHere(id, { name: names[0], text: exportText(bundle) });
};

/** Puts the pictures there and says it all. */
async function told(
  words: string,
  caseId: string,
  photos: BackedUp['photos'],
  onShare?: (share: number) => void,
): Promise<string> {
  let missing = 0;
  for (const [n, { id, blob }] of photos.entries()) {
    onShare?.(n / photos.length);
    const picture = await blob().catch(() => null);
    if (!picture || (await putPhoto(id, caseId, picture)) !== null) missing += 1;
  }
  return missing === 0
    ? `${words}.`
    : `${words}. ${missing} of its pictures could not be put into this browser: the backup still has them.`;
}

/** Where the choices of a device stand among what is no case. */
const SETTINGS = 'settings';
export const hasSettings = ({ others }: BackupContent): boolean => SETTINGS in others;

/**
 * What of a backup is no case: half-typed forms, what was set aside, settings. What is here stays, but for settings that are asked for;
 * those count from the next start on. @returns null, or why not
 */
export const takeOthers = ({ others }: BackupContent, settingsToo: boolean): Promise<string | null> =>
  putEach(others, settingsToo ? [SETTINGS] : []);

/** A path such as "case.zones.a.groups.b.capShare" in the names of what it leads through: "Display, Panels: cap share". */
function placeWords(path: string, bundle: CaseBundle): string {
  const names: string[] = [];
  let at: unknown = bundle;
  let last = '';
  for (const key of path.split('.')) {
    const item = Array.isArray(at)
      ? (at as { id?: string; name?: string }[]).find((x) => x.id === key)
      : null;
    if (item) {
      at = item;
      if (item.name) names.push(item.name);
    } else {
      at = at && typeof at === 'object' ? (at as Record<string, unknown>)[key] : undefined;
      last = key;
    }
  }
  const what = last.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);
  return names.length === 0 ? what : `${names.join(', ')}: ${what}`;
}
