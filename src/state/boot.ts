import { demoCase } from '@/demo/lagoon';
import {
  type AsideListing,
  type CaseListing,
  listAside,
  listCases,
  removeCase,
  takeUpLastWords,
} from '@/store/documents';
import { withId, exportText, importText } from '@/store/file';
import { DocumentError } from '@/store/read';

import { newId } from './id';
import { closeSession, createCase, flush, openCase, useSession } from './session';
import { changeSettings, readSettings } from './settings';
import { deviceTimeZone } from './time';

export interface Boot {
  aside: AsideListing[];
}

/** Starts the app: settings, then the last open case, else an own one, else the demo. Nothing unreadable stops it. */
export async function boot(): Promise<Boot> {
  // with a full store the last words stay where they are until there is room
  await takeUpLastWords().catch(() => undefined);
  const settings = await readSettings();
  const cases = await listCases();
  const wanted = [...cases].sort(
    (a, b) => Number(b.id === settings.caseId) - Number(a.id === settings.caseId),
  );
  for (const c of wanted) {
    if (await tryOpen(c.id)) return { aside: await listAside() };
  }
  await openDemo();
  return { aside: await listAside() };
}

async function tryOpen(caseId: string): Promise<boolean> {
  try {
    if (!(await openCase(caseId))) return false;
  } catch (error) {
    if (error instanceof DocumentError) return false;
    throw error;
  }
  changeSettings({ caseId });
  return true;
}

/** Opens the demo, laying a new one out when there is none. It never touches another case. */
export async function openDemo(): Promise<void> {
  const demo = demoCase(Date.now(), deviceTimeZone());
  const listed = (await listCases()).find((c) => c.id === demo.case.id);
  if (listed && !listed.newer && (await tryOpen(demo.case.id))) return;
  // a demo of a newer app stays untouched; this one gets an id of its own
  await createCase(listed?.newer ? withId(demo, newId(), demo.case.name) : demo);
  changeSettings({ caseId: useSession.getState().bundle!.case.id });
}

/** Opens a case by id. @returns what went wrong, or null */
export async function switchCase(caseId: string): Promise<string | null> {
  try {
    if (!(await openCase(caseId)))
      return 'This case could not be read and was set aside. It can be downloaded below.';
    changeSettings({ caseId, zoneId: null, spotId: null, groupId: null, plateId: null });
    return null;
  } catch (error) {
    return (error as Error).message;
  }
}

/** Deletes the open case and opens what is left. */
export async function deleteOpenCase(): Promise<void> {
  const id = useSession.getState().bundle?.case.id;
  if (!id) return;
  await flush();
  await removeCase(id);
  closeSession();
  changeSettings({ caseId: null, zoneId: null, spotId: null, groupId: null, plateId: null });
  await boot();
}

/** The open case as the text of a case file, with a file name. */
export function exportOpenCase(): { name: string; text: string } | null {
  const { bundle } = useSession.getState();
  if (!bundle) return null;
  const slug =
    bundle.case.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'case';
  return { name: `${slug}.chromatheca.json`, text: exportText(bundle) };
}

/**
 * Imports a case file as a case of its own. An id that is already here gets a new one, so that nothing is replaced.
 * @throws DocumentError
 */
export async function importCase(text: string): Promise<string> {
  const bundle = importText(text);
  const cases: CaseListing[] = await listCases();
  const taken = cases.some((c) => c.id === bundle.case.id);
  const own = taken ? withId(bundle, newId(), `${bundle.case.name} (imported)`) : bundle;
  await createCase(own);
  const { save } = useSession.getState();
  changeSettings({ caseId: own.case.id, zoneId: null, spotId: null, groupId: null, plateId: null });
  if (save.kind === 'failed') throw new Error(save.message);
  return own.case.name;
}
