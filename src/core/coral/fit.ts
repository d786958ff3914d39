import { type Appearance, ucsDistance } from '../colour/cam16';
import type { Spectrum } from '../spectrum/grid';
import type { Region } from './form';
import { appearanceUnder } from './glow';
import type { ChromoId, ProteinId } from './pigments';
import { regionWeights } from './seen';

/**
 * Fitting a region to what a keeper saw under each lone colour. The keeper picks the nearest of computed patches; every
 * combination of families, amounts and brown is a hypothesis whose colour under that light is computed the same way.
 */
export interface Hypothesis {
  region: Region;
  /** its families, the question that is asked: "green, brown" and the like */
  key: string;
}

const FITTED_PROTEINS: readonly ProteinId[] = ['cyan', 'shortGreen', 'green', 'yellow', 'orange', 'red'];
const FITTED_CHROMOS: readonly ChromoId[] = ['pink', 'purple', 'blue'];
const BROWNS = [0.08, 0.3, 0.6];
const AMOUNTS = [0.35, 0.8];
const CHROMO_AMOUNT = 0.6;

const base = (id: string): Region => ({ id, name: id, pale: 0.45, brown: 0, chromo: {}, proteins: {} });

let made: Hypothesis[] | undefined;
/** All hypotheses: one protein family or none, one chromoprotein or none, three degrees of brown. */
export function hypotheses(): Hypothesis[] {
  made ??= BROWNS.flatMap((brown) =>
    [null, ...FITTED_CHROMOS].flatMap((chromo) =>
      [null, ...FITTED_PROTEINS.flatMap((id) => AMOUNTS.map((amount) => ({ id, amount })))].map(
        (p): Hypothesis => ({
          key: `${p?.id ?? 'none'}/${chromo ?? 'none'}`,
          region: {
            ...base('fit'),
            brown,
            chromo: chromo ? { [chromo]: CHROMO_AMOUNT } : {},
            proteins: p ? { [p.id]: p.amount } : {},
          },
        }),
      ),
    ),
  );
  return made;
}

export interface Solo {
  id: string;
  name: string;
  /** the lone colour at the coral */
  light: Spectrum;
}

export interface Patch {
  index: number;
  xyz: readonly [number, number, number];
  ucs: Appearance['ucs'];
}

/** The patches that a keeper is offered for one lone colour, with the patch nearest to each hypothesis. */
export interface SoloPatches {
  solo: Solo;
  patches: Patch[];
  /** per hypothesis: its colour */
  colours: Appearance['ucs'][];
}

/** How many patches stand side by side: as many as an eye can choose among. */
export const PATCHES = 9;

const seenXyz = (region: Region, light: Spectrum): readonly [number, number, number] => {
  const w = regionWeights(region);
  return [0, 1, 2].map((k) => {
    let sum = 0;
    const [r, f] = [w.reflected[k as 0]!, w.fluorescent[k as 0]!];
    for (let i = 0; i < light.length; i += 1) sum += light[i]! * (r[i]! + f[i]!);
    return sum;
  }) as unknown as readonly [number, number, number];
};

/** Patches for a lone colour: colours of hypotheses that lie far apart, farthest first (greedy k-centre). */
export function patchesFor(solo: Solo): SoloPatches {
  const all = hypotheses();
  const look = appearanceUnder(solo.light, SOLO_ADAPTATION);
  const xyz = all.map((h) => seenXyz(h.region, solo.light));
  const colours = xyz.map((c) => look(c).ucs);
  const chosen = [0];
  const far = colours.map((c) => ucsDistance(c, colours[0]!));
  while (chosen.length < PATCHES) {
    const next = far.indexOf(Math.max(...far));
    if (far[next]! < SAME) break;
    chosen.push(next);
    colours.forEach((c, i) => (far[i] = Math.min(far[i]!, ucsDistance(c, colours[next]!))));
  }
  return {
    solo,
    colours,
    patches: chosen
      .sort((a, b) => colours[a]![0] - colours[b]![0])
      .map((h, index) => ({ index, xyz: xyz[h]!, ucs: colours[h]! })),
  };
}
/** Under a lone colour the eye hardly calls anything white. Mark: rule of thumb. */
const SOLO_ADAPTATION = 0.3;
/** Patches closer than this are one. */
const SAME = 2;
/** How far a pick may lie from what is there: eye, memory and screen together, CAM16-UCS. Mark: rule of thumb. */
export const PICK_NOISE = 6;

export interface FormFit {
  /** the most likely region */
  region: Region;
  key: string;
  /** probability of its families, 0..1 */
  confidence: number;
  /** the families that come next, with their probability */
  others: { key: string; probability: number }[];
  /** lone colours not yet looked at that would tell most, best first, with the expected gain in bits */
  tellMost: { id: string; name: string; bits: number }[];
}

/** Below this the picks do not decide. Mark: rule of thumb. */
export const SURE_ENOUGH = 0.5;

/**
 * What a region most likely is, from picks under lone colours.
 * @param all every lone colour of the lamp with its patches; @param picks index of the picked patch by solo id
 */
export function fitRegion(all: readonly SoloPatches[], picks: Readonly<Record<string, number>>): FormFit {
  const hs = hypotheses();
  const logs = hs.map(() => 0);
  for (const s of all) {
    const picked = picks[s.solo.id];
    const patch = picked === undefined ? undefined : s.patches[picked];
    if (!patch) continue;
    s.colours.forEach((c, h) => (logs[h]! -= ucsDistance(c, patch.ucs) ** 2 / (2 * PICK_NOISE ** 2)));
  }
  const top = Math.max(...logs);
  const weights = logs.map((l) => Math.exp(l - top));
  const total = weights.reduce((a, b) => a + b, 0);
  const probabilities = weights.map((w) => w / total);
  const byKey = new Map<string, number>();
  hs.forEach((h, i) => byKey.set(h.key, (byKey.get(h.key) ?? 0) + probabilities[i]!));
  const ranked = [...byKey].sort((a, b) => b[1] - a[1]);
  const [key, confidence] = ranked[0]!;
  const best = hs.reduce(
    (b, h, i) => (h.key === key && (b < 0 || probabilities[i]! > probabilities[b]!) ? i : b),
    -1,
  );
  return {
    region: hs[best]!.region,
    key,
    confidence,
    others: ranked.slice(1, 4).map(([k, probability]) => ({ key: k, probability })),
    tellMost: all
      .filter((s) => picks[s.solo.id] === undefined)
      .map((s) => ({ id: s.solo.id, name: s.solo.name, bits: expectedBits(s, probabilities) }))
      .sort((a, b) => b.bits - a.bits),
  };
}

/** Mutual information between a pick under a lone colour and the hypothesis: how much looking would tell, in bits. */
function expectedBits(s: SoloPatches, probabilities: readonly number[]): number {
  const marginal = s.patches.map(() => 0);
  let conditional = 0;
  s.colours.forEach((c, h) => {
    const p = probabilities[h]!;
    if (p < 1e-9) return;
    const likely = s.patches.map((patch) =>
      Math.exp(-(ucsDistance(c, patch.ucs) ** 2) / (2 * PICK_NOISE ** 2)),
    );
    const sum = likely.reduce((a, b) => a + b, 0) || 1;
    likely.forEach((l, k) => {
      const q = l / sum;
      marginal[k]! += p * q;
      if (q > 0) conditional -= p * q * Math.log2(q);
    });
  });
  const entropy = marginal.reduce((sum, q) => (q > 0 ? sum - q * Math.log2(q) : sum), 0);
  return Math.max(0, entropy - conditional);
}

/** "green, with purple" in words. */
export function familyWords(key: string): string {
  const [p, c] = key.split('/') as [string, string];
  const names: Record<string, string> = { shortGreen: 'short-wave green', orange: 'orange-red' };
  const glow = p === 'none' ? 'no glow' : `${names[p] ?? p} glow`;
  return c === 'none' ? glow : `${glow}, ${c} chromoprotein`;
}
