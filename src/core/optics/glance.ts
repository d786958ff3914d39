import { par } from '../spectrum/bands';
import { addScaled, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import type { LampKind } from '../spectrum/lampKind';
import { PANES } from './field';
import { nodeTransmission } from './light';
import { type Hanging, lampRows } from './rig';
import type { Tank } from './tank';
import { enteredShare, exactCache, gather, type Plane, type PlaneCache, type RigEmitter } from './transport';
import { attenuationPerM, type Water } from './water';

/** What one lamp gives where it hangs, PAR in µmol m⁻² s⁻¹. */
export interface LampGlance {
  spots: Float64Array;
  /** over a plane of midpoints, row by row */
  plan: Float64Array;
  /** straight light on the panes, in the order of PANES: the mean of a row of points a third down */
  glass: Float64Array;
  /** share of its photons that enter the water */
  entered: number;
}

/** What is before the emitters of a kind: sheet, lens, or a file's own light. */
export const frontKey = (kind: LampKind): string =>
  `${kind.diffuserShare ?? 0} ${kind.optic ? 'file' : kind.beamAngleDeg} ${kind.channels.map((c) => c.groups.map((g) => g.beamAngleDeg ?? '')).join()}`;

const NODES = 12;
const PLAN = { nx: 12, ny: 6 } as const;
const PANE_POINTS = 6;
const PANE_DEPTH = 1 / 3;
const RINGS = 24;
/** A face is drawn together into so many points along and across, a line into so many. */
const CELLS = { along: 4, across: 2, line: 8 } as const;
const ORIGIN_CM = 150;

/**
 * A quick look at one kind of lamp under one mix, for searches over places: its emitters drawn together into a few points of its mean
 * spectrum, the floor left aside. Within a few percent of the whole response (a test); whatever is chosen is then computed in full.
 * Each place is looked at once.
 */
export class Glances {
  private readonly loss: Spectrum;
  private readonly planes: (Plane & { at: number[] | 'plan' })[];
  /** of each plane, and of each pane's row of points */
  private readonly caches = new Map<string, PlaneCache>();
  private readonly passes = new Map<number, Float64Array>();
  private readonly faces = new Map<string, { emitters: RigEmitter[]; spectrum: Spectrum; flux: number }>();
  private readonly kept = new Map<string, LampGlance>();

  /** @param levels emitted share of every channel; @param planDepthCm of the plane on which evenness is asked */
  constructor(
    private readonly tank: Tank,
    water: Water,
    private readonly levels: readonly number[],
    spots: readonly { xCm: number; yCm: number; depthCm: number }[],
    planDepthCm: number,
  ) {
    this.loss = attenuationPerM(water);
    this.planes = [...new Set(spots.map((s) => s.depthCm))].map((depthCm) => {
      const at = spots.flatMap((s, i) => (s.depthCm === depthCm ? [i] : []));
      return {
        ...{ depthCm, at },
        x: Float64Array.from(at, (i) => spots[i]!.xCm),
        y: Float64Array.from(at, (i) => spots[i]!.yCm),
      };
    });
    const cells = Array.from({ length: PLAN.nx * PLAN.ny }, (_, c) => c);
    this.planes.push({
      ...{ depthCm: planDepthCm, at: 'plan' as const },
      x: Float64Array.from(cells, (c) => (((c % PLAN.nx) + 0.5) / PLAN.nx) * tank.lengthCm),
      y: Float64Array.from(cells, (c) => ((Math.floor(c / PLAN.nx) + 0.5) / PLAN.ny) * tank.widthCm),
    });
  }

  of(kind: LampKind, hanging: Hanging): LampGlance {
    const { xCm, yCm, heightCm, turnDeg, tiltDeg = 0, tiltTowardDeg = 0, screenShare = 1 } = hanging;
    const turned = `${kind.id} ${frontKey(kind)} ${turnDeg} ${tiltDeg} ${tiltDeg && tiltTowardDeg}`;
    const key = `${turned} ${xCm} ${yCm} ${heightCm} ${screenShare}`;
    let made = this.kept.get(key);
    if (!made) this.kept.set(key, (made = this.look(kind, hanging, turned)));
    return made;
  }

  private look(kind: LampKind, hanging: Hanging, turned: string): LampGlance {
    let face = this.faces.get(turned);
    if (!face) this.faces.set(turned, (face = faceOf(kind, hanging, this.levels)));
    const { tank } = this;
    const { spectrum, flux } = face;
    const emitters = face.emitters.map((e) => ({
      ...e,
      xCm: e.xCm - ORIGIN_CM + hanging.xCm,
      yCm: e.yCm - ORIGIN_CM + hanging.yCm,
      heightCm: Math.max(0.5, e.heightCm - ORIGIN_CM + hanging.heightCm),
    }));
    const through = flux * (hanging.screenShare ?? 1);
    const on = (plane: Plane, name: string, pane?: (typeof PANES)[number]) => {
      const into = new Float64Array(plane.x.length * NODES);
      let cache = this.caches.get(name);
      if (!cache) this.caches.set(name, (cache = exactCache()));
      gather(tank, plane, emitters, [into], { nodes: NODES, cache, ...(pane ? { pane } : {}) });
      const pass = this.passOf(spectrum, plane.depthCm);
      return Float64Array.from(plane.x, (_, t) => {
        let sum = 0;
        for (let k = 0; k < NODES; k += 1) sum += into[t * NODES + k]! * pass[k]!;
        return through * sum;
      });
    };
    const spots = new Float64Array(this.planes.reduce((n, p) => n + (p.at === 'plan' ? 0 : p.at.length), 0));
    let plan = new Float64Array();
    for (const [n, p] of this.planes.entries()) {
      const values = on(p, `plane ${n}`);
      if (p.at === 'plan') plan = values;
      else p.at.forEach((i, t) => (spots[i] = values[t]!));
    }
    const depthCm = tank.depthCm * PANE_DEPTH;
    const glass = Float64Array.from(PANES, (pane) => {
      const alongX = pane === 'front' || pane === 'back';
      const at = Float64Array.from(
        { length: PANE_POINTS },
        (_, k) => ((k + 0.5) / PANE_POINTS) * (alongX ? tank.lengthCm : tank.widthCm),
      );
      const wall = { left: 0, right: tank.lengthCm, front: 0, back: tank.widthCm }[pane];
      const fixed = new Float64Array(PANE_POINTS).fill(wall);
      const lit = on(alongX ? { depthCm, x: at, y: fixed } : { depthCm, x: fixed, y: at }, pane, pane);
      return lit.reduce((s, v) => s + v, 0) / PANE_POINTS;
    });
    const entered = emitters.reduce((s, e) => s + e.share * enteredShare(tank, e, RINGS), 0) * tank.lidShare;
    return { spots, plan, glass, entered };
  }

  /** PAR that each path's length leaves of a spectrum whose PAR is 1. */
  private passOf(spectrum: Spectrum, depthCm: number): Float64Array {
    let made = this.passes.get(depthCm);
    if (!made) {
      const node = nodeTransmission(this.loss, depthCm, NODES);
      made = Float64Array.from({ length: NODES }, (_, k) =>
        par(spectrum.map((v, i) => v * node[k * spectrum.length + i]!)),
      );
      this.passes.set(depthCm, made);
    }
    return made;
  }
}

/** A lamp's emitters under a mix, drawn together into a few points about its middle; their mean spectrum, its PAR 1; and all its PAR. */
function faceOf(kind: LampKind, hanging: Hanging, levels: readonly number[]) {
  const rows = lampRows(kind, {
    ...hanging,
    ...{ xCm: ORIGIN_CM, yCm: ORIGIN_CM, heightCm: ORIGIN_CM, screenShare: 1 },
  });
  const spectrum = zeroSpectrum();
  const points = rows.flatMap((row, c) => {
    row.spectra.forEach((s) => addScaled(spectrum, s, levels[c]!));
    const each = row.spectra.map((s) => par(s) * levels[c]!);
    return row.emitters.map((e) => ({ e, weight: e.share * each[e.spectrum]! }));
  });
  const flux = par(spectrum);
  const cells = new Map<
    string,
    { weight: number; x: number; y: number; h: number; most: number; e: RigEmitter }
  >();
  const [along, across] = kind.layout === 'line' ? [CELLS.line, 1] : [CELLS.along, CELLS.across];
  const reach = (of: 'xCm' | 'yCm') => {
    const all = points.map((p) => p.e[of]);
    return [Math.min(...all), Math.max(...all)] as const;
  };
  const [xs, ys] = [reach('xCm'), reach('yCm')];
  const long = xs[1] - xs[0] >= ys[1] - ys[0];
  const cell = (v: number, [a, b]: readonly [number, number], n: number) =>
    b > a ? Math.min(n - 1, Math.floor(((v - a) / (b - a)) * n)) : 0;
  for (const { e, weight } of points) {
    if (!(weight > 0)) continue;
    const key = `${cell(e.xCm, xs, long ? along : across)} ${cell(e.yCm, ys, long ? across : along)}`;
    const c = cells.get(key) ?? { weight: 0, x: 0, y: 0, h: 0, most: 0, e };
    c.weight += weight;
    c.x += weight * e.xCm;
    c.y += weight * e.yCm;
    c.h += weight * e.heightCm;
    if (weight > c.most) [c.most, c.e] = [weight, e];
    cells.set(key, c);
  }
  return {
    flux,
    spectrum: flux > 0 ? spectrum.map((v) => v / flux) : spectrum,
    emitters: [...cells.values()].map((c): RigEmitter => ({
      ...c.e,
      ...{ xCm: c.x / c.weight, yCm: c.y / c.weight, heightCm: c.h / c.weight },
      ...{ share: flux > 0 ? c.weight / flux : 0, spectrum: 0 },
    })),
  };
}
