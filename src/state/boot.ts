import { NOTHING_CHOSEN, changeSettings, readSettings } from './settings';
import { slug } from '@/core/shape/slug';
import {
  type AsideListing,
  type CaseListing,
  isFree,
  listAside,
  listCases,
  removeCase,
  takeUpLastWords,
} from '@/store/documents';
import { photosOf, removePhoto } from '@/store/photos';
import { ANSWER_MS, within } from '@/store/answers';
import { exportText, withId } from '@/core/record/caseFile';

import { newId } from './id';
import { askToKeep } from './keeping';
import {
  closeSession,
  createCase,
  flush,
  markExported,
  openCase,
  openInMemory,
  type Opened,
  useSession,
} from './session';
import { deviceTimeZone } from './time';
import { readTyped } from './typed';

export interface Boot {
  aside: AsideListing[];
}

/**
 * Starts the app: settings, then the last open case, else an own one, else the demo. Nothing unreadable stops it; where the store
 * cannot be read at all, or does not answer, the demo is laid out in memory, which is said, and can be given out as a file.
 */
export async function boot(): Promise<Boot> {
  try {
    return await within(ANSWER_MS, bootFromStore());
  } catch (error) {
    if (!useSession.getState().bundle) {
      const { demoCase } = await import('@/demo/lagoon');
      openInMemory(
        demoCase(Date.now(), deviceTimeZone()),
        `The browser's store cannot be read (${(error as Error)?.message ?? String(error)}): what is in it stays as it is. Private windows and blocked site data do that.`,
      );
    }
    return { aside: [] };
  }
}

async function bootFromStore(): Promise<Boot> {
  // with a full store the last words stay where they are until there is room
  await takeUpLastWords().catch(() => undefined);
  const [settings, cases] = await Promise.all([
    readSettings(),
    listCases(),
    readTyped().catch(() => undefined),
  ]);
  const wanted = [...cases].sort(
    (a, b) => Number(b.id === settings.caseId) - Number(a.id === settings.caseId),
  );
  for (const c of wanted) {
    if (await tryOpen(c.id)) return { aside: await listAside() };
  }
  await openDemo(cases);
  return { aside: await listAside() };
}

async function tryOpen(caseId: string): Promise<boolean> {
  if (!(await openCase(caseId)).ok) return false;
  changeSettings({ caseId });
  if (!useSession.getState().bundle?.case.demo) void askToKeep();
  return true;
}

/**
 * Opens the demo, laying a new one out when there is none. It never touches another case, and nothing that is stored under its id:
 * not a newer app's demo, not what is left of one.
 * @param stored what cases there are, where that is known
 */
export async function openDemo(stored?: readonly CaseListing[]): Promise<Opened> {
  const [{ demoCase }, cases] = await Promise.all([import('@/demo/lagoon'), stored ?? listCases()]);
  const there = cases.filter((c) => c.demo && !c.newer);
  const demo = demoCase(Date.now(), deviceTimeZone());
  const { id, name } = demo.case;
  const own = there.find((c) => c.id === id) ?? there[0];
  if (own && (await tryOpen(own.id))) return { ok: true };
  const made = (await isFree(id)) ? demo : withId(demo, newId(), name);
  const opened = await createCase(made);
  if (opened.ok) changeSettings({ caseId: made.case.id });
  return opened;
}

/** Opens a case by id. @returns what went wrong, or null */
export async function switchCase(caseId: string): Promise<string | null> {
  const opened = await openCase(caseId);
  if (!opened.ok) return opened.say;
  changeSettings({ caseId, ...NOTHING_CHOSEN });
  return null;
}

/** Deletes the open case and opens what is left. @returns what went wrong, or null */
export async function deleteOpenCase(): Promise<string | null> {
  const id = useSession.getState().bundle?.case.id;
  if (!id) return null;
  await flush();
  const removed = await removeCase(id);
  if (!removed.ok) return removed.message;
  // its pictures go with it
  void photosOf(id).then((all) => Promise.all(all.map(removePhoto)));
  closeSession();
  changeSettings({ caseId: null, ...NOTHING_CHOSEN });
  await boot();
  return null;
}

/** The open case as the text of a case file, with a file name. @param states names under which it will be known when it comes back */
export function exportOpenCase(states: readonly string[] = []): { name: string; text: string } | null {
  const { bundle } = useSession.getState();
  if (!bundle) return null;
  markExported();
  return { name: `${slug(bundle.case.name, 'case')}.chromatheca.json`, text: exportText(bundle, states) };
}
