/**
 * Figures as they came out when they were last looked at, over every part of the core, and every limit of what is stored. Each is
 * derived elsewhere by a test of its own kind; here nothing may change unseen: a constant, a sign, an edge. What changes on purpose is
 * written anew by KEEP=1 and read through before it is kept.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { displayCase, watersCase } from '@/demo/lagoon';

import { courseOf, actingEvents, ownDay } from './case/course';
import { steppedDawn, threadsOfWindows } from './case/dawn';
import { moveBeauty } from './case/beauty';
import { lampDay, type ResolvedThread } from './day/thread';
import { ceilingFor, PACES } from './easing/accustomed';
import { fastestPlan } from './easing/plan';
import { must } from './fixtures/result';
import { floorParts } from './optics/bounce';
import { groundDepth } from './optics/tank';
import { enteredShare } from './optics/transport';
import { bandShares } from './spectrum/bands';
import { beforeAfter } from './case/beforeAfter';
import { calibrate } from './case/calibrate';
import { bareCalibration, hungGroups } from './case/calibration';
import { weatherLoss } from './case/acted';
import { minutesForDose, runLonger } from './case/bandHours';
import { signAdvice } from './case/signs';
import { strengthForUmol } from './case/strength';
import { carryDay } from './case/carryDay';
import { climbSteps } from './case/climb';
import { type DayFigures, dayFigures, EK_UMOL, hoursAbove, kWhPerDay, whatChanged } from './case/dayFigures';
import { differences } from './case/difference';
import { doableSteps } from './case/doable';
import { dueChores } from './case/chores';
import { easeSteps } from './case/easePlan';
import { forecast } from './case/forecast';
import { aims } from './case/howMuch';
import { brightestLevels, dayAt, lightBetween, parTable, parUnder, zoneLight } from './case/light';
import { draftGroups, litRunnable, rigKey, rigOf } from './case/lit';
import { moonColour, moonStrength } from './case/moonlight';
import { planVisit } from './case/visit';
import { patternSteps } from './case/patterns';
import { levelsById, plateaus, rigGroups } from './case/plateaus';
import { placeName, placesFor } from './case/places';
import { causesOf } from './case/faults';
import { firstTimes, proofWords, prove } from './case/prove';
import { parBySolo, soloPlaces, sumChecks } from './case/superposition';
import { replay, type ParOf } from './case/replay';
import { rescueOf } from './case/rescue';
import { sharesAt } from './case/rows';
import { runnable } from './case/runnable';
import { methodsOf } from './case/settings';
import { hiddenTruth, simulatedReading } from './case/simulated';
import { stepWords } from './case/stepWords';
import { timeline } from './case/timeline';
import { yellowAfterCarbon, yellowFromCard } from './case/yellow';
import { seeUnder } from './colour/look';
import { tintOf } from './colour/tint';
import { FORMS } from './coral/form';
import { adaptationDegree, adaptTo, coneGains, D65 } from './colour/adapt';
import { temperatureOf } from './colour/temperature';
import { familyWords, fitRegion, hypotheses, patchesFor } from './coral/fit';
import { lampTable, roundingEffect } from './case/table';
import { datedCalendar, onOffCalendar } from './formats/calendar';
import { sheetCsv, sheetPlainText } from './formats/sheetText';
import { channelGains } from './meter/channelGains';
import { blend, lightDifference, lostBands, scaleAll } from './mix/versions';
import { bandAdvice, conversions, neverShown, whiteAdvice } from './coral/advice';
import { glowOf, varietyOf } from './coral/glow';
import { formSeen } from './coral/seen';
import { circuitThreads } from './controller/typed';
import { fitSteps, switchPlan } from './controller/fit';
import { misfits, switchCount } from './controller/misfits';
import { CONTROLLERS } from './controller/profiles';
import { driveAt, programChanges, programOf } from './controller/program';
import { reduceDay } from './controller/reduce';
import { cloudsOn, flashesOn, interludesOn, stormMinute, moonOn, withMoon } from './day/extras';
import { dayLength, mirrored, plateauOf, shifted, stretched, withPlateau } from './day/moves';
import { levelsAt } from './day/day';
import { clockRuns, nextClockChange } from './day/wallClock';
import { ALGAE, feedingShare } from './feeding/algae';
import { asPpm, DRAINED_IDS, removed } from './feeding/removal';
import { usableShare } from './feeding/symbiont';
import { cheapestFor, compare, leftUnused } from './library/compare';
import { bandsHeld } from './library/held';
import { colourClass, controlLight, mixTurns } from './library/colours';
import { lampLibrary, libraryLamp } from './library/lamps';
import { mixWarnings } from './library/warnings';
import { METER_KINDS, parFactor } from './meter/kinds';
import { carryToLamp } from './mix/carry';
import { design, randomMix } from './mix/design';
import { atWantedPar, type DesignInput, judged, prepare } from './mix/aims';
import { reasonsFor } from './mix/reasons';
import { SIGNS, type Sign } from './record/log/sign';
import { REFERENCES } from './library/references';
import { seeded } from './spectrum/random';
import { SCHOOLS } from './mix/schools';
import { phosphorWhiteTable } from './mix/phosphor';
import { photographMix } from './mix/photograph';
import { blueBreadthNm } from './mix/shape';
import { blending, evenness, lostShare, onGlass } from './optics/evenness';
import { layerPar } from './optics/field';
import { computeField } from './optics/fieldSteps';
import { computeResponse } from './optics/response';
import { transmission } from './optics/water';
import { kindOfPart, PARTS } from './record/documents';
import type { HistoryDoc, RunningEntry } from './record/history';
import { algaeSpots } from './record/log/harvest';
import type { Reading, Session } from './record/readings';
import { familiesFor, fitOf } from './refugium/families';
import { flowCheck } from './refugium/flow';
import { expectedWetGPerDay } from './refugium/growth';
import { exported, harvestsOf, intervals, testsOf, trend } from './refugium/harvests';
import { oppositeHours, sharedHours } from './case/hours';
import { judgeMat } from './refugium/judge';
import { lampForSteps } from './refugium/lampFor';
import { laidMats, litMats, loggedMat } from './refugium/mats';
import { outlook, outlooks, standsInFor, supplied, takenByGrowth } from './refugium/outlook';
import { keptSpectrum, mixSpectrum } from './spectrum/lamp';
import { allFull } from './spectrum/controls';
import type { LampKind } from './spectrum/lampKind';

const FILE = join(__dirname, 'fixtures', 'kept.json');
const kept: Record<string, unknown> = JSON.parse(readFileSync(FILE, 'utf8'));
const seen: Record<string, unknown> = {};

/** Numbers to six figures, spectra and long lists by a few of their places and their sum. */
function plain(value: unknown): unknown {
  if (typeof value === 'number') return Number.isFinite(value) ? Number(value.toPrecision(6)) : String(value);
  if (value instanceof Float64Array || value instanceof Float32Array || value instanceof Uint8Array)
    return plain(Array.from(value));
  if (value instanceof Map) return plain([...value]);
  if (Array.isArray(value)) {
    if (value.length > 60 && value.every((x) => typeof x === 'number')) {
      const sum = value.reduce((s: number, x: number) => s + x, 0);
      const moment = value.reduce((s: number, x: number, i) => s + i * x, 0);
      return {
        of: value.length,
        sum: plain(sum),
        moment: plain(moment),
        some: value.filter((_, i) => i % 47 === 3).map(plain),
      };
    }
    return value.map(plain);
  }
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(
      Object.entries(value)
        // lamps and documents that went in need not come out again
        .filter(([k]) => !['kind', 'lampKind', 'spectra', 'look', 'response'].includes(k))
        .map(([k, v]) => [k, plain(v)]),
    );
  return value;
}
/** Equal but for the last of their figures. */
function close(a: unknown, b: unknown, path = ''): string | null {
  if (typeof a === 'number' && typeof b === 'number')
    return Math.abs(a - b) <= 2e-5 * Math.max(Math.abs(a), Math.abs(b)) + 1e-9
      ? null
      : `${path}: ${a} was ${b}`;
  if (typeof a === 'object' && a !== null && typeof b === 'object' && b !== null) {
    const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])];
    for (const k of keys) {
      const off = close((a as never)[k], (b as never)[k], `${path}.${k}`);
      if (off) return off;
    }
    return null;
  }
  return a === b || (a === undefined && b === null) ? null : `${path}: ${String(a)} was ${String(b)}`;
}
const keeps = (name: string, made: () => unknown) =>
  test(name, () => {
    const now = JSON.parse(JSON.stringify(plain(made()))) as unknown;
    seen[name] = now;
    if (!process.env.KEEP) expect(close(now, kept[name], name)).toBeNull();
  });
afterAll(() => {
  if (process.env.KEEP) writeFileSync(FILE, `${JSON.stringify(seen)}\n`);
});
const walked = <T>(steps: Generator<number, T>): T => {
  let next = steps.next();
  while (!next.done) next = steps.next();
  return next.value;
};

const NOW = '2026-11-24T12:00:00.000Z';
const bundle = displayCase(Date.parse(NOW), 'UTC');
const zone = bundle.case.zones[0]!;
const entry = bundle.history.entries[0]!;
const groups = draftGroups(bundle.case, zone);
const panel = groups[0]!;
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const par = light.par[0]![0]!;
const noon = groups.map((g) => levelsAt(g.day, 845));
const LAMPS = [
  'lib-nine',
  'lib-two-circuit',
  'lib-tint',
  'lib-balance',
  'lib-tubes',
  'lib-five-step',
  'lib-blue-bar',
];
const through = transmission(zone.water, 20);
const matrices = new Map<string, ReturnType<typeof computeResponse>>();
const parOf: ParOf = (lit, yellow440PerM, places) => {
  const water = { ...zone, water: { ...zone.water, yellow440PerM } };
  const key = rigKey(lit, water, places);
  let matrix = matrices.get(key);
  if (!matrix) matrices.set(key, (matrix = computeResponse(rigOf(lit, water, places))));
  return parTable(matrix, lit, null);
};
const half = (kind: LampKind) =>
  Object.fromEntries(kind.controls.map((c, i) => [c.id, c.kind === 'onOff' ? 1 : 0.3 + 0.1 * (i % 5)]));

describe('what is stored', () => {
  test('no limit, step, list or choice of a schema changes unseen', () => {
    const lines: string[] = [];
    // a shape that stands in several places is described where it is met first
    const met = new Set<unknown>();
    const walk = (schema: unknown, path: string): void => {
      if (typeof schema !== 'object' || schema === null || met.has(schema)) return;
      met.add(schema);
      const s = schema as Record<string, unknown>;
      const say = [
        s.type,
        s.requirement,
        s.options && !Array.isArray((s.options as unknown[])[0]) ? s.options : '',
      ]
        .map((x) =>
          typeof x === 'string' || typeof x === 'number'
            ? x
            : Array.isArray(x)
              ? x.filter((y) => typeof y !== 'object').join('|')
              : '',
        )
        .filter((x) => x !== '')
        .join(' ');
      if (s.literal !== undefined) lines.push(`${path} = ${String(s.literal)}`);
      else if (say) lines.push(`${path} ${say}`);
      const down = (child: unknown, key = '') => walk(child, key ? `${path}.${key}` : path);
      if (Array.isArray(s.pipe)) s.pipe.slice(0).forEach((p) => down(p));
      if (s.wrapped) down(s.wrapped);
      if (s.item) down(s.item, '*');
      if (s.key && typeof s.key === 'object') down(s.key, '#');
      if (s.value && typeof s.value === 'object') down(s.value, '*');
      if (Array.isArray(s.items)) s.items.forEach((o, i) => down(o, String(i)));
      if (Array.isArray(s.options)) s.options.forEach((o) => down(o));
      if (s.entries && typeof s.entries === 'object')
        for (const [key, child] of Object.entries(s.entries)) down(child, key);
    };
    for (const part of PARTS) {
      const { schema, version, lists, spare, format } = kindOfPart(part);
      lines.push(`${part} ${format} ${version} ${JSON.stringify(lists)} ${spare.join(' ')}`);
      walk(schema, part);
    }
    const now = [...new Set(lines)];
    seen.schemas = now;
    if (!process.env.KEEP) expect(now).toEqual(kept.schemas);
  });
});

describe('lamps, mixes and colours', () => {
  keeps('controllers', () => CONTROLLERS);
  keeps('library', () =>
    lampLibrary().map((l) => ({
      id: l.kind.id,
      bands: bandsHeld(l.kind),
      unused: leftUnused(l.kind, half(l.kind), 0.8),
      classes: l.kind.controls.map((c) => [colourClass(l.kind, c), controlLight(l.kind, c)]),
      turns: mixTurns(l.kind, half(l.kind)),
      full: mixSpectrum(l.kind, allFull(l.kind)),
      half: mixSpectrum(l.kind, half(l.kind)),
      warnings: mixWarnings(l.kind, mixSpectrum(l.kind, half(l.kind))).map((w) => w.text),
      usable: usableShare(mixSpectrum(l.kind, half(l.kind))),
      blue: blueBreadthNm(mixSpectrum(l.kind, half(l.kind))),
      tint: tintOf(mixSpectrum(l.kind, half(l.kind))),
    })),
  );
  keeps('cheapest', () =>
    (['nearUv', 'violet', 'cyan', 'red'] as const).map((b) => cheapestFor(b, 'x')?.id ?? null),
  );
  keeps('whites', () => [2700, 4000, 6500, 12_000].map((k) => phosphorWhiteTable(k)));
  const source = mixSpectrum(libraryLamp('lib-nine'), half(libraryLamp('lib-nine')));
  keeps('carried', () => LAMPS.map((id) => carryToLamp(source, libraryLamp(id), through)));
  keeps('photographs', () =>
    LAMPS.map((id) => photographMix(libraryLamp(id), half(libraryLamp(id)), through)),
  );
  keeps('compared', () =>
    compare(
      ['lib-nine', 'lib-tint', 'lib-tubes'].map((id) => ({
        id,
        name: id,
        kind: libraryLamp(id),
        mix: half(libraryLamp(id)),
        lamps: 1,
        hours: 8,
      })) as never,
      { by: 'par', value: 150 },
      through,
    ),
  );
  const corals = FORMS.slice(0, 3).map((form) => ({ name: form.name, form }));
  const asked = (id: string, school: number): DesignInput => ({
    kind: libraryLamp(id),
    mix: half(libraryLamp(id)),
    fixed: {},
    channels: libraryLamp(id).channels.map((_, c) => light.spectra[0]![0]![c % 8]!),
    beside: new Float64Array(through.length),
    strength: 0.8,
    parWanted: 80,
    corals,
    aims: SCHOOLS[school]!.aims,
    seed: 3,
  });
  keeps('schools', () => SCHOOLS);
  keeps('references', () => REFERENCES.map((r) => [r.id, r.spectrum()]));
  keeps('figures of mixes', () => {
    const ask = asked('lib-nine', 3);
    const p = prepare(ask);
    const random = seeded(4);
    return [half(ask.kind), allFull(ask.kind), {}, randomMix(p, random), randomMix(p, random)].map((mix) => {
      const { figures, scores } = judged(p, atWantedPar(p, mix));
      const { figures: as } = judged(p, mix);
      return [figures, scores, reasonsFor(as, figures, 0.4), reasonsFor(figures, as, 0.9)];
    });
  });
  keeps('designs', () => [design(asked('lib-tint', 1)), design(asked('lib-balance', 2))]);
  keeps('corals', () => FORMS.map((f) => [glowOf(f, source)?.share, formSeen(f, source).map((r) => r.xyz)]));
  keeps('variety', () =>
    varietyOf([
      [50, 10, 0],
      [55, 3, 8],
      [40, -6, 2],
    ]),
  );
  const stock = corals.map((c) => ({ ...c }));
  keeps('advice', () => {
    const blue = mixSpectrum(libraryLamp('lib-blue-bar'), allFull(libraryLamp('lib-blue-bar')));
    const white = mixSpectrum(libraryLamp('lib-tubes'), allFull(libraryLamp('lib-tubes')));
    return [
      whiteAdvice(stock, true, blue, white),
      bandAdvice(stock, source, bandsHeld(libraryLamp('lib-blue-bar'))),
      neverShown(stock),
      conversions(stock, source, {}),
    ];
  });
  keeps('looked at alone', () => {
    const kind = libraryLamp('lib-nine');
    const all = kind.channels.map((c) =>
      patchesFor({ id: c.id, name: c.name, light: keptSpectrum(c).map((v) => v * 40) }),
    );
    const [first, second] = [all[2]!, all[5]!];
    return [
      all.map((x) => x.patches.map((q) => q.ucs)),
      fitRegion(all, {}),
      fitRegion(all, { [first.solo.id]: 2 }),
      fitRegion(all, { [first.solo.id]: first.patches.length - 1, [second.solo.id]: 1 }),
      hypotheses()
        .map((h) => h.key)
        .filter((k, i, list) => list.indexOf(k) === i)
        .map(familyWords),
    ];
  });
  keeps('versions', () =>
    ['lib-nine', 'lib-five-step', 'lib-tint'].map((id) => {
      const kind = libraryLamp(id);
      const [a, b] = [half(kind), allFull(kind)];
      const few = Object.fromEntries(kind.controls.map((c, i) => [c.id, i < 2 ? 0.6 : 0.02 * i]));
      return [
        [
          lightDifference(kind, a, b),
          lightDifference(kind, b, few),
          lightDifference(kind, a, {}),
          lightDifference(kind, {}, {}),
        ],
        [0, 0.3, 0.5, 1].map((share) => blend(kind, a, few, share)),
        [0.5, 1.2, 3].map((f) => scaleAll(kind, a, f, [kind.controls[0]!.id])),
        lostBands(source, mixSpectrum(kind, few), kind),
      ];
    }),
  );
  keeps('adapting', () => [
    [0.3, 5, 60, 2000, 90_000].flatMap((lux) => [adaptationDegree(lux), adaptationDegree(lux, 1)]),
    coneGains([0.9, 1, 1.4], D65, 0.7),
    adaptTo([0.9, 1, 1.4], 0.6)([0.4, 0.3, 0.8]),
    [
      [0.31, 0.33],
      [0.25, 0.25],
      [0.44, 0.4],
      [0.2, 0.1],
    ].map(([x, y]) => temperatureOf([x!, y!] as never)),
  ]);
  keeps('gains of channels', () => [
    channelGains(
      [92, 41, 130, 58],
      [
        [80, 10],
        [0, 44],
        [90, 30],
        [50, 1],
      ],
    ),
    channelGains(
      [92, 41],
      [
        [80, 10],
        [0, 44],
      ],
    ),
  ]);
  keeps('looks', () => [seeUnder(source)]);
});

describe('days', () => {
  const home = { fromMinute: 1080, toMinute: 1320 };
  keeps('patterns', () =>
    LAMPS.map((id) => {
      const kind = libraryLamp(id);
      const p = kind.channels.map((_, c) => 30 + 10 * c);
      return walked(
        patternSteps({
          kind,
          base: half(kind),
          home,
          ...{ lit: null, others: [], lookedAt: true, present: [] },
          wantedDli: 6,
          capShare: 0.6,
          easingShare: 1,
          par: p,
        }),
      );
    }),
  );
  keeps('doable', () =>
    walked(
      doableSteps(
        {
          kind: panel.lampKind,
          base: half(panel.lampKind),
          home,
          ...{ lit: null, others: [], lookedAt: true },
          capShare: 0.8,
          easingShare: 1,
          par,
        },
        panel.threads,
        { par, bands: par.map((p) => [p, 0, 0, 0, 0, 0, 0, 0, 0]) },
        CONTROLLERS[2]!.profile,
      ),
    ),
  );
  /** a day of ramps on any lamp: dark, half, full, one colour late, dark */
  const daysOf = (kind: LampKind): ResolvedThread[] => {
    const mix = half(kind);
    const late = Object.fromEntries(
      kind.controls.map((c, i) => [c.id, i < 2 ? mix[c.id]! : c.kind === 'onOff' ? 0 : mix[c.id]! / 3]),
    );
    return [
      { minute: 423, strengthShare: 0, mix },
      { minute: 555, strengthShare: 0.47, mix },
      { minute: 700, strengthShare: 1, mix },
      { minute: 941, strengthShare: 0.83, mix: late },
      { minute: 1207, strengthShare: 0.21, mix: late },
      { minute: 1290, strengthShare: 0, mix: late },
    ];
  };
  const worthOf = (kind: LampKind) => ({
    par: kind.channels.map((_, c) => 20 + 13 * c),
    bands: kind.channels.map((ch) => Object.values(bandShares(keptSpectrum(ch)))),
  });
  keeps('fitted', () =>
    ['lib-nine', 'lib-two-circuit', 'lib-five-step', 'lib-tint'].flatMap((id) =>
      CONTROLLERS.map(({ profile }) => {
        const kind = libraryLamp(id);
        const day = daysOf(kind);
        const { threads, loss } = walked(fitSteps(kind, day, worthOf(kind), profile));
        return [threads, loss, misfits({ ...kind, controller: profile }, day)];
      }),
    ),
  );
  keeps('switched', () => {
    const kind = libraryLamp('lib-two-circuit');
    const [a, b] = kind.controls;
    const off = [5, 1, 0, 0, 2, 9, 9, 3, 0, 4];
    const on = [0, 1, 4, 3, 2, 0, 1, 2, 6, 3];
    const circuits = [
      {
        id: a!.id,
        knots: [
          { minute: 480, levels: [1] },
          { minute: 1200, levels: [0] },
        ],
      },
      {
        id: b!.id,
        knots: [
          { minute: 300, levels: [0] },
          { minute: 615, levels: [1] },
        ],
      },
    ];
    const threads = circuitThreads(kind, circuits);
    return [
      [2, 3, 4, 6].map((most) => switchPlan(off, on, most)),
      threads,
      kind.controls.map((c) => switchCount(kind, threads, c.id)),
    ];
  });
  keeps('beauty moved', () =>
    ['lib-nine', 'lib-two-circuit', 'lib-tint'].flatMap((id) =>
      [home, { fromMinute: 1200, toMinute: 60 }].map((hours) => {
        const kind = libraryLamp(id);
        const look = Object.fromEntries(
          kind.controls.map((c, i) => [c.id, c.kind === 'onOff' ? i % 2 : 0.15 * (i % 4)]),
        );
        const dayOf = (threads: readonly ResolvedThread[]) =>
          lampDay(kind, threads, { capShare: 0.9, easingShare: 1 });
        return moveBeauty({ kind, threads: daysOf(kind), home: hours, look, dayOf, par: worthOf(kind).par });
      }),
    ),
  );
  keeps('programs', () => {
    const kind = panel.lampKind;
    const [a, b] = [programOf(kind, panel.threads, 0.7), programOf(kind, panel.threads.slice(1), 0.55)];
    const names = kind.controls.map((c) => c.name);
    const rescales = { ...kind, controller: { ...kind.controller, capMeans: 'rescales' as const } };
    return [
      programChanges(null, a, names),
      programChanges(a, b, names),
      programChanges(b, a, names),
      [0, 480, 600, 845, 1200, 1439].map((m) => [driveAt(kind, a, m), driveAt(rescales, b, m)]),
      [0, 480, 845].map((m) =>
        driveAt(
          libraryLamp('lib-two-circuit'),
          programOf(libraryLamp('lib-two-circuit'), daysOf(libraryLamp('lib-two-circuit')), 0.5),
          m,
        ),
      ),
    ];
  });
  keeps('run longer', () =>
    ['lib-nine', 'lib-two-circuit'].flatMap((id) => {
      const kind = libraryLamp(id);
      const ids = kind.controls.slice(0, 2).map((c) => c.id);
      return [0, 35, 120, 900].map((minutes) => runLonger(kind, daysOf(kind), ids, minutes));
    }),
  );
  keeps('small sums', () => [
    [0, 3, 7.9, 60].map((floor) => minutesForDose((m) => 3 + m / 40, floor)),
    [1, 2, 4].map((n) => steppedDawn(n, 480, 1260, 25)),
    steppedDawn(3, 600, 610, 25),
    [-1, 0, 40, 90, 90.4, 91].map((umol) =>
      strengthForUmol(daysOf(libraryLamp('lib-nine')), 700, umol, (t) => 90 * t[2]!.strengthShare ** 1.5),
    ),
    (Object.keys(SIGNS) as Sign[]).flatMap((sign) =>
      [null, 0, 1, 21, 22].flatMap((roseDaysAgo) =>
        [null, 1.15, 1.16].flatMap((ratio) =>
          [true, false].flatMap((easing) =>
            [false, true].map((algae) =>
              Object.values(signAdvice(sign, { roseDaysAgo, ratio, easing, algae })).join(),
            ),
          ),
        ),
      ),
    ),
  ]);
  keeps('evenings', () => {
    const stormy = Array.from({ length: 40 }, (_, seed) => ({
      ...weather,
      seed,
      flashesPerSecond: 1 + (seed % 3),
    }));
    const late = {
      id: 'i',
      date: '2026-06-20',
      fromMinute: 1380,
      minutes: 150,
      mixName: 'm',
      strengthShare: 0.5,
    };
    return [
      stormy
        .map((w) => flashesOn(w, on, stormMinute(panel.threads)).map((f) => f.atS))
        .filter((f) => f.length > 0),
      [panel.threads, daysOf(libraryLamp('lib-nine')), []].map(stormMinute),
      ['2026-06-19', '2026-06-20', '2026-06-21'].map((date) =>
        interludesOn([late as never], { ...on, date }).map(({ from, to }) => [from, to]),
      ),
      EK_UMOL,
    ];
  });
  keeps('cost of extras', () => {
    const days = Array.from({ length: 12 }, (_, i) => ({
      date: `2026-07-${10 + i}`,
      timeZone: 'Europe/Berlin',
    }));
    return weatherLoss(panel, weather, days, par);
  });
  keeps('carried days', () =>
    ['lib-nine', 'lib-tint', 'lib-two-circuit', 'lib-five-step'].map((id) => {
      const kind = libraryLamp(id);
      const hung = [{ ...panel, lampKind: kind }];
      const there = zoneLight(computeResponse(rigOf(hung, zone, zone.spots)), hung);
      return carryDay(
        { lit: panel, spectra: light.spectra[0]![0]! } as never,
        { kind, spectra: there.spectra[0]![0]! } as never,
      );
    }),
  );
  keeps('reduced', () =>
    [2, 3, 4, 5].flatMap((maxPoints) =>
      (['ramp', 'hold'] as const).map((interpolation) =>
        reduceDay(panel.day, par, { maxPoints, stepShare: 0.05, interpolation, keepDark: maxPoints > 3 }),
      ),
    ),
  );
  keeps('misfits', () =>
    CONTROLLERS.map(({ profile }) => misfits({ ...panel.lampKind, controller: profile }, panel.threads)),
  );
  keeps('program', () => [
    programOf(panel.lampKind, panel.threads, 0.7),
    programOf(libraryLamp('lib-tubes'), panel.threads, 1),
  ]);
  const on = { date: '2026-06-21', timeZone: 'Europe/Berlin' };
  const weather = { seed: 9, depthShare: 0.4, cloudyShare: 0.9, storms: true, flashesPerSecond: 2 };
  keeps('weather', () => [
    cloudsOn(weather, on),
    flashesOn({ ...weather, seed: 2 }, on, 1200),
    moonOn({ latitudeDeg: 52, longitudeDeg: 13 }, on),
  ]);
  keeps(
    'moonlit',
    () =>
      withMoon(
        panel.day,
        panel.lampKind,
        { mix: { 'royal-blue': 0.2 }, strengthShare: 0.1, fromMinute: 1260, toMinute: 300, real: null },
        on,
      ).knots,
  );
  const lamp = { kind: panel.lampKind, capShare: 0.8, par: light.par[0]! };
  keeps('written', () => {
    /** without what other calendars are told of it */
    const lines = (text: string) => text.split('\r\n').filter((l) => !l.startsWith('X-'));
    const table = lampTable(panel);
    return [
      sheetCsv(table),
      sheetPlainText('Panels', table),
      zone.spots.map((_, i) => roundingEffect(panel, light, 0, i)),
      lines(
        onOffCalendar({
          title: 'x',
          timeZone: 'Europe/Berlin',
          fromDate: '2026-11-24',
          id: 'i',
          nowMs: Date.parse(NOW),
          circuits: [
            {
              name: 'Blue',
              windows: [
                { from: 480, to: 1200 },
                { from: 1300, to: 1500 },
              ],
            },
            { name: 'White', windows: [] },
          ],
        } as never),
      ),
      lines(
        datedCalendar({
          title: 'y',
          id: 'j',
          nowMs: Date.parse(NOW),
          steps: [
            { id: 'a', date: '2026-11-30', title: 'step', text: 'one, two' },
            { id: 'b', date: '2026-12-31', title: 'wipe', text: 'lens', everyDays: 14 },
          ],
        } as never),
      ),
    ];
  });
  keeps('moonlight', () => [moonColour(lamp), moonStrength(lamp, 'royal-blue', 0.3)]);
  keeps('moves', () => [
    dayLength(panel.threads),
    plateauOf(panel.threads),
    shifted(panel.threads, 45).map((t) => t.minute),
    stretched(panel.threads, 600).map((t) => t.minute),
    mirrored(panel.threads).map((t) => t.minute),
    ...[0, 300, 700, 1439].map((m) => withPlateau(panel.threads, m, (t) => ({ ...t })).map((t) => t.minute)),
    ...[10, 1439].map((m) =>
      withPlateau(daysOf(libraryLamp('lib-nine')), m, (t) => ({ ...t })).map((t) => t.minute),
    ),
  ]);
  keeps('clocks', () => [
    clockRuns({ date: '2026-03-29', timeZone: 'Europe/Berlin' }),
    clockRuns({ date: '2026-10-25', timeZone: 'Europe/Berlin' }),
    nextClockChange({ date: '2026-01-01', timeZone: 'Europe/Berlin' }),
  ]);
  keeps('figures', () => [
    dayFigures(light, groups, 0, 'soft'),
    [20, 100, 180].map((v) => hoursAbove(light, groups, 0, v)),
    kWhPerDay(groups),
    plateaus(groups),
    brightestLevels(light, groups, 1),
    dayAt(light, groups, 2),
  ]);
});

describe('a tank', () => {
  const rig = rigOf(groups, zone, []);
  const field = computeField(rig, { nx: 14, ny: 7, depthsCm: [1, 12, 25, 38, 50] });
  const cal = bareCalibration(hungGroups(bundle.case, zone), zone);
  const shares = sharesAt(groups, 845, cal);
  keeps('field', () => [
    [5, 20, 45].map((d) => layerPar(field, d, shares)),
    evenness(layerPar(field, 20, shares)),
    blending(
      field,
      2,
      shares,
      [...shares].map((_, r) => r % 8),
    ),
    lostShare(field, shares),
    onGlass(field, shares),
  ]);
  const rocky = {
    ...zone.tank,
    solids: [
      {
        id: 's1',
        name: 's1',
        shape: 'mound' as const,
        xCm: 31,
        yCm: 22,
        lengthCm: 44,
        widthCm: 27,
        topCm: 24,
        bottomCm: 50,
      },
      {
        id: 's2',
        name: 's2',
        shape: 'step' as const,
        xCm: 120,
        yCm: 40,
        lengthCm: 35,
        widthCm: 31,
        topCm: 33,
        bottomCm: 50,
      },
      {
        id: 's3',
        name: 's3',
        shape: 'block' as const,
        xCm: 83,
        yCm: 13,
        lengthCm: 21,
        widthCm: 17,
        topCm: 37,
        bottomCm: 50,
      },
      {
        id: 's4',
        name: 's4',
        shape: 'block' as const,
        xCm: 66,
        yCm: 47,
        lengthCm: 12,
        widthCm: 9,
        topCm: 10,
        bottomCm: 19,
      },
    ],
  };
  keeps('among rocks', () => {
    const among = { ...zone, tank: rocky };
    const lean = groups.map((g) => ({
      ...g,
      lamps: g.lamps.map((l, i) => ({
        ...l,
        xCm: l.xCm + 7,
        tiltDeg: 18 + 9 * i,
        tiltTowardDeg: 130,
        turnDeg: 20,
      })),
    }));
    return [
      [3, 15, 31, 44, 66, 83, 110, 130].map((x) =>
        [5, 13, 22, 31, 40, 47, 55].map((y) => groundDepth(rocky, x, y)),
      ),
      floorParts(rocky).map((f) => [f.depthCm, f.share, f.x, f.y]),
      [groups, lean].map((hung) => {
        const there = rigOf(hung, among, zone.spots);
        return [
          there.rows.slice(0, 3).map((row) => row.emitters.map((e) => enteredShare(rocky, e, 60))),
          zoneLight(computeResponse(there), hung).par,
        ];
      }),
    ];
  });
  keeps('places', () => [
    placesFor(field, zone.tank, zone.spots, { fromUmol: 90, toUmol: 160 }, shares),
    placeName(zone.tank, { xCm: 20, yCm: 50, depthCm: 49 }),
  ]);
  const meter = { kind: 'lux' as const, immersionFactor: 1, sensorAboveCm: 0, simulated: true };
  const truth = hiddenTruth(5, rigGroups(groups), zone.water);
  const session = (id: string, levels: number[][], factor: number): Session => ({
    id,
    zoneId: zone.id,
    name: id,
    atUtc: NOW,
    meter,
    pumpsOn: false,
    lit: '',
    counts: true,
    rig: rigGroups(groups),
    readings: zone.spots.map((s, i): Reading => {
      const lit = levelsById(groups, levels);
      const matrix = computeResponse(rigOf(groups, zone, [s], { ...truth }));
      const { shown } = simulatedReading(
        { matrix, gains: truth.gains },
        groups,
        lit,
        0,
        meter,
        0,
        5,
        `${id}${i}`,
      );
      return {
        id: `${id}${i}`,
        spotId: s.id,
        name: s.name,
        xCm: s.xCm,
        yCm: s.yCm,
        depthCm: s.depthCm,
        atUtc: NOW,
        tries: [shown * factor],
        bands: null,
        levels: lit,
      };
    }),
  });
  const alone = noon.map((l) => l.map((_, c) => (c === 2 ? 1 : 0)));
  const sessions = [session('a', noon, 1), session('b', noon, 1.2), session('c', alone, 1)];
  /** with a spectrometer, tried twice */
  const withBands = (): Session => {
    const by = session('d', noon, 1.1);
    const meterOf = { ...meter, kind: 'spectrometer' as const };
    return {
      ...by,
      meter: meterOf,
      readings: by.readings.map((r, i) => {
        const matrix = computeResponse(rigOf(groups, zone, [zone.spots[i]!], { ...truth }));
        const { shown, bands } = simulatedReading(
          { matrix, gains: truth.gains },
          groups,
          r.levels,
          0,
          meterOf,
          0,
          5,
          `d${i}`,
        );
        return { ...r, tries: [shown, shown * 1.13, shown * 0.99], bands };
      }),
    };
  };
  keeps('truth', () => truth);
  keeps('calibrated', () => {
    const found = calibrate(bundle.case, zone, sessions);
    return [found, beforeAfter(found, 'a', 'b').found, planVisit(found, light, groups, noon, [0, 1, 2], 10)];
  });
  keeps('calibrated by bands', () => {
    const found = calibrate(bundle.case, zone, [withBands(), session('c', alone, 1)]);
    const { levels } = sessions[2]!.readings[0]!;
    return [found, soloPlaces(found), sumChecks(found), soloPlaces(found).map((p) => parBySolo(p, levels))];
  });
  keeps('meters', () =>
    METER_KINDS.map((m) => [
      m.id,
      m.spread,
      m.scaleError,
      parFactor(m, light.spectra[0]![0]![2]!),
      parFactor(m, mixSpectrum(libraryLamp('lib-tubes'), allFull(libraryLamp('lib-tubes')))),
    ]),
  );
  keeps('proof', () => {
    const input = {
      groups,
      index: 0,
      before: null,
      light,
      scale: zone.spots.map(() => zone.spots.map(() => 0.37 ** 2)),
    };
    const readings = [600, 845, 1100].map((minute, i) => ({
      minute,
      spot: i,
      kind: 'par' as const,
      value:
        0.8 *
        parUnder(
          light,
          groups.map((g) => levelsAt(g.day, minute)),
          i,
        ),
    }));
    return [
      causesOf(input).map((c) => c.id),
      firstTimes(panel),
      prove(input, readings, ['par', 'lux']),
      proofWords(prove(input, readings)),
    ];
  });
  keeps('aims', () =>
    (['young', 'growing', 'mature'] as const).map((stage) =>
      aims(zone, [60, 120, 200, 90, 300], stage, 'weekly'),
    ),
  );
  keeps('yellow', () => [[0, 10, 200].map(yellowAfterCarbon), yellowFromCard('straw', 120)]);
});

describe('easing', () => {
  const target = runnable({ ...entry, capShare: 1 });
  const used = zone.spots.map((_, i) => {
    const lit = [litRunnable(runnable({ ...entry, capShare: 0.5 }))];
    return lightBetween(parOf(lit, zone.water.yellow440PerM, zone.spots), lit, zone.spots.length)[i]!;
  });
  const eased = { targets: [target], from: [runnable(entry)] };
  /** a second lamp group that brightens of itself meanwhile */
  const beside: RunningEntry = {
    ...entry,
    id: 'beside',
    groupId: 'beside',
    lamps: entry.lamps.map((l) => ({ ...l, id: `b${l.id}`, xCm: l.xCm / 2 })),
    capShare: 0.2,
    rise: { fromShare: 0.4, toShare: 1, date: '2026-11-20', days: 21 },
  };
  keeps('beside what rises of itself', () => {
    const history = { ...bundle.history, entries: [entry, beside] };
    const answer = walked(
      easeSteps(
        zone,
        history,
        NOW,
        zone.water.yellow440PerM,
        used,
        {
          ...eased,
          method: 'cap',
          schedule: { kind: 'fastest' },
          ceiling: 1.2,
          planId: null,
          today: '2026-11-24',
          start: '2026-11-26',
        } as never,
        parOf,
      ),
    );
    return [
      answer.steps.map((x) => [x.date, x.setting, x.worst.ratio, x.worst.spot]),
      forecast(zone, history, NOW, '2026-11-24', zone.water.yellow440PerM, used, parOf, null, 25),
    ];
  });
  keeps('by steps alone', () => [
    must(fastestPlan(80, 240, 1.3)),
    must(fastestPlan(80, 240, 1.3, 6)),
    must(fastestPlan(240, 80, 1.3)),
    [1, 1.15, 2].map((c) => Object.values(PACES).map((p) => ceilingFor(c, p))),
  ]);
  keeps('course', () => {
    const at = (day: number) => `2026-11-${String(day).padStart(2, '0')}T09:30:00.000Z`;
    const base = (id: string, day: number) => ({ id, zoneId: zone.id, note: '', atUtc: at(day) });
    const log = {
      ...bundle.log,
      events: [
        { ...base('l2', 23), kind: 'lens' as const, groupId: null, gainShare: 0.1 },
        { ...base('c', 18), kind: 'carbon' as const, yellowBefore: 0.3, yellowAfter: 0.05 },
        { ...base('o', 14), kind: 'outage' as const, toUtc: at(15), groupIds: [entry.groupId] },
        { ...base('l1', 10), kind: 'lens' as const, groupId: entry.groupId, gainShare: 0.25 },
      ],
    };
    const first = { ...entry, atUtc: at(1) };
    const course = courseOf(zone, { ...bundle.history, entries: [first] }, log, 0.2);
    return [
      actingEvents(log, zone.id).map((e) => e.id),
      course.instants.map((ms) => (ms - course.instants[0]!) / 3_600_000),
      course.instants.map((ms) => {
        const { entries, yellow440PerM, lensShares, places } = course.at(ms);
        return [entries.length, yellow440PerM, lensShares, places];
      }),
      ['2026-11-19', '2026-11-25', '2026-12-20'].map((date) =>
        ownDay(beside, { date, timeZone: 'Europe/Berlin' }),
      ),
    ];
  });
  keeps('circuits in words', () => {
    const kind = libraryLamp('lib-two-circuit');
    const threads = threadsOfWindows(
      { lampKind: kind, threads: [] },
      new Map(kind.controls.map((c, i) => [c.id, [{ from: 480 + 45 * i, to: 1200 - 30 * i }]])),
    );
    const two = { ...target, lampKind: kind, threads, capShare: 1 };
    const asked = { targets: [two], from: [two], raiseCm: 20 };
    return [
      methodsOf({ ...asked, method: 'hours' } as never),
      [0, 0.3, 0.71, 1].map((at) => stepWords({ ...asked, method: 'hours' } as never, at)),
      [0, 0.5, 1].map((at) => stepWords({ ...asked, method: 'height' } as never, at)),
    ];
  });
  keeps('methods', () => methodsOf({ ...eased, method: 'cap' }));
  keeps('plans', () =>
    (['cap', 'hours', 'height', 'blend'] as const).flatMap((method) =>
      (
        [
          { kind: 'fastest' },
          { kind: 'few', changes: 3, everyDays: 7, weekday: 6 },
          { kind: 'line', fromShare: 0.6, days: 12 },
        ] as const
      ).map((schedule) => {
        const answer = walked(
          easeSteps(
            zone,
            bundle.history,
            NOW,
            zone.water.yellow440PerM,
            used,
            {
              ...eased,
              targets: [method === 'blend' ? { ...target, threads: target.threads.slice(1) } : target],
              method,
              schedule,
              raiseCm: 20,
              ceiling: 1.3,
              planId: null,
              today: '2026-11-24',
              start: '2026-11-25',
            } as never,
            parOf,
          ),
        );
        return [
          answer.steps.map((x) => [x.date, x.setting, x.worst.ratio, x.worst.spot]),
          answer.steps.slice(0, 2).map((s) => stepWords({ ...eased, method, raiseCm: 20 }, s.setting)),
        ];
      }),
    ),
  );
  keeps('rescue', () => rescueOf(zone, bundle.history, NOW, zone.water.yellow440PerM, used, 1.1, parOf));
  keeps('climb', () =>
    walked(climbSteps(zone, bundle.history, NOW, zone.water.yellow440PerM, zone.spots[0]!.id, parOf)),
  );
  keeps('lived', () => {
    const at = (day: number, change: Partial<RunningEntry>): RunningEntry => ({
      ...entry,
      id: `e${day}`,
      usedTo: day === 1,
      atUtc: `2026-11-${String(day).padStart(2, '0')}T09:30:00.000Z`,
      ...change,
    });
    const history: HistoryDoc = {
      ...bundle.history,
      entries: [at(1, { capShare: 0.5 }), at(12, { capShare: 0.7 }), at(20, { capShare: 0.65 })],
    };
    const base = (id: string, day: number) => ({
      id,
      zoneId: zone.id,
      note: '',
      atUtc: `2026-11-${day}T15:00:00.000Z`,
    });
    const log = {
      ...bundle.log,
      events: [
        { ...base('o', 14), kind: 'outage' as const, toUtc: '2026-11-16T03:00:00.000Z', groupIds: null },
        { ...base('c', 18), kind: 'carbon' as const, yellowBefore: 0.3, yellowAfter: 0.05 },
        { ...base('l', 21), kind: 'lens' as const, groupId: null, gainShare: 0.2 },
      ],
    };
    const lived = replay(zone, history, log, null, NOW, parOf);
    return [lived, timeline(zone, history, log, lived.changes, 0).map((l) => [l.title, l.details, l.met])];
  });
  keeps('differences', () =>
    differences(
      bundle.case,
      { ...zone.groups[0]!, capShare: 0.33, threads: zone.groups[0]!.threads.slice(1) },
      entry,
    ),
  );
  keeps('what changed', () => {
    const a = dayFigures(light, groups, 0, 'soft');
    const dim = [{ ...panel, day: { ...panel.day, capShare: 0.5 } }];
    const scaled = (f: number, peak: number, band: number, later: number): DayFigures => ({
      ...a,
      dli: a.dli * f,
      peak: a.peak * peak,
      litHours: a.litHours + later / 60,
      whiteMinute: a.whiteMinute === null ? null : a.whiteMinute + later,
      dose: Object.fromEntries(
        Object.entries(a.dose).map(([id, v], i) => [id, v * (i === 2 ? band : f)]),
      ) as DayFigures['dose'],
    });
    return [
      whatChanged(a, dayFigures(light, dim, 0, 'soft')),
      ...[0, 0.5, 0.97, 0.985, 1, 1.015, 1.03, 1.6, 1.99, 1.996, 2.3].flatMap((f) =>
        [
          [1, f, 0],
          [1.04, 1.3 * f, 12],
          [1.06, 0.7 * f, -16],
          [0.94, 1.08 * f, 29],
          [f, 1.12 * f, 31],
        ].map(([peak, band, later]) => whatChanged(a, scaled(f, peak!, band!, later!))),
      ),
      whatChanged(scaled(0, 0, 0, 0), a),
    ];
  });
});

describe('a refugium', () => {
  const whole = watersCase(Date.parse(NOW), 'UTC');
  const sump = whole.case.zones[1]!;
  const lit = draftGroups(whole.case, sump);
  const cal = bareCalibration(hungGroups(whole.case, sump), sump);
  const laid = laidMats(sump);
  const over = zoneLight(computeResponse(rigOf(lit, laid.zone, laid.zone.spots)), lit);
  const nowMs = Date.parse(NOW);
  const harvests = harvestsOf(
    whole.log,
    algaeSpots(sump).map((s) => s.id),
  );
  keeps('mats', () => litMats(sump, laid, over, lit, cal).map((m) => [m, loggedMat(m, whole.log, nowMs)]));
  keeps('harvests', () => [
    intervals(harvests),
    exported(harvests, 420, nowMs),
    trend(testsOf(whole.log), 'nitratePpm', nowMs),
    trend(testsOf(whole.log), 'phosphatePpm', nowMs),
    DRAINED_IDS.map((d) => asPpm(removed(300, d), 420)),
  ]);
  keeps('nutrients', () => [
    supplied(whole.case.system!, 420),
    takenByGrowth({ low: 1, mid: 3, high: 6 }, 420),
    ALGAE.map((a) => expectedWetGPerDay(a, 0.05, 10)),
  ]);
  keeps('outlook', () => {
    const taken = takenByGrowth({ low: 20, mid: 45, high: 80 }, 420);
    const fed = supplied(whole.case.system!, 420)!;
    return [
      ...(['nitrate', 'phosphate'] as const).flatMap((n) =>
        [null, 0.01, 4, 12].flatMap((now) => [
          outlook(n, now, taken[n], fed[n], 0, null),
          outlook(n, now, taken[n], null, 0.3, null),
          outlook(n, now, taken[n], fed[n], 0.1, { perWeek: -0.8, standardError: 0.15, exported: 1.3 }),
          outlook(n, now, taken[n], fed[n], 0.1, { perWeek: 0.4, standardError: 0.3, exported: 0.2 }),
        ]),
      ),
      outlooks(whole.case, whole.log, [harvests], taken, nowMs),
      [null, 0, 0.29, 0.3, 0.6, 0.9, 1.4].map(standsInFor),
    ];
  });
  keeps('judged', () =>
    litMats(sump, laid, over, lit, cal)
      .map((m) => loggedMat(m, whole.log, nowMs))
      .map((m) => (m as { judgement?: ReturnType<typeof judgeMat> }).judgement),
  );
  keeps('families', () =>
    (['filter', 'among', 'show'] as const).flatMap((purpose) =>
      ALGAE.slice(0, 3).map((a) => familiesFor(purpose, a)),
    ),
  );
  const source = mixSpectrum(libraryLamp('lib-nine'), half(libraryLamp('lib-nine')));
  keeps('feeding', () => ALGAE.map((a) => [feedingShare(source, a), fitOf(source, a)]));
  keeps('hours', () => [oppositeHours([panel.day], 12, 15), sharedHours([panel.day], 10, 15)]);
  keeps('flow', () =>
    flowCheck(
      { way: 'still', leaves: 'weir', turnsPerHour: 1, screened: false, headroomCm: 3, drainsL: 20 },
      sump.tank,
    ),
  );
  keeps('chores', () => dueChores(whole, sump));
  keeps('lamps for it', () =>
    walked(
      lampForSteps({
        tank: sump.tank,
        water: sump.water,
        mat: { xCm: 22, yCm: 17, depthCm: 5, lengthCm: 30, widthCm: 20 },
        alga: ALGAE[0]!,
        role: 'main',
        clearanceCm: 8,
        roomCm: 30,
        hours: 12,
        lamps: ['lib-tubes', 'lib-five-step'].map((id) => ({
          kind: libraryLamp(id),
          mix: half(libraryLamp(id)),
        })),
      }),
    ),
  );
});

describe('tables', () => {
  // what the core exports and is neither function nor schema
  const data = (value: unknown): boolean =>
    typeof value !== 'function' && !(typeof value === 'object' && value !== null && '~standard' in value);
  const files = readdirSync(__dirname, { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.ts') && !/\.test\.ts$|fixtures|observer|oracle|formats.all/.test(f))
    .sort();
  test.each(files)('%s', (file) => {
    const all = jest.requireActual<object>(join(__dirname, file));
    const text = JSON.stringify(all, (_, value: unknown) =>
      !data(value) ? undefined : ArrayBuffer.isView(value) ? plain(value) : value,
    );
    const now = JSON.parse(JSON.stringify(plain(JSON.parse(text)))) as unknown;
    if (Object.keys(now as object).length === 0) return;
    seen[file] = now;
    if (!process.env.KEEP) expect(close(now, kept[file], file)).toBeNull();
  });
});
