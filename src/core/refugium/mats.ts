import { algaeSpots, type Harvest } from '../record/log/harvest';
import type { Calibration } from '../case/calibration';
import { bandUnder, brightestLevels, dayAt, parUnder, spectrumUnder, type ZoneLight } from '../case/light';
import type { LitGroup } from '../case/lit';
import type { LogDoc } from '../record/log';
import { type Mat, plainSpot, type Spot, type Zone } from '../record/zone';
import { type Wants, wantsOf } from '../record/needs';
import { alga, type Alga } from '../feeding/algae';
import { NINETY } from '../meter/noise';
import type { RigSpot } from '../optics/response';
import type { DayLight } from '../easing/accustomed';
import type { Spectrum } from '../spectrum/grid';
import { type Fit, fitOf } from './families';
import { corrected, countingHours, expectedWetGPerDay, type MatLight, matLight } from './growth';
import { harvestsOf, type Interval, lateIntervals, testsOf } from './harvests';
import { judgeMat, type Judgement } from './judge';
import { type MatPlace, matPlaces } from './roles';
import { type Overlit, overlit, type Way, waysOut } from './overlit';
import { AS_NOW, type PastLight } from './past';
import type { Range } from '../feeding/range';

/** A mat where nobody has said how large it is, cm. Mark: rule of thumb. */
const SMALL: Mat = { lengthCm: 12, widthCm: 12 };

/** Where a spot's mat lies. */
export const matOf = (spot: Spot): MatPlace => ({
  ...(spot.mat ?? SMALL),
  xCm: spot.xCm,
  yCm: spot.yCm,
  depthCm: spot.depthCm,
});

/** Lists of places of a zone laid end to end, as its spots, and which of them belong to which list. */
export interface Laid {
  zone: Zone;
  indices: number[][];
}
function laid(zone: Zone, lists: readonly (readonly RigSpot[])[]): Laid {
  let next = 0;
  return {
    zone: {
      ...zone,
      spots: lists
        .flat()
        .map(({ algaId: _, ...p }, i) => plainSpot({ id: `p${i}`, name: '', need: null, ...p })),
    },
    indices: lists.map((l) => l.map(() => next++)),
  };
}

/** The places over every mat of a zone. */
export const laidMats = (zone: Zone): Laid =>
  laid(
    zone,
    algaeSpots(zone).map((s) =>
      matPlaces(matOf(s), zone.tank).map((p) => ({ ...p, openShare: s.openShare })),
    ),
  );

/** A mat in its light. */
export interface LitMat {
  spot: Spot;
  /** null = it is not said which alga it is */
  alga: Alga | null;
  place: MatPlace;
  areaM2: number;
  wants: Wants;
  /** null while there is no light, or the alga is not known */
  light: MatLight | null;
  /** photons at its middle when it is brightest, µmol m⁻² s⁻¹ nm⁻¹; null while there is no light */
  spectrum: Spectrum | null;
  /** the day's light at its middle; null while there is no light */
  here: DayLight | null;
  /** highest PAR of the day anywhere on it, µmol */
  peakUmol: number;
  /** half width of the 90 % band of its light, as a share */
  band: number;
  fit: Fit | null;
  /** wet g a day with nothing but light to limit it */
  expected: Range | null;
}

/** Every mat of a zone in the light over its places; without light what is known by itself. */
export function litMats(
  zone: Zone,
  { indices }: Laid,
  light: ZoneLight | null,
  groups: readonly LitGroup[],
  cal: Calibration,
): LitMat[] {
  return algaeSpots(zone).map((spot, i): LitMat => {
    const kind = spot.algaId ? alga(spot.algaId) : null;
    const place = matOf(spot);
    const areaM2 = (place.lengthCm * place.widthCm) / 1e4;
    const known = { spot, alga: kind, place, areaM2, wants: wantsOf(spot, zone)! };
    if (!light)
      return {
        ...known,
        light: null,
        spectrum: null,
        here: null,
        peakUmol: 0,
        band: 0,
        fit: null,
        expected: null,
      };
    const own = indices[i]!;
    const over = kind ? matLight(light, groups, own, kind) : null;
    const middle = own[Math.floor(own.length / 2)]!;
    const levels = brightestLevels(light, groups, middle);
    const spectrum = spectrumUnder(light, levels, middle);
    return {
      ...known,
      light: over,
      spectrum,
      here: dayAt(light, groups, middle),
      peakUmol: Math.max(...own.map((k) => dayAt(light, groups, k).peak)),
      band: bandUnder(cal, light, groups, levels, middle),
      fit: kind ? fitOf(spectrum, kind) : null,
      expected:
        kind && over
          ? expectedWetGPerDay(kind, areaM2, countingHours(over.saturatedHours, over.litHours, kind))
          : null,
    };
  });
}

/** Places where overlit mats could go: none for those that are not. */
export function laidWays(zone: Zone, mats: readonly LitMat[]): { ways: Way[][]; laid: Laid } {
  const ways = mats.map((m) => (m.alga && m.peakUmol > m.wants.toUmol ? waysOut(m.spot, zone.tank) : []));
  return {
    ways,
    laid: laid(
      zone,
      ways.map((w) => w.map((x) => x.place)),
    ),
  };
}

/** For every mat how far down or away it should go; null where it is not overlit. */
export const overlitMats = (
  mats: readonly LitMat[],
  { ways, laid: { indices } }: ReturnType<typeof laidWays>,
  light: ZoneLight | null,
  groups: readonly LitGroup[],
): (Overlit | null)[] =>
  mats.map((m, i) =>
    m.alga && light
      ? overlit(
          m.alga,
          m.wants.toUmol,
          m.peakUmol,
          ways[i]!,
          indices[i]!.map((k) => parUnder(light, brightestLevels(light, groups, k), k)),
        )
      : null,
  );

/** What the log says of a mat: what was weighed, what of that follows, and whether it works. */
export interface LoggedMat {
  harvests: Harvest[];
  judgement: Judgement | null;
  /** wet g a day to expect, as weighed intervals have corrected it, and how many there were; null while nothing is expected */
  growth: { wet: Range; weighed: number } | null;
}

/** A light that is known to be off by less than this is not believed, as a standard deviation. Mark: rule of thumb. */
const LEAST_SD = 0.05;

/** What there was to expect of a mat in another light than it has now, wet g a day. */
function expectedIn({ alga: kind, light, areaM2 }: LitMat, { strengthShare, hoursShare }: PastLight): Range {
  const { worthUmol, saturatedHours, litHours } = light!;
  const bend = (of: number) => Math.tanh((worthUmol * of) / kind!.ekUmol);
  const strength = worthUmol > 0 ? bend(strengthShare) / bend(1) : 0;
  return expectedWetGPerDay(
    kind!,
    areaM2,
    countingHours(saturatedHours * hoursShare * strength, litHours * hoursShare, kind!),
  );
}

/** @param past the light an interval grew in, against the present one; absent = as now */
export function loggedMat(
  m: LitMat,
  log: LogDoc,
  nowMs: number,
  past: (interval: Interval) => PastLight = () => AS_NOW,
): LoggedMat {
  const harvests = harvestsOf(log, [m.spot.id]);
  const { expected } = m;
  const weighed = expected
    ? lateIntervals(harvests, nowMs).map((i) => ({
        expected: expectedIn(m, past(i)),
        gotGPerDay: i.gainGPerDay,
      }))
    : [];
  return {
    harvests,
    judgement:
      m.alga && m.light
        ? judgeMat({
            alga: m.alga,
            areaM2: m.areaM2,
            light: { worthUmol: m.light.worthUmol, sd: Math.max(LEAST_SD, m.band / NINETY) },
            litHours: m.light.litHours,
            past,
            harvests,
            tests: testsOf(log),
            nowMs,
          })
        : null,
    growth: expected ? { wet: corrected(expected, weighed), weighed: weighed.length } : null,
  };
}
