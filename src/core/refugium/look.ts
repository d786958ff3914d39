import { type Alga, algaLight } from '../feeding/algae';
import type { Spectrum } from '../spectrum/grid';

/** What a thread or blade sends back of unpigmented tissue, and what its surface mirrors. Mark: rule of thumb. */
const PALE = 0.5;
const GLOSS = 0.03;
/** Light passes a single thread or blade twice; its optical depth at most. Mark: rule of thumb. */
const THREAD_DEPTH = 1.7;

/** Diffuse reflectance of a single thread or blade: what its pigments leave of light. */
export function algaReflectance(a: Alga): Spectrum {
  const { depth } = algaLight(a);
  return depth.map((d) => GLOSS + PALE * Math.exp((-THREAD_DEPTH * d) / a.depth));
}
