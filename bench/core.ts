import { bareCalibration, hungGroups } from '@/core/case/calibration';
import { chooseSteps } from '@/core/case/choose';
import { wholeSteps } from '@/core/case/whole';
import { hangSteps, hungLight } from '@/core/case/hang';
import { swapSteps } from '@/core/case/swap';
import { dayAt, levelsOfGroups, parTable, spectrumUnder, zoneLight } from '@/core/case/light';
import { draftGroups, rigOf } from '@/core/case/lit';
import { replay } from '@/core/case/replay';
import { patternDay } from '@/core/case/patterns';
import { answerSteps, type FitAsk, fitJudge } from '@/core/controller/answers';
import { FIT_WEIGHTS, fitCost } from '@/core/controller/fitTerms';
import { reduceDay } from '@/core/controller/reduce';
import { dli, levelsAt, parOf } from '@/core/day/day';
import { lampDay, threadBetween } from '@/core/day/thread';
import { seeded } from '@/core/spectrum/random';
import { computeResponse, parAt, spectrumAt } from '@/core/optics/response';
import { seeUnder } from '@/core/colour/look';
import { xyzOf } from '@/core/colour/xyz';
import { FORMS, libraryForm } from '@/core/coral/form';
import { lookerOf } from '@/core/portrait/lookers';
import { lampLevels, portraitOf } from '@/core/portrait/ofZone';
import { atEveryDepth, onScreen, paint, palette, thin } from '@/core/portrait/relight';
import { portraitScene } from '@/core/portrait/scene';
import { formSeen, lightFrom, regionOptics } from '@/core/coral/seen';
import { design } from '@/core/mix/design';
import { SCHOOLS } from '@/core/mix/schools';
import { lampLibrary } from '@/core/library/lamps';
import { boundedFit } from '@/core/mix/boundedFit';
import { carryToLamp, fitted } from '@/core/mix/carry';
import { photographMix } from '@/core/mix/photograph';
import { keptSpectrum, mixSpectrum } from '@/core/spectrum/lamp';
import { demoPanel } from '@/demo/panel';
import { emissionSpectrum } from '@/core/spectrum/emission';
import { BANDS, bandPhotons, par } from '@/core/spectrum/bands';
import { attenuationPerM } from '@/core/optics/water';
import { fresnelIntoWater, SEA_WATER_INDEX } from '@/core/optics/refraction';
import { watersCase } from '@/demo/lagoon';

import { alga } from '@/core/feeding/algae';
import { matLight, worthOf } from '@/core/refugium/growth';
import { judgeMat } from '@/core/refugium/judge';
import { harvestsOf, testsOf } from '@/core/refugium/harvests';
import { lampForSteps } from '@/core/refugium/lampFor';
import { matPlaces } from '@/core/refugium/roles';
import { allFull } from '@/core/spectrum/controls';

import { medianMs, report } from './timing';

const bundle = watersCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const rig = rigOf(groups, zone, zone.spots);
const matrix = computeResponse(rig);
const light = zoneLight(matrix, groups);

/** A pull by recomputing everything from the emitters, by plain bisection: what a response matrix saves. */
function naiveParAtSpot(shares: readonly number[], spotIndex: number): number {
  const spot = rig.spots[spotIndex]!;
  const loss = attenuationPerM(rig.water);
  const sum = new Float64Array(loss.length);
  rig.rows.forEach((row, r) => {
    for (const e of row.emitters) {
      const dist = Math.hypot(spot.xCm - e.xCm, spot.yCm - e.yCm) / 100;
      const h = e.heightCm / 100;
      const z = spot.depthCm / 100;
      let low = 0;
      let high = Math.PI / 2 - 1e-9;
      for (let i = 0; i < 60; i += 1) {
        const a = (low + high) / 2;
        const w = Math.asin(Math.sin(a) / SEA_WATER_INDEX);
        if (h * Math.tan(a) + z * Math.tan(w) > dist) high = a;
        else low = a;
      }
      const a = (low + high) / 2;
      const w = Math.asin(Math.sin(a) / SEA_WATER_INDEX);
      const spread = h / Math.cos(a) + z / (SEA_WATER_INDEX * Math.cos(w));
      const slope = h / Math.cos(a) ** 2 + (z * Math.cos(a)) / (SEA_WATER_INDEX * Math.cos(w) ** 3);
      const geometry =
        (((e.optic.exponent + 1) / (2 * Math.PI)) *
          Math.cos(a) ** e.optic.exponent *
          fresnelIntoWater(Math.sin(a))) /
        (spread * slope);
      row.spectra[e.spectrum]!.forEach(
        (flux, i) =>
          (sum[i]! += shares[r]! * e.share * geometry * flux * Math.exp((-loss[i]! * z) / Math.cos(w))),
      );
    }
  });
  return par(sum);
}

console.log('core, median of 15 runs');
const shares = rig.rows.map((_, i) => ((i * 37) % 100) / 100);
const agree = Math.abs(naiveParAtSpot(shares, 0) / parAt(matrix, 0, shares) - 1);
report(
  'PAR at 5 spots after a pull (matrix product)',
  medianMs(() => rig.spots.map((_, s) => parAt(matrix, s, shares))),
  medianMs(() => rig.spots.map((_, s) => naiveParAtSpot(shares, s)), 5),
  `differ by ${(agree * 100).toExponential(1)} %`,
);
report(
  'response matrix, 96 emitters, 5 spots',
  medianMs(() => computeResponse(rig)),
  medianMs(
    () =>
      rig.rows.map((_, r) =>
        rig.spots.map((__, s) =>
          naiveParAtSpot(
            rig.rows.map((___, k) => (k === r ? 1 : 0)),
            s,
          ),
        ),
      ),
    3,
  ),
  'same rows',
);

const parAtFull = light.par[0]![0]!;
const sampled = () => {
  let sum = 0;
  for (let m = 0; m < 1440; m += 1) sum += parOf(levelsAt(groups[0]!.day, m + 0.5), parAtFull) * 60;
  return sum / 1e6;
};
report(
  'DLI of a day',
  medianMs(() => dli(groups[0]!.day, parAtFull)),
  medianMs(sampled),
  `exact; sampling by the minute differs by ${(Math.abs(sampled() / dli(groups[0]!.day, parAtFull) - 1) * 100).toExponential(1)} %`,
);
report(
  'spectrum at the coral',
  medianMs(() => spectrumUnder(light, levelsOfGroups(groups, 845), 0)),
  medianMs(() =>
    spectrumAt(
      matrix,
      0,
      rig.rows.map(() => 0.5),
    ),
  ),
  'rows summed per group beside every row',
);

const entries = Array.from({ length: 730 }, (_, i) => ({
  ...bundle.history.entries[0]!,
  id: `e${i}`,
  atUtc: new Date(Date.UTC(2024, 10, 24) + i * 86_400_000).toISOString(),
  capShare: 0.3 + ((i * 7) % 50) / 100,
}));
const history = { ...bundle.history, entries };
const crowd = {
  ...zone,
  spots: Array.from({ length: 40 }, (_, i) => ({
    ...zone.spots[i % 5]!,
    id: `c${i}`,
    xCm: 10 + ((i * 37) % 130),
    yCm: 8 + ((i * 23) % 44),
    depthCm: 10 + ((i * 11) % 35),
  })),
};
const crowdMatrix = computeResponse(rigOf(groups, zone, crowd.spots));
const crowdPar = parTable(crowdMatrix, groups, null);
const crowdLight = zoneLight(crowdMatrix, groups);
const END = '2026-11-24T00:00:00.000Z';
const replayIn = (list: typeof entries) => () =>
  replay(crowd, { ...history, entries: list }, bundle.log, null, END, () => crowdPar);
// a keeper who changes something twice a week, and one who types every day
const restless = entries.filter((_, i) => i % 3 === 0);
const naive = medianMs(
  () => restless.forEach(() => crowd.spots.forEach((_, s) => dayAt(crowdLight, groups, s))),
  5,
);
report(
  `replay of two years for 40 corals, ${restless.length} changes`,
  medianMs(replayIn(restless), 5),
  naive,
  'beside the day of each change, coral by coral',
);
report(
  'the same with a change a day',
  medianMs(replayIn(entries), 5),
  3 * naive,
  'beside the day of each change, coral by coral',
);

// a recipe onto nine channels: an active set beside projected gradient steps until they agree
const nine = lampLibrary().find((l) => l.kind.id === 'lib-nine')!.kind;
const columns = nine.channels.map((c) => fitted(keptSpectrum(c)));
const wanted = fitted(mixSpectrum(demoPanel, bundle.case.plates[0]!.mix));
function projectedGradient(): number[] {
  const x = columns.map(() => 0);
  const gram = columns.map((a) => columns.map((b) => a.reduce((s, v, i) => s + v * b[i]!, 0)));
  const rhs = columns.map((a) => a.reduce((s, v, i) => s + v * wanted[i]!, 0));
  const step = 1 / gram.reduce((s, row, i) => s + row[i]!, 0);
  for (let k = 0; k < 20_000; k += 1) {
    let moved = 0;
    const slope = x.map((_, i) => rhs[i]! - gram[i]!.reduce((s, g, j) => s + g * x[j]!, 0));
    slope.forEach((g, i) => {
      const next = Math.min(1, Math.max(0, x[i]! + step * g));
      moved = Math.max(moved, Math.abs(next - x[i]!));
      x[i] = next;
    });
    if (moved < 1e-9) break;
  }
  return x;
}
const residual = (x: readonly number[]) =>
  Math.hypot(...wanted.map((w, i) => w - columns.reduce((s, a, j) => s + a[i]! * x[j]!, 0)));
const gap = residual(projectedGradient()) / residual(boundedFit(columns, wanted).x) - 1;
report(
  'bounded least squares, 9 channels × 301 samples',
  medianMs(() => boundedFit(columns, wanted)),
  medianMs(projectedGradient, 5),
  `after 20 000 steps its residual is still ${(gap * 100).toFixed(2)} % larger`,
);
const clear = new Float64Array(421).fill(1);
console.log(
  `a plate carried to a lamp with its controls: ${medianMs(() => carryToLamp(mixSpectrum(demoPanel, bundle.case.plates[0]!.mix), nine)).toFixed(1)} ms; photograph mix: ${medianMs(() => photographMix(nine, Object.fromEntries(nine.controls.map((c) => [c.id, 0.5])), clear), 5).toFixed(0)} ms`,
);
// colours of 24 corals, as a pull needs them: weights made once beside spectra in and out every time
const stock = Array.from({ length: 24 }, (_, i) => FORMS[i % FORMS.length]!);
const shine = spectrumUnder(light, levelsOfGroups(groups, 845), 0);
const eye = seeUnder(shine)!;
report(
  'colours of 24 corals with their regions',
  medianMs(() => stock.map((f) => formSeen(f, shine).map((r) => eye.colourOf(r.xyz)))),
  medianMs(
    () =>
      stock.map((f) =>
        f.regions.map((r) => {
          const seen = lightFrom(regionOptics(r), shine);
          return eye.colour(seen.reflected.map((v, i) => v + seen.fluorescent[i]!));
        }),
      ),
    5,
  ),
  'weights of the eye kept per region, beside every spectrum anew',
);
const five = zone.spots.map((s) => ({ name: s.name, form: libraryForm(s.formId!)! }));
const asked = {
  kind: demoPanel,
  mix: bundle.case.plates[1]!.mix,
  fixed: {},
  channels: light.spectra[0]![0]!,
  beside: clear.map(() => 0),
  strength: 0.8,
  parWanted: 200,
  corals: five,
  seed: 1,
};
const perSchool = SCHOOLS.map((s) => medianMs(() => design({ ...asked, aims: s.aims }), 3));
console.log(
  `design, 8 channels, 5 corals, each of ${SCHOOLS.length} schools: ${perSchool.map((t) => t.toFixed(0)).join(', ')} ms (aim 500)`,
);
const portrait = (corals: number, lamps: number) => {
  const [first] = zone.groups;
  const spots = Array.from({ length: corals }, (_, i) => ({
    ...zone.spots[i % zone.spots.length]!,
    id: `c${i}`,
    xCm: 10 + ((i * 37) % 130),
    yCm: 10 + ((i * 23) % 40),
    depthCm: 15 + ((i * 7) % 30),
    formId: FORMS[i % FORMS.length]!.id,
  }));
  const hung = Array.from({ length: lamps }, (_, i) => ({
    ...first!.lamps[0]!,
    id: `l${i}`,
    xCm: (150 * (i + 0.5)) / lamps,
  }));
  const water = { ...zone, spots, groups: [{ ...first!, lamps: hung }] };
  const lit = draftGroups(bundle.case, water);
  const cal = bareCalibration(hungGroups(bundle.case, water), water);
  const input = portraitOf(bundle.case, water, lit, cal, {
    fish: true,
    card: false,
    width: 716,
    height: 279,
    coarse: false,
  });
  const scene = portraitScene(input);
  const own = lampLevels(scene, lit, levelsOfGroups(lit, 845), cal)!;
  const looker = lookerOf('adapted', xyzOf(shine), null, 1);
  const shown = () => atEveryDepth(lamps, onScreen(palette(scene, own), looker));
  const colours = shown();
  const small = thin(scene, 3);
  return [
    `${corals} corals, ${lamps} lamps: scene ${medianMs(() => portraitScene(input), 3).toFixed(0)} ms,`,
    `coarse ${medianMs(() => portraitScene({ ...input, coarse: true, width: 358, height: 140 }), 3).toFixed(0)} ms,`,
    `relit ${medianMs(shown).toFixed(2)} ms, picture ${medianMs(() => paint(scene, colours)).toFixed(1)} ms,`,
    `while a finger moves ${medianMs(() => paint(small, colours)).toFixed(1)} ms,`,
    `buffers ${((scene.cell.byteLength + scene.arrive.byteLength + scene.haze.byteLength) / 1e6).toFixed(1)} MB`,
  ].join(' ');
};
console.log(`the picture of the tank at 716 × 279: ${portrait(5, 2)}`);
console.log(`the same: ${portrait(24, 4)}`);
console.log(
  `emission of one channel: ${medianMs(() => emissionSpectrum({ shape: 'line', peakNm: 451, fwhmNm: 19, flux: 1 })).toFixed(3)} ms`,
);

// a day of 200 points fitted to six: pruned costs and few starts beside every pair and every start
const noise = seeded(5);
const busy = [...new Set(Array.from({ length: 260 }, () => Math.floor(noise() * 1440)))]
  .slice(0, 200)
  .sort((a, b) => a - b)
  .map((minute) => ({
    minute,
    levels: Array.from(
      { length: 8 },
      (_, c) =>
        Math.max(0, Math.sin(((minute - 400) / 1440) * Math.PI * 1.8)) *
        (0.3 + 0.08 * c) *
        (0.9 + 0.1 * noise()),
    ),
  }));
const weights = [10, 20, 80, 60, 20, 10, 8, 30];
const MOST = 6;
/** Every pair of times judged at every corner, then the best way round from every start. */
function everyPair(): number {
  const minutes = [
    ...new Set([...busy.map((k) => k.minute), ...Array.from({ length: 96 }, (_, i) => 15 * i)]),
  ].sort((a, b) => a - b);
  const day = { knots: busy, capShare: 1, easingShare: 1, interpolation: 'ramp' as const };
  const own = minutes.map((m) => levelsAt(day, m));
  const set = own.map((l) => l.map((v) => Math.round(v * 100) / 100));
  const peak = Math.max(...own.map((l) => parOf(l, weights)));
  const n = minutes.length;
  const cost = minutes.map((_, i) =>
    Array.from({ length: n }, (__, d) => {
      const j = (i + d + 1) % n;
      const span = (minutes[j]! - minutes[i]! + 1440) % 1440 || 1440;
      let worst = 0;
      for (let k = 0; k <= d + 1; k += 1) {
        const at = (i + k) % n;
        const w = k === d + 1 ? 1 : ((minutes[at]! - minutes[i]! + 1440) % 1440) / span;
        let e = 0;
        for (let c = 0; c < weights.length; c += 1)
          e += weights[c]! * Math.abs(set[i]![c]! + (set[j]![c]! - set[i]![c]!) * w - own[at]![c]!);
        worst = Math.max(worst, e);
      }
      return worst;
    }),
  );
  let best = Infinity;
  for (let start = 0; start < n; start += 1) {
    let at = new Float64Array(n + 1).fill(Infinity);
    at[0] = 0;
    for (let k = 0; k < MOST; k += 1) {
      const next = new Float64Array(n + 1).fill(Infinity);
      for (let o = 0; o < n; o += 1)
        for (let d = 0; o + d + 1 <= n; d += 1)
          next[o + d + 1] = Math.min(next[o + d + 1]!, Math.max(at[o]!, cost[(start + o) % n]![d]!));
      best = Math.min(best, next[n]!);
      at = next;
    }
  }
  return best / peak;
}
const rules = { maxPoints: MOST, stepShare: 0.01, interpolation: 'ramp' as const };
const day200 = { knots: busy, interpolation: 'ramp' as const };
const oursPeak = reduceDay(day200, weights, rules).peakErrorShare;
const naivePeak = everyPair();
report(
  'a day of 200 points fitted to 6, ramps',
  medianMs(() => reduceDay(day200, weights, rules), 3),
  medianMs(everyPair, 1),
  `largest error ${(oursPeak * 100).toFixed(2)} % of the peak, every pair ${(naivePeak * 100).toFixed(2)} %`,
);
console.log(
  `the same to six held values: ${medianMs(() => reduceDay(day200, weights, { ...rules, interpolation: 'hold' }), 3).toFixed(0)} ms; a pattern's day for the demo panel: ${medianMs(
    () =>
      patternDay('paleNoon', {
        kind: demoPanel,
        base: bundle.case.plates[0]!.mix,
        home: { fromMinute: 1080, toMinute: 1320 },
        lit: null,
        others: [],
        wantedDli: 6,
        capShare: 0.8,
        dliOf: (threads) => dli(lampDay(demoPanel, threads, { capShare: 0.8, easingShare: 1 }), parAtFull),
      }),
  ).toFixed(1)} ms`,
);

/** A day fitted for each thing that is minded, beside as many days at random with the wanted values at their times. */
const fitAsk: FitAsk = {
  kind: demoPanel,
  threads: groups[0]!.threads,
  worth: {
    par: parAtFull,
    bands: demoPanel.channels.map((c, i) => {
      const photons = bandPhotons(keptSpectrum(c));
      return BANDS.map((b) => (parAtFull[i]! * photons[b.id]) / par(keptSpectrum(c)));
    }),
  },
  controller: { ...demoPanel.controller, maxPoints: MOST, everyMin: 15 },
  home: { fromMinute: 1080, toMinute: 1320 },
  capShare: 0.8,
};
const judgeFit = fitJudge(fitAsk);
const chance = seeded(5);
const randomDays = Array.from({ length: 20_000 }, () =>
  [...new Set(Array.from({ length: MOST }, () => Math.floor(chance() * 96) * 15))]
    .sort((a, b) => a - b)
    .map((minute) => ({ ...threadBetween(fitAsk.threads, minute, demoPanel), minute })),
);
for (const [aim, weights] of Object.entries(FIT_WEIGHTS)) {
  const walk = () => {
    const steps = answerSteps(fitAsk, { [aim]: weights });
    let next = steps.next();
    while (!next.done) next = steps.next();
    return next.value[0]!;
  };
  const byChance = () => randomDays.reduce((least, d) => Math.min(least, fitCost(judgeFit(d), weights)), 9e9);
  const [ours, naive] = [fitCost(judgeFit(walk().threads), weights), byChance()];
  report(
    `a day fitted to ${MOST} points: ${aim}`,
    medianMs(walk, 3),
    medianMs(byChance, 1),
    `cost ${ours.toFixed(3)}, the best of 20 000 days at random ${naive.toFixed(3)}`,
  );
}

/** A mat of algae through its day, minute by minute, every place's spectrum made anew: what bends and products save. */
const sump = bundle.case.zones[1]!;
const mat = { ...sump.spots[0]!, ...sump.spots[0]!.mat! };
const places = matPlaces(mat, sump.tank);
const sumpGroups = draftGroups(bundle.case, sump);
const sumpLight = zoneLight(computeResponse(rigOf(sumpGroups, sump, places)), sumpGroups);
const tangle = alga('greenTangle');
const all = places.map((_, i) => i);
const minuteByMinute = () => {
  let hours = 0;
  for (let m = 0; m < 1440; m += 1) {
    const levels = levelsOfGroups(sumpGroups, m + 0.5);
    for (const s of all) {
      const spectrum = spectrumUnder(sumpLight, levels, s);
      const here = par(spectrum);
      if (here > 0) hours += Math.tanh((here * worthOf(spectrum, tangle)) / tangle.ekUmol) / 60 / all.length;
    }
  }
  return hours;
};
const ours = matLight(sumpLight, sumpGroups, all, tangle)!;
report(
  'a day of light over a mat, 25 places',
  medianMs(() => matLight(sumpLight, sumpGroups, all, tangle)),
  medianMs(minuteByMinute, 1),
  `${ours.saturatedHours.toFixed(3)} h of saturating light, by the minute ${minuteByMinute().toFixed(3)} h`,
);
const known = {
  alga: tangle,
  areaM2: 0.106,
  light: { worthUmol: ours.worthUmol, sd: 0.2 },
  litHours: 12,
  harvests: harvestsOf(bundle.log, [sump.spots[0]!.id]),
  tests: testsOf(bundle.log),
  nowMs: Date.UTC(2026, 10, 24),
};
const kinds = [
  'lib-refugium-fixed',
  'lib-refugium-dim',
  'lib-refugium-day',
  'lib-nine',
  'lib-nine-half',
  'lib-day-bar',
];
const ask = {
  tank: sump.tank,
  water: sump.water,
  mat,
  alga: tangle,
  role: 'main' as const,
  clearanceCm: 8,
  roomCm: 40,
  hours: 12,
  lamps: kinds.map((id) => {
    const kind = lampLibrary().find((l) => l.kind.id === id)!.kind;
    return { kind, mix: allFull(kind) };
  }),
};
const walk = () => {
  const steps = lampForSteps(ask);
  for (;;) if (steps.next().done) return;
};
console.log(
  `a judgement of a mat (3000 draws): ${medianMs(() => judgeMat(known)).toFixed(1)} ms; ways to light a mat with six kinds of lamp, one to three of each: ${medianMs(walk, 3).toFixed(0)} ms`,
);

// where lamps hang, which take their place, which would do: a glance at a place once seen beside the whole response each time
const hangAsk = {
  ...{ zone, groups, groupId: groups[0]!.groupId, outGroupId: groups[0]!.groupId },
  ...{ cal: bareCalibration(hungGroups(bundle.case, zone), zone), calm: null, used: null },
  ...{ lowestCm: 15, highestCm: 60 },
};
const toTheEnd = (steps: Generator<number, unknown>) => {
  for (;;) if (steps.next().done) return;
};
const inFull = medianMs(
  () =>
    hungLight(
      hangAsk,
      groups[0]!.lamps.map((l) => ({ ...l, heightCm: l.heightCm + 1 })),
      groups[0]!.lampKind,
      0.5,
    ),
  5,
);
let looked = 0;
for (const steps = hangSteps(hangAsk); ;) {
  const next = steps.next();
  if (!next.done) continue;
  looked = next.value.looked;
  break;
}
const other = lampLibrary().find((l) => l.kind.id === 'lib-nine')!.kind;
const every = lampLibrary().map((l) => l.kind);
report(
  `two lamps hung, ${looked} arrangements looked at`,
  medianMs(() => toTheEnd(hangSteps(hangAsk)), 3),
  looked * inFull,
  'beside the whole response of each',
);
report(
  'two lamps swapped for two others',
  medianMs(() => toTheEnd(swapSteps({ ...hangAsk, kind: other, count: 2 })), 3),
  looked * inFull,
  'beside the same',
);
report(
  `${every.length} kinds of lamp, one and two of each, for this tank`,
  medianMs(() => toTheEnd(chooseSteps({ ...hangAsk, kinds: every, most: 2 })), 1),
  2 * every.length * looked * inFull,
  'beside the same for each',
);
report(
  'a whole tank: lamps, mix, day and places together',
  medianMs(
    () =>
      toTheEnd(
        wholeSteps({
          ...{ ...hangAsk, corals: [], aims: SCHOOLS[0]!.aims },
          home: { fromMinute: 18 * 60, toMinute: 22 * 60 },
        }),
      ),
    1,
  ),
  looked * inFull,
  'beside as many whole responses as hanging looks at',
);
