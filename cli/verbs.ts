import * as v from 'valibot';

import { reduceDay } from '@/core/controller/reduce';
import { isoTime, parseTime } from '@/core/day/clock';
import { type Day, dli, levelsAt, litHours, parOf } from '@/core/day/day';
import { threadKnots } from '@/core/day/thread';
import { DOUBT } from '@/core/case/calibration';
import { PACE_RANGE } from '@/core/easing/accustomed';
import { fastestPlan } from '@/core/easing/plan';
import { alga, ALGAE } from '@/core/feeding/algae';
import { growthOf } from '@/core/evidence/growth';
import { fitOf } from '@/core/refugium/families';
import { asPpm, removed } from '@/core/feeding/removal';
import { parseDayCsv } from '@/core/formats/dayCsv';
import { parseIes } from '@/core/formats/ies';
import { parseReadingsCsv } from '@/core/formats/readingsCsv';
import { parseSpdx } from '@/core/formats/spdx';
import { parseSpectrumCsv } from '@/core/formats/spectrumCsv';
import { problemWords, type Read } from '@/core/formats/table';
import { channelGains } from '@/core/meter/channelGains';
import { lampGains } from '@/core/meter/lampGains';
import { enteredOfScene, parOfEmitters } from '@/core/optics/points';
import { carrySpectrum } from '@/core/mix/carry';
import { lightFigures } from '@/core/mix/figures';
import { bad, good, type Result } from '@/core/shape/result';
import { par } from '@/core/spectrum/bands';
import { sumEmissions } from '@/core/spectrum/emission';

import {
  carrySchema,
  convertSchema,
  daySchema,
  easeSchema,
  feedingSchema,
  fieldSchema,
  fitSchema,
  growthSchema,
  harvestSchema,
  reduceSchema,
  spectrumSchema,
} from './schemas';

/** Bad input: where and why. `path` is dotted, empty when there is no place to name. */
export interface InputError {
  path: string;
  message: string;
}

const refused = (path: string, message: string) => bad<InputError>({ path, message });

/** A verb: its input is checked, then answered. */
type Verb = (input: unknown) => Result<unknown, InputError>;

const verb =
  <S extends v.GenericSchema>(
    schema: S,
    answer: (data: v.InferOutput<S>) => Result<unknown, InputError>,
  ): Verb =>
  (input) => {
    const result = v.safeParse(schema, input, { abortPipeEarly: true });
    if (result.success) return answer(result.output);
    const issue = result.issues[0];
    const missing = issue.type !== 'check' && issue.received === 'undefined';
    return refused(v.getDotPath(issue) ?? '', missing ? 'is missing' : issue.message);
  };

const spectrum = verb(spectrumSchema, ({ emission }) => {
  const figures = lightFigures(sumEmissions(emission));
  return good({
    par: figures.par,
    xy: figures.tint?.xy ?? null,
    cctK: figures.tint?.cctK ?? null,
    duv: figures.tint?.duv ?? null,
    luxPerPar: figures.luxPerPar,
    bandShares: figures.bandShares,
    usableShare: figures.usableShare,
  });
});

/** A day from the command line: no lamp, so nothing is rounded. */
function readDay(data: v.InferOutput<typeof daySchema>): { ids: string[]; parAtFull: number[]; lit: Day } {
  const ids = Object.keys(data.parAtFull);
  const threads = data.points.map((p) => ({
    minute: parseTime(p.time)!,
    strengthShare: p.strengthShare,
    mix: p.mix,
  }));
  return {
    ids,
    parAtFull: ids.map((id) => data.parAtFull[id]!),
    lit: {
      knots: threadKnots(threads, (t) => ids.map((id) => (t.mix[id] ?? 0) * t.strengthShare)),
      capShare: data.capShare,
      easingShare: data.easingShare,
      interpolation: data.interpolation,
    },
  };
}

const day = verb(daySchema, (data) => {
  const { ids, parAtFull, lit } = readDay(data);
  const levels = data.at.map((time) => levelsAt(lit, parseTime(time)!));
  return good({
    levels: levels.map((row) => Object.fromEntries(ids.map((id, c) => [id, row[c]!]))),
    par: levels.map((row) => parOf(row, parAtFull)),
    dli: dli(lit, parAtFull),
    litHours: litHours(lit),
  });
});

const reduce = verb(reduceSchema, ({ day: data, controller }) => {
  const { ids, parAtFull, lit } = readDay(data);
  const { knots, ...errors } = reduceDay(lit, parAtFull, controller);
  return good({
    points: knots.map((k) => ({
      time: isoTime(k.minute),
      strengthShare: 1,
      mix: Object.fromEntries(ids.map((id, c) => [id, k.levels[c]!])),
    })),
    ...errors,
  });
});

const ease = verb(easeSchema, ({ from, to, ceiling, tauDays, floor: floorOf, doubt, range }) => {
  const lasts = (tau: number) => fastestPlan(from, to, ceiling, tau, { floor: floorOf, doubt });
  const plan = lasts(tauDays);
  if (!plan.ok) return refused(plan.error.field, plan.error.say);
  if (!range) return good({ days: plan.value });
  const ends = (['quick', 'slow'] as const).map((end) => lasts(tauDays * PACE_RANGE[end]));
  return good({ days: plan.value, range: ends.map((e) => (e.ok ? e.value.length : null)) });
});

const carry = verb(carrySchema, (data) => {
  const ids = Object.keys(data.target);
  const source = sumEmissions(data.source);
  if (!(par(source) > 0)) return refused('source', 'has no photons from 400 to 700 nm');
  const { levels, match, parRatio } = carrySpectrum(
    source,
    ids.map((id) => sumEmissions(data.target[id]!)),
  );
  return good({ levels: Object.fromEntries(ids.map((id, i) => [id, levels[i]!])), match, parRatio });
});

const field = verb(fieldSchema, (scene) => {
  return good({
    par: parOfEmitters(scene).map((row) => row.reduce((sum, value) => sum + value, 0)),
    enteredShare: enteredOfScene(scene),
  });
});

const fit = verb(fitSchema, ({ field: scene, channels, readings, lamps: byLamps, scaleError, at: asked }) => {
  const ids = Object.keys(channels);
  const at = (lamp: number, emitter: number) =>
    scene.lamps.slice(0, lamp).reduce((sum, l) => sum + l.emitters.length, 0) + emitter;
  const full = parOfEmitters({ ...scene, points: readings });
  const light = readings.map((r, i) =>
    ids.map(
      (id) => (r.levels[id] ?? 0) * channels[id]!.reduce((sum, [l, e]) => sum + full[i]![at(l, e)]!, 0),
    ),
  );
  const named = (values: readonly number[]) => Object.fromEntries(ids.map((id, c) => [id, values[c]!]));
  const observed = readings.map((r) => r.reading);
  if (byLamps || asked.length > 0) {
    const places = parOfEmitters({ ...scene, points: asked });
    /** [place][lamp][channel] under its levels */
    const apart = (
      at_: readonly { levels: Readonly<Record<string, number>> }[],
      full_: readonly (readonly number[])[],
    ) =>
      at_.map((r, i) =>
        scene.lamps.map((_, lamp) =>
          ids.map(
            (id) =>
              (r.levels[id] ?? 0) *
              channels[id]!.reduce((sum, [l, e]) => sum + (l === lamp ? full_[i]![at(l, e)]! : 0), 0),
          ),
        ),
      );
    const doubt = { shared: DOUBT.kind, channel: DOUBT.channel, lamp: DOUBT.lamp, scale: scaleError };
    const told = lampGains(observed, apart(readings, full), doubt, apart(asked, places));
    return good({
      gain: named(told.gain),
      standardError: named(told.standardError),
      lampGain: told.lampGain,
      lampStandardError: told.lampStandardError,
      suspects: told.fit.suspects,
      predicted: told.fit.predicted,
      at: told.at,
    });
  }
  const found = channelGains(observed, light);
  return good({
    gain: named(found.gain),
    standardError: named(found.standardError),
    suspects: found.fit.suspects,
    predicted: found.fit.predicted,
  });
});

const CONVERSIONS: Readonly<Record<string, (text: string) => Read<unknown>>> = {
  spdx: parseSpdx,
  'spectrum-csv': parseSpectrumCsv,
  ies: parseIes,
  'readings-csv': parseReadingsCsv,
  'day-csv': parseDayCsv,
};

const convert = verb(convertSchema, ({ from, text }) => {
  if (!Object.hasOwn(CONVERSIONS, from))
    return refused('from', `unknown format "${from}": one of ${Object.keys(CONVERSIONS).join(', ')}`);
  const read = CONVERSIONS[from]!(text);
  return read.ok ? read : refused('text', problemWords(read.error));
});

/** What of a light feeds algae: share of its PAR by kind, and how well that is. */
const feeding = verb(feedingSchema, ({ emission, alga: only }) => {
  const light = sumEmissions(emission);
  const of = only ? [alga(only)] : ALGAE;
  return good({
    algae: Object.fromEntries(
      of.map((a) => {
        const fit = fitOf(light, a);
        return [
          a.id,
          fit && {
            feedingShare: fit.share,
            ofBest: fit.ofBest,
            bestFamily: fit.best.family.id,
            standing: fit.standing,
          },
        ];
      }),
    ),
  });
});

/** What a harvest took out, g and ppm of the system. */
const harvest = verb(harvestSchema, ({ wetG, drained, litres }) => {
  const took = removed(wetG, drained);
  return good({ ...took, ...(litres === undefined ? {} : { ppm: asPpm(took, litres) }) });
});

/** How fast fragments grew in each phase, and whether the second differs from the first. */
const growth = verb(growthSchema, ({ phases }) => {
  const { phases: told, ...difference } = growthOf(phases);
  return good({
    phases: told.map(({ name, mean, standardError, n }) => ({ name, meanPerDay: mean, standardError, n })),
    ...difference,
  });
});

export const VERBS: Readonly<Record<string, Verb>> = {
  spectrum,
  field,
  day,
  fit,
  ease,
  carry,
  reduce,
  growth,
  convert,
  feeding,
  harvest,
};

/** Runs a verb on the text of its input. */
export function reckon(name: string, text: string): Result<unknown, InputError> {
  if (!Object.hasOwn(VERBS, name))
    return refused('', `unknown verb "${name}": one of ${Object.keys(VERBS).join(', ')}`);
  let input: unknown;
  try {
    input = JSON.parse(text);
  } catch (error) {
    return refused('', `the input is not JSON: ${(error as Error).message}`);
  }
  return VERBS[name]!(input);
}

const LONGEST_LINE = 2000;

/** One line of JSON for stderr, at most 2000 characters. */
export function errorLine(error: InputError): string {
  const line = (path: string, message: string) => JSON.stringify({ error: { path, message } });
  let { path, message } = error;
  while (line(path, message).length > LONGEST_LINE) {
    if (path.length > 500) path = `${path.slice(0, Math.max(400, Math.floor(path.length / 2)))}…`;
    else message = `${message.slice(0, Math.floor(message.length / 2))}…`;
  }
  return line(path, message);
}
