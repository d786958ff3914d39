import type { Field, FieldGrid } from './field';
import type { ResponseMatrix, Rig } from './response';

/**
 * Where the light of a rig comes from: today the worker, or the same functions in place. Whatever asks for light asks here, and may
 * wait: a faster solver can stand behind it without anybody knowing.
 */
export interface LightPort {
  response: (rig: Rig) => Promise<ResponseMatrix>;
  /** @param onProgress told 0..1; its answer says whether to go on */
  field: (rig: Omit<Rig, 'spots'>, grid: FieldGrid, onProgress: (share: number) => boolean) => Promise<Field>;
}
