import { download } from '@/ui/files';
import { later } from '@/ui/part';

/** Readers and writers of files come when a file is asked for. */
export const formats = later(() => import('@/core/formats/all'));

/** Writes a file in one of its formats and offers it. */
export const offer = async (
  name: string,
  type: string,
  write: (to: Awaited<ReturnType<typeof formats>>) => string,
): Promise<void> => download(name, write(await formats()), type);
