import { queryOptions } from '@tanstack/react-query';

import type { Mean } from '@/core/colour/pixels';
import type { At } from '@/core/shape/similarity';
import { getPhoto, putPhoto, removePhoto, roomLeft } from '@/store/photos';
import { reckoner } from '@/workers/client';

import { always } from './solvers';

export { removePhoto, roomLeft };

/** The longer side of a kept picture, px: enough for a coral that fills it, and a hundred of them fit anywhere. */
export const MOST_PX = 1600;

export type Added = { blob: Blob; widthPx: number; heightPx: number } | { problem: string };

/** Reduces a picture and keeps its pixels under an id. */
export async function addPhoto(id: string, caseId: string, file: Blob): Promise<Added> {
  try {
    const { blob, widthPx, heightPx } = await reckoner().reduce(file, MOST_PX);
    const refused = await putPhoto(id, caseId, blob);
    if (refused === 'full')
      return {
        problem:
          'This browser has no room left for it. Keep older pictures as files, remove them here, and try again; nothing else was changed.',
      };
    return refused === null
      ? { blob, widthPx, heightPx }
      : { problem: `The browser could not keep it: ${refused}.` };
  } catch (error) {
    return { problem: `It could not be read as a picture: ${(error as Error).message}.` };
  }
}

/** A picture's pixels; the demo's are drawn when they are first looked at. Null where this browser has none. */
async function pixelsOf(id: string): Promise<Blob | null> {
  const kept = await getPhoto(id);
  if (kept || !id.startsWith('demo-photo-')) return kept;
  const { demoShot } = await import('@/demo/lagoon');
  const shot = demoShot(id);
  const drawn = shot && (await reckoner().shoot(shot));
  if (drawn) await putPhoto(id, 'demo', drawn);
  return drawn;
}

/** Where a picture's pixels are; null where this browser has none of it. */
export const photoQuery = (id: string) =>
  queryOptions({
    queryKey: ['photo', id],
    queryFn: async () => {
      const blob = await pixelsOf(id);
      return blob ? { url: URL.createObjectURL(blob), blob } : null;
    },
    ...always,
    staleTime: Infinity,
  });

/** A patch reaches so far around its point, as a share of the picture's width. */
const REACH = 0.012;

/** The mean colour around a point of a picture, or of what a line encloses; null where the picture is not here. */
export const meanQuery = (id: string, at: At | readonly At[] | undefined) =>
  queryOptions({
    queryKey: ['photo mean', id, at],
    queryFn: async (): Promise<Mean | null> => {
      const blob = await pixelsOf(id);
      if (!blob || !at) return null;
      return 'x' in at ? reckoner().patchMean(blob, at, REACH) : reckoner().lineMean(blob, at);
    },
    enabled: at !== undefined,
    ...always,
  });
