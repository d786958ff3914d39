import { createElement, type FC, memo, useDeferredValue } from 'react';
import { create } from 'zustand';

import { lampKindOf, type LitGroup } from '@/core/case/lit';
import type { CaseBundle } from '@/core/record/documents';
import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import type { Group, Spot, Zone } from '@/core/record/zone';
import type { RunningEntry } from '@/core/record/history';
import type { CivilDay } from '@/core/day/wallClock';
import type { LampKind } from '@/core/spectrum/lampKind';

import type { Command } from './commands/edit';
import { draftLit, entriesNow, runningLit, withCommand } from './derive';
import { remembered } from './remembered';
import { run, useSession } from './session';
import { useSettings } from './settings';

/** A command that a finger holds: shown on every screen, kept only when the finger lifts. */
export const useLive = create<{ command: Command | null }>(() => ({ command: null }));

export const setLive = (command: Command | null): void => useLive.setState({ command });
/** The finger has lifted: the live command becomes a step of history. */
export function commitLive(): void {
  const { command } = useLive.getState();
  useLive.setState({ command: null });
  if (command) run(command);
}

/** What lies on the desk: the open case as it is to be drawn now, and what is chosen in it. */
export interface Desk {
  bundle: CaseBundle;
  doc: CaseDoc;
  zone: Zone;
  /** null while the zone has no lamps */
  group: Group | null;
  lampKind: LampKind | null;
  plate: Plate | null;
  spot: Spot | null;
  spotIndex: number;
  /** the saved bundle, without what a finger holds */
  saved: CaseBundle;
}

const pick = <T extends { id: string }>(list: readonly T[], id: string | null): T | null =>
  list.find((item) => item.id === id) ?? list[0] ?? null;

export function deskOf(
  saved: CaseBundle,
  bundle: CaseBundle,
  chosen: { zoneId: string | null; groupId: string | null; plateId: string | null; spotId: string | null },
): Desk {
  const doc = bundle.case;
  const zone = pick(doc.zones, chosen.zoneId)!;
  const group = pick(zone.groups, chosen.groupId);
  const lampKind = group ? lampKindOf(doc, group) : null;
  const plates = doc.plates.filter((p) => p.lampKindId === lampKind?.id);
  const strongest = [...(group?.threads ?? [])].sort((a, b) => b.strengthShare - a.strengthShare)[0];
  const byDay = strongest && 'plateId' in strongest.mix ? strongest.mix.plateId : null;
  const plate =
    plates.find((p) => p.id === chosen.plateId) ?? plates.find((p) => p.id === byDay) ?? plates[0] ?? null;
  const spot = pick(zone.spots, chosen.spotId);
  return {
    saved,
    bundle,
    doc,
    zone,
    group,
    lampKind,
    plate,
    spot,
    spotIndex: spot ? zone.spots.indexOf(spot) : -1,
  };
}

const deskFor = remembered(
  (
    saved: CaseBundle,
    bundle: CaseBundle,
    zoneId: string | null,
    groupId: string | null,
    plateId: string | null,
    spotId: string | null,
  ): Desk => deskOf(saved, bundle, { zoneId, groupId, plateId, spotId }),
);

/** The desk, with the live command applied, or one step back while "Before" is held. */
export const useDesk = (): Desk => useDeskWith(useLive((s) => s.command));

/** The same without what a finger holds: what does not move under it is not drawn anew. */
export const useKeptDesk = (): Desk => useDeskWith(null);

function useDeskWith(live: Command | null): Desk {
  const present = useSession((s) => s.bundle);
  const peeked = useSession((s) => (s.peek ? (s.past[s.past.length - 1]?.before ?? null) : null));
  const settings = useSettings();
  if (!present) throw new Error('no case is open');
  const base = peeked ?? present;
  const { zoneId, groupId, plateId, spotId } = settings;
  const bundle = live && !peeked ? withCommand(base, live) : base;
  return deskFor(base, bundle, zoneId, groupId, plateId, spotId);
}

/**
 * A place that only shows what lies on the desk: a change is drawn behind what was pressed, in slices, so that the store writes it
 * and a press is answered meanwhile.
 */
export function behindThePress(place: FC<{ desk: Desk }>): FC {
  const Kept = memo(place);
  return function Behind() {
    const desk = useDeferredValue(useDesk());
    return createElement(Kept, { desk });
  };
}

/** The same outside of anything drawn; null while no case is open. */
export function openDesk(): Desk | null {
  const { bundle } = useSession.getState();
  return bundle && deskOf(bundle, bundle, useSettings.getState());
}

/** The open case's name, its waters and the one on the desk: what tabs and rail need, untouched by a moving finger. */
export function useWaters(): { name: string; zones: Zone[]; zoneId: string } {
  const doc = useSession((s) => s.bundle!.case);
  const chosen = useSettings((s) => s.zoneId);
  return { name: doc.name, zones: doc.zones, zoneId: pick(doc.zones, chosen)!.id };
}

/** The draft of the water on the desk: the plain day, or a date's with all that acts on it. */
export const draftOf = (desk: Desk, on: CivilDay | null = null): LitGroup[] =>
  draftLit(desk.doc, desk.zone, on);

/** The lamps as they are lit: what runs, or the draft while nothing is known to run. */
export const litNow = (desk: Desk, nowMs: number): LitGroup[] => {
  const running = runningOf(desk, nowMs).groups;
  return running.length > 0 ? running : draftOf(desk);
};

export const runningOf = (desk: Desk, nowMs: number): { entries: RunningEntry[]; groups: LitGroup[] } => {
  const { bundle, zone } = desk;
  return {
    entries: entriesNow(bundle.history, zone, nowMs),
    groups: runningLit(bundle.history, zone, nowMs),
  };
};
