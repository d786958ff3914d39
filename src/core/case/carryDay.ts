import { DAY_MINUTES } from '../shape/ring';
import { levelsAt, overall, topOf } from '../day/day';
import { lampLevels, type ResolvedThread, threadBetween } from '../day/thread';
import { boundedFit } from '../mix/boundedFit';
import { carryToLamp, MATCH_PER_HALVING, matchAtEqualPar } from '../mix/carry';
import { BANDS, bandShares, par } from '../spectrum/bands';
import { channelLevels } from '../spectrum/controls';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { addScaled, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { channelSpectrum, keptSpectrum } from '../spectrum/lamp';
import { emittedShares } from '../spectrum/drive';
import type { LitGroup } from './lit';

/** A day made for other hardware, as it falls on a coral there. */
export interface ForeignDay {
  lit: LitGroup;
  /** spectra of its channels at full at its coral, µmol m⁻² s⁻¹ nm⁻¹ */
  spectra: readonly Spectrum[];
}

/** The lamp that is to carry it, at the keeper's own coral. */
export interface CarryTarget {
  kind: LampKind;
  spectra: readonly Spectrum[];
}

export interface CarriedThread extends ResolvedThread {
  /** 1 − ‖residual‖/‖source‖ at equal PAR */
  match: number;
  /** PAR at the coral that the source has there, and that the carried thread gives, µmol */
  wantedUmol: number;
  givenUmol: number;
}

export interface CarriedDay {
  threads: CarriedThread[];
  capShare: number;
  /** PAR-weighted match over the day */
  match: number;
  /** light of the carried day over the source's at its brightest moment; below 1 where the lamp cannot reach it */
  reachShare: number;
  /** what cannot be had, in sentences */
  lost: string[];
}

/** Slopes become steps of this length on a lamp that holds its values, minutes. Mark: rule of thumb. */
const HELD_STEP_MIN = 30;

/**
 * The points at which a day is carried. A lamp that ramps follows a held day by a second point a minute before each change; one
 * that holds follows slopes in steps, each at the light of its middle.
 */
function pointsFor(lit: LitGroup, kind: LampKind): ResolvedThread[] {
  const { threads } = lit;
  const from = lit.day.interpolation;
  const to = kind.controller.interpolation;
  if (from === to || threads.length < 2) return threads;
  const taken = new Set(threads.map((t) => t.minute));
  return threads
    .flatMap((t, i): ResolvedThread[] => {
      const before = threads[(i + threads.length - 1) % threads.length]!;
      if (from === 'hold') {
        const eve = (t.minute + DAY_MINUTES - 1) % DAY_MINUTES;
        return taken.has(eve) ? [t] : [{ ...before, minute: eve }, t];
      }
      const next = threads[(i + 1) % threads.length]!;
      const span = (next.minute - t.minute + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
      if (t.strengthShare === 0 && next.strengthShare === 0) return [t];
      const steps = Math.max(1, Math.round(span / HELD_STEP_MIN));
      return Array.from({ length: steps }, (_, k) => {
        const at = (minute: number) => Math.round(t.minute + minute) % DAY_MINUTES;
        return {
          ...threadBetween(threads, at((span * (k + 0.5)) / steps), lit.lampKind),
          minute: at((span * k) / steps),
        };
      });
    })
    .sort((a, b) => a.minute - b.minute);
}

const sumOf = (spectra: readonly Spectrum[], levels: readonly number[]): Spectrum => {
  const out = zeroSpectrum();
  levels.forEach((l, c) => {
    if (l > 0) addScaled(out, spectra[c]!, l);
  });
  return out;
};

/** Caps are typed in steps of at least this. */
const CAP_STEP = 0.01;
/** A band that holds this much of the source and less than half of it in the result is named as lost. Mark: rule of thumb. */
const BAND_NAMED = 0.03;

/**
 * Carries a day to another lamp: per thread the mix whose spectrum at the coral is nearest, then strengths and one cap that
 * give the source's PAR. To the same lamp at the same place it is the identity.
 */
export function carryDay(source: ForeignDay, target: CarryTarget): CarriedDay {
  const { lit } = source;
  const moments = pointsFor(lit, target.kind).map((t) => {
    // on the day's own points this is what the lamp emits then
    const day = {
      ...lit.day,
      knots: [{ minute: 0, levels: lampLevels(lit.lampKind, t.mix, t.strengthShare) }],
    };
    const levels = levelsAt({ ...day, top: lit.day.top ?? topOf(lit.day.knots) }, 0);
    return { thread: t, spectrum: sumOf(source.spectra, levels) };
  });
  // a thread that is dark still has a mix that its neighbours run to
  const mixes = new Map<string, { mix: Levels; match: number; full: Spectrum; room: number }>();
  const mixFor = (t: ResolvedThread, spectrum: Spectrum, strength: number) => {
    const key = JSON.stringify(t.mix);
    let made = mixes.get(key);
    if (!made && par(spectrum) > 0) {
      made = carriedMix(spectrum, target, strength);
      mixes.set(key, made);
    }
    return made;
  };
  const lightOf = (t: ResolvedThread, s: Spectrum) =>
    par(s) > 0 ? s : sumOf(source.spectra, emitted(lit.lampKind, t.mix));
  const overallShare = overall(lit.day);
  const carried = moments.map(({ thread, spectrum }) => ({
    thread,
    wanted: par(spectrum),
    mix: mixFor(
      thread,
      lightOf(thread, spectrum),
      par(spectrum) > 0 ? thread.strengthShare * overallShare : 1,
    ),
    spectrum,
  }));
  const needs = () => carried.map((c) => (c.mix && par(c.mix.full) > 0 ? c.wanted / par(c.mix.full) : 0));
  // the cap takes what all threads have in common, so that strengths stay what they were
  const strongest = Math.max(1e-9, ...moments.map((m) => m.thread.strengthShare));
  // where a least-squares mix is weaker than the source, all mixes rise together as far as their keys go
  const rise = Math.min(Math.max(0, ...needs()) / strongest, ...[...mixes.values()].map((m) => m.room));
  if (rise > 1 + 1e-6)
    for (const m of mixes.values()) {
      m.mix = stronger(target.kind, m.mix, rise);
      m.full = sumOf(target.spectra, emitted(target.kind, m.mix));
    }
  const need = needs();
  const most = Math.max(0, ...need);
  const dimmable = target.kind.controls.some((c) => c.kind === 'level' || c.kind === 'brightness');
  // a cap as it is typed: in whole steps, up, and the strengths take the rest back
  const step = Math.max(CAP_STEP, target.kind.controller.pointStepShare);
  const stepped = Math.ceil(most / strongest / step - 1e-6) * step;
  const cap = !dimmable ? 1 : Math.min(1, Math.max(step, stepped));
  const over = most / (cap * strongest) > 1 + 1e-9 ? 1 / most : 1;
  const threads = carried.map((c, i): CarriedThread => {
    const strengthShare = !dimmable ? (need[i]! > 0.5 ? 1 : 0) : Math.min(1, (need[i]! * over) / cap);
    const given = c.mix ? par(c.mix.full) * strengthShare * cap : 0;
    return {
      minute: c.thread.minute,
      strengthShare: Math.round(strengthShare * 1e6) / 1e6,
      mix: c.mix?.mix ?? {},
      match: c.mix && c.wanted > 0 ? c.mix.match : 1,
      wantedUmol: c.wanted,
      givenUmol: given,
    };
  });
  const weight = carried.reduce((sum, c) => sum + c.wanted, 0);
  const brightest = threads.reduce((a, b) => (b.wantedUmol > a.wantedUmol ? b : a), threads[0]!);
  return {
    threads,
    capShare: Math.round(cap * 1e4) / 1e4,
    match: weight > 0 ? threads.reduce((sum, t) => sum + t.match * t.wantedUmol, 0) / weight : 1,
    reachShare: brightest && brightest.wantedUmol > 0 ? brightest.givenUmol / brightest.wantedUmol : 1,
    lost: lostWords(carried, target, threads),
  };
}

/** A mix with its levels and brightness times a factor. */
const stronger = (kind: LampKind, mix: Levels, factor: number): Levels =>
  Object.fromEntries(
    kind.controls.map((c) => {
      const v = mix[c.id] ?? 0;
      return [c.id, c.kind === 'level' || c.kind === 'brightness' ? Math.min(1, v * factor) : v];
    }),
  );

/** Emitted shares of a mix at full strength. */
const emitted = (kind: LampKind, mix: Levels): number[] => emittedShares(kind, channelLevels(kind, mix));

/**
 * The mix of the target's controls whose spectrum at the coral is nearest to a light, freed of the strength that the light has of
 * its own mix: strength and cap then say how much of it.
 */
function carriedMix(source: Spectrum, { kind, spectra }: CarryTarget, strength: number) {
  // what each channel keeps on its way to the coral, where it has light at all
  const through = zeroSpectrum();
  const sent = zeroSpectrum();
  const kept = zeroSpectrum();
  kind.channels.forEach((c, i) => {
    addScaled(sent, keptSpectrum(c), 1);
    addScaled(kept, spectra[i]!, 1);
  });
  for (let i = 0; i < through.length; i += 1) through[i] = sent[i]! > 1e-12 ? kept[i]! / sent[i]! : 0;
  const behind = (s: Spectrum) => s.map((v, i) => v * through[i]!);
  // the same light as if it left the lamp; where the way is dark there is nothing to match
  const atLamp = source.map((v, i) => (through[i]! > 1e-12 ? v / through[i]! : 0));
  const usable = par(behind(atLamp)) > 0 ? atLamp : source;
  const tries = [carryToLamp(usable, kind, through).mix];
  // on a lamp of levels the spectra at the coral themselves can be fitted
  if (kind.controls.every((c) => c.kind === 'level')) {
    // over all of the grid: near UV that the source has not is a fault, though it is no PAR
    const columns = kind.controls.map((c) => sumOf(spectra, channelLevels(kind, { [c.id]: 1 })));
    const { x } = boundedFit(columns, source);
    tries.push(Object.fromEntries(kind.controls.map((c, i) => [c.id, x[i]!])));
  }
  const worth = (m: Levels): number => {
    const light = sumOf(spectra, emitted(kind, m));
    const ratio = par(light) / par(source);
    if (!(ratio > 0)) return -Infinity;
    const off = Math.hypot(...source.map((v, i) => v * ratio - light[i]!));
    return 1 - off / (ratio * Math.hypot(...source)) + MATCH_PER_HALVING * Math.log2(Math.min(1, ratio));
  };
  const mix = tries.reduce((a, b) => (worth(b) >= worth(a) ? b : a));
  const top = Math.max(
    0,
    ...kind.controls.flatMap((c) => (c.kind === 'level' || c.kind === 'brightness' ? [mix[c.id] ?? 0] : [])),
  );
  const scale = top > 0 ? Math.min(1 / top, 1 / Math.max(strength, 1e-9)) : 1;
  const full = stronger(kind, mix, scale);
  const light = sumOf(spectra, emitted(kind, full));
  return {
    mix: full,
    match: matchAtEqualPar(source, light),
    full: light,
    /** how much stronger it could be made before a key is at its end */
    room: top > 0 ? 1 / (top * scale) : 1,
  };
}

function lostWords(
  carried: readonly {
    wanted: number;
    mix: { mix: Levels; match: number; full: Spectrum } | undefined;
    spectrum: Spectrum;
  }[],
  target: CarryTarget,
  threads: readonly CarriedThread[],
): string[] {
  const out: string[] = [];
  const sums = { source: zeroSpectrum(), given: zeroSpectrum() };
  carried.forEach((c, i) => {
    if (!c.mix || c.wanted <= 0) return;
    addScaled(sums.source, c.spectrum, 1);
    const full = par(c.mix.full);
    if (full > 0) addScaled(sums.given, c.mix.full, threads[i]!.wantedUmol / full);
  });
  const [want, have] = [bandShares(sums.source), bandShares(sums.given)];
  const held = bandShares(
    target.kind.channels.reduce((s, c) => {
      addScaled(s, channelSpectrum(c), 1);
      return s;
    }, zeroSpectrum()),
  );
  const gain = BANDS.map((b) => ({ name: b.name, more: have[b.id] - want[b.id] })).sort(
    (a, b) => b.more - a.more,
  )[0]!;
  for (const b of BANDS) {
    if (want[b.id] < BAND_NAMED || have[b.id] > want[b.id] / 2) continue;
    out.push(
      `${held[b.id] < 0.01 ? `no emitter for ${b.name} (${b.fromNm}-${b.toNm} nm)` : `less ${b.name}`}: ${Math.round(want[b.id] * 100)} % of the light there becomes ${Math.round(have[b.id] * 100)} %, most of it goes to ${gain.name}`,
    );
  }
  return out;
}
