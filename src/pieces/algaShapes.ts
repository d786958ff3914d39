import type { AlgaId } from '@/core/feeding/algae';
import { seeded } from '@/core/spectrum/random';

/** A layer of a drawn alga, from back to front: how deep in shade it lies (0 = lit), and its outline in a box of 100 × 100. */
export interface AlgaLayer {
  tone: 0 | 1 | 2;
  d: string;
  /** drawn as a round line of this width instead of a filled shape */
  line?: number;
}

const n = (v: number) => String(Math.round(v * 10) / 10);
const TONES = [2, 1, 0] as const;

/** A ball of stiff threads. */
function tangle(): AlgaLayer[] {
  const random = seeded(31);
  return TONES.map((tone, k): AlgaLayer => {
    const threads: string[] = [];
    // few, long threads: a plate shows several balls, and every bend is drawn
    for (let i = 0; i < 17; i += 1) {
      const a = random() * Math.PI * 2;
      const r = Math.sqrt(random()) * (40 - 4 * k);
      let [x, y] = [50 + Math.cos(a) * r, 58 + Math.sin(a) * r * 0.78];
      let heading = random() * Math.PI * 2;
      const turn = (random() - 0.5) * 0.5;
      let d = `M${n(x)} ${n(y)}`;
      for (let s = 0; s < 13; s += 1) {
        heading += turn + (random() - 0.5) * 0.7;
        // threads that leave the ball bend back into it
        const out = Math.hypot((x - 50) / 42, (y - 58) / 34);
        if (out > 1) heading = Math.atan2(58 - y, 50 - x) + (random() - 0.5);
        [x, y] = [x + Math.cos(heading) * 6.2, y + Math.sin(heading) * 5.2];
        d += `L${n(x)} ${n(y)}`;
      }
      threads.push(d);
    }
    return { tone, d: threads.join(''), line: 2 };
  });
}

/** Runners with feathers. */
function feathery(): AlgaLayer[] {
  const random = seeded(8);
  const fronds = [12, 27, 43, 58, 73, 88];
  return [
    { tone: 2, d: 'M4 93C24 88 44 97 62 92S88 90 97 94', line: 2.2 },
    ...fronds.map((x, i): AlgaLayer => {
      const height = 56 + random() * 24;
      const lean = (random() - 0.5) * 22;
      const at = (t: number) => [x + lean * t * t, 92 - height * t] as const;
      let d = '';
      for (let s = 0; s <= 20; s += 1) {
        const [px, py] = at(s / 20);
        d += `${s === 0 ? 'M' : 'L'}${n(px)} ${n(py)}`;
      }
      for (let s = 3; s <= 20; s += 1) {
        const t = s / 20;
        const [px, py] = at(t);
        const w = 9.5 * Math.sin(Math.PI * Math.min(1, 0.18 + 0.82 * t) ** 0.8);
        d += `M${n(px)} ${n(py)}q${n(-w * 0.5)} ${n(-1)} ${n(-w)} ${n(-4.5)}M${n(px)} ${n(py)}q${n(w * 0.5)} ${n(-1)} ${n(w)} ${n(-4.5)}`;
      }
      return { tone: ([1, 0, 1, 0, 0, 1] as const)[i]!, d, line: 1.7 };
    }),
  ];
}

/** Runners with clusters of bladders. */
function grapes(): AlgaLayer[] {
  const random = seeded(17);
  const layers: AlgaLayer[] = [{ tone: 2, d: 'M3 94C26 89 52 98 97 92', line: 2.4 }];
  [10, 25, 40, 56, 71, 88].forEach((x, i) => {
    const height = 46 + random() * 26;
    const lean = (random() - 0.5) * 20;
    const stem = `M${n(x)} 93Q${n(x + lean * 0.2)} ${n(93 - height * 0.5)} ${n(x + lean)} ${n(93 - height)}`;
    layers.push({ tone: 2, d: stem, line: 1.8 });
    const dots: [string, string, string] = ['', '', ''];
    for (let k = 0; k < 26; k += 1) {
      const t = 0.16 + 0.84 * (k / 25);
      const side = (random() - 0.5) * 13;
      dots[Math.floor(random() * 3)]! += `M${n(x + lean * t * t + side)} ${n(93 - height * t)}h0.01`;
    }
    layers.push(
      { tone: 2, d: dots[0], line: 6.4 },
      { tone: 1, d: dots[1], line: 5.8 },
      { tone: i % 2 === 0 ? 0 : 1, d: dots[2], line: 5 },
    );
  });
  return layers;
}

/** Thin ruffled blades. */
function leaf(): AlgaLayer[] {
  const random = seeded(5);
  const blade = (angle: number, length: number, width: number): string => {
    const at = (t: number, side: number) => {
      const ruffle = 1 + 0.16 * Math.sin(t * 21 + angle * 7) + 0.08 * (random() - 0.5);
      const w = side * width * Math.sin(Math.PI * Math.min(1, t * 0.9 + 0.05)) ** 0.7 * ruffle;
      return [
        50 + Math.sin(angle) * length * t + Math.cos(angle) * w,
        96 - Math.cos(angle) * length * t + Math.sin(angle) * w,
      ] as const;
    };
    const points = [
      ...Array.from({ length: 19 }, (_, i) => at(i / 18, -1)),
      ...Array.from({ length: 19 }, (_, i) => at(1 - i / 18, 1)),
    ];
    return `M${points.map(([x, y]) => `${n(x)} ${n(y)}`).join('L')}Z`;
  };
  const blades: [angle: number, length: number, width: number, tone: 0 | 1 | 2][] = [
    [-1.05, 54, 13, 2],
    [1.0, 56, 14, 2],
    [-0.55, 78, 15, 1],
    [0.62, 74, 15, 1],
    [0.02, 88, 17, 0],
    [-0.9, 36, 9, 0],
    [0.9, 34, 9, 0],
  ];
  return blades.map(([angle, length, width, tone]) => ({ tone, d: blade(angle, length, width) }));
}

/** A firm bush that forks again and again. */
function bush(): AlgaLayer[] {
  const random = seeded(23);
  const byWidth = new Map<string, { tone: 0 | 1 | 2; line: number; d: string }>();
  const grow = (x: number, y: number, angle: number, length: number, level: number) => {
    // it grows up rather than out
    const [ex, ey] = [x + Math.sin(angle) * length * 0.84, y - Math.cos(angle) * length * 1.08];
    const tone = level > 3 ? 2 : level > 1 ? 1 : 0;
    const line = 1.5 + level * 0.55;
    const key = `${tone}-${line}`;
    const layer = byWidth.get(key) ?? { tone: tone as 0 | 1 | 2, line, d: '' };
    layer.d += `M${n(x)} ${n(y)}L${n(ex)} ${n(ey)}`;
    byWidth.set(key, layer);
    if (level === 0) return;
    const fork = 0.27 + random() * 0.16;
    grow(ex, ey, angle + fork, length * (0.78 + random() * 0.1), level - 1);
    grow(ex, ey, angle - fork, length * (0.78 + random() * 0.1), level - 1);
  };
  for (const [x, angle] of [
    [50, 0],
    [46, -0.42],
    [54, 0.44],
    [48, -0.25],
  ] as const)
    grow(x, 98, angle, 15 + random() * 2, 5);
  return [...byWidth.values()].sort((a, b) => b.line - a.line);
}

/** Leathery fronds with wavy edges and floats. */
function blades(): AlgaLayer[] {
  const random = seeded(12);
  const layers: AlgaLayer[] = [];
  const fronds: [x: number, lean: number, height: number, tone: 0 | 1 | 2][] = [
    [46, -34, 72, 2],
    [54, 32, 70, 2],
    [48, -17, 86, 1],
    [53, 15, 84, 1],
    [50, 0, 91, 0],
  ];
  for (const [x, lean, height, tone] of fronds) {
    const phase = random() * 6;
    const at = (t: number, side: number) => {
      const w = side * (2 + 5.2 * Math.sin(Math.PI * Math.min(1, t + 0.04)) + 0.9 * Math.sin(t * 26 + phase));
      return [x + lean * t * t + 3 * Math.sin(t * 5 + phase) * t + w, 97 - height * t] as const;
    };
    const points = [
      ...Array.from({ length: 25 }, (_, i) => at(i / 24, -1)),
      ...Array.from({ length: 25 }, (_, i) => at(1 - i / 24, 1)),
    ];
    layers.push({ tone, d: `M${points.map(([a, b]) => `${n(a)} ${n(b)}`).join('L')}Z` });
    const rib = Array.from({ length: 13 }, (_, i) => at(i / 13, 0));
    layers.push({
      tone: tone === 0 ? 1 : 2,
      d: rib.map(([a, b], i) => `${i === 0 ? 'M' : 'L'}${n(a)} ${n(b)}`).join(''),
      line: 1,
    });
  }
  const floats = [
    [31, 48],
    [66, 52],
    [42, 34],
    [60, 30],
  ] as const;
  layers.push({ tone: 1, d: floats.map(([x, y]) => `M${x} ${y}h0.01`).join(''), line: 6 });
  return layers;
}

const SHAPES: Record<AlgaId, () => AlgaLayer[]> = {
  greenTangle: tangle,
  featheryGreen: feathery,
  grapeGreen: grapes,
  redLeaf: leaf,
  redBush: bush,
  brownBlade: blades,
};
const made = new Map<AlgaId, AlgaLayer[]>();

/** The layers of a drawn alga, shapes of our own. */
export function algaLayers(id: AlgaId): AlgaLayer[] {
  let layers = made.get(id);
  if (!layers) made.set(id, (layers = SHAPES[id]()));
  return layers;
}
