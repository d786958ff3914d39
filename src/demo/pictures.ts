import { libraryForm } from '@/core/coral/form';
import type { Shot } from '@/core/portrait/studio';
import { normal, seeded, seedOf } from '@/core/spectrum/random';

import { demoPanel } from './panel';
import { demoPlates } from './plates';
import { leftShare, PHOTO_PX, PICTURED, widthShare } from './story';

/** The demo's camera: how far its balance and exposure are off from shot to shot, one standard deviation. */
const CAMERA = { balance: 0.03, exposure: 0.06 } as const;
const EXPOSURE = 1.5;

/** What a made-up picture of the demo shows; null where the id is none of them. */
export function demoShot(id: string): Shot | null {
  const at = Number(/^demo-photo-(\d+)$/.exec(id)?.[1]) - 1;
  const daysAgo = PICTURED[at];
  if (daysAgo === undefined) return null;
  const random = seeded(seedOf(id));
  return {
    ...{ form: libraryForm('orange-table')!, seed: 'demo-copper', px: PHOTO_PX[0] },
    ...{ widthShare: widthShare(daysAgo), leftShare: leftShare(daysAgo) },
    ...{ lampKind: demoPanel, mix: demoPlates.find((p) => p.id === 'demo-noon')!.mix },
    red: 1 + CAMERA.balance * normal(random),
    blue: 1 + CAMERA.balance * normal(random),
    exposure: EXPOSURE * (1 + CAMERA.exposure * normal(random)),
  };
}
