import { par, PAR_FROM_NM, PAR_TO_NM } from '../spectrum/bands';
import { GRID_SIZE, integrateWeighted, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { addThrough, floorBounce, type Lean, nodeTransmission, type RigRow, type RowName } from './light';
import type { Tank } from './tank';
import { intensity, type Optic, withExponent } from './optic';
import { exactCache, gather, type GatherOptions, nodeSecant, type RigEmitter } from './transport';
import { attenuationPerM, type Water, yellowShape } from './water';

export interface RigSpot {
  xCm: number;
  yCm: number;
  depthCm: number;
  /** share of light that overhangs leave, 0..1 */
  openShare: number;
  /** the alga by whose absorption light counts there; absent = that of a coral */
  algaId?: string | null;
}
export interface Rig {
  tank: Tank;
  water: Water;
  rows: RigRow[];
  spots: RigSpot[];
}

/**
 * Light at each spot from each row at full emission: spots × rows spectra, µmol m⁻² s⁻¹ nm⁻¹, and their PAR.
 * `spectra` is one array: spot-major, then row, then wavelength.
 */
export interface ResponseMatrix {
  spots: number;
  rows: number;
  /** what every row is the light of, in order */
  names: readonly (RowName | null)[];
  spectra: Float64Array;
  par: Float64Array;
  /** how PAR moves with yellow substances, µmol m⁻² s⁻¹ per m⁻¹: spot-major, then row; the floor's part left aside */
  byYellow: Float64Array;
  /** how PAR moves with the beam exponent, per unit of its logarithm; 0 for optics from a file */
  byBeam: Float64Array;
  /** how PAR moves with the height of its lamp, per cm; with the logarithm of a factor on all panes; and what the floor sends back of it */
  byHeight: Float64Array;
  /** with a lean of its lamp, per degree; 0 where that is sure */
  byLean: Lean<Float64Array>;
  byPane: Float64Array;
  byFloor: Float64Array;
  /** the spots, for what is known of places */
  at: readonly SpotPlace[];
}

/** Where a spot lies, cm. */
export type SpotPlace = Pick<RigSpot, 'xCm' | 'yCm' | 'depthCm' | 'algaId'>;

/** Paths are told apart this finely at spots: the error in yellow, deep water stays below 1e-4. */
const NODES = 40;

/** The response matrix at spots: refraction, Fresnel, water, rim, lid, walls, floor, solids, shade. */
export function computeResponse(rig: Rig): ResponseMatrix {
  const { tank, rows, spots } = rig;
  const table = () => new Float64Array(spots.length * rows.length);
  const out: ResponseMatrix = {
    spots: spots.length,
    rows: rows.length,
    names: rows.map((r) => r.of ?? null),
    spectra: new Float64Array(spots.length * rows.length * GRID_SIZE),
    ...{ par: table(), byYellow: table(), byBeam: table(), byHeight: table() },
    ...{ byPane: table(), byFloor: table(), byLean: { right: table(), back: table() } },
    at: spots.map(({ openShare: _, ...place }) => place),
  };
  if (spots.length === 0) return out;
  const loss = attenuationPerM(rig.water);
  const bounce = floorBounce(tank, rig.water, rows);
  const depths = [...new Set(spots.map((s) => s.depthCm))];
  const sharps = new Map<Optic, Optic>();
  const sharp = (optic: Optic) => {
    let by = sharps.get(optic);
    if (!by) sharps.set(optic, (by = withExponent(optic, BEAM_STEP)));
    return by;
  };
  depths.forEach((depthCm) => {
    const here = spots.flatMap((s, i) => (s.depthCm === depthCm ? [i] : []));
    const plane = {
      depthCm,
      x: Float64Array.from(here, (i) => spots[i]!.xCm),
      y: Float64Array.from(here, (i) => spots[i]!.yCm),
    };
    const through = nodeTransmission(loss, depthCm, NODES);
    const cache = exactCache();
    rows.forEach((row, r) => {
      const gathered = (emitters: readonly RigEmitter[], arrived?: GatherOptions['arrived']) => {
        const into = row.spectra.map(() => new Float64Array(here.length * NODES));
        gather(tank, plane, emitters, into, { nodes: NODES, cache, ...(arrived ? { arrived } : {}) });
        return into;
      };
      const every = Math.ceil(row.emitters.length / SLOPE_EMITTERS);
      const some = row.emitters.filter((_, i) => i % every === 0);
      // how each way's light would be with dimmer panes and with a sharper beam follows from the way itself
      const plain = new Float64Array(here.length);
      const dimmer = new Float64Array(here.length);
      const sharper = new Float64Array(here.length);
      const alike = (t: number, w: number, bounces: number, optic: Optic, cosAxis: number) => {
        plain[t]! += w;
        dimmer[t]! += w * PANE_STEP ** bounces;
        // what a file lists stays
        sharper[t]! += optic.photometry
          ? w
          : (w * intensity(sharp(optic), cosAxis, 0)) / intensity(optic, cosAxis, 0);
      };
      const weights = gathered(row.emitters, every === 1 ? alike : undefined);
      if (every > 1) gathered(some, alike);
      const sums = (by: readonly Float64Array[]) =>
        Float64Array.from(here, (_, t) => nodesOf(by, t * NODES, null));
      const higher = sums(gathered(some.map((e) => ({ ...e, heightCm: e.heightCm + HEIGHT_STEP_CM }))));
      const leant = row.leaning && {
        right: sums(gathered(row.leaning.right.filter((_, i) => i % every === 0))),
        back: sums(gathered(row.leaning.back.filter((_, i) => i % every === 0))),
      };
      here.forEach((s, t) => {
        const at = (s * rows.length + r) * GRID_SIZE;
        const into = out.spectra.subarray(at, at + GRID_SIZE);
        row.spectra.forEach((spectrum, k) =>
          addThrough(into, spectrum, weights[k]!, t * NODES, through, NODES),
        );
        const open = spots[s]!.openShare;
        const direct = par(into);
        out.byYellow[s * rows.length + r] =
          -open *
          integrateWeighted(into, YELLOW, PAR_FROM_NM, PAR_TO_NM) *
          meanPathM(weights, t * NODES, depthCm);
        const moved = (by: Float64Array) => (plain[t]! > 0 ? open * direct * (by[t]! / plain[t]! - 1) : 0);
        out.byBeam[s * rows.length + r] = moved(sharper) / Math.log(BEAM_STEP);
        out.byHeight[s * rows.length + r] = moved(higher) / HEIGHT_STEP_CM;
        if (leant) {
          out.byLean.right[s * rows.length + r] = moved(leant.right);
          out.byLean.back[s * rows.length + r] = moved(leant.back);
        }
        out.byPane[s * rows.length + r] = moved(dimmer) / Math.log(PANE_STEP);
        bounce.add(r, depthCm, into);
        out.byFloor[s * rows.length + r] = open * (par(into) - direct);
        if (open !== 1) for (let i = 0; i < GRID_SIZE; i += 1) into[i]! *= open;
        out.par[s * rows.length + r] = par(into);
      });
    });
  });
  return out;
}

/** Beam exponents are tried this much sharper to see what that does, lamps so much higher, panes so much less bright. */
const BEAM_STEP = 1.1;
const HEIGHT_STEP_CM = 1;
const PANE_STEP = 0.9;
/** Slopes are found on so many emitters of a row: how its light moves is alike all over a face. */
const SLOPE_EMITTERS = 6;
const YELLOW = yellowShape();

const SECANTS = Float64Array.from({ length: NODES }, (_, k) => nodeSecant(k, NODES));

/** Sum over a target's nodes, each counted so much. */
function nodesOf(weights: readonly Float64Array[], at: number, each: Float64Array | null): number {
  let sum = 0;
  for (const w of weights)
    for (let k = 0; k < NODES; k += 1) sum += each ? w[at + k]! * each[k]! : w[at + k]!;
  return sum;
}

/** Mean way in the water to a target, m. */
function meanPathM(weights: readonly Float64Array[], at: number, depthCm: number): number {
  const all = nodesOf(weights, at, null);
  return all > 0 ? ((depthCm / 100) * nodesOf(weights, at, SECANTS)) / all : 0;
}

/** Spectrum at a spot for the given emitted shares per row (matrix × shares). */
export function spectrumAt(matrix: ResponseMatrix, spot: number, shares: ArrayLike<number>): Spectrum {
  const out = zeroSpectrum();
  for (let r = 0; r < matrix.rows; r += 1) {
    const share = shares[r]!;
    if (share === 0) continue;
    const at = (spot * matrix.rows + r) * GRID_SIZE;
    for (let i = 0; i < GRID_SIZE; i += 1) out[i]! += share * matrix.spectra[at + i]!;
  }
  return out;
}

/** PAR at a spot for the given emitted shares per row, µmol m⁻² s⁻¹. */
export function parAt(matrix: ResponseMatrix, spot: number, shares: ArrayLike<number>): number {
  let sum = 0;
  for (let r = 0; r < matrix.rows; r += 1) sum += shares[r]! * matrix.par[spot * matrix.rows + r]!;
  return sum;
}
