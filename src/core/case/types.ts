import type { Levels } from '../day/thread';
import type { Hanging } from '../optics/rig';
import type { CoralForm } from '../coral/form';
import type { Tank } from '../optics/response';
import type { Water } from '../optics/water';
import type { TableEmission } from '../spectrum/emission';
import type { LampKind } from '../spectrum/lamp';

/** Everything about one keeper's system, as stored and exported. Lengths in cm, instants as UTC ISO 8601. */
export interface CaseDoc {
  format: 'chromatheca-case';
  version: 2;
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
}

export interface Thread {
  id: string;
  minute: number;
  strengthShare: number;
  mix: { plateId: string } | { own: Levels };
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

export type NeedId = 'soft' | 'largePolyp' | 'smallPolyp';

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
  /** what its coral is made of: a form of the library or of the case; null = not said */
  formId: string | null;
  /** what a lone colour did to a region of its coral */
  soloNotes: SoloNote[];
}

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
  sure: 'typedIn';
  lampKind: LampKind;
  lamps: HungLamp[];
  threads: RunningThread[];
  capShare: number;
  easingShare: number;
  /** for the first entry of a zone: whether its corals are used to this light or it is new to them */
  usedTo: boolean;
  /** caps still to be typed in, by local date; empty when the day runs as wanted */
  capSteps: { date: string; capShare: number }[];
}

export interface HistoryDoc {
  format: 'chromatheca-history';
  version: 2;
  caseId: string;
  entries: RunningEntry[];
}

/** What a quantum meter said at a spot, with the levels lit then and what the model says for them without any gain. */
export interface Reading {
  id: string;
  zoneId: string;
  spotId: string;
  atUtc: string;
  valueUmol: number;
  /** emitted shares by group and channel */
  levels: Record<string, Levels>;
  modelUmol: number;
}

export interface ReadingsDoc {
  format: 'chromatheca-readings';
  version: 1;
  caseId: string;
  readings: Reading[];
}

/** A case with its parts: what is kept together, undone together, exported together. */
export interface CaseBundle {
  case: CaseDoc;
  history: HistoryDoc;
  readings: ReadingsDoc;
}

/** What corals want, µmol m⁻² s⁻¹ at the coral. Mark: rule of thumb. */
export const NEEDS: Record<NeedId, { name: string; fromUmol: number; toUmol: number }> = {
  soft: { name: 'soft coral', fromUmol: 50, toUmol: 120 },
  largePolyp: { name: 'large-polyp coral', fromUmol: 80, toUmol: 180 },
  smallPolyp: { name: 'small-polyp coral', fromUmol: 180, toUmol: 400 },
};

/** Corals beyond any band: a spot without a known coral is treated as the most careful one. */
export const lowerEdgeUmol = (spot: Spot): number => NEEDS[spot.need ?? 'soft'].fromUmol;
