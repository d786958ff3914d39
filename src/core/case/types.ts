import type { Extras } from '../day/extras';
import type { Levels, LampKind } from '../spectrum/lampKind';
import { ceilingFor, type Pace, PACES } from '../easing/accustomed';
import type { Hanging } from '../optics/rig';
import type { CoralForm } from '../coral/form';
import { alga, type AlgaId } from '../feeding/algae';
import type { MeterKindId } from '../meter/kinds';
import type { Tank } from '../optics/tank';
import type { Water } from '../optics/water';
import type { BandId } from '../spectrum/bands';
import type { TableEmission } from '../spectrum/emission';

/** Everything about one keeper's system, as stored and exported. Lengths in cm, instants as UTC ISO 8601. */
export interface CaseDoc {
  format: 'chromatheca-case';
  version: 5;
  id: string;
  name: string;
  /** the demo is marked as such wherever it is shown */
  demo: boolean;
  zones: Zone[];
  lampKinds: LampKind[];
  /** in the keeper's own order */
  plates: Plate[];
  /** imported spectra, to be laid behind a comb */
  references: SavedSpectrum[];
  /** colour forms of this case, beside those of the library */
  forms: CoralForm[];
  /** what a kilowatt-hour costs, in the keeper's own money; absent = not given */
  kwhPrice?: number | null;
  /** the water that circulates through all zones; absent = nothing said */
  system?: SystemWater;
}

/** The water all zones share, and what goes into it. */
export interface SystemWater {
  /** all of it, l; null = reckoned from the boxes */
  litres: number | null;
  /** what is fed a day, g as it leaves the packet; null = not said */
  fedGPerDay: number | null;
  food: 'dry' | 'frozen';
  /** what the keeper doses, ppm of the system a week */
  dosedNitratePpm: number;
  dosedPhosphatePpm: number;
}

/** A spectrum that came from a file. */
export interface SavedSpectrum {
  id: string;
  name: string;
  points: TableEmission['points'];
  quantity: TableEmission['quantity'];
}

export interface Zone {
  id: string;
  name: string;
  kind: 'display' | 'refugium' | 'planted';
  /** IANA time zone of the days */
  timeZone: string;
  tank: Tank;
  water: Water;
  /** local date of the last fresh carbon; null = not known or none used */
  carbonDate: string | null;
  /** RMS slope of the surface from flow: still 0, usual 0.05, strong 0.12 (rule of thumb) */
  rippleSlope: number;
  /** what kinds want here, where the keeper knows better than the rule of thumb */
  needs: Partial<Record<NeedId, Wants>>;
  /** when somebody is there to look, in wall-clock minutes; absent = not said */
  home?: Window | null;
  /** least and most of each band that a coral is to get, mol m⁻² d⁻¹ */
  doseLimits?: Partial<Record<BandId, DoseLimit>>;
  /** how water passes the algae; absent = not said */
  flow?: MatFlow;
  /** days between two turns of a chore, where the keeper has them otherwise than usual */
  choreDays?: Partial<Record<ChoreId, number>>;
  groups: Group[];
  spots: Spot[];
}

/** A lamp kind hung at a place. */
export interface HungLamp extends Hanging {
  id: string;
  name: string;
}

/** Hung lamps of one kind programmed as one: a draft day and a cap. */
export interface Group {
  id: string;
  name: string;
  lampKindId: string;
  lamps: HungLamp[];
  threads: Thread[];
  capShare: number;
  /** what acts on its days besides threads and cap; absent = nothing */
  extras?: Extras;
}

/** A stretch of the wall-clock day; it may run over midnight. */
export interface Window {
  fromMinute: number;
  toMinute: number;
}

export interface DoseLimit {
  floor: number | null;
  ceiling: number | null;
}

export interface Thread {
  id: string;
  minute: number;
  strengthShare: number;
  /** its own mix may remember the plate it was edited from */
  mix: { plateId: string } | { own: Levels; fromPlateId?: string };
}

/** A saved mix: the share of full drive of each control of one lamp kind. */
export interface Plate {
  id: string;
  name: string;
  lampKindId: string;
  notes: string;
  mix: Levels;
  /** controls that pulls, scaling and solvers leave alone */
  locked: string[];
  /** mixes it had before, oldest first */
  versions: PlateVersion[];
}

export interface PlateVersion {
  id: string;
  atUtc: string;
  note: string;
  mix: Levels;
}

/** How water passes a mat of algae. */
export interface MatFlow {
  /** where it goes: over the mat, through it, beneath it, or it hardly moves */
  way: 'over' | 'through' | 'beneath' | 'still';
  /** how it leaves: over a weir, or under a baffle */
  leaves: 'weir' | 'baffle';
  /** times an hour that the box's water is changed; null = not known */
  turnsPerHour: number | null;
  /** a screen keeps threads from pump and weir */
  screened: boolean;
  /** free height above the water, cm, and what runs back when the pump stops, l; null = not known */
  headroomCm: number | null;
  drainsL: number | null;
}

/** Upkeep in damp places. */
export type ChoreId = 'lens' | 'fan' | 'salt' | 'drip' | 'residual';

export type NeedId =
  'soft' | 'largePolyp' | 'smallPolyp' | 'nonPhotosynthetic' | 'clam' | 'anemone' | 'macroalgae';

/** A range of light, µmol m⁻² s⁻¹. */
export interface Wants {
  fromUmol: number;
  toUmol: number;
}

/** A place in the water; holds a coral when it has a need. */
export interface Spot {
  id: string;
  name: string;
  xCm: number;
  yCm: number;
  depthCm: number;
  /** share of the light that overhangs leave */
  openShare: number;
  need: NeedId | null;
  /** what this one wants, where the keeper knows better than the rule of thumb for its kind */
  wants: Wants | null;
  /** local date on which it came */
  arrived: string | null;
  /** the light it came from, in the keeper's words */
  sourceLight: string;
  /** the same in figures: its peak and for how long a day; absent = not known */
  cameFrom?: { peakUmol: number; hours: number } | null;
  /** which alga grows there; absent = none, or not said */
  algaId?: AlgaId | null;
  /** how far its mat reaches, centred on the spot; absent = a mere point */
  mat?: Mat | null;
  /** what its coral is made of: a form of the library or of the case; null = not said */
  formId: string | null;
  /** what a lone colour did to a region of its coral */
  soloNotes: SoloNote[];
}

/** A mat of algae, level, seen from above. */
export interface Mat {
  lengthCm: number;
  widthCm: number;
}

/** A spot about which only its place and tenant are known. */
export const plainSpot = (
  known: Pick<Spot, 'id' | 'name' | 'xCm' | 'yCm' | 'depthCm' | 'need'> & Partial<Spot>,
): Spot => ({
  id: known.id,
  name: known.name,
  xCm: known.xCm,
  yCm: known.yCm,
  depthCm: known.depthCm,
  openShare: known.openShare ?? 1,
  need: known.need,
  wants: known.wants ?? null,
  arrived: known.arrived ?? null,
  sourceLight: known.sourceLight ?? '',
  ...(known.cameFrom ? { cameFrom: known.cameFrom } : {}),
  ...(known.algaId ? { algaId: known.algaId } : {}),
  ...(known.mat ? { mat: known.mat } : {}),
  formId: known.formId ?? null,
  soloNotes: known.soloNotes ?? [],
});

/** What the keeper saw under one colour alone. */
export interface SoloNote {
  id: string;
  /** name of the colour, as the lamp's control is called */
  colour: string;
  region: string;
  saw: 'good' | 'lost' | 'hueMoved';
  atUtc: string;
}

/** A thread as it was typed in: its mix by value. */
export interface RunningThread {
  minute: number;
  strengthShare: number;
  mix: Levels;
  mixName: string;
}

/** A frozen copy by value of what a group runs, from the instant it was typed in. */
export interface RunningEntry {
  id: string;
  zoneId: string;
  groupId: string;
  groupName: string;
  atUtc: string;
  /** typed in by hand; loaded and read back; proven or doubted by readings since */
  sure: 'typedIn' | 'loaded' | 'proven' | 'doubted';
  lampKind: LampKind;
  lamps: HungLamp[];
  threads: RunningThread[];
  capShare: number;
  easingShare: number;
  /** for the first entry of a zone: whether its corals are used to this light or it is new to them */
  usedTo: boolean;
  /** what acts on its days besides threads and cap; absent = nothing */
  extras?: Extras;
  /** the easing in it is a step of */
  planId?: string;
  /** a controller that eases by itself: its straight line, as shares of this entry's light */
  rise?: SelfRise;
}

/** A straight line that a controller runs by itself from a local date on. */
export interface SelfRise {
  date: string;
  days: number;
  fromShare: number;
  toShare: number;
}

/** What ran, and what is being eased in. */
export interface HistoryDoc {
  format: 'chromatheca-history';
  version: 5;
  caseId: string;
  entries: RunningEntry[];
  plans: EasingPlan[];
}

/** What a group is to run, by value. */
export type Runnable = Pick<
  RunningEntry,
  'groupId' | 'groupName' | 'lampKind' | 'lamps' | 'threads' | 'capShare' | 'extras'
>;

/** A place in the water as light finds it. */
export type Place = Pick<Spot, 'xCm' | 'yCm' | 'depthCm' | 'openShare'>;

/**
 * How light is kept low at first: cap, hours about the middle of the day, circuits one after the other by hours, lamps hung
 * higher, what ran before mixed in, or the coral itself lower in the tank.
 */
export type EasingMethod = 'cap' | 'hours' | 'circuits' | 'height' | 'blend' | 'places';

/** In which steps: as fast as the ceiling lets, a straight line, few changes, or a line the controller runs by itself. */
export type EasingSchedule =
  | { kind: 'fastest' }
  | { kind: 'line'; fromShare: number; days: number }
  /** at most so many changes, one every so many days; on a day of the week (1 = Monday) when that is given */
  | { kind: 'few'; changes: number; everyDays: number; weekday: number | null }
  | { kind: 'itself' };

export interface EasingStep {
  /** local date it is due */
  date: string;
  /** 0..1 of the way: of the target's cap, hours, mixture, or from the highest lamps down to where they belong */
  setting: number;
  /** when it was typed in; null = still to come */
  doneUtc: string | null;
}

/** What was done to a plan, for the log. */
export interface PlanDeed {
  id: string;
  atUtc: string;
  what:
    | 'started'
    | 'step'
    | 'replanned'
    | 'held'
    | 'back'
    | 'slower'
    | 'paused'
    | 'resumed'
    | 'finished'
    | 'stopped';
  words: string;
}

/** A change being eased in. */
export interface EasingPlan {
  id: string;
  zoneId: string;
  name: string;
  createdUtc: string;
  /** what is to run in the end */
  targets: Runnable[];
  /** what ran before: what a mixture of days starts from */
  from: Runnable[];
  method: EasingMethod;
  schedule: EasingSchedule;
  /** step ratio of a coral that the plan keeps to */
  ceiling: number;
  /** how much higher the lamps hang at first, cm */
  raiseCm?: number;
  /** the way of a coral through the tank, darkest place first */
  climb?: { spotId: string; places: Place[] };
  steps: EasingStep[];
  state: 'active' | 'paused' | 'finished' | 'stopped';
  deeds: PlanDeed[];
}

/** What a keeper saw on a coral. */
export type Sign = 'paling' | 'browning' | 'polypsIn' | 'polypsOut' | 'tissue' | 'newColour';

/** What happened besides changes of what runs. */
export type LogEvent = {
  id: string;
  zoneId: string;
  atUtc: string;
  /** the keeper's own words */
  note: string;
} & (
  | { kind: 'outage'; toUtc: string | null; /** null = all */ groupIds: string[] | null }
  /** fresh carbon: yellow substances before and after, m⁻¹ at 440 nm */
  | { kind: 'carbon'; yellowBefore: number; yellowAfter: number }
  /** a wiped lens: how much light it gave back, of what was left before; null = all groups */
  | { kind: 'lens'; groupId: string | null; gainShare: number }
  | { kind: 'moved'; spotId: string; from: Place; to: Place }
  | { kind: 'sign'; spotId: string; sign: Sign }
  | { kind: 'note' }
  /** algae taken out, weighed wet, and what was left of the mat by the same scale; null = not said */
  | { kind: 'harvest'; spotId: string; wetG: number; drained: Drained; leftG: number | null }
  /** a test of the water all zones share; null = not tested */
  | { kind: 'test'; nitratePpm: number | null; phosphatePpm: number | null }
  | { kind: 'chore'; chore: Exclude<ChoreId, 'lens'> }
);

/** How a harvest was drained before it was weighed. */
export type Drained = 'dripping' | 'drained' | 'squeezed' | 'dried';

export interface LogDoc {
  format: 'chromatheca-log';
  version: 2;
  caseId: string;
  events: LogEvent[];
}

export const emptyLog = (caseId: string): LogDoc => ({
  format: 'chromatheca-log',
  version: 2,
  caseId,
  events: [],
});

/** Lamps as they hung when something was read, by value. */
export interface RigGroup {
  groupId: string;
  name: string;
  lampKind: LampKind;
  lamps: HungLamp[];
}

/** The meter of a session, and how it is held. */
export interface MeterUse {
  kind: MeterKindId;
  /** what a sensor calibrated in air reads low under water, from its maker; 1 = calibrated in water or none */
  immersionFactor: number;
  /** how far the sensor's face stands above the place that is meant, cm */
  sensorAboveCm: number;
  /** a meter of the app's own that reads a made-up truth, never water */
  simulated: boolean;
}

/** One evening with a meter: readings taken under one rig with one meter. */
export interface Session {
  id: string;
  zoneId: string;
  name: string;
  atUtc: string;
  meter: MeterUse;
  /** pumps on: the surface ripples and readings flicker */
  pumpsOn: boolean;
  /** what was lit, in words */
  lit: string;
  /** whether the calibration listens to it */
  counts: boolean;
  /** null = as the lamps hang in the case now (readings older than this record) */
  rig: RigGroup[] | null;
  readings: Reading[];
}

/** What the meter said at a place, try by try, with the levels lit then. */
export interface Reading {
  id: string;
  /** the spot it was taken at, when that is one */
  spotId: string | null;
  name: string;
  xCm: number;
  yCm: number;
  depthCm: number;
  atUtc: string;
  /** as shown, in the meter's unit */
  tries: number[];
  /** share of the light in each of the nine bands, from a spectrometer */
  bands: number[] | null;
  /** emitted shares by group and channel */
  levels: Record<string, Levels>;
}

export interface ReadingsDoc {
  format: 'chromatheca-readings';
  version: 3;
  caseId: string;
  sessions: Session[];
}

/** A case with its parts: what is kept together, undone together, exported together. */
export interface CaseBundle {
  case: CaseDoc;
  history: HistoryDoc;
  readings: ReadingsDoc;
  log: LogDoc;
}

/** What corals and their company want, µmol m⁻² s⁻¹ where they sit. Mark: rule of thumb. */
export const NEEDS: Record<NeedId, { name: string } & Wants> = {
  soft: { name: 'soft coral', fromUmol: 50, toUmol: 120 },
  largePolyp: { name: 'large-polyp coral', fromUmol: 80, toUmol: 180 },
  smallPolyp: { name: 'small-polyp coral', fromUmol: 180, toUmol: 400 },
  nonPhotosynthetic: { name: 'coral without algae', fromUmol: 0, toUmol: 80 },
  clam: { name: 'clam', fromUmol: 180, toUmol: 450 },
  anemone: { name: 'anemone', fromUmol: 150, toUmol: 400 },
  macroalgae: { name: 'macroalgae', fromUmol: 60, toUmol: 250 },
};

type Needs = Pick<Zone, 'needs'>;

/** What a kind wants in a water: as the keeper has it, or the rule of thumb. */
export const wantsOfKind = (need: NeedId, { needs }: Needs): Wants => needs[need] ?? NEEDS[need];

/** The range a spot's tenant wants: its own, its alga's, or its kind's; null when nobody is known to live there. */
export const wantsOf = (spot: Pick<Spot, 'need' | 'wants' | 'algaId'>, zone: Needs): Wants | null => {
  if (spot.wants) return spot.wants;
  if (!spot.need) return null;
  if (spot.need === 'macroalgae' && spot.algaId && !zone.needs.macroalgae) {
    const { fromUmol, toUmol } = alga(spot.algaId);
    return { fromUmol, toUmol };
  }
  return wantsOfKind(spot.need, zone);
};

/** True for tenants that live by light: only these get used to it. */
export const livesByLight = (spot: Pick<Spot, 'need'>): boolean => spot.need !== 'nonPhotosynthetic';

/** How a tenant follows its light. */
export const paceOf = (spot: Pick<Spot, 'need'>): Pace =>
  spot.need === 'macroalgae' ? PACES.algae : PACES.coral;

/** A ceiling as it holds for a spot's tenant. */
export const ceilingOf = (spot: Pick<Spot, 'need'>, ceiling: number): number =>
  ceilingFor(ceiling, paceOf(spot));

/** Corals beyond any band: a spot without a known coral is treated as the most careful one. */
export const lowerEdgeUmol = (spot: Spot, zone: Needs): number =>
  Math.max(1, ((livesByLight(spot) ? wantsOf(spot, zone) : null) ?? wantsOfKind('soft', zone)).fromUmol);
