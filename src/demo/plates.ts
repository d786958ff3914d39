import type { Plate } from '@/core/record/caseDoc';
import type { Levels } from '@/core/spectrum/lampKind';

import { demoPanel } from './panel';

export const plate = (id: string, name: string, mix: Levels, notes: string): Plate => ({
  id,
  name,
  lampKindId: demoPanel.id,
  notes,
  mix,
  locked: [],
  versions: [],
});

/** The display's mixes. */
export const demoPlates = [
  plate(
    'demo-late',
    'Late light',
    {
      'near-uv': 0.5,
      violet: 0.72,
      'royal-blue': 0.86,
      blue: 0.7,
      cyan: 0.38,
      lime: 0.12,
      'cool-white': 0.2,
      'deep-red': 0.08,
    },
    'Blue with a little white, for the hours when people read beside the tank.',
  ),
  plate(
    'demo-noon',
    'Reading noon',
    {
      'near-uv': 0.4,
      violet: 0.7,
      'royal-blue': 0.82,
      blue: 0.74,
      cyan: 0.48,
      lime: 0.3,
      'cool-white': 0.55,
      'deep-red': 0.15,
    },
    'Whiter, so that sand, rock and fish show their colours.',
  ),
  plate(
    'demo-dusk',
    'Deep shelf',
    {
      'near-uv': 0.3,
      violet: 0.6,
      'royal-blue': 0.8,
      blue: 0.45,
      cyan: 0.05,
      lime: 0,
      'cool-white': 0,
      'deep-red': 0,
    },
    'First and last light.',
  ),
];
