import type { CaseDoc, SystemWater } from './caseDoc';

/** Water that rock, sand and gear leave of the boxes. Mark: rule of thumb. */
const FREE_SHARE = 0.85;

/** A shared water of which nothing was said. */
export const NO_SYSTEM: SystemWater = {
  litres: null,
  fedGPerDay: null,
  food: 'dry',
  dosedNitratePpm: 0,
  dosedPhosphatePpm: 0,
};

/** Litres of the system: as said, else what rock leaves of the boxes. */
export function systemLitres(doc: Pick<CaseDoc, 'zones' | 'system'>): { litres: number; said: boolean } {
  const said = doc.system?.litres ?? null;
  if (said !== null) return { litres: said, said: true };
  const boxes = doc.zones.reduce((sum, { tank: t }) => sum + (t.lengthCm * t.widthCm * t.depthCm) / 1000, 0);
  return { litres: boxes * FREE_SHARE, said: false };
}
