import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import FileText from 'lucide-react-native/icons/file-text';
import Plus from 'lucide-react-native/icons/plus';

import { differences } from '@/core/case/difference';
import { dayAt, type ZoneLight, zoneLitHours } from '@/core/case/light';
import { type LitGroup, runningAt } from '@/core/case/lit';

import { dims, hasCap } from '@/core/spectrum/controls';
import { formatHours } from '@/core/day/clock';

import { addThread, moveThread } from '@/state/commands/days';
import { type Desk, setLive, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';

import { localDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';

import { Page, usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { SpotChoice } from '../shared/SpotChoice';
import { Still } from '../shared/Still';
import { useDraftLight } from '../shared/useDraftLight';
import { Verdict } from '../shared/Verdict';
import { percent } from '@/core/shape/percent';
import { WaysDown } from '../shared/WaysDown';
import { mol, umol } from '../shared/words';

import { AllCaps, CapSetting, peakWith } from './CapSection';
import { ChainSheet } from './ChainSheet';
import { Circuits } from './Circuits';
import { DoseSection } from './DoseSection';
import { GivesSection } from './GivesSection';
import { SeveralSheet } from './SeveralSheet';
import { ThreadSheet } from './ThreadSheet';
import { dayFiguresWords, dayUnder, roomiestMinute, stormOf, stormWords, windowOf } from './model';
import { type Shows, WhichDay } from './WhichDay';
import { DayLinks } from './DayLinks';
import { WholeDaySheet } from './WholeDaySheet';
import { WovenDay } from './WovenDay';

/** The day: threads of one group on the weave of everything lit. */
export function Day() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Day" />;
}

function Filled({ desk }: { desk: Desk }) {
  const { doc, zone, spot, spotIndex, bundle } = desk;
  const group = desk.group!;
  const page = usePageSize();
  const nowMs = useNowMs();
  const nowUtc = utcIso(nowMs);
  const [shows, setShows] = useState<Shows>('plain');
  const [date, setDate] = useState(() => localDate(nowMs, zone.timeZone));
  const acted = zone.groups.some((g) => g.extras);
  const on =
    !acted || shows === 'plain'
      ? null
      : { date: shows === 'today' ? localDate(nowMs, zone.timeZone) : date, timeZone: zone.timeZone };
  const { groups, light, error, basis, judge } = useDraftLight(desk, on);
  const judged = judge();
  const running = runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id);
  const changes = differences(doc, group, running);
  const [open, setOpen] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [chainAt, setChainAt] = useState<number | null>(null);
  const [sheet, setSheet] = useState<'several' | 'whole' | null>(null);
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
        cap: dims(desk.lampKind!)
          ? `${hasCap(desk.lampKind!) ? 'cap' : 'strength'} ${percent(group.capShare)}`
          : 'on or off',
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
            <Section title={dims(desk.lampKind!) && !hasCap(desk.lampKind!) ? 'Strength of the day' : 'Cap'}>
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
      {judged && <Verdict judged={judged} zone={zone} />}
      {judged && !judged.usedToIt && <WaysDown groups={groups} />}
      {ready && <Circuits groups={groups} light={light} {...windowOf(groups)} width={page.main} />}
      {acted && <WhichDay {...{ shows, setShows, date, setDate, storm }} />}
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
        <DayLinks desk={desk} />
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
      means={!dims(lampKind!) ? 'nothing' : hasCap(lampKind!) ? 'cap' : 'values'}
      rescales={lampKind!.controller.capMeans === 'rescales'}
      multiplied={peak('multiplies')}
      rescaled={peak('rescales')}
      spotName={spot?.name ?? ''}
    />
  );
}
