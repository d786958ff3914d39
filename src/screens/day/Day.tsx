import { dayFiguresWords, dayUnder, stormWords } from './model';
import { router } from 'expo-router';
import { memo, type ReactNode, useMemo, useState } from 'react';
import { View } from 'react-native';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import FileText from 'lucide-react-native/icons/file-text';
import Plus from 'lucide-react-native/icons/plus';

import { differences } from '@/core/case/difference';
import {
  dayAt,
  levelsOfGroups,
  parUnder,
  spectrumUnder,
  type ZoneLight,
  zoneLitHours,
} from '@/core/case/light';
import { type LitGroup, resolveThread, runningAt } from '@/core/case/lit';
import type { Group } from '@/core/record/zone';
import { misfits } from '@/core/controller/fit';
import { type Flash, flashesOn, stormMinute } from '@/core/day/extras';
import type { CivilDay } from '@/core/day/wallClock';
import { dims } from '@/core/spectrum/controls';
import { formatHours, formatTime } from '@/core/day/clock';
import { kneeMinutes, levelsAt, litSpan } from '@/core/day/day';
import { LookPlate } from '@/pieces/LookPlate';
import { Weave } from '@/pieces/Weave';
import { addThread, moveThread } from '@/state/commands/days';
import { commitLive, type Desk, setLive, useDesk, useLive } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { isDate, localDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, ValueField } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { SpotChoice } from '../shared/SpotChoice';
import { useDraftLight } from '../shared/useDraftLight';
import { mol, umol } from '../shared/words';

import { AllCaps, CapSetting, peakWith } from './CapSection';
import { ChainSheet } from './ChainSheet';
import { Circuits } from './Circuits';
import { DoseSection } from './DoseSection';
import { GivesSection } from './GivesSection';
import { SeveralSheet } from './SeveralSheet';
import { ThreadSheet } from './ThreadSheet';
import { WholeDaySheet } from './WholeDaySheet';

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
  const nowMs = useNowMs();
  const nowUtc = utcIso(nowMs);
  const [shows, setShows] = useState<'plain' | 'today' | 'date'>('plain');
  const [date, setDate] = useState(() => localDate(nowMs, zone.timeZone));
  const acted = zone.groups.some((g) => g.extras);
  const on =
    !acted || shows === 'plain'
      ? null
      : { date: shows === 'today' ? localDate(nowMs, zone.timeZone) : date, timeZone: zone.timeZone };
  const { groups, light, error, basis } = useDraftLight(desk, on);
  const running = runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id);
  const changes = differences(doc, group, running);
  const [open, setOpen] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [chainAt, setChainAt] = useState<number | null>(null);
  const [sheet, setSheet] = useState<'several' | 'whole' | null>(null);
  const snap = useSettings((x) => x.daySnap);
  const paper = usePaper();
  const ready = light !== null && spotIndex >= 0;
  const day = ready ? dayAt(light, groups, spotIndex) : null;
  const flashes = on ? stormOf(group, on) : [];
  const storm = stormWords(flashes);
  const figures = day && spot ? dayFiguresWords(day, groups, spot.name) : null;
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
      under={dayUnder({
        groupName: group.name,
        changes: running ? changes.length : null,
        capShare: dims(desk.lampKind!) ? group.capShare : null,
      })}
      sentence={
        day ? (
          <View style={{ gap: 2 }}>
            <Type testID="day-figures">
              <Type kind="strong">{figures!.dose}</Type>
              {figures!.rest}
            </Type>
            <Type quiet>{`${basis.charAt(0).toUpperCase()}${basis.slice(1)}.`}</Type>
          </View>
        ) : (
          <Type quiet roomLines={zone.spots.length === 0 ? 0 : page.wide ? 2 : 3}>
            The day at a coral follows here.
          </Type>
        )
      }
      side={
        <>
          <Still>
            <Section title="Cap">
              <CapPart desk={desk} groups={groups} light={ready ? light : null} />
              {ready && (
                <AllCaps zoneId={zone.id} groups={zone.groups} lit={groups} light={light} spot={spotIndex} />
              )}
            </Section>
          </Still>
          {ready && <DoseSection light={light} groups={groups} />}
          {ready && (
            <Still>
              <GivesSection light={light} groups={groups} />
            </Still>
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
          flashes={flashes.map((f) => f.atS / 60)}
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
        <LightPending error={error} noSpot={zone.spots.length === 0} height={page.wide ? 500 : 430} />
      )}
      {ready && <Circuits groups={groups} light={light} {...windowOf(groups)} width={page.main} />}
      {acted && (
        <View style={{ gap: space.s }}>
          <Choice
            label="Which day is drawn"
            value={shows}
            onChange={setShows}
            options={[
              { value: 'plain', label: 'The plain day' },
              { value: 'today', label: 'Today' },
              { value: 'date', label: 'Another date' },
            ]}
          />
          {shows === 'date' && (
            <ValueField
              label="Date"
              value={date}
              testID="day-date"
              onCommit={(text) => {
                if (!isDate(text.trim())) return 'Date: give a date such as 2026-12-24.';
                setDate(text.trim());
                return null;
              }}
            />
          )}
          {storm && (
            <Type kind="small" testID="storm-said">
              {storm}
            </Type>
          )}
          <Type kind="small">
            {on
              ? 'With what acts on that date: interludes, moon, clouds, drift.'
              : 'Without interludes, clouds and drift; a moon as at its fullest.'}
          </Type>
        </View>
      )}
      <Still>
        <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
          <Button label="Add a thread" icon={Plus} onPress={add} />
          <Button label="Threads" name="Threads: several at once" onPress={() => setSheet('several')} />
          <Button label="Whole day" onPress={() => setSheet('whole')} />
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
        <View
          style={{
            flexDirection: 'row',
            alignItems: 'center',
            justifyContent: 'space-between',
            gap: space.m,
          }}
        >
          <Choice
            label="Threads slide in steps of"
            value={String(snap)}
            onChange={(v) => changeSettings({ daySnap: Number(v) as Snap })}
            options={SNAPS.map((v) => ({ value: String(v), label: v === 60 ? '1 h' : `${v} min` }))}
          />
        </View>
        <Misfit desk={desk} />
        <View>
          {LINKS.map((l) => (
            <Row key={l.href} onPress={() => router.navigate(l.href)} name={l.label}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{l.label}</Type>
                <Type kind="small">{l.about}</Type>
              </View>
              <ChevronRight size={18} color={paper.ink} strokeWidth={1.75} />
            </Row>
          ))}
        </View>
      </Still>
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
          onOpen={(id) => {
            setChosen(id);
            setOpen(id);
          }}
        />
      )}
      {sheet === 'several' && <SeveralSheet groups={groups} light={light} onClose={() => setSheet(null)} />}
      {sheet === 'whole' && (
        <WholeDaySheet
          said={
            day
              ? `${mol(day.dli)} mol a day at ${spot!.name}; lit ${formatHours(zoneLitHours(groups))}; peak ${umol(day.peak)} µmol.`
              : 'The light follows once it is computed.'
          }
          onClose={() => setSheet(null)}
        />
      )}
      {chainAt !== null && (
        <ChainSheet
          minute={chainAt}
          groups={groups}
          light={light}
          onMinute={setChainAt}
          onClose={() => setChainAt(null)}
          onThread={(id) => {
            setChainAt(null);
            setChosen(id);
            setOpen(id);
          }}
        />
      )}
    </Page>
  );
}

/** Flashes of a group's storm on a date, about its last light. */
function stormOf(group: Group, on: CivilDay): Flash[] {
  const { weather } = group.extras ?? {};
  if (!weather || group.threads.length === 0) return [];
  return flashesOn(weather, on, stormMinute(group.threads));
}

const SNAPS = [1, 5, 15, 60] as const;
type Snap = (typeof SNAPS)[number];
const LINKS = [
  {
    href: '/ease',
    label: 'Ease it in',
    about: 'this change in steps that nobody minds, by cap, hours, height or mixture',
  },
  {
    href: '/patterns',
    label: 'Patterns',
    about: 'ways to shape a day, at equal light; move the beauty, keep the dose',
  },
  {
    href: '/around',
    label: 'Night, interludes, weather, clock',
    about: 'what acts on the day besides its threads',
  },
  {
    href: '/fit',
    label: 'Fit to a controller',
    about: 'what fewer points, coarse steps or a timer make of it',
  },
  {
    href: '/carry',
    label: 'Carry a day here',
    about: 'from another lamp, depth or height, matched where it is needed',
  },
] as const;

/** The cap with both its meanings, reckoned only when it is drawn. */
function CapPart({ desk, groups, light }: { desk: Desk; groups: LitGroup[]; light: ZoneLight | null }) {
  const { spot, spotIndex, lampKind } = desk;
  const group = desk.group!;
  const peak = (capMeans: 'multiplies' | 'rescales') =>
    light ? peakWith(light, groups, spotIndex, group.id, { capMeans }) : null;
  return (
    <CapSetting
      groupId={group.id}
      capShare={group.capShare}
      dimmable={dims(lampKind!)}
      rescales={lampKind!.controller.capMeans === 'rescales'}
      multiplied={peak('multiplies')}
      rescaled={peak('rescales')}
      spotName={spot?.name ?? ''}
    />
  );
}

/** What of the day its controller cannot take. */
function Misfit({ desk }: { desk: Desk }) {
  const kind = desk.lampKind!;
  const wrong = misfits(
    kind,
    desk.group!.threads.map((t) => resolveThread(desk.doc, t)),
  );
  return wrong.length > 0 ? (
    <Note>{`${kind.controller.name}: ${wrong.join('; ')}. Fit the day to it before it is typed in.`}</Note>
  ) : null;
}

/** What stands beside the chart and is read, not grabbed: it holds still while a finger moves. */
function Still({ children }: { children: ReactNode }) {
  const touching = useLive((s) => s.command !== null);
  const [kept, setKept] = useState(children);
  if (!touching && kept !== children) setKept(children);
  return touching ? kept : children;
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
  flashes: number[];
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
  const snap = useSettings((s) => s.daySnap);
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
        snapMin={snap}
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
