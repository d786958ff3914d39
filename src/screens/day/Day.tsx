import { router } from 'expo-router';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import FileText from 'lucide-react-native/icons/file-text';
import Plus from 'lucide-react-native/icons/plus';

import { differences } from '@/core/case/difference';
import { dayAt, lightOfGroup, type ZoneLight, zoneLitHours } from '@/core/case/light';
import { type LitGroup, runningAt } from '@/core/case/lit';

import { dims, hasCap } from '@/core/spectrum/controls';
import { formatHours } from '@/core/day/clock';

import { addThread } from '@/state/commands/days';
import { type Desk, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';

import { localDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';

import { Later } from '@/ui/Later';
import { Page, usePageSize } from '@/ui/Page';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { spotPart } from '../shared/spotPart';
import { Following, Still } from '../shared/Still';
import { useDraftLight } from '../shared/useDraftLight';
import { Verdict } from '../shared/Verdict';
import { percent } from '@/core/shape/percent';
import { WaysDown } from '../shared/WaysDown';
import { mol, umol } from '../shared/words';

import { AllCaps, CapSetting, otherCapWords, peakWith } from './CapSection';
import { ChainSheet } from './ChainSheet';
import { Circuits } from './Circuits';
import { DoseSection } from './DoseSection';
import { GivesSection } from './GivesSection';
import { SeveralSheet } from './SeveralSheet';
import { ThreadSheet } from './ThreadSheet';
import { Took } from './Took';
import { dayFiguresWords, dayUnder, roomiestMinute, stormOf, stormWords, windowOf } from './model';
import { type Shows, WhichDay } from './WhichDay';
import { DayLinks } from './DayLinks';
import { WholeDaySheet } from './WholeDaySheet';
import { TakeDay } from './TakeDay';
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
  const weave = useRef<View>(null);
  const day = ready ? dayAt(light, groups, spotIndex) : null;
  const flashes = on ? stormOf(group, on) : [];
  const storm = stormWords(flashes);
  const figures = day && spot ? dayFiguresWords(day, groups) : null;
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
      stage={
        <View style={{ gap: 2, minHeight: zone.spots.length === 0 ? 0 : page.wide ? 88 : 126 }}>
          {day ? (
            <>
              <Sentence
                testID="day-figures"
                parts={[
                  { strong: figures!.dose },
                  ' a day at ',
                  spotPart(zone.spots, spot),
                  `${figures!.rest}, ${basis}.`,
                ]}
              />
              {judged && <Verdict judged={judged} zone={zone} />}
            </>
          ) : (
            zone.spots.length > 0 && <Type quiet>The day at a coral follows here.</Type>
          )}
        </View>
      }
      set={
        <>
          <Still>
            <CapPart desk={desk} groups={groups} light={ready ? light : null} />
            {ready && (
              <AllCaps zoneId={zone.id} groups={zone.groups} lit={groups} light={light} spot={spotIndex} />
            )}
          </Still>
          <Still>
            <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
              <Button label="Thread" name="Add a thread" icon={Plus} onPress={add} />
              <Button label="Whole day" onPress={() => setSheet('whole')} />
              <Button
                label="Sheet"
                icon={FileText}
                kind="filled"
                onPress={() => router.navigate('/sheet')}
                name="The sheet to type into the lamp"
              />
            </View>
          </Still>
        </>
      }
      side={
        <View style={{ gap: page.wide ? space.l : 0 }}>
          {ready && (
            <Following>
              <DoseSection light={light} groups={groups} open={page.wide} />
            </Following>
          )}
          {ready && (
            <Still>
              <Later>
                <GivesSection light={light} groups={groups} open={page.wide} />
              </Later>
            </Still>
          )}
          <Still>
            <DayLinks desk={desk} wide={page.wide}>
              <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
                <Button label="Several threads" onPress={() => setSheet('several')} />
                <Button
                  label="Chain"
                  onPress={() => setChainAt(day?.peakMinute ?? 720)}
                  name="Chain: the factors of any minute"
                />
              </View>
              {ready && spot && hasCap(desk.lampKind!) && (
                <OtherCap desk={desk} groups={groups} light={light} />
              )}
              {ready && <TakeDay box={weave} desk={desk} groups={groups} light={light} />}
            </DayLinks>
          </Still>
        </View>
      }
    >
      <GroupChoice />
      <Took drafted={!running || changes.length > 0} />
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
          onOpen={setOpen}
          onMinute={setChainAt}
          box={weave}
        />
      ) : (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={page.wide ? 500 : 430} />
      )}
      <Later>{judged && !judged.usedToIt && <WaysDown groups={groups} />}</Later>
      {ready && <Circuits groups={groups} light={light} {...windowOf(groups)} width={page.main} />}
      {acted && <WhichDay {...{ shows, setShows, date, setDate, storm }} />}
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
          dose={
            day && spot && dims(desk.lampKind!) && group.capShare > 0
              ? {
                  mol: day.dli,
                  mine: dayAt(
                    lightOfGroup(
                      light!,
                      groups.findIndex((g) => g.groupId === group.id),
                    ),
                    groups.filter((g) => g.groupId === group.id),
                    spotIndex,
                  ).dli,
                  at: spot.name,
                }
              : null
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

/** What the cap would mean on the other kind of controller. */
function OtherCap({ desk, groups, light }: { desk: Desk; groups: LitGroup[]; light: ZoneLight }) {
  const rescales = desk.lampKind!.controller.capMeans === 'rescales';
  const capMeans = rescales ? 'multiplies' : 'rescales';
  const peak = peakWith(light, groups, desk.spotIndex, desk.group!.id, { capMeans });
  return (
    <Type kind="small" testID="cap-there">
      {otherCapWords(rescales, peak, desk.spot!.name)}
    </Type>
  );
}

/** The cap, reckoned only when it is drawn. */
function CapPart({ desk, groups, light }: { desk: Desk; groups: LitGroup[]; light: ZoneLight | null }) {
  const { spotIndex, lampKind } = desk;
  const group = desk.group!;
  return (
    <CapSetting
      groupId={group.id}
      capShare={group.capShare}
      means={!dims(lampKind!) ? 'nothing' : hasCap(lampKind!) ? 'cap' : 'values'}
      rescales={lampKind!.controller.capMeans === 'rescales'}
      peak={light ? peakWith(light, groups, spotIndex, group.id, {}) : null}
    />
  );
}
