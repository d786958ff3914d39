import type { CaseBundle } from '@/core/record/documents';
import { exportText } from '@/core/record/caseFile';

const controller = { pointStepShare: 0.01, interpolation: 'ramp' as const };
const line = (id: string, name: string, peakNm: number, count: number) => ({
  id,
  name,
  groups: [{ light: { shape: 'line' as const, peakNm, fwhmNm: 20 }, count, wattsEach: 2 }],
});
const panel = {
  id: 'panel',
  name: 'Three-channel panel',
  channels: [line('v', 'Violet', 420, 4), line('b', 'Royal blue', 450, 10), line('r', 'Red', 660, 2)],
  beamAngleDeg: 90,
  faceLengthCm: 30,
  faceWidthCm: 15,
  controller,
};
const bar = {
  id: 'bar',
  name: 'Blue bar',
  channels: [line('bar-blue', 'Blue', 468, 20)],
  beamAngleDeg: 120,
  faceLengthCm: 60,
  faceWidthCm: 2,
  controller: { pointStepShare: 0.5, interpolation: 'hold' },
};

/** A case with two unlike groups, as a file of version 1 (so that it also migrates): a ramped panel and a bar that only holds or is dark. */
export function twoGroups(): string {
  const bundle = {
    case: {
      format: 'chromatheca-case',
      version: 1,
      id: 'two-rows',
      name: 'Two rows',
      demo: false,
      lampKinds: [panel, bar],
      plates: [
        { id: 'p1', name: 'Panel light', lampKindId: 'panel', notes: '', mix: { v: 0.6, b: 0.8, r: 0.1 } },
        { id: 'p2', name: 'Bar light', lampKindId: 'bar', notes: '', mix: { 'bar-blue': 1 } },
      ],
      zones: [
        {
          id: 'z',
          name: 'Display',
          kind: 'display',
          timeZone: 'Europe/Berlin',
          tank: { lengthCm: 90, widthCm: 45, depthCm: 45 },
          water: { yellow440PerM: 0.15, scatterPerM: 0.05 },
          groups: [
            {
              id: 'g1',
              name: 'Panel',
              lampKindId: 'panel',
              lamps: [{ id: 'l1', name: 'panel', xCm: 45, yCm: 25, heightCm: 20, turnDeg: 0 }],
              capShare: 0.5,
              threads: [
                { id: 't1', minute: 540, strengthShare: 0, mix: { plateId: 'p1' } },
                { id: 't2', minute: 780, strengthShare: 1, mix: { plateId: 'p1' } },
                { id: 't3', minute: 1200, strengthShare: 0, mix: { plateId: 'p1' } },
              ],
            },
            {
              id: 'g2',
              name: 'Bar',
              lampKindId: 'bar',
              lamps: [{ id: 'l2', name: 'bar', xCm: 45, yCm: 8, heightCm: 15, turnDeg: 0 }],
              capShare: 1,
              threads: [
                { id: 't4', minute: 720, strengthShare: 1, mix: { plateId: 'p2' } },
                { id: 't5', minute: 1080, strengthShare: 0, mix: { plateId: 'p2' } },
              ],
            },
          ],
          spots: [
            { id: 's1', name: 'Ledge', xCm: 45, yCm: 20, depthCm: 20, openShare: 1, need: 'largePolyp' },
          ],
        },
      ],
    },
    history: { format: 'chromatheca-history', version: 1, caseId: 'two-rows', entries: [] },
    readings: { format: 'chromatheca-readings', version: 1, caseId: 'two-rows', readings: [] },
  };
  // documents of the first version stand in a file of the first version
  return JSON.stringify({ ...JSON.parse(exportText(bundle as unknown as CaseBundle)), version: 1 });
}
