import { samePlace } from '../record/zone';
import { repeatNoise } from '../meter/noise';
import type { Calibration, Residual } from './calibration';

/** Light of one channel at a place, measured alone, at full. */
export interface SoloRow {
  groupId: string;
  channelId: string;
  parAtFull: number;
  standardError: number;
}

/** A place where channels were read alone. */
export interface SoloPlace {
  spotId: string | null;
  name: string;
  xCm: number;
  yCm: number;
  depthCm: number;
  rows: SoloRow[];
}

/** Readings closer than this stand at one place, cm. Mark: rule of thumb. */
const ONE_PLACE_CM = 1.5;
/** Sums further off than this many standard errors do not add up. Mark: rule of thumb. */
const ODD_SIGMAS = 2.5;
/** Levels below this cannot speak for full. Mark: rule of thumb. */
const LEAST_LEVEL = 0.1;

const litIn = (r: Residual): { groupId: string; channelId: string; level: number }[] =>
  Object.entries(r.levels).flatMap(([groupId, levels]) =>
    Object.entries(levels).flatMap(([channelId, level]) =>
      level > 0 ? [{ groupId, channelId, level }] : [],
    ),
  );

/** The first route from readings to light: every channel read alone at a place gives that place's light for any mix, with no optics. */
export function soloPlaces(cal: Pick<Calibration, 'residuals'>): SoloPlace[] {
  const places: SoloPlace[] = [];
  for (const r of cal.residuals) {
    const lit = litIn(r);
    if (lit.length !== 1 || lit[0]!.level < LEAST_LEVEL || r.dropped) continue;
    const { groupId, channelId, level } = lit[0]!;
    let place = places.find((p) => samePlace(p, r, ONE_PLACE_CM));
    if (!place) {
      place = { spotId: r.spotId, name: r.name, xCm: r.xCm, yCm: r.yCm, depthCm: r.depthCm, rows: [] };
      places.push(place);
    }
    const row: SoloRow = {
      groupId,
      channelId,
      parAtFull: r.observedUmol / level,
      standardError: r.sigmaUmol / level,
    };
    const twin = place.rows.find((x) => x.groupId === groupId && x.channelId === channelId);
    if (!twin) place.rows.push(row);
    else {
      // two readings of one channel count by what they are worth
      const [a, b] = [1 / twin.standardError ** 2, 1 / row.standardError ** 2];
      twin.parAtFull = (a * twin.parAtFull + b * row.parAtFull) / (a + b);
      twin.standardError = 1 / Math.sqrt(a + b);
    }
  }
  return places;
}

/** PAR at a place from its solo readings, µmol; null when a lit channel was never read alone there. */
export function parBySolo(
  place: SoloPlace,
  levels: Readonly<Record<string, Readonly<Record<string, number>>>>,
): { umol: number; standardError: number } | null {
  let umol = 0;
  let variance = 0;
  for (const [groupId, own] of Object.entries(levels)) {
    for (const [channelId, level] of Object.entries(own)) {
      if (level === 0) continue;
      const row = place.rows.find((r) => r.groupId === groupId && r.channelId === channelId);
      if (!row) return null;
      umol += level * row.parAtFull;
      variance += (level * row.standardError) ** 2;
    }
  }
  return umol > 0 ? { umol, standardError: Math.sqrt(variance) } : null;
}

export interface SumCheck {
  readingId: string;
  name: string;
  sumUmol: number;
  togetherUmol: number;
  /** (together − sum) in standard errors of that difference */
  sigmas: number;
  addsUp: boolean;
  causes: string[];
}

/** Readings with several channels lit against the sum of the same channels read alone at the same place. */
export function sumChecks(cal: Pick<Calibration, 'residuals'>): SumCheck[] {
  const places = soloPlaces(cal);
  return cal.residuals.flatMap((r): SumCheck[] => {
    const lit = litIn(r);
    const place = places.find((p) => samePlace(p, r, ONE_PLACE_CM));
    if (lit.length < 2 || !place) return [];
    const sum = parBySolo(place, r.levels);
    if (!sum) return [];
    const error = Math.hypot(
      repeatNoise(r.observedUmol),
      ...lit.map((l) => {
        const row = place.rows.find((x) => x.groupId === l.groupId && x.channelId === l.channelId)!;
        return repeatNoise(l.level * row.parAtFull);
      }),
    );
    const sigmas = (r.observedUmol - sum.umol) / error;
    const addsUp = Math.abs(sigmas) <= ODD_SIGMAS;
    return [
      {
        readingId: r.readingId,
        name: r.name,
        sumUmol: sum.umol,
        togetherUmol: r.observedUmol,
        sigmas,
        addsUp,
        causes: addsUp ? [] : sigmas < 0 ? LESS : MORE,
      },
    ];
  });
}

const LESS = [
  'the lamp shares a power budget: with everything on, each colour gets less than alone',
  'the sensor stood elsewhere or was shaded, by an arm or by a coral',
  'the meter sees some colours worse than others, so that its words for them do not add',
];
const MORE = [
  'other light fell in with everything on: a room lamp, daylight, another lamp of the tank',
  'the sensor stood elsewhere or was shaded while the colours were read one by one',
  'a colour was not as low as typed when the others were read alone: the lamp rounds low levels up',
];
