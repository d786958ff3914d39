import { emissionSpectrum, type Emission } from '../spectrum/emission';
import { integrate } from '../spectrum/grid';
import { beamOptic } from './optic';
import { computeResponse, type Rig } from './response';
import type { Tank, Walls } from './tank';
import { enteredShare, type RigEmitter } from './transport';
import type { Water } from './water';

/** A scene of bare emitters over a box of water: light at points, no lamps of the library. */
export interface PointScene {
  tank: { lengthCm: number; widthCm: number; depthCm: number; walls: Walls; floorReflectance: number };
  water: Water;
  lamps: {
    xCm: number;
    yCm: number;
    heightCm: number;
    emitters: { dxCm: number; dyCm: number; emission: Emission; beamExponent: number }[];
  }[];
  points: { xCm: number; yCm: number; depthCm: number }[];
}

const boxOf = (scene: PointScene): Tank => ({ ...scene.tank, lidShare: 1, solids: [] });

/** One row per emitter, lamp by lamp. */
function rigOfScene(scene: PointScene): Rig {
  return {
    tank: boxOf(scene),
    water: scene.water,
    rows: scene.lamps.flatMap((lamp) =>
      lamp.emitters.map((e) => ({
        spectra: [emissionSpectrum(e.emission)],
        emitters: [
          {
            xCm: lamp.xCm + e.dxCm,
            yCm: lamp.yCm + e.dyCm,
            heightCm: lamp.heightCm,
            share: 1,
            spectrum: 0,
            optic: beamOptic(e.beamExponent),
            frame: null,
          } satisfies RigEmitter,
        ],
      })),
    ),
    spots: scene.points.map((p) => ({ ...p, openShare: 1 })),
  };
}

/** PAR of every emitter at every point: [point][emitter], µmol m⁻² s⁻¹; emitters lamp by lamp. */
export function parOfEmitters(scene: PointScene): number[][] {
  const matrix = computeResponse(rigOfScene(scene));
  return scene.points.map((_, p) => Array.from(matrix.par.subarray(p * matrix.rows, (p + 1) * matrix.rows)));
}

/** Photons that cross the surface inside the rim and are transmitted, over all that are emitted; 0 without any. */
export function enteredOfScene(scene: PointScene): number {
  const { tank, rows } = rigOfScene(scene);
  let sent = 0;
  let entered = 0;
  for (const row of rows) {
    const flux = integrate(row.spectra[0]!);
    sent += flux;
    entered += flux * enteredShare(tank, row.emitters[0]!);
  }
  return sent > 0 ? entered / sent : 0;
}
