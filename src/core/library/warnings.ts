import { tintOf } from '../colour/tint';
import { blueBreadthNm, bandName, bandRange, sharesOfPar } from '../mix/shape';
import type { Spectrum } from '../spectrum/grid';
import type { LampKind } from '../spectrum/lampKind';
import { bandsHeld, hasBlues, TOKEN_SHARE } from './held';

export interface MixWarning {
  id: 'looksViolet' | 'hardly' | 'red' | 'singleBlue';
  text: string;
}

/** Red above this share of PAR is widely held to harm and browns the look. Mark: rule of thumb. */
export const RED_CEILING_SHARE = 0.08;
/** Red at which red + blue begins to look violet. Mark: rule of thumb. */
const RED_SEEN_SHARE = 0.04;
/** Below this share of PAR there is next to no violet light. Mark: rule of thumb. */
const VIOLET_REAL_SHARE = 0.03;
/** Breadth of the blue region below which a single kind of emitter does everything, nm. Mark: rule of thumb. */
const SINGLE_BLUE_NM = 44;
/** A blue region smaller than this share of PAR is not judged. */
const BLUE_MATTERS = 0.3;

const share = (v: number) => `${Math.round(v * 1000) / 10} %`;

/**
 * Warnings by name, each with the figures it rests on; none when none is true.
 * @param spectrum the mix where it is looked at
 */
export function mixWarnings(
  kind: LampKind,
  spectrum: Spectrum,
  redCeiling = RED_CEILING_SHARE,
): MixWarning[] {
  const shares = sharesOfPar(spectrum);
  const tint = tintOf(spectrum);
  if (!tint) return [];
  const out: MixWarning[] = [];
  if (
    shares.violet < VIOLET_REAL_SHARE &&
    shares.red > RED_SEEN_SHARE &&
    /violet|magenta/.test(tint.hue) &&
    shares.royalBlue + shares.blue > shares.green
  ) {
    out.push({
      id: 'looksViolet',
      text: `This only looks violet: red and blue together. Of its PAR ${share(shares.violet)} is violet light (400–430 nm); pigments that want violet do not get it.`,
    });
  }
  const held = bandsHeld(kind).filter(
    (b) => hasBlues(kind) && b.holds === 'token' && ['nearUv', 'violet', 'cyan'].includes(b.id),
  );
  for (const b of held) {
    out.push({
      id: 'hardly',
      text: `This lamp hardly has ${bandName(b.id)} (${bandRange(b.id)} nm): ${share(b.share)} of its photons with all blues full, under ${share(TOKEN_SHARE)}.`,
    });
  }
  if (shares.red > redCeiling) {
    out.push({
      id: 'red',
      text: `Red is ${share(shares.red)} of PAR, above ${share(redCeiling)} (rule of thumb): much red is widely held to harm corals, and it browns the look.`,
    });
  }
  const breadth = blueBreadthNm(spectrum);
  const blues = shares.violet + shares.royalBlue + shares.blue + shares.cyan;
  if (breadth !== null && breadth < SINGLE_BLUE_NM && blues > BLUE_MATTERS) {
    out.push({
      id: 'singleBlue',
      text: `A single blue does everything: the blue region is ${Math.round(breadth)} nm broad where several kinds of emitters reach 60 and more.`,
    });
  }
  return out;
}
