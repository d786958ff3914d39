import { router } from 'expo-router';
import { memo, useMemo, useState } from 'react';
import { View } from 'react-native';
import FileText from 'lucide-react-native/icons/file-text';
import Plus from 'lucide-react-native/icons/plus';

import { differences } from '@/core/case/difference';
import {
  dayAt,
  doseAt,
  levelsOfGroups,
  parUnder,
  spectrumUnder,
  type ZoneLight,
  zoneLitHours,
} from '@/core/case/light';
import { type LitGroup, runningAt } from '@/core/case/lit';
import { dims } from '@/core/spectrum/controls';
import { formatHours, formatTime } from '@/core/day/clock';
import { kneeMinutes, levelsAt, litSpan } from '@/core/day/day';
import { BANDS } from '@/core/spectrum/bands';
import { wavelengthColours } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { LookPlate } from '@/pieces/LookPlate';
import { Weave } from '@/pieces/Weave';
import { addThread, moveThread, setCap } from '@/state/commands';
import { commitLive, type Desk, setLive, useDesk, useLive } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { useSettings } from '@/state/settings';
import { useNowMs, utcIso } from '@/state/time';
import { Button, Stepper } from '@/ui/Button';
import { ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Page, usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { SpotChoice } from '../shared/SpotChoice';
import { useDraftLight } from '../shared/useDraftLight';
import { mol, percent, plural, umol } from '../shared/words';
import { ChainSheet } from './ChainSheet';
import { ThreadSheet } from './ThreadSheet';

/** The day: threads of one group on the weave of everything lit. */
export function Day() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Day" />;
}

/** The window shown: lit hours with an hour around them, at least ten hours; the whole day when it is mostly lit. */
export function windowOf(groups: readonly LitGroup[]): { from: number; to: number } {
  const span = litSpan(groups.map((g) => g.day));
  if (!span || span.end - span.start > 1200) return { from: 0, to: 1440 };
  const short = Math.max(0, 600 - (span.end - span.start)) / 2;
  return {
    from: Math.floor((span.start - 60 - short) / 60) * 60,
    to: Math.ceil((span.end + 60 + short) / 60) * 60,
  };
}

function Filled({ desk }: { desk: Desk }) {
  const { doc, zone, spot, spotIndex, bundle } = desk;
  const group = desk.group!;
  const page = usePageSize();
  const { groups, light, error, basis } = useDraftLight(desk);
  const nowUtc = utcIso(useNowMs());
  const running = runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id);
  const changes = differences(doc, group, running);
  const [open, setOpen] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [chainAt, setChainAt] = useState<number | null>(null);
  const ready = light !== null && spotIndex >= 0;
  const day = ready ? dayAt(light, groups, spotIndex) : null;
  const openPeak = ready
    ? dayAt(
        light,
        groups.map((g) => (g.groupId === group.id ? { ...g, day: { ...g.day, capShare: 1 } } : g)),
        spotIndex,
      ).peak
    : null;
  const thread = group.threads.find((t) => t.id === open);
  const selected = group.threads.some((t) => t.id === chosen) ? chosen : null;

  const add = () => {
    const id = newId();
    const minute = roomiestMinute(group.threads.map((t) => t.minute));
    if (run(addThread(group.id, id, minute))) {
      setChosen(id);
      setOpen(id);
    }
  };
  const moved = (id: string, minute: number, strengthShare: number) => {
    const t = desk.saved.case.zones
      .flatMap((z) => z.groups)
      .find((g) => g.id === group.id)
      ?.threads.find((x) => x.id === id);
    return t ? moveThread(group.id, { ...t, minute, strengthShare }, `thread-${id}`) : null;
  };

  return (
    <Page
      testID="day"
      title="Day"
      under={[
        group.name,
        running
          ? changes.length === 0
            ? 'as it runs'
            : `not in the lamp yet: ${plural(changes.length, 'change')}`
          : 'nothing known to be running',
        dims(desk.lampKind!) ? `cap ${percent(group.capShare)}` : 'on or off',
      ].join(' · ')}
      sentence={
        day ? (
          <View style={{ gap: 2 }}>
            <Type testID="day-figures">
              <Type kind="strong">{`${mol(day.dli)} mol`}</Type>
              {` a day at ${spot!.name}; lit ${formatHours(zoneLitHours(groups))}; peak ${umol(day.peak)} µmol${day.peak > 0 ? ` at ${formatTime(day.peakMinute)}` : ''}.`}
            </Type>
            <Type quiet>{`${basis.charAt(0).toUpperCase()}${basis.slice(1)}.`}</Type>
          </View>
        ) : (
          <Type quiet>The day at a coral follows here.</Type>
        )
      }
      side={
        <>
          <Section title="Cap">
            <CapSetting
              groupId={group.id}
              capShare={group.capShare}
              dimmable={dims(desk.lampKind!)}
              rescales={desk.lampKind!.controller.capMeans === 'rescales'}
              peak={day ? Math.round(day.peak * 10) / 10 : null}
              openPeak={openPeak === null ? null : Math.round(openPeak * 10) / 10}
              spotName={spot?.name ?? ''}
            />
          </Section>
          {ready && (
            <Section title="Dose per band, mol a day">
              <Doses light={light} groups={groups} spotIndex={spotIndex} />
            </Section>
          )}
          <SpotChoice label="µmol at" spots={zone.spots} spotId={spot?.id} />
        </>
      }
    >
      <GroupChoice />
      {ready && spot ? (
        <WovenDay
          desk={desk}
          groups={groups}
          light={light}
          width={page.main}
          wide={page.wide}
          selected={selected}
          onSelect={setChosen}
          onMove={(id, minute, strength) => setLive(moved(id, minute, strength))}
          onStep={(id, minute, strength) => {
            const command = moved(id, minute, strength);
            if (command) run(command);
          }}
          onOpen={setOpen}
          onMinute={setChainAt}
        />
      ) : (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={320} />
      )}
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Button label="Add a thread" icon={Plus} onPress={add} />
        <Button
          label="Chain"
          onPress={() => setChainAt(day?.peakMinute ?? 720)}
          name="Chain: the factors of any minute"
        />
        <Button
          label="Sheet"
          icon={FileText}
          kind="filled"
          onPress={() => router.navigate('/sheet')}
          name="The sheet to type into the lamp"
        />
      </View>
      {group.threads.length === 0 && (
        <Type>This day has no threads: the lamps stay dark. Add a first one.</Type>
      )}
      {thread && (
        <ThreadSheet
          key={thread.id}
          thread={thread}
          groups={groups}
          light={light}
          onClose={() => setOpen(null)}
        />
      )}
      {chainAt !== null && (
        <ChainSheet
          minute={chainAt}
          groups={groups}
          light={light}
          onMinute={setChainAt}
          onClose={() => setChainAt(null)}
        />
      )}
    </Page>
  );
}

/** The middle of the widest gap between threads that is not the night: where a new thread is wanted most. */
function roomiestMinute(minutes: number[]): number {
  const sorted = [...minutes].sort((a, b) => a - b);
  if (sorted.length < 2) return sorted.length === 0 ? 720 : (sorted[0]! + 180) % 1440;
  let best = { gap: 0, middle: 720 };
  for (let i = 1; i < sorted.length; i += 1) {
    const gap = sorted[i]! - sorted[i - 1]!;
    if (gap > best.gap) best = { gap, middle: sorted[i - 1]! + gap / 2 };
  }
  const rounded = Math.round(best.middle / 5) * 5;
  return sorted.includes(rounded) ? Math.round(best.middle) : rounded;
}

interface WovenProps {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight;
  width: number;
  wide: boolean;
  selected: string | null;
  onSelect: (id: string) => void;
  onMove: (id: string, minute: number, strengthShare: number) => void;
  onStep: (id: string, minute: number, strengthShare: number) => void;
  onOpen: (id: string) => void;
  onMinute: (minute: number) => void;
}

const WIDEST_PLATE = 104;

function WovenDay({ desk, groups, light, width, wide, ...weave }: WovenProps) {
  const { zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const { plateDim } = usePaper();
  const eyeDegree = useSettings((s) => s.eyeDegree);
  const touching = useLive((s) => s.command !== null);
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
    .map((t) => ({ ...t, umol: parUnder(light, levelsOfGroups(groups, t.minute), spotIndex) }));
  const top = Math.max(...threads.map((t) => t.umol), 1e-9);
  const lit = threads.filter((t) => t.umol >= 0.5);
  const plateWidth = Math.min(
    WIDEST_PLATE,
    Math.max(44, (width - space.s * (lit.length - 1)) / Math.max(1, lit.length)),
  );

  return (
    <View style={{ gap: space.m }}>
      <Weave
        {...weave}
        sources={sources}
        parAt={(minute) => parUnder(light, levelsOfGroups(groups, minute), spotIndex)}
        knees={kneeMinutes(groups.map((g) => g.day))}
        threads={threads}
        from={heldWindow.from}
        to={heldWindow.to}
        width={width}
        fieldHeight={wide ? 260 : 190}
        spotName={spot!.name}
        onRelease={commitLive}
      />
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        {lit.map((t) => (
          <ThreadPlate
            key={t.id}
            groups={groups}
            light={light}
            spotIndex={spotIndex}
            minute={t.minute}
            levelsKey={levelsOfGroups(groups, t.minute).join()}
            width={plateWidth}
            degree={eyeDegree ?? undefined}
            dim={Math.round(100 * plateDim * (t.umol / top) ** 0.4) / 100}
          />
        ))}
      </View>
      {zone.groups.length > 1 && (
        <Type kind="small">The weave and its µmol are of all groups; the threads are of {group.name}.</Type>
      )}
    </View>
  );
}

interface ThreadPlateProps {
  groups: LitGroup[];
  light: ZoneLight;
  spotIndex: number;
  minute: number;
  /** what is lit then, as text: the plate is redrawn only when it changes */
  levelsKey: string;
  width: number;
  degree: number | undefined;
  dim: number;
}

/** The tank as it looks at a thread. */
const ThreadPlate = memo(
  function ThreadPlate({ groups, light, spotIndex, minute, width, degree, dim }: ThreadPlateProps) {
    return (
      <View style={{ gap: 3 }}>
        <LookPlate
          small
          light={spectrumUnder(light, levelsOfGroups(groups, minute), spotIndex)}
          width={width}
          height={Math.round(width * 0.66)}
          eye={{ degree }}
          dim={dim}
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
    a.spotIndex === b.spotIndex &&
    a.minute === b.minute &&
    a.width === b.width &&
    a.degree === b.degree &&
    a.dim === b.dim,
);

const CapSetting = memo(function CapSetting({
  groupId,
  capShare,
  dimmable,
  rescales,
  peak,
  openPeak,
  spotName,
}: {
  groupId: string;
  capShare: number;
  dimmable: boolean;
  rescales: boolean;
  peak: number | null;
  /** the brightest moment with this group's cap at 100 % */
  openPeak: number | null;
  spotName: string;
}) {
  if (!dimmable) {
    return (
      <Type kind="small">
        This lamp is on or off: no cap acts on it. Its strength is its height and its hours.
      </Type>
    );
  }
  const means = rescales
    ? 'It rescales the day: its largest channel level becomes the cap'
    : 'It multiplies every thread';
  return (
    <View style={{ gap: space.s }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
        <View style={{ flex: 1 }}>
          <ValueField
            label="Cap, % of the lamp"
            hideLabel
            value={String(Math.round(capShare * 1000) / 10)}
            unit="% of the lamp"
            numeric
            testID="cap"
            onCommit={(text) => {
              const value = parseNumber(text);
              if (value === null || value < 0 || value > 100) return 'Cap: give 0 to 100 %.';
              return run(setCap(groupId, Math.round(value * 10) / 1000)) ? null : 'Not taken.';
            }}
          />
        </View>
        <Stepper
          name="Cap"
          atLow={capShare <= 0}
          atHigh={capShare >= 1}
          onStep={(sign) =>
            run(
              setCap(
                groupId,
                Math.min(1, Math.max(0, Math.round(capShare * 100 + sign) / 100)),
                `cap-${groupId}`,
              ),
            )
          }
        />
      </View>
      <Type kind="small">
        {peak === null
          ? `${means}.`
          : `${means}: the brightest moment is ${umol(peak)} µmol at ${spotName}${openPeak === null || capShare >= 1 ? '' : `, ${umol(openPeak)} µmol with the cap open`}.`}
      </Type>
    </View>
  );
});

function Doses({ light, groups, spotIndex }: { light: ZoneLight; groups: LitGroup[]; spotIndex: number }) {
  const dose = doseAt(light, groups, spotIndex);
  const { plateDim } = usePaper();
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap' }} testID="doses">
      {BANDS.map((b) => {
        const middle = Math.round((b.fromNm + b.toNm) / 2);
        const [r, g, bl] = wavelengthColours()[middle - 360]!;
        const outside = b.id === 'nearUv' || b.id === 'farRed';
        return (
          <View
            key={b.id}
            style={{
              width: '50%',
              flexDirection: 'row',
              alignItems: 'center',
              gap: space.s,
              paddingVertical: 3,
              paddingRight: space.l,
            }}
          >
            <View
              style={{
                width: 11,
                height: 11,
                backgroundColor: cssRgb([
                  Math.round(r * plateDim),
                  Math.round(g * plateDim),
                  Math.round(bl * plateDim),
                ]),
              }}
            />
            <Type kind="small" style={{ flex: 1 }}>
              {outside ? `${b.name}*` : b.name}
            </Type>
            <Type kind="label">{dose[b.id].toFixed(2)}</Type>
          </View>
        );
      })}
      <Type kind="small" style={{ paddingTop: space.xs }}>
        * outside PAR, wholly or from 700 nm on; that part is not in the DLI
      </Type>
    </View>
  );
}
