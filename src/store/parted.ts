import { createAsyncStorage } from '@react-native-async-storage/async-storage';

import { readFile } from '@/core/record/caseFile';
import type { CaseBundle } from '@/core/record/documents';

import { written } from './write';

const storage = createAsyncStorage('chromatheca');

/** A state of a case that went out of this browser or came into it, under the name that other devices know it by. */
interface Parted {
  name: string;
  /** its case file */
  text: string;
}
/** So many are kept of a case: what the next merge can go back to. */
const MOST_PARTED = 3;

async function partedOf(caseId: string): Promise<Parted[]> {
  try {
    return JSON.parse((await storage.getItem(`parted/${caseId}`)) ?? '[]') as Parted[];
  } catch {
    return [];
  }
}

/** How a case stood when two devices last had the same of it; undefined where that is not known here. */
export async function partedFrom(caseId: string, knows: readonly string[]): Promise<CaseBundle | undefined> {
  const common = (await partedOf(caseId)).find((p) => knows.includes(p.name));
  const read = common ? readFile(common.text) : null;
  return read?.ok && read.value.is === 'case' ? read.value.bundle : undefined;
}

/**
 * Remembers a state that both sides have from now on. Without room for it merging goes on, only less well.
 * @returns the names of all that are remembered, the newest first
 */
export async function partHere(caseId: string, parted: Parted): Promise<string[]> {
  const before = (await partedOf(caseId)).filter((p) => p.name !== parted.name);
  const all = [parted, ...before].slice(0, MOST_PARTED);
  await written([], () => ({ set: { [`parted/${caseId}`]: JSON.stringify(all) }, value: null }));
  return all.map((p) => p.name);
}

/** Names of a case's state as it goes out: those it has where it went out just so before, else a fresh one and those it came from. */
export async function goesOut(caseId: string, text: string, fresh: string): Promise<string[]> {
  const known = await partedOf(caseId);
  return known[0]?.text === text ? known.map((p) => p.name) : partHere(caseId, { name: fresh, text });
}
