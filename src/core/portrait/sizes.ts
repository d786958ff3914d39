import type { ShapeId } from '../coral/form';

/** Widths across that forms are drawn at where nobody has said, cm. Mark: rule of thumb. */
export const USUAL_CM: Record<ShapeId, number> = {
  branch: 22,
  table: 26,
  plate: 26,
  crust: 18,
  brain: 18,
  cup: 19,
  polyps: 17,
  disc: 17,
  leather: 22,
  tentacles: 20,
  clam: 18,
  anemone: 25,
};

/** Where a grey card lies in a photograph of one coral, as shares of the frame. Mark: drawing licence. */
export const CARD = { left: 0.03, top: 0.83, width: 0.3, height: 0.13 } as const;
