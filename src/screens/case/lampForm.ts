import { lengthRange, unitsSaid } from '@/core/shape/units';
import { FIRST_NM, LAST_NM } from '@/core/spectrum/grid';
import * as v from 'valibot';

import { centreNm } from '@/core/library/held';
import { phosphorWhite, WHITE_EFFICACY_UMOL_PER_J, WHITE_FROM_K, WHITE_TO_K } from '@/core/mix/phosphor';
import type { ReadSpectrum } from '@/core/formats/table';
import { emissionSpectrum } from '@/core/spectrum/emission';
import {
  type Control,
  controlsProblem,
  type Channel,
  type Dimming,
  type EmitterGroup,
  type LampKind,
} from '@/core/spectrum/lampKind';
import { controlPerChannel, dims } from '@/core/spectrum/controls';
import { efficacyUmolPerJ, lampKind } from '@/core/spectrum/lamp';
import { fullWallWatts } from '@/core/spectrum/watts';
import { parseNumber } from '@/ui/parseNumber';

/** A lamp as it is typed: everything is text until it is read. */
export interface GroupRow {
  light: 'line' | 'white' | 'table';
  /** peak in nm, or kelvin of a white */
  peak: string;
  width: string;
  count: string;
  watts: string;
  /** photon flux per emitter in µmol/s where the maker states it; empty = from the watts */
  flux: string;
  /** full beam angle of its own lens, degrees; empty = the lamp's */
  beam: string;
  /** the light of a table, which is not typed */
  table: (ReadSpectrum & { efficacyUmolPerJ: number }) | null;
}
export interface ChannelRow {
  id: string;
  name: string;
  groups: GroupRow[];
  /** lowest level at which it lights, % */
  lowest: string;
  /** measured dimming points, "20:5, 60:40" in % of drive and % of light */
  curve: string;
  /** tied: name of the key it hangs on */
  key: string;
  /** tint: shares at the three positions, %; all empty = a colour of its own beside the tint */
  white: string;
  middle: string;
  blue: string;
  /** balance: share of the balance in %, empty = a colour of its own; factors of its trim */
  share: string;
  trimFrom: string;
  trimTo: string;
}
export type Setting = 'each' | 'onOff' | 'tied' | 'tint' | 'balance' | 'kept';
export interface LampForm {
  name: string;
  source: LampKind['source'];
  layout: LampKind['layout'];
  beam: string;
  faceLength: string;
  faceWidth: string;
  budget: string;
  price: string;
  /** step of typed percents; 0 = any value */
  step: string;
  /** most points a day; empty = any number */
  points: string;
  /** its times stand at multiples of so many minutes */
  everyMin: string;
  clock: 'follows' | 'keeps';
  interpolation: 'ramp' | 'hold';
  capMeans: LampKind['controller']['capMeans'];
  easingOf: 'lamp' | 'cap' | 'target';
  setting: Setting;
  channels: ChannelRow[];
}

const isNumber = (text: string) => parseNumber(text) !== null;
const within = (text: string, low: number, high: number) => {
  const n = parseNumber(text);
  return n === null || (n >= low && n <= high);
};
const number = (low: number, high: number, unit: string) =>
  v.pipe(
    v.string(),
    v.check(
      (text) => isNumber(text),
      () => `Give a number${unit ? ` in ${unit === 'cm' ? unitsSaid().length : unit}` : ''}.`,
    ),
    v.check(
      (text) => within(text, low, high),
      () => `Give ${unit === 'cm' ? lengthRange(low, high) : `${low} to ${high}${unit ? ` ${unit}` : ''}`}.`,
    ),
  );
/** The same, or nothing. */
const maybe = (low: number, high: number, unit: string) =>
  v.pipe(
    v.string(),
    v.check(
      (text) => text.trim() === '' || (isNumber(text) && within(text, low, high)),
      `Give ${low} to ${high}${unit ? ` ${unit}` : ''}, or nothing.`,
    ),
  );
const name = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Give it a name.'),
  v.maxLength(60, 'At most 60 letters.'),
);
const count = v.pipe(
  number(1, 500, ''),
  v.check((text) => Number.isInteger(parseNumber(text)), 'Give a whole number.'),
);
const emitters = {
  count,
  watts: number(0.01, 1000, 'W'),
  flux: maybe(0, 10_000, 'µmol/s'),
  beam: maybe(5, 175, 'degrees'),
  table: v.any(),
};

/** Reads "20:5, 60:40" (% of drive : % of light); null when it is no rising list. */
export function readCurve(text: string): Dimming['curve'] | null {
  if (text.trim() === '') return [];
  const points = text
    .split(/[,;\n]\s*(?=\d)/)
    .map((part) => part.split(':').map((t) => parseNumber(t ?? '')));
  if (points.some((p) => p.length !== 2 || p.some((n) => n === null || n < 0 || n > 100))) return null;
  const curve = points.map(([x, y]): [number, number] => [x! / 100, y! / 100]);
  const rises = curve.every(
    ([x, y], i) => x > (curve[i - 1]?.[0] ?? 0) && x < 1 && y >= (curve[i - 1]?.[1] ?? 0),
  );
  return rises && curve.length <= 50 ? curve : null;
}

/** The same the other way round. */
export const curveText = (curve: Dimming['curve']): string =>
  curve.map(([x, y]) => `${typed(x * 100)}:${typed(y * 100)}`).join(', ');

const channelRow = v.object({
  id: v.string(),
  name,
  groups: v.pipe(
    v.array(
      v.variant('light', [
        v.object({
          light: v.literal('line'),
          ...emitters,
          peak: number(FIRST_NM, LAST_NM, 'nm'),
          width: number(1, 300, 'nm'),
        }),
        v.object({
          light: v.literal('white'),
          ...emitters,
          peak: number(WHITE_FROM_K, WHITE_TO_K, 'K'),
          width: v.string(),
        }),
        v.object({ light: v.literal('table'), ...emitters, peak: v.string(), width: v.string() }),
      ]),
    ),
    v.minLength(1, 'Give at least one kind of emitter.'),
  ),
  lowest: maybe(0, 90, '%'),
  curve: v.pipe(
    v.string(),
    v.check(
      (t) => readCurve(t) !== null,
      'Give rising points such as 20:5, 60:40 (% of drive : % of light).',
    ),
  ),
  key: v.pipe(v.string(), v.maxLength(60, 'At most 60 letters.')),
  white: maybe(0, 100, '%'),
  middle: maybe(0, 100, '%'),
  blue: maybe(0, 100, '%'),
  share: maybe(0, 100, '%'),
  trimFrom: maybe(0, 10, '×'),
  trimTo: maybe(0, 10, '×'),
});

export const lampFormSchema = v.pipe(
  v.object({
    name,
    source: v.picklist(['led', 'tube', 'halide']),
    layout: v.picklist(['spread', 'cluster', 'line']),
    beam: number(5, 175, 'degrees'),
    faceLength: number(0, 300, 'cm'),
    faceWidth: number(0, 300, 'cm'),
    budget: maybe(1, 5000, 'W'),
    price: maybe(0, 1_000_000, ''),
    step: number(0, 50, '%'),
    points: maybe(1, 1000, 'points'),
    everyMin: number(1, 240, 'min'),
    clock: v.picklist(['follows', 'keeps']),
    interpolation: v.picklist(['ramp', 'hold']),
    capMeans: v.picklist(['multiplies', 'rescales', 'none']),
    easingOf: v.picklist(['lamp', 'cap', 'target']),
    setting: v.picklist(['each', 'onOff', 'tied', 'tint', 'balance', 'kept']),
    channels: v.pipe(
      v.array(channelRow),
      v.minLength(1, 'Give at least one channel.'),
      v.maxLength(24, 'At most 24 channels.'),
    ),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const form = dataset.value as LampForm;
    const complain = (message: string, ...keys: (string | number)[]) =>
      addIssue({
        message,
        path: keys.map((key) => ({
          type: 'unknown',
          origin: 'value',
          input: form,
          key,
          value: null,
        })) as unknown as [v.IssuePathItem],
      });
    const budget = parseNumber(form.budget);
    if (budget !== null) {
      const most = fullWallWatts({ ...lampFromForm(form, 'check'), powerBudgetWatts: null });
      if (budget > 1.5 * most) {
        complain(
          `The channels add up to only ${Math.round(most)} W from the wall: check counts and watts, or give less here.`,
          'budget',
        );
      }
    }
    form.channels.forEach((c, i) => {
      if (form.setting === 'tied' && c.key.trim() === '')
        complain('Name the key it hangs on.', 'channels', i, 'key');
      const typed = [c.white, c.middle, c.blue].filter((t) => t.trim() !== '').length;
      if (form.setting === 'tint' && typed > 0 && typed < 3)
        complain('Give all three shares, or none for a colour of its own.', 'channels', i, 'white');
      if (form.setting === 'balance' && (c.trimFrom.trim() === '') !== (c.trimTo.trim() === ''))
        complain('Give both factors of the trim, or neither.', 'channels', i, 'trimFrom');
    });
    if (form.setting === 'tint' && form.channels.every((c) => c.white.trim() === ''))
      complain('Say what the tint does to at least one channel.', 'channels', 0, 'white');
    if (form.setting === 'balance' && form.channels.every((c) => c.share.trim() === ''))
      complain('Put at least one channel into the balance.', 'channels', 0, 'share');
  }),
);

export const emptyGroup = (): GroupRow => ({
  light: 'line',
  peak: '',
  width: '20',
  count: '',
  watts: '',
  flux: '',
  beam: '',
  table: null,
});
export const emptyChannel = (id: string): ChannelRow => ({
  id,
  name: '',
  groups: [emptyGroup()],
  lowest: '',
  curve: '',
  key: '',
  white: '',
  middle: '',
  blue: '',
  share: '',
  trimFrom: '',
  trimTo: '',
});
export const emptyLamp = (id: string): LampForm => ({
  name: '',
  source: 'led',
  layout: 'spread',
  beam: '90',
  faceLength: '30',
  faceWidth: '15',
  budget: '',
  price: '',
  step: '1',
  points: '',
  everyMin: '1',
  clock: 'follows',
  interpolation: 'ramp',
  capMeans: 'none',
  easingOf: 'target',
  setting: 'each',
  channels: [emptyChannel(id)],
});

const read = (text: string) => parseNumber(text)!;
const wholeOrNull = (text: string) => {
  const n = parseNumber(text);
  return n === null ? null : Math.round(n);
};
const readOr = (text: string, otherwise: number) => parseNumber(text) ?? otherwise;

/** Photon efficacy that is assumed for a measured light: of a narrow one by its centre, of a broad one as of a white. */
export function efficacyOfTable(table: ReadSpectrum): number {
  const s = emissionSpectrum({ shape: 'table', points: table.points, quantity: table.quantity, flux: 1 });
  const broad = 1 / s.reduce((sum, x) => sum + x * x, 0) > 90;
  return broad ? WHITE_EFFICACY_UMOL_PER_J : efficacyUmolPerJ(centreNm(s));
}

function lightOf(row: GroupRow): EmitterGroup['light'] {
  if (row.light === 'line') return { shape: 'line', peakNm: read(row.peak), fwhmNm: read(row.width) };
  if (row.light === 'white') return phosphorWhite(read(row.peak));
  const { points, quantity, efficacyUmolPerJ: efficacy } = row.table!;
  return { shape: 'table', points, quantity, efficacyUmolPerJ: efficacy };
}

function controlsOf(form: LampForm, before?: LampKind): Control[] {
  const { channels } = form;
  const level = (c: ChannelRow, kind: 'level' | 'onOff' = 'level'): Control => ({
    kind,
    id: c.id,
    name: c.name.trim(),
    drives: { [c.id]: 1 },
  });
  if (form.setting === 'kept' && before) return before.controls;
  if (form.setting === 'onOff') return channels.map((c) => level(c, 'onOff'));
  if (form.setting === 'tied') {
    const keys = [...new Set(channels.map((c) => c.key.trim()))];
    return keys.map((key) => {
      const own = channels.filter((c) => c.key.trim() === key);
      const old = before?.controls.find((c) => c.name === key && c.kind === 'level');
      return {
        kind: 'level',
        id: old?.id ?? own[0]!.id,
        name: key,
        drives: Object.fromEntries(own.map((c) => [c.id, 1])),
      };
    });
  }
  if (form.setting === 'tint') {
    const inTint = channels.filter((c) => c.white.trim() !== '');
    const at = (field: 'white' | 'middle' | 'blue') =>
      Object.fromEntries(inTint.map((c) => [c.id, read(c[field]) / 100]));
    const tint = before?.controls.find((c) => c.kind === 'tint');
    return [
      { kind: 'brightness', id: 'brightness', name: 'Brightness' },
      {
        kind: 'tint',
        id: 'tint',
        name: 'Tint',
        fromName: tint?.kind === 'tint' ? tint.fromName : 'white',
        toName: tint?.kind === 'tint' ? tint.toName : 'blue',
        stops: [
          { at: 0, shares: at('white') },
          { at: 0.5, shares: at('middle') },
          { at: 1, shares: at('blue') },
        ],
      },
      ...channels.filter((c) => c.white.trim() === '').map((c) => level(c)),
    ];
  }
  if (form.setting === 'balance') {
    const inside = channels.filter((c) => c.share.trim() !== '');
    return [
      {
        kind: 'level',
        id: 'balance',
        name: before?.controls.find((c) => c.id === 'balance')?.name ?? 'Balance',
        drives: Object.fromEntries(inside.map((c) => [c.id, read(c.share) / 100])),
      },
      ...inside
        .filter((c) => c.trimFrom.trim() !== '')
        .map((c): Control => ({
          kind: 'trim',
          id: `${c.id}-trim`,
          name: `${c.name.trim()} trim`,
          channelIds: [c.id],
          fromFactor: read(c.trimFrom),
          toFactor: read(c.trimTo),
        })),
      ...channels.filter((c) => c.share.trim() === '').map((c) => level(c)),
    ];
  }
  return controlPerChannel(channels.map((c) => ({ id: c.id, name: c.name.trim() })));
}

/** A checked form as a lamp kind. */
export function lampFromForm(form: LampForm, id: string, before?: LampKind): LampKind {
  const channels = form.channels.map((row): Channel => ({
    id: row.id,
    name: row.name.trim(),
    groups: row.groups.map((g) => ({
      light: lightOf(g),
      count: read(g.count),
      wattsEach: read(g.watts),
      ...(g.flux.trim() === '' ? {} : { fluxEachUmolPerS: read(g.flux) }),
      ...(g.beam.trim() === '' ? {} : { beamAngleDeg: read(g.beam) }),
    })),
    dimming: { lowestLitShare: readOr(row.lowest, 0) / 100, curve: readCurve(row.curve) ?? [] },
  }));
  const controls = controlsOf(form, before);
  const plain = lampKind({
    id,
    name: form.name.trim(),
    source: form.source,
    layout: form.layout,
    channels,
    controls,
    powerBudgetWatts: parseNumber(form.budget),
    price: parseNumber(form.price),
    beamAngleDeg: read(form.beam),
    faceLengthCm: read(form.faceLength),
    faceWidthCm: read(form.faceWidth),
    controller: {
      // what the form does not ask for stays, as long as the lamp still dims or still does not
      ...(before && dims(before) === dims({ controls }) ? before.controller : {}),
      pointStepShare: read(form.step) / 100,
      maxPoints: wholeOrNull(form.points),
      everyMin: Math.round(read(form.everyMin)),
      followsClockChange: form.clock === 'follows',
      interpolation: form.interpolation,
      capMeans: form.capMeans,
      easingOf: form.easingOf,
    },
  });
  // an optic from a file cannot be typed: it stays with its lamp
  const kind: LampKind = {
    ...plain,
    ...(before?.optic ? { optic: before.optic } : {}),
    ...(before?.diffuserShare ? { diffuserShare: before.diffuserShare } : {}),
  };
  // controls that were kept may no longer fit channels that were removed or added
  return controlsProblem(kind) === null ? kind : { ...kind, controls: controlPerChannel(channels) };
}

/** Numbers of a form without the dust of binary fractions. */
const typed = (n: number) => String(Number(n.toPrecision(12)));

type Level = Extract<Control, { drives: unknown }>;
type Trim = Extract<Control, { kind: 'trim' }>;

function settingOf(kind: LampKind): Setting {
  const { controls } = kind;
  const tint = controls.find((c) => c.kind === 'tint');
  if (tint)
    return tint.kind === 'tint' && tint.stops.length === 3 && tint.stops[1]!.at === 0.5 ? 'tint' : 'kept';
  if (controls.every((c) => c.kind === 'onOff' && Object.keys(c.drives).length === 1)) return 'onOff';
  const levels = controls.filter((c): c is Level => c.kind === 'level');
  const wide = levels.filter(
    (c) => Object.keys(c.drives).length > 1 || Object.values(c.drives).some((d) => d !== 1),
  );
  const trims = controls.filter((c): c is Trim => c.kind === 'trim');
  if (levels.length + trims.length !== controls.length) return 'kept';
  if (wide.length === 0 && trims.length === 0) return 'each';
  if (wide.length === 1 && wide[0]!.id === 'balance' && trims.every((t) => t.channelIds.length === 1))
    return 'balance';
  return trims.length === 0 && wide.every((c) => Object.values(c.drives).every((d) => d === 1))
    ? 'tied'
    : 'kept';
}

export const formFromLamp = (kind: LampKind): LampForm => {
  const setting = settingOf(kind);
  const tint = kind.controls.find((c) => c.kind === 'tint');
  const balance = kind.controls.find((c) => c.id === 'balance' && c.kind === 'level');
  return {
    name: kind.name,
    source: kind.source,
    layout: kind.layout,
    beam: typed(kind.beamAngleDeg),
    faceLength: typed(kind.faceLengthCm),
    faceWidth: typed(kind.faceWidthCm),
    budget: kind.powerBudgetWatts === null ? '' : typed(kind.powerBudgetWatts),
    price: kind.price === null ? '' : typed(kind.price),
    step: typed(kind.controller.pointStepShare * 100),
    points: kind.controller.maxPoints === null ? '' : String(kind.controller.maxPoints),
    everyMin: String(kind.controller.everyMin),
    clock: kind.controller.followsClockChange ? 'follows' : 'keeps',
    interpolation: kind.controller.interpolation,
    capMeans: kind.controller.capMeans,
    easingOf: kind.controller.easingOf,
    setting,
    channels: kind.channels.map((c) => {
      const share = (at: number) =>
        tint?.kind === 'tint' && setting === 'tint' && c.id in tint.stops[0]!.shares
          ? typed((tint.stops[at]!.shares[c.id] ?? 0) * 100)
          : '';
      const trim = kind.controls.find((t) => t.kind === 'trim' && t.channelIds.includes(c.id));
      const key = kind.controls.find((t) => t.kind === 'level' && c.id in t.drives);
      return {
        id: c.id,
        name: c.name,
        groups: c.groups.map(({ light, count: n, wattsEach, fluxEachUmolPerS, beamAngleDeg }): GroupRow => {
          const white = light.shape === 'table' ? light.whiteCctK : undefined;
          return {
            light: white !== undefined ? 'white' : light.shape,
            peak: light.shape === 'line' ? typed(light.peakNm) : white !== undefined ? typed(white) : '',
            width: light.shape === 'line' ? typed(light.fwhmNm) : '',
            count: typed(n),
            watts: typed(wattsEach),
            flux: fluxEachUmolPerS === undefined ? '' : typed(fluxEachUmolPerS),
            beam: beamAngleDeg === undefined ? '' : typed(beamAngleDeg),
            table:
              light.shape === 'table' && white === undefined
                ? {
                    shape: 'table',
                    points: light.points,
                    quantity: light.quantity,
                    efficacyUmolPerJ: light.efficacyUmolPerJ,
                  }
                : null,
          };
        }),
        lowest: c.dimming.lowestLitShare === 0 ? '' : typed(c.dimming.lowestLitShare * 100),
        curve: curveText(c.dimming.curve),
        key: setting === 'tied' ? (key?.name ?? '') : '',
        white: share(0),
        middle: share(1),
        blue: share(2),
        share:
          setting === 'balance' && balance?.kind === 'level' && c.id in balance.drives
            ? typed(balance.drives[c.id]! * 100)
            : '',
        trimFrom: setting === 'balance' && trim?.kind === 'trim' ? typed(trim.fromFactor) : '',
        trimTo: setting === 'balance' && trim?.kind === 'trim' ? typed(trim.toFactor) : '',
      };
    }),
  };
};
