import type { Field } from '../optics/field';
import { groundDepth } from '../optics/tank';
import { computeResponse } from '../optics/response';
import {
  accustom,
  ceilingFor,
  type DayLight,
  peakRatio,
  steadyDay,
  stepRatio,
  type StepRatio,
  unknownStart,
} from '../easing/accustomed';
import { floorUmolOf, lowerEdgeUmol, type NeedId, paceOf, wantsOf } from '../record/needs';
import { type InHand, plainSpot, type Spot, type Zone } from '../record/zone';
import type { Calibration } from './calibration';
import { type Placed, placed } from './judgement';
import { bandUnder, brightestLevels, daysAt, zoneLight } from './light';
import { type LitGroup, rigOf } from './lit';
import { groundPlaces, placeName } from './places';

/** What of a coral in hand says where it could go. */
export type Hand = Pick<InHand, 'need' | 'cameFrom' | 'sizeCm'>;

/** One place it could take. */
export interface CoralPlace {
  xCm: number;
  yCm: number;
  depthCm: number;
  /** an empty spot of the keeper's; null = floor or rock */
  spotId: string | null;
  name: string;
  umol: number;
  bandShare: number;
  dliMol: number;
  placed: Placed;
  /** over what it comes from */
  step: StepRatio;
  /** days until it may sit there under the ceiling, going by other places; 0 = at once, null = by no place of this tank */
  afterDays: number | null;
  /** the coral nearest to it, rim to rim, cm, and whether one reaches the other with its stings; null = alone */
  nearest: { spot: number; cm: number; stings: boolean } | null;
  /** corals that would lie in its shade */
  shades: number[];
}

/** A place to stay at on the way, until a day. */
export interface Stay {
  place: number;
  fromDay: number;
}

/** Places, the light a coral comes from, and the way to each: empty where there is none. */
export interface InHandPlaces {
  places: CoralPlace[];
  start: DayLight;
  ways: Stay[][];
}

/** How far stings reach beyond a coral's rim, cm. Mark: rule of thumb, field practice. */
const STINGS_CM: Record<NeedId, number> = {
  soft: 5,
  largePolyp: 15,
  smallPolyp: 5,
  nonPhotosynthetic: 5,
  clam: 0,
  anemone: 25,
  macroalgae: 0,
};
/** Half the width of a coral of which nothing is said, cm. Mark: rule of thumb. */
const RADIUS_CM = 5;
const radiusOf = (s: Pick<Spot, 'sizeCm'>) => (s.sizeCm ?? 2 * RADIUS_CM) / 2;
const MOST = 10;
const LONGEST_DAYS = 180;

/**
 * Where a coral in hand could go: floor, rock and the keeper's empty spots, each with its light, doubt, step over what it comes from,
 * neighbours, and how long it would have to stay elsewhere first. What it wants comes first, then what it may have at once.
 */
export function placesInHand(
  coral: Hand,
  zone: Zone,
  groups: readonly LitGroup[],
  cal: Calibration,
  field: Field,
  shares: ArrayLike<number>,
  ceiling: number,
): InHandPlaces {
  const tenant = plainSpot({ id: 'hand', name: '', xCm: 0, yCm: 0, depthCm: 0, need: coral.need });
  const wants = wantsOf(tenant, zone)!;
  const start = coral.cameFrom
    ? steadyDay(coral.cameFrom.peakUmol, coral.cameFrom.hours)
    : unknownStart(lowerEdgeUmol(tenant, zone));
  const floor = floorUmolOf(tenant, zone);
  const pace = paceOf(tenant);
  const most = ceilingFor(ceiling, pace);
  const spread = groundPlaces(field, zone.tank, zone.spots, wants, shares, MOST);
  const spots = zone.spots.filter((s) => s.need === null);
  const at = [
    ...spots.map((s) => ({ ...s, spotId: s.id as string | null })),
    ...spread.map((p) => ({ ...p, name: placeName(zone.tank, p), openShare: 1, spotId: null })),
    ...racks(zone),
  ];
  const light = zoneLight(computeResponse(rigOf(groups, zone, at, cal)), groups, cal);
  const days = daysAt(
    light,
    groups,
    at.map((_, i) => i),
  );
  const ratioOf = (day: DayLight, used: DayLight) => stepRatio(day, used, floor);
  const fits = (i: number, used: DayLight) => ratioOf(days[i]!, used).ratio <= most * (1 + 1e-9);

  /** the quickest way to a place by others: each day at the brightest that it may have, never beyond where it goes */
  const way = (to: number): Stay[] | null => {
    const steps = days.map((_, i) => i).filter((i) => days[i]!.peak <= days[to]!.peak + 1e-9);
    let used = start;
    const stays: Stay[] = [];
    for (let day = 0; day <= LONGEST_DAYS; day += 1) {
      const may = steps.filter((i) => fits(i, used));
      if (may.length === 0) return null;
      const now = stays.at(-1)?.place;
      const best = may.includes(to) ? to : may.reduce((a, b) => (days[b]!.peak > days[a]!.peak ? b : a));
      // a coral is not carried about for a few percent
      if (now === undefined || best === to || peakRatio(days[best]!, days[now]!, floor) > WORTH_A_MOVE)
        if (best !== now) stays.push({ place: best, fromDay: day });
      if (stays.at(-1)!.place === to) return stays;
      used = accustom(used, days[stays.at(-1)!.place]!, 1, pace);
    }
    return null;
  };
  const ways = at.map((_, i) => way(i) ?? []);
  const places = at.map((p, i): CoralPlace => {
    const day = days[i]!;
    const bandShare = bandUnder(cal, light, groups, brightestLevels(light, groups, i), i);
    const others = zone.spots.flatMap((s, spot) => {
      if (s.need === null || s.id === p.spotId) return [];
      const apart =
        Math.hypot(s.xCm - p.xCm, s.yCm - p.yCm, s.depthCm - p.depthCm) - radiusOf(s) - radiusOf(coral);
      const reach = Math.max(STINGS_CM[s.need], STINGS_CM[coral.need]);
      return [{ spot, cm: Math.max(0, apart), stings: apart < reach }];
    });
    const nearest = others.length > 0 ? others.reduce((a, b) => (b.cm < a.cm ? b : a)) : null;
    const { xCm, yCm, depthCm, spotId, name } = p;
    const path = ways[i]!;
    return {
      ...{ xCm, yCm, depthCm, spotId, name, umol: day.peak, bandShare, dliMol: day.dli },
      placed: placed(day.peak, bandShare, wants),
      step: ratioOf(day, start),
      afterDays: path.at(-1)?.fromDay ?? null,
      // a reach beats a distance
      nearest: others.find((o) => o.stings) ?? nearest,
      shades: zone.spots.flatMap((s, spot) =>
        s.need !== null &&
        s.depthCm > depthCm + 3 &&
        Math.hypot(s.xCm - xCm, s.yCm - yCm) < radiusOf(coral) + radiusOf(s) / 2
          ? [spot]
          : [],
      ),
    };
  });
  const order = places
    .map((p, i) => ({ p, i }))
    .sort((a, b) => worth(b.p) - worth(a.p))
    .map((x) => x.i);
  const was = new Map(order.map((i, k) => [i, k]));
  return {
    places: order.map((i) => places[i]!),
    start,
    ways: order.map((i) => ways[i]!.map((s) => ({ ...s, place: was.get(s.place)! }))),
  };
}

/** Where a rack could hang at the back pane and a ledge at the side panes, in no coral's way, at two depths. Marks: rule of thumb. */
const RACKS = { along: [1 / 6, 1 / 2, 5 / 6], deep: [0.35, 0.6], fromPaneCm: 8, apartCm: 12 } as const;
const SIDES = ['left', 'middle', 'right'] as const;
export const racks = ({ tank, spots }: Zone) =>
  RACKS.deep.flatMap((deep) => {
    const at = (xCm: number, yCm: number, name: string) => ({
      ...{ xCm, yCm, depthCm: deep * tank.depthCm, name },
      ...{ openShare: 1, spotId: null },
    });
    const back = tank.widthCm - RACKS.fromPaneCm;
    return [
      ...RACKS.along.map((along, k) => at(along * tank.lengthCm, back, `on a rack, ${SIDES[k]} back`)),
      at(RACKS.fromPaneCm, tank.widthCm / 2, 'on a ledge, left pane'),
      at(tank.lengthCm - RACKS.fromPaneCm, tank.widthCm / 2, 'on a ledge, right pane'),
    ].filter(
      (p) =>
        groundDepth(tank, p.xCm, p.yCm) > p.depthCm &&
        spots.every((s) => Math.hypot(s.xCm - p.xCm, s.yCm - p.yCm, s.depthCm - p.depthCm) > RACKS.apartCm),
    );
  });

/** A move that brings less than this is not made. Mark: rule of thumb. */
const WORTH_A_MOVE = 1.1;
/** How good a place is: that it is right, how soon it may be had, that nobody stings. Mark: rule of thumb. */
const worth = (p: CoralPlace): number =>
  p.placed.within -
  (p.afterDays === null ? 0.5 : Math.min(0.3, p.afterDays / 100)) -
  (p.nearest?.stings ? 0.4 : 0) -
  0.2 * p.shades.length;
