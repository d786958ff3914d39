import type { ShapeId } from '@/core/coral/form';
import { seeded } from '@/core/spectrum/random';

/**
 * One layer of a drawn coral, from back to front: which region it shows and its outline in a box of 100 × 100 whose lower
 * edge is where the coral sits. `shade` layers darken what lies below, without a colour of their own.
 */
export interface Layer {
  region: number | 'shade';
  d: string;
  /** drawn as a round line of this width instead of a filled shape */
  line?: number;
}

const n = (v: number) => String(Math.round(v * 10) / 10);
const dot = (x: number, y: number) => `M${n(x)} ${n(y)}h0.01`;
const ellipse = (cx: number, cy: number, rx: number, ry: number) =>
  `M${n(cx - rx)} ${n(cy)}a${n(rx)} ${n(ry)} 0 1 0 ${n(2 * rx)} 0a${n(rx)} ${n(ry)} 0 1 0 ${n(-2 * rx)} 0Z`;

/** A soft closed outline through points. */
function blob(points: readonly (readonly [number, number])[]): string {
  const at = (i: number) => points[(i + points.length) % points.length]!;
  const parts = points.map((_, i) => {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    const k = 1 / 6;
    return `C${n(b[0] + (c[0] - a[0]) * k)} ${n(b[1] + (c[1] - a[1]) * k)} ${n(c[0] - (d[0] - b[0]) * k)} ${n(c[1] - (d[1] - b[1]) * k)} ${n(c[0])} ${n(c[1])}`;
  });
  return `M${n(points[0]![0])} ${n(points[0]![1])}${parts.join('')}Z`;
}

function branch(): Layer[] {
  const random = seeded(11);
  const body: Record<number, string[]> = {};
  const tips: string[] = [];
  const shade: string[] = [];
  const polyps: string[] = [];
  const grow = (x: number, y: number, angle: number, length: number, width: number, level: number) => {
    const bend = angle + (random() - 0.5) * 0.25;
    const [mx, my] = [x + (Math.cos(angle) * length) / 2, y - (Math.sin(angle) * length) / 2];
    const [ex, ey] = [mx + (Math.cos(bend) * length) / 2, my - (Math.sin(bend) * length) / 2];
    (body[width] ??= []).push(`M${n(x)} ${n(y)}Q${n(mx)} ${n(my)} ${n(ex)} ${n(ey)}`);
    shade.push(
      `M${n(x + width * 0.28)} ${n(y)}Q${n(mx + width * 0.28)} ${n(my)} ${n(ex + width * 0.2)} ${n(ey)}`,
    );
    for (let i = 1; i < 4; i += 1) {
      const t = i / 4;
      polyps.push(dot(x + (ex - x) * t + (random() - 0.5) * width, y + (ey - y) * t));
    }
    if (level === 0) {
      tips.push(
        `M${n(ex - Math.cos(bend) * length * 0.28)} ${n(ey + Math.sin(bend) * length * 0.28)}L${n(ex)} ${n(ey)}`,
      );
      return;
    }
    const spread = 0.42 + random() * 0.2;
    grow(ex, ey, bend + spread, length * (0.72 + random() * 0.12), Math.max(3.4, width * 0.74), level - 1);
    grow(ex, ey, bend - spread, length * (0.72 + random() * 0.12), Math.max(3.4, width * 0.74), level - 1);
    if (level === 2) grow(ex, ey, bend, length * 0.8, Math.max(3.4, width * 0.74), level - 1);
  };
  grow(50, 101, Math.PI / 2, 25, 10, 3);
  grow(43, 101, Math.PI / 2 + 0.62, 22, 8, 2);
  grow(57, 101, Math.PI / 2 - 0.66, 22, 8, 2);
  return [
    ...Object.entries(body)
      .sort((a, b) => Number(b[0]) - Number(a[0]))
      .map(([w, d]): Layer => ({ region: 1, d: d.join(''), line: Number(Number(w).toFixed(1)) })),
    { region: 'shade', d: shade.join(''), line: 1.6 },
    { region: 0, d: tips.join(''), line: 4.2 },
    { region: 2, d: polyps.join(''), line: 1.5 },
  ];
}

function table(): Layer[] {
  const random = seeded(5);
  const bumps: string[] = [];
  const rim: string[] = [];
  const polyps: string[] = [];
  for (let i = 0; i < 90; i += 1) {
    const a = random() * Math.PI * 2;
    const r = Math.sqrt(random());
    const [x, y] = [50 + Math.cos(a) * 46 * r, 48 + Math.sin(a) * 13 * r];
    bumps.push(`M${n(x)} ${n(y)}l${n((x - 50) * 0.05)} ${n(-4 - random() * 3)}`);
    if (i % 2 === 0) polyps.push(dot(x + (x - 50) * 0.05, y - 6));
  }
  for (let i = 0; i < 46; i += 1) {
    const a = (i / 46) * Math.PI * 2;
    const [x, y] = [50 + Math.cos(a) * 47, 48 + Math.sin(a) * 13.5];
    rim.push(`M${n(x)} ${n(y)}l${n(Math.cos(a) * 2.6)} ${n(-2.4 + Math.sin(a))}`);
  }
  return [
    { region: 1, d: 'M40 101C44 84 45 72 36 60L64 60C55 72 56 84 60 101Z' },
    { region: 'shade', d: 'M52 101C52 84 55 72 52 60L64 60C55 72 56 84 60 101Z' },
    { region: 1, d: ellipse(50, 50, 47, 14) },
    { region: 'shade', d: 'M3 51C10 66 90 66 97 51C92 70 8 70 3 51Z' },
    { region: 1, d: bumps.join(''), line: 3.6 },
    { region: 0, d: rim.join(''), line: 3.6 },
    { region: 2, d: polyps.join(''), line: 1.4 },
  ];
}

function plate(): Layer[] {
  const fan = (cx: number, cy: number, w: number, h: number, lean: number): [fill: string, edge: string] => {
    const points: [number, number][] = [];
    for (let i = 0; i <= 12; i += 1) {
      const a = Math.PI * (1 - i / 12);
      const wave = 1 + 0.05 * Math.sin(i * 2.3 + cx);
      points.push([cx + Math.cos(a) * w * wave + lean * Math.sin(a), cy - Math.sin(a) * h * wave]);
    }
    const edge = points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${n(x)} ${n(y)}`).join('');
    return [blob([...points, [cx + w * 0.3, cy + 7], [cx - w * 0.3, cy + 7]]), edge];
  };
  const fans = [
    fan(50, 58, 42, 38, 4),
    fan(34, 76, 34, 30, -7),
    fan(66, 82, 35, 28, 8),
    fan(46, 95, 40, 24, -2),
  ];
  const dots: string[] = [];
  const random = seeded(21);
  for (let i = 0; i < 60; i += 1) {
    const a = Math.PI * random();
    const r = 0.25 + 0.6 * random();
    const [cx, cy, w, h] = [
      [50, 58, 42, 38],
      [34, 76, 34, 30],
      [66, 82, 35, 28],
      [46, 95, 40, 24],
    ][i % 4]!;
    dots.push(dot(cx! + Math.cos(a) * w! * r, cy! - Math.sin(a) * h! * r));
  }
  return [
    ...fans.flatMap(([fill, edge], i): Layer[] => [
      { region: 1, d: fill },
      ...(i < 3 ? [{ region: 'shade' as const, d: fans[i + 1]![1], line: 5 }] : []),
      { region: 0, d: edge, line: 3 },
    ]),
    { region: 2, d: dots.join(''), line: 1.7 },
  ];
}

function crust(): Layer[] {
  const random = seeded(3);
  const outline: [number, number][] = [
    [2, 101],
    [7, 86],
    [20, 76],
    [34, 78],
    [47, 66],
    [63, 68],
    [76, 76],
    [90, 82],
    [98, 101],
    [70, 102],
    [30, 102],
  ];
  const dots: string[] = [];
  const rings: string[] = [];
  for (let i = 0; i < 70; i += 1) {
    const x = 8 + 84 * random();
    const top = 72 + Math.abs(x - 52) * 0.36;
    const y = top + 5 + random() * (96 - top);
    dots.push(dot(x, y));
    if (i % 3 === 0) rings.push(dot(x, y));
  }
  return [
    { region: 0, d: blob(outline) },
    { region: 'shade', d: 'M4 99C30 90 70 91 97 99L98 102L2 102Z' },
    { region: 'shade', d: rings.join(''), line: 4.4 },
    { region: 1, d: dots.join(''), line: 2.6 },
  ];
}

function brain(): Layer[] {
  const lines: string[] = [];
  for (let k = 0; k < 9; k += 1) {
    const y = 44 + k * 6.6;
    const half = 46 * Math.sqrt(Math.max(0, 1 - ((100 - y) / 62) ** 2));
    const left = 50 - half + 3;
    const right = 50 + half - 3;
    let d = `M${n(left)} ${n(y)}`;
    const waves = 5 + (k % 3);
    for (let i = 1; i <= waves * 2; i += 1) {
      const x = left + ((right - left) * i) / (waves * 2);
      const up = i % 2 === 0 ? 1 : -1;
      d += `Q${n(x - (right - left) / (waves * 4))} ${n(y + up * (4.4 + (k % 2)))} ${n(x)} ${n(y)}`;
    }
    lines.push(d);
  }
  const dome = 'M4 101C2 62 24 38 50 38C76 38 98 62 96 101Z';
  return [
    { region: 0, d: dome },
    { region: 'shade', d: 'M66 41C88 50 98 72 96 101L82 101C88 76 82 54 66 41Z' },
    { region: 'shade', d: lines.join(''), line: 5 },
    { region: 1, d: lines.join(''), line: 3.4 },
  ];
}

function cup(): Layer[] {
  const random = seeded(8);
  const eyes: string[] = [];
  for (let i = 0; i < 15; i += 1) {
    const a = random() * Math.PI * 2;
    const r = 0.2 + 0.62 * Math.sqrt(random());
    eyes.push(dot(50 + Math.cos(a) * 38 * r, 47 + Math.sin(a) * 12 * r));
  }
  for (let i = 0; i < 8; i += 1) eyes.push(dot(22 + i * 8, 68 + Math.sin(i) * 5));
  const lip = 'M6 48C12 34 30 30 50 31C72 29 90 36 95 47C88 62 70 64 50 63C28 65 12 62 6 48Z';
  return [
    { region: 0, d: 'M8 50C16 74 34 88 42 101L58 101C66 88 84 74 93 50Z' },
    { region: 'shade', d: 'M60 101C70 86 84 72 93 50L80 56C72 76 62 88 55 101Z' },
    { region: 0, d: lip },
    { region: 'shade', d: 'M16 49C24 39 38 37 50 38C66 36 80 40 86 48C78 57 66 58 50 57C34 59 22 56 16 49Z' },
    { region: 1, d: lip.replace(/Z$/, ''), line: 3.4 },
    { region: 'shade', d: eyes.join(''), line: 6 },
    { region: 2, d: eyes.join(''), line: 4 },
  ];
}

function polyps(): Layer[] {
  const heads: [number, number, number][] = [
    [30, 52, 15],
    [54, 42, 17],
    [76, 56, 14],
    [18, 74, 13],
    [44, 70, 16],
    [66, 76, 15],
    [86, 80, 12],
    [30, 90, 13],
    [54, 93, 14],
  ];
  const arms = (cx: number, cy: number, r: number) =>
    Array.from({ length: 16 }, (_, i) => {
      const a = (i / 16) * Math.PI * 2 + cx;
      return `M${n(cx + Math.cos(a) * r * 0.25)} ${n(cy + Math.sin(a) * r * 0.2)}Q${n(cx + Math.cos(a + 0.2) * r * 0.7)} ${n(cy + Math.sin(a + 0.2) * r * 0.6 - 2)} ${n(cx + Math.cos(a) * r)} ${n(cy + Math.sin(a) * r * 0.8)}`;
    }).join('');
  return [
    {
      region: 1,
      d: heads.map(([x, y]) => `M${n(x)} ${n(y)}L${n(50 + (x - 50) * 0.7)} 102`).join(''),
      line: 6,
    },
    {
      region: 'shade',
      d: heads.map(([x, y]) => `M${n(x + 2)} ${n(y)}L${n(52 + (x - 50) * 0.7)} 102`).join(''),
      line: 2.4,
    },
    { region: 'shade', d: heads.map(([x, y, r]) => ellipse(x, y + 2, r * 0.9, r * 0.72)).join('') },
    { region: 0, d: heads.map(([x, y, r]) => arms(x, y, r)).join(''), line: 2.7 },
    { region: 0, d: heads.map(([x, y, r]) => ellipse(x, y, r * 0.42, r * 0.34)).join('') },
    { region: 1, d: heads.map(([x, y]) => dot(x, y)).join(''), line: 4 },
  ];
}

function disc(): Layer[] {
  const discs: [number, number, number][] = [
    [34, 62, 27],
    [72, 70, 24],
    [22, 88, 19],
    [54, 92, 22],
    [86, 93, 15],
  ];
  return discs.flatMap(([x, y, r]): Layer[] => [
    { region: 'shade', d: ellipse(x + 2, y + 3, r + 1, r * 0.56) },
    { region: 0, d: ellipse(x, y, r, r * 0.55) },
    { region: 1, d: ellipse(x, y - 0.5, r * 0.76, r * 0.4) },
    {
      region: 'shade',
      d: Array.from({ length: 14 }, (_, i) => {
        const a = (i / 14) * Math.PI * 2;
        return `M${n(x + Math.cos(a) * r * 0.3)} ${n(y + Math.sin(a) * r * 0.16)}L${n(x + Math.cos(a) * r * 0.7)} ${n(y + Math.sin(a) * r * 0.37)}`;
      }).join(''),
      line: 0.9,
    },
    { region: 2, d: ellipse(x, y - 0.5, r * 0.28, r * 0.15) },
  ]);
}

function leather(): Layer[] {
  const random = seeded(14);
  const dots: string[] = [];
  for (let i = 0; i < 80; i += 1) {
    const a = Math.PI * random();
    const r = 0.3 + 0.68 * random();
    dots.push(`M${n(50 + Math.cos(a) * 45 * r)} ${n(56 - Math.sin(a) * 26 * r)}l0 ${n(-3 - 2 * random())}`);
  }
  const cap =
    'M4 58C2 40 22 26 50 27C78 26 98 40 96 58C90 68 82 60 75 68C68 74 60 62 50 69C40 63 32 74 25 67C18 60 10 68 4 58Z';
  return [
    { region: 1, d: 'M30 102C36 86 34 74 28 62L72 62C66 74 64 86 70 102Z' },
    { region: 'shade', d: 'M56 102C56 84 58 74 58 62L72 62C66 74 64 86 70 102Z' },
    { region: 0, d: cap },
    {
      region: 'shade',
      d: 'M25 67C18 60 10 68 4 58C14 62 30 56 38 60C46 56 60 62 66 58C76 62 88 60 96 58C90 68 82 60 75 68C68 74 60 62 50 69C40 63 32 74 25 67Z',
    },
    { region: 2, d: dots.join(''), line: 1.6 },
  ];
}

function tentacles(): Layer[] {
  const random = seeded(31);
  const arms: string[] = [];
  const ends: string[] = [];
  for (let i = 0; i < 34; i += 1) {
    const t = i / 33;
    const x = 20 + 60 * t;
    const lean = (t - 0.5) * 60 + (random() - 0.5) * 16;
    const top = 22 + Math.abs(t - 0.5) * 44 + random() * 16;
    const [ex, ey] = [x + lean * 0.8, top];
    arms.push(
      `M${n(x)} 84C${n(x + lean * 0.1)} ${n(66)} ${n(ex - lean * 0.3)} ${n(ey + 22)} ${n(ex)} ${n(ey)}`,
    );
    ends.push(dot(ex, ey));
  }
  return [
    { region: 2, d: 'M22 82C24 94 32 102 36 102L64 102C68 102 76 94 78 82Z' },
    { region: 'shade', d: 'M56 102C60 96 66 90 66 82L78 82C76 94 68 102 64 102Z' },
    { region: 'shade', d: arms.join(''), line: 5.6 },
    { region: 1, d: arms.join(''), line: 4 },
    { region: 0, d: ends.join(''), line: 5.4 },
  ];
}

const MAKERS: Record<ShapeId, () => Layer[]> = {
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
};
const made = new Map<ShapeId, Layer[]>();

/** The layers of a shape, drawn once. */
export function layersOf(shape: ShapeId): Layer[] {
  let layers = made.get(shape);
  if (!layers) made.set(shape, (layers = MAKERS[shape]()));
  return layers;
}
