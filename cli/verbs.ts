import * as v from 'valibot';

import { reduceDay } from '@/core/controller/reduce';
import { formatTime, parseTime } from '@/core/day/clock';
import { type Day, dli, levelsAt, litHours, parOf } from '@/core/day/day';
import { threadKnots } from '@/core/day/thread';
import { fastestPlan, PlanRefused } from '@/core/easing/plan';
import { alga, ALGAE } from '@/core/feeding/algae';
import { fitOf } from '@/core/refugium/families';
import { asPpm, removed } from '@/core/feeding/removal';
import { parseDayCsv } from '@/core/formats/dayCsv';
import { parseIes } from '@/core/formats/ies';
import { parseReadingsCsv } from '@/core/formats/readingsCsv';
import { parseSpdx } from '@/core/formats/spdx';
import { parseSpectrumCsv } from '@/core/formats/spectrumCsv';
import { FileProblem } from '@/core/formats/table';
import { channelGains } from '@/core/meter/channelGains';
import { enteredOfScene, parOfEmitters } from '@/core/optics/points';
import { carrySpectrum } from '@/core/mix/carry';
import { lightFigures } from '@/core/mix/figures';
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
  harvestSchema,
  reduceSchema,
  spectrumSchema,
} from './schemas';

/** Bad input: where and why. `path` is dotted, empty when there is no place to name. */
export class InputError extends Error {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message);
  }
}

function read<S extends v.GenericSchema>(schema: S, input: unknown): v.InferOutput<S> {
  const result = v.safeParse(schema, input, { abortPipeEarly: true });
  if (result.success) return result.output;
  const issue = result.issues[0];
  const missing = issue.type !== 'check' && issue.received === 'undefined';
  throw new InputError(v.getDotPath(issue) ?? '', missing ? 'is missing' : issue.message);
}

function spectrum(input: unknown) {
  const figures = lightFigures(sumEmissions(read(spectrumSchema, input).emission));
  return {
    par: figures.par,
    xy: figures.tint?.xy ?? null,
    cctK: figures.tint?.cctK ?? null,
    duv: figures.tint?.duv ?? null,
    luxPerPar: figures.luxPerPar,
    bandShares: figures.bandShares,
    usableShare: figures.usableShare,
  };
}

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

function day(input: unknown) {
  const data = read(daySchema, input);
  const { ids, parAtFull, lit } = readDay(data);
  const levels = data.at.map((time) => levelsAt(lit, parseTime(time)!));
  return {
    levels: levels.map((row) => Object.fromEntries(ids.map((id, c) => [id, row[c]!]))),
    par: levels.map((row) => parOf(row, parAtFull)),
    dli: dli(lit, parAtFull),
    litHours: litHours(lit),
  };
}

function reduce(input: unknown) {
  const { day: data, controller } = read(reduceSchema, input);
  const { ids, parAtFull, lit } = readDay(data);
  const { knots, ...errors } = reduceDay(lit, parAtFull, controller);
  return {
    points: knots.map((k) => ({
      time: formatTime(k.minute),
      strengthShare: 1,
      mix: Object.fromEntries(ids.map((id, c) => [id, k.levels[c]!])),
    })),
    ...errors,
  };
}

function ease(input: unknown) {
  const { from, to, ceiling, tauDays } = read(easeSchema, input);
  try {
    return { days: fastestPlan(from, to, ceiling, tauDays) };
  } catch (error) {
    if (error instanceof PlanRefused) throw new InputError(error.field, error.message);
    throw error;
  }
}

function carry(input: unknown) {
  const data = read(carrySchema, input);
  const ids = Object.keys(data.target);
  const source = sumEmissions(data.source);
  if (!(par(source) > 0)) throw new InputError('source', 'has no photons from 400 to 700 nm');
  const { levels, match, parRatio } = carrySpectrum(
    source,
    ids.map((id) => sumEmissions(data.target[id]!)),
  );
  return { levels: Object.fromEntries(ids.map((id, i) => [id, levels[i]!])), match, parRatio };
}

function field(input: unknown) {
  const scene = read(fieldSchema, input);
  return {
    par: parOfEmitters(scene).map((row) => row.reduce((sum, value) => sum + value, 0)),
    enteredShare: enteredOfScene(scene),
  };
}

function fit(input: unknown) {
  const { field: scene, channels, readings } = read(fitSchema, input);
  const ids = Object.keys(channels);
  const at = (lamp: number, emitter: number) =>
    scene.lamps.slice(0, lamp).reduce((sum, l) => sum + l.emitters.length, 0) + emitter;
  const full = parOfEmitters({ ...scene, points: readings });
  const light = readings.map((r, i) =>
    ids.map(
      (id) => (r.levels[id] ?? 0) * channels[id]!.reduce((sum, [l, e]) => sum + full[i]![at(l, e)]!, 0),
    ),
  );
  const found = channelGains(
    readings.map((r) => r.reading),
    light,
  );
  const named = (values: readonly number[]) => Object.fromEntries(ids.map((id, c) => [id, values[c]!]));
  return {
    gain: named(found.gain),
    standardError: named(found.standardError),
    suspects: found.fit.suspects,
    predicted: found.fit.predicted,
  };
}

const CONVERSIONS: Readonly<Record<string, (text: string) => unknown>> = {
  spdx: parseSpdx,
  'spectrum-csv': parseSpectrumCsv,
  ies: parseIes,
  'readings-csv': parseReadingsCsv,
  'day-csv': parseDayCsv,
};

function convert(input: unknown) {
  const { from, text } = read(convertSchema, input);
  if (!Object.hasOwn(CONVERSIONS, from))
    throw new InputError('from', `unknown format "${from}": one of ${Object.keys(CONVERSIONS).join(', ')}`);
  try {
    return CONVERSIONS[from]!(text);
  } catch (error) {
    if (error instanceof FileProblem) throw new InputError('text', `${error.message}. ${error.remedy}`);
    throw error;
  }
}

/** What of a light feeds algae: share of its PAR by kind, and how well that is. */
function feeding(input: unknown) {
  const { emission, alga: only } = read(feedingSchema, input);
  const light = sumEmissions(emission);
  const of = only ? [alga(only)] : ALGAE;
  return {
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
  };
}

/** What a harvest took out, g and ppm of the system. */
function harvest(input: unknown) {
  const { wetG, drained, litres } = read(harvestSchema, input);
  const took = removed(wetG, drained);
  return { ...took, ...(litres === undefined ? {} : { ppm: asPpm(took, litres) }) };
}

export const VERBS: Readonly<Record<string, (input: unknown) => unknown>> = {
  spectrum,
  field,
  day,
  fit,
  ease,
  carry,
  reduce,
  convert,
  feeding,
  harvest,
};

/** Runs a verb on the text of its input. @throws InputError */
export function reckon(verb: string, text: string): unknown {
  if (!Object.hasOwn(VERBS, verb)) {
    throw new InputError('', `unknown verb "${verb}": one of ${Object.keys(VERBS).join(', ')}`);
  }
  let input: unknown;
  try {
    input = JSON.parse(text);
  } catch (error) {
    throw new InputError('', `the input is not JSON: ${(error as Error).message}`);
  }
  return VERBS[verb]!(input);
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
