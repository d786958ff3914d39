import { wrapMinute } from '@/core/shape/ring';
import { memo, type RefObject, useMemo, useState } from 'react';
import { View } from 'react-native';

import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { formatTime } from '@/core/day/clock';
import { kneeMinutes, levelsAt } from '@/core/day/day';
import { Weave } from '@/pieces/Weave';
import { Handle } from '@/pieces/WeaveHandle';
import { moveThread } from '@/state/commands/days';
import { commitLive, type Desk, runningOf, setLive, useLive } from '@/state/desk';
import { useDraftState } from '@/state/judgement';
import { useCalibration, useLight } from '@/state/light';
import { run } from '@/state/session';
import { useSettings } from '@/state/settings';
import { useNowMs } from '@/state/time';
import { Later } from '@/ui/Later';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { windowOf } from './model';
import { umol } from '../shared/words';

interface WovenProps {
  flashes: number[];
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  width: number;
  wide: boolean;
  selected: string | null;
  onSelect: (id: string) => void;
  onOpen: (id: string) => void;
  onMinute: (minute: number) => void;
  /** around the weave alone, for taking it along */
  box: RefObject<View | null>;
}

const WIDEST_PLATE = 104;

/** The weave of everything lit with the threads of one group, and the tank as it looks at each. */
export function WovenDay({ desk, groups, light, width, wide, box, ...weave }: WovenProps) {
  const { zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const snap = useSettings((s) => s.daySnap);
  const touching = useLive((s) => s.command !== null);
  const nowMs = useNowMs();
  const cal = useCalibration(desk.bundle, zone);
  // what runs is that of the saved case: it stays the same object while a finger moves
  const kept = desk.saved.case.zones.find((z) => z.id === zone.id) ?? zone;
  const { groups: runs } = runningOf({ ...desk, bundle: desk.saved, zone: kept }, nowMs);
  const ran = useLight(runs, kept, cal).light;
  const drafted = useDraftState(desk, nowMs).state === 'draft';
  const ghost = useMemo(
    () =>
      drafted && ran && runs.length > 0
        ? {
            parAt: (minute: number) => parUnder(ran, levelsOfGroups(runs, minute), spotIndex),
            knees: kneeMinutes(runs.map((g) => g.day)),
          }
        : null,
    [drafted, ran, runs, spotIndex],
  );
  // the window holds still while a finger moves
  const [heldWindow, setHeldWindow] = useState(() => windowOf(groups));
  const fresh = windowOf(groups);
  if (!touching && (fresh.from !== heldWindow.from || fresh.to !== heldWindow.to)) setHeldWindow(fresh);

  const sources = useMemo(
    () =>
      groups.map((g, i) => ({
        full: light.spectra[i]![spotIndex]!,
        levelsAt: (minute: number) => (g.day.knots.length > 0 ? levelsAt(g.day, minute) : []),
      })),
    [groups, light, spotIndex],
  );
  const threads = [...group.threads]
    .sort((a, b) => a.minute - b.minute)
    .map((t) => {
      const here = parUnder(light, levelsOfGroups(groups, t.minute), spotIndex);
      return { ...t, umol: here, told: umol(here) };
    });
  // in the order in which they lie on the weave: what comes past midnight comes last
  const along = (minute: number) => wrapMinute(minute - heldWindow.from);
  const lit = threads.filter((t) => t.umol >= 0.5).sort((a, b) => along(a.minute) - along(b.minute));
  const plateWidth = Math.min(
    WIDEST_PLATE,
    Math.max(44, (width - space.s * (lit.length - 1)) / Math.max(1, lit.length)),
  );

  const moved = (id: string, minute: number, strengthShare: number) => {
    const t = desk.saved.case.zones
      .flatMap((z) => z.groups)
      .find((g) => g.id === group.id)
      ?.threads.find((x) => x.id === id);
    return t ? moveThread(group.id, { ...t, minute, strengthShare }, `thread-${id}`) : null;
  };

  return (
    <View style={{ gap: space.m }}>
      <View ref={box}>
        <Weave
          handle={Handle}
          {...weave}
          snapMin={snap}
          sources={sources}
          parAt={(minute) => parUnder(light, levelsOfGroups(groups, minute), spotIndex)}
          knees={kneeMinutes(groups.map((g) => g.day))}
          threads={threads}
          from={heldWindow.from}
          to={heldWindow.to}
          width={width}
          fieldHeight={wide ? 260 : 150}
          ghost={ghost}
          home={zone.home ?? null}
          spotName={spot!.name}
          onMove={(...at) => setLive(moved(...at))}
          onStep={(...at) => {
            const command = moved(...at);
            if (command) run(command);
          }}
          onRelease={commitLive}
        />
      </View>
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Later>
          {lit.map((t) => (
            <ThreadPlate
              key={t.id}
              {...{ desk, groups, light }}
              minute={t.minute}
              levelsKey={levelsOfGroups(groups, t.minute).join()}
              width={plateWidth}
            />
          ))}
        </Later>
      </View>
      {ghost && <Type kind="small">Dashed: the day that runs.</Type>}
      {zone.groups.length > 1 && (
        <Type kind="small">The weave and its µmol are of all groups; the threads are of {group.name}.</Type>
      )}
    </View>
  );
}

interface ThreadPlateProps {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  minute: number;
  /** what is lit then, as text: the picture is redrawn only when it changes */
  levelsKey: string;
  width: number;
}

/** The tank as it looks at a thread. */
const ThreadPlate = memo(
  function ThreadPlate({ desk, groups, light, minute, width }: ThreadPlateProps) {
    return (
      <View style={{ gap: 3 }}>
        <Glimpse
          {...{ desk, groups, light, width }}
          levels={levelsOfGroups(groups, minute)}
          name={`The tank at ${formatTime(minute)}`}
        />
        <Type kind="small" style={{ textAlign: 'center' }}>
          {formatTime(minute)}
        </Type>
      </View>
    );
  },
  (a, b) =>
    a.levelsKey === b.levelsKey &&
    a.light === b.light &&
    a.desk.zone.spots === b.desk.zone.spots &&
    a.desk.spotIndex === b.desk.spotIndex &&
    a.minute === b.minute &&
    a.width === b.width,
);
