import type { ShapeId } from '../coral/form';
import { seeded } from '../spectrum/random';
import { Stuff } from './stuff';

/**
 * How corals grow: from a seed, so that no two of a kind are alike and the same one always is. Each stands on the origin and grows
 * upwards (−z); its sizes are in cm. Growth is drawing licence: it says what a form is like, never how large one gets.
 */

type Vec = readonly [x: number, y: number, z: number];
const add = (a: Vec, b: Vec, k = 1): Vec => [a[0] + b[0] * k, a[1] + b[1] * k, a[2] + b[2] * k];
const unit = (v: Vec): Vec => {
  const l = Math.hypot(...v) || 1;
  return [v[0] / l, v[1] / l, v[2] / l];
};
const UP: Vec = [0, 0, -1];
const TAU = 2 * Math.PI;

class Grower {
  readonly stuff = new Stuff();
  readonly random: () => number;
  constructor(
    readonly seed: number,
    /** surface of each region, in the form's order */
    private readonly regions: readonly number[],
  ) {
    this.random = seeded(seed);
  }
  /** surface of a region; forms with fewer regions go on with their last */
  region(i: number): number {
    return this.regions[Math.min(i, this.regions.length - 1)]!;
  }
  between(a: number, b: number): number {
    return a + (b - a) * this.random();
  }
  /** a limb: balls along a bent way, thinner and thinner */
  limb(
    from: Vec,
    heading: Vec,
    length: number,
    r0: number,
    r1: number,
    surface: (share: number) => number,
    bend = 0.25,
    lift = 0.15,
    onStep?: (at: Vec, r: number) => void,
  ): { at: Vec; heading: Vec } {
    let at = from;
    let way = unit(heading);
    const turn: Vec = [this.between(-bend, bend), this.between(-bend, bend), 0];
    for (let gone = 0; gone < length;) {
      const share = gone / length;
      const r = r0 + (r1 - r0) * share;
      this.stuff.ball(...at, r, surface(share));
      onStep?.(at, r);
      const step = Math.max(0.4 * r, length / 60);
      gone += step;
      way = unit(add(add(way, turn, step / length), UP, (lift * step) / length));
      at = add(at, way, step);
    }
    return { at, heading: way };
  }
  around(share: number, tilt: number): Vec {
    const a = share * TAU;
    return [Math.cos(a) * Math.sin(tilt), Math.sin(a) * Math.sin(tilt), -Math.cos(tilt)];
  }
}

type Grow = (g: Grower, cm: number) => void;

/** A bush of limbs that fork, their ends pale or bright, polyps along them. */
const branch: Grow = (g, cm) => {
  const [tips, body, polyps] = [g.region(0), g.region(1), g.region(2)];
  const thick = cm * g.between(0.042, 0.058);
  const fork = (from: Vec, heading: Vec, length: number, r: number, left: number) => {
    const last = left === 0;
    const end = g.limb(
      from,
      heading,
      length,
      r,
      r * (last ? 0.55 : 0.8),
      (share) => (last && share > 0.55 ? tips : body),
      0.5,
      0.3,
      // little cups all along it
      (at, thick) => {
        if (g.random() < 0.55)
          g.stuff.ball(
            ...add(at, g.around(g.random(), Math.PI / 2), thick * 0.85),
            r * 0.34,
            g.random() < 0.55 ? polyps : last ? tips : body,
          );
      },
    );
    if (last) {
      g.stuff.ball(...end.at, r * 0.6, tips);
      return;
    }
    const forks = g.random() < 0.55 ? 2 : 3;
    const first = g.random();
    for (let k = 0; k < forks; k += 1) {
      const way = unit(add(end.heading, g.around(first + k / forks, g.between(0.6, 1.15)), 1));
      fork(end.at, way, length * g.between(0.66, 0.86), r * 0.8, left - 1);
    }
  };
  g.stuff.add([0, 0, -thick * 0.3], [thick * 2.6, thick * 2.6, thick], body);
  const trunks = 3 + Math.floor(g.random() * 3);
  const first = g.random();
  for (let k = 0; k < trunks; k += 1)
    fork(
      [0, 0, -thick * 0.5],
      g.around(first + k / trunks, g.between(0.45, 1.05)),
      cm * g.between(0.22, 0.28),
      thick,
      2,
    );
};

/** A stalk and a level table, covered with branchlets; the outermost are young. */
const table: Grow = (g, cm) => {
  const [rim, body, polyps] = [g.region(0), g.region(1), g.region(2)];
  const r = cm / 2;
  const height = cm * g.between(0.3, 0.42);
  const long = g.between(0.85, 1.15);
  g.limb([0, 0, 0], [g.between(-0.15, 0.15), 0, -1], height, cm * 0.1, cm * 0.075, () => body, 0.1);
  const shear: readonly [number, number] = [g.between(-0.06, 0.06), g.between(-0.1, 0.02)];
  g.stuff.add([0, 0, -height], [r * long * 0.96, (r / long) * 0.96, cm * 0.035], body, {
    second: rim,
    pattern: 'rim',
    shear,
  });
  const many = Math.round(Math.min(720, 10 * cm + 190));
  for (let k = 0; k < many; k += 1) {
    const out = Math.sqrt((k + g.random()) / many);
    const a = k * 2.39996 + g.random() * 0.5;
    const [x, y] = [Math.cos(a) * out * r * long, Math.sin(a) * out * (r / long)];
    const tall = cm * g.between(0.045, 0.075) * (1 - 0.35 * out);
    const z = -height + shear[0] * x + shear[1] * y - cm * 0.02;
    const young = out > 0.86;
    const lean: Vec = [
      Math.cos(a) * out * (young ? 0.9 : 0.35),
      Math.sin(a) * out * (young ? 0.9 : 0.35),
      -1,
    ];
    const thin = cm * g.between(0.011, 0.015);
    g.limb([x, y, z], lean, tall, thin * 1.25, thin, (share) =>
      young ? rim : share > 0.62 && g.random() < 0.5 ? polyps : body,
    );
  }
};

/** Thin tiers one over the other, each with a growing rim. */
const plate: Grow = (g, cm) => {
  const [rim, body, polyps] = [g.region(0), g.region(1), g.region(2)];
  const tiers = 3 + Math.floor(g.random() * 2);
  const first = g.random() * TAU;
  g.limb([0, 0, 0], UP, cm * 0.16, cm * 0.13, cm * 0.1, () => body, 0.05);
  for (let k = 0; k < tiers; k += 1) {
    const share = k / Math.max(1, tiers - 1);
    const r = cm * g.between(0.36, 0.46) * (1 - 0.32 * share);
    const a = first + k * 2.2;
    const off = cm * 0.13 * (1 - 0.3 * share);
    const z = -cm * (0.09 + 0.085 * k);
    const long = g.between(0.9, 1.2);
    const shear: readonly [number, number] = [-Math.cos(a) * 0.12, -Math.sin(a) * 0.1 - 0.07];
    const [x, y] = [Math.cos(a) * off, Math.sin(a) * off * 0.8];
    g.stuff.add([x, y, z], [r * long, r / long, cm * 0.02], body, { second: polyps, pattern: 'dots', shear });
    // the rim: beads along the edge, wavy
    const beads = Math.round((TAU * r) / (cm * 0.022));
    const wave = g.random() * TAU;
    for (let b = 0; b < beads; b += 1) {
      const t = (b / beads) * TAU;
      const out = 1 + 0.05 * Math.sin(3 * t + wave) + 0.03 * Math.sin(7 * t + 2 * wave);
      const [dx, dy] = [Math.cos(t) * r * long * out, (Math.sin(t) * r * out) / long];
      const dz = shear[0] * dx + shear[1] * dy + cm * 0.012 * Math.sin(5 * t + wave);
      g.stuff.add([x + dx, y + dy, z + dz], [cm * 0.024, cm * 0.024, cm * 0.017], rim);
    }
  }
};

/** A skin over its stone, with mounds and many polyps. */
const crust: Grow = (g, cm) => {
  const [body, polyps] = [g.region(0), g.region(1)];
  const mounds = 9;
  for (let k = 0; k < mounds; k += 1) {
    const out = Math.sqrt(k / mounds) * cm * 0.36;
    const a = k * 2.39996 + g.random();
    const r = cm * g.between(0.14, 0.24);
    const [x, y] = [Math.cos(a) * out, Math.sin(a) * out * 0.8];
    const z = 0.012 * cm * (out / cm) * 10;
    g.stuff.add([x, y, z], [r, r * 0.9, cm * g.between(0.06, 0.11)], body, {
      second: polyps,
      pattern: 'dots',
    });
    for (let b = 0; b < 12; b += 1) {
      const [t, o] = [g.random() * TAU, Math.sqrt(g.random()) * 0.85];
      const up = Math.sqrt(Math.max(0, 1 - o * o)) * cm * 0.085;
      g.stuff.ball(x + Math.cos(t) * o * r, y + Math.sin(t) * o * r * 0.9, z - up, cm * 0.016, polyps);
    }
  }
};

/** A dome whose surface meanders: ridges and valleys. */
const brain: Grow = (g, cm) => {
  const [ridges, valleys] = [g.region(0), g.region(1)];
  const r = cm / 2;
  const tall = r * g.between(0.56, 0.74);
  const turn = g.between(0.88, 1.1);
  g.stuff.add([0, 0, -tall * 0.28], [r * turn, (r / turn) * 0.92, tall], ridges, {
    second: valleys,
    pattern: 'meander',
    seed: g.seed,
  });
};

/** A bowl on a foot, its edge wavy, with eyes on its inside. */
const cup: Grow = (g, cm) => {
  const [body, rim, eyes] = [g.region(0), g.region(1), g.region(2)];
  const r = cm / 2;
  const deep = cm * g.between(0.34, 0.44);
  g.limb([0, 0, 0], UP, cm * 0.14, cm * 0.11, cm * 0.08, () => body, 0.05);
  const wave = g.random() * TAU;
  const tilt = g.between(0.1, 0.2);
  const rings = 16;
  for (let k = 0; k <= rings; k += 1) {
    const s = k / rings;
    const out = r * (0.16 + 0.84 * Math.sin((s * Math.PI) / 2) ** 1.15);
    const bead = cm * (0.03 - 0.008 * s);
    const around = Math.max(10, Math.round((TAU * out) / (bead * 0.9)));
    for (let b = 0; b < around; b += 1) {
      const t = (b / around) * TAU;
      const o = out * (1 + s * (0.06 * Math.sin(4 * t + wave) + 0.04 * Math.sin(9 * t + 2 * wave)));
      const [x, y] = [Math.cos(t) * o, Math.sin(t) * o * 0.9];
      const z = -cm * 0.11 - deep * s ** 1.5 + y * tilt * s + cm * 0.015 * s * Math.sin(6 * t + wave);
      g.stuff.add([x, y, z], [bead, bead, bead * 1.1], k === rings ? rim : body);
    }
  }
  for (let k = 0; k < 44; k += 1) {
    const s = Math.sqrt(0.1 + 0.85 * g.random());
    const t = g.random() * TAU;
    const out = r * (0.16 + 0.84 * Math.sin((s * Math.PI) / 2) ** 1.15) * 0.97;
    const inside = g.random() < 0.7 ? 0.96 : 1.04;
    const [x, y] = [Math.cos(t) * out * inside, Math.sin(t) * out * 0.9 * inside];
    g.stuff.ball(x, y, -cm * 0.115 - deep * s ** 1.5 + y * tilt * s, cm * 0.022, eyes);
  }
};

/** A ring of tentacles around a mouth, on a stalk. */
function polyp(g: Grower, at: Vec, r: number, tall: number, tentacles: number, mouth: number): void {
  const top = g.limb(
    at,
    [g.between(-0.2, 0.2), g.between(-0.2, 0.2), -1],
    tall,
    r * 0.3,
    r * 0.36,
    () => mouth,
    0.2,
  );
  g.stuff.add([top.at[0], top.at[1], top.at[2]], [r * 0.5, r * 0.5, r * 0.16], mouth);
  const many = 14;
  const first = g.random();
  for (let k = 0; k < many; k += 1) {
    const out = g.around(first + k / many, g.between(1.05, 1.4));
    g.limb(
      add(top.at, out, r * 0.42),
      out,
      r * g.between(0.5, 0.75),
      r * 0.11,
      r * 0.075,
      () => tentacles,
      0.2,
      0.5,
    );
  }
}

/** A mat of polyps. */
const polyps: Grow = (g, cm) => {
  const [tentacles, mouth] = [g.region(0), g.region(1)];
  const many = 15;
  g.stuff.add([0, 0, 0], [cm * 0.42, cm * 0.36, cm * 0.06], mouth);
  for (let k = 0; k < many; k += 1) {
    const out = Math.sqrt((k + 0.4) / many) * cm * 0.4;
    const a = k * 2.39996 + g.random() * 0.4;
    const r = cm * g.between(0.11, 0.14);
    polyp(
      g,
      [Math.cos(a) * out, Math.sin(a) * out * 0.85, 0],
      r,
      cm * g.between(0.14, 0.26),
      tentacles,
      mouth,
    );
  }
};

/** Soft discs, each in rings of colour. */
const disc: Grow = (g, cm) => {
  const many = 5;
  for (let k = 0; k < many; k += 1) {
    const a = (k / many) * TAU + g.random() * 0.5;
    const out = k === 0 ? 0 : cm * 0.27;
    const r = cm * (k === 0 ? 0.29 : g.between(0.17, 0.24));
    const [x, y] = [Math.cos(a) * out, Math.sin(a) * out * 0.85];
    const tall = cm * (k === 0 ? 0.16 : g.between(0.05, 0.11));
    g.limb([x, y, 0], UP, tall, r * 0.5, r * 0.38, () => g.region(1), 0.05);
    // rings: the rim, the ring in it, the middle, as three flat caps one over the other, turned to the front pane
    const shear: readonly [number, number] = [g.between(-0.1, 0.1), g.between(-0.35, -0.2)];
    const sizes = [1, 0.8, 0.42];
    sizes.forEach((share, i) =>
      g.stuff.add([x, y, -tall - cm * 0.012 * i], [r * share, r * share * 0.94, cm * 0.025], g.region(i), {
        shear,
      }),
    );
    for (let b = 0; b < 40; b += 1) {
      const t = (b / 40) * TAU;
      const [dx, dy] = [Math.cos(t) * r, Math.sin(t) * r * 0.94];
      g.stuff.ball(x + dx, y + dy, -tall + shear[0] * dx + shear[1] * dy, r * 0.075, g.region(0));
    }
  }
};

/** A stalk and a folded cap with a nap of polyps. */
const leather: Grow = (g, cm) => {
  const [cap, stalk, nap] = [g.region(0), g.region(1), g.region(2)];
  const r = cm / 2;
  const tall = cm * g.between(0.36, 0.46);
  g.limb([0, 0, 0], [g.between(-0.1, 0.1), 0, -1], tall, cm * 0.15, cm * 0.17, () => stalk, 0.1);
  const wave = g.random() * TAU;
  const fold = (t: number) => 1 + 0.1 * Math.sin(4 * t + wave) + 0.06 * Math.sin(7 * t - wave);
  const droop = (o: number, t: number) => cm * (0.1 * o * o + 0.035 * o * Math.sin(5 * t + wave));
  for (let k = 0; k < 9; k += 1) {
    const o = k / 8;
    const around = k === 0 ? 1 : Math.round(TAU * o * 9);
    for (let b = 0; b < around; b += 1) {
      const t = (b / around) * TAU;
      const out = r * o * fold(t);
      g.stuff.add(
        [Math.cos(t) * out, Math.sin(t) * out * 0.85, -tall - cm * 0.04 + droop(o, t)],
        [cm * 0.075, cm * 0.07, cm * 0.05],
        cap,
      );
    }
  }
  const hairs = 420;
  for (let k = 0; k < hairs; k += 1) {
    const o = Math.sqrt((k + g.random()) / hairs);
    const t = k * 2.39996;
    const out = r * o * fold(t) * 1.02;
    const foot: Vec = [Math.cos(t) * out, Math.sin(t) * out * 0.85, -tall - cm * 0.075 + droop(o, t)];
    const lean: Vec = [Math.cos(t) * o * 0.7, Math.sin(t) * o * 0.7, -1];
    g.limb(foot, lean, cm * 0.045, cm * 0.008, cm * 0.0095, () => nap, 0.2);
  }
};

/** Long tentacles swaying one way, from a skeleton below. */
const tentacles: Grow = (g, cm) => {
  const [tips, body, stalk] = [g.region(0), g.region(1), g.region(2)];
  g.limb([0, 0, 0], UP, cm * 0.2, cm * 0.18, cm * 0.2, () => stalk, 0.05);
  sway(g, cm, {
    many: 62,
    from: [0, 0, -cm * 0.22],
    wide: 0.2,
    length: 0.42,
    thick: 0.019,
    tips,
    body,
    bulb: 1.55,
  });
};

interface Sway {
  many: number;
  from: Vec;
  wide: number;
  length: number;
  thick: number;
  tips: number;
  body: number;
  /** how much thicker a tip is than what bears it */
  bulb: number;
}
function sway(g: Grower, cm: number, s: Sway): void {
  const drift: Vec = [g.between(-0.5, 0.5), g.between(-0.4, 0.1), 0];
  for (let k = 0; k < s.many; k += 1) {
    const o = Math.sqrt((k + g.random()) / s.many);
    const t = k * 2.39996;
    const foot: Vec = [
      s.from[0] + Math.cos(t) * o * cm * s.wide,
      s.from[1] + Math.sin(t) * o * cm * s.wide * 0.85,
      s.from[2] + o * o * cm * 0.06,
    ];
    const way = add([Math.cos(t) * o * 1.25, Math.sin(t) * o * 1.1, -1], drift, 0.4);
    const length = cm * s.length * g.between(0.7, 1.1);
    const end = g.limb(
      foot,
      way,
      length,
      cm * s.thick,
      cm * s.thick * 0.85,
      (share) => (share > 0.86 ? s.tips : s.body),
      0.9,
      -0.25,
    );
    g.stuff.ball(...end.at, cm * s.thick * s.bulb, s.tips);
  }
}

/** A foot, a disc, and tentacles with thick ends. */
const anemone: Grow = (g, cm) => {
  const [tips, body, foot] = [g.region(0), g.region(1), g.region(2)];
  g.limb([0, 0, 0], UP, cm * 0.14, cm * 0.15, cm * 0.22, () => foot, 0.05);
  g.stuff.add([0, 0, -cm * 0.16], [cm * 0.32, cm * 0.28, cm * 0.05], foot);
  sway(g, cm, {
    many: 92,
    from: [0, 0, -cm * 0.18],
    wide: 0.3,
    length: 0.24,
    thick: 0.022,
    tips,
    body,
    bulb: 1.7,
  });
};

/** Two ribbed shells and a wavy mantle between them. */
const clam: Grow = (g, cm) => {
  const [mantle, edge, shell] = [g.region(0), g.region(1), g.region(2)];
  const r = cm / 2;
  const gape = g.between(0.9, 1.15);
  for (const side of [-1, 1]) {
    for (let k = 0; k < 7; k += 1) {
      const t = (k / 6 - 0.5) * 2.2;
      g.stuff.add(
        [Math.sin(t) * r * 0.62, side * r * 0.24 * gape, -r * (0.18 + 0.16 * Math.cos(t))],
        [r * 0.2, r * 0.22, r * (0.42 - 0.05 * Math.abs(t))],
        shell,
        { pattern: 'stone', shear: [0, -side * 0.35] },
      );
    }
  }
  const along = 46;
  for (const side of [-1, 1]) {
    for (let k = 0; k < along; k += 1) {
      const s = (k / (along - 1)) * 2 - 1;
      const open = Math.sqrt(Math.max(0, 1 - s * s));
      const fold = 0.09 * Math.sin(s * 15 + side) * open;
      for (let b = 0; b < 5; b += 1) {
        const o = b / 4;
        const y = side * r * (0.04 + (0.38 + fold) * o * open);
        const z = -r * (0.5 + 0.14 * open - 0.16 * o + fold * 0.6 * o);
        g.stuff.add([s * r * 0.95, y, z], [r * 0.055, r * 0.075, r * 0.05], b === 4 ? edge : mantle, {
          second: edge,
          pattern: 'dots',
        });
      }
    }
  }
};

const GROW: Record<ShapeId, Grow> = {
  branch,
  table,
  plate,
  crust,
  brain,
  cup,
  polyps,
  disc,
  leather,
  tentacles,
  clam,
  anemone,
};

/**
 * A coral of a shape, grown from a seed.
 * @param cm its width across
 * @param regions surface of each of its form's regions, in their order
 */
export function grownCoral(shape: ShapeId, cm: number, seed: number, regions: readonly number[]): Stuff {
  const g = new Grower(seed, regions);
  GROW[shape](g, cm);
  g.stuff.scale(cm / g.stuff.extentCm());
  return g.stuff;
}
