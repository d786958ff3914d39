import { useSame } from '@/ui/useSame';
import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { ZONE_KINDS } from '@/core/record/chores';
import { DAYS_PER_YEAR, kWhPerDay } from '@/core/case/dayFigures';
import { zoneLitHours } from '@/core/case/light';
import { type LitGroup, draftGroups, runningAt } from '@/core/case/lit';
import type { Zone } from '@/core/record/zone';
import { several } from '@/core/shape/counts';
import { formatHours, formatTime } from '@/core/day/clock';
import { levelsAt, litPieces } from '@/core/day/day';
import { alga } from '@/core/feeding/algae';
import { oppositeHours, overlap } from '@/core/case/hours';
import { lookedAtDays } from '@/core/case/lookedAt';
import { plainHours } from '@/core/refugium/setUp';
import { hoursWords } from '@/core/refugium/families';
import { NightAxis, NightField, type NightRow } from '@/pieces/TwoNights';
import { setThreads } from '@/state/commands/days';
import { together } from '@/state/commands/edit';
import { type Desk, litNow, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { useNowMs, utcIso, wallMinute } from '@/state/time';
import { Button, Stepper } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Sentence } from '@/ui/Sentence';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { algaeSpots } from '@/core/record/log/harvest';
import { kWh } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { useWaterLight } from '../shared/useWaterLight';

/** Hours of the waters: the days of all of them over two nights, and lighting this one while the others are dark. */
export function Hours() {
  const desk = useDesk();
  const { doc, zone } = desk;
  const nowMs = useNowMs();
  const page = usePageSize();
  const params = useLocalSearchParams<{ as?: string; hours?: string }>();
  const as = params.as === 'draft' ? 'draft' : 'running';
  const others = doc.zones.filter((z) => z.id !== zone.id && z.groups.length > 0);
  const otherNames = namesOf(others);
  const groupsOf = (z: Zone) =>
    as === 'running' ? litNow({ ...desk, zone: z }, nowMs) : draftGroups(doc, z);
  const now = wallMinute(nowMs, zone.timeZone);
  const start = (Math.floor((now - 60) / 60) * 60 + 1440) % 1440;
  const o = overlap(
    litPieces(groupsOf(zone).map((g) => g.day)),
    litPieces(others.flatMap(groupsOf).map((g) => g.day)),
  );

  return (
    <Page
      testID="hours"
      title="Hours of the waters"
      under={`${doc.zones.map((z) => z.name).join(' · ')} · ${as === 'running' ? 'as they run' : 'as drafted'}`}
      sentence={
        <Type kind="sentence" testID="hours-sentence" style={{ maxWidth: 700 }}>
          {zone.groups.length === 0
            ? `No lamp hangs over ${zone.name} yet.`
            : others.length === 0
              ? 'One lit water alone: its hours lie in nobody’s way.'
              : `${zone.name} is lit ${formatHours((o.both + o.onlyA) / 60)} a day, ${
                  o.both < 1
                    ? `all of it while ${darkWords(others)}`
                    : `${formatHours(o.both / 60)} of it together with ${otherNames}`
                }${o.dark < 1 ? '; something is lit at every hour' : `; for ${formatHours(o.dark / 60)} nothing is lit`}.`}
        </Type>
      }
      side={
        zone.groups.length > 0 &&
        (ZONE_KINDS[zone.kind].lookedAt ? (
          <Section title={`Hours of ${zone.name}`}>
            <Type>This water is looked at: its day is shaped thread by thread, when somebody is there.</Type>
            <Button label="To Day" onPress={() => router.navigate('/day')} />
          </Section>
        ) : (
          <Opposite
            key={zone.id}
            desk={desk}
            others={others.filter((z) => ZONE_KINDS[z.kind].lookedAt)}
            asked={params.hours}
          />
        ))
      }
    >
      <Sentence
        parts={[
          `48 hours from ${formatTime(start)}, `,
          {
            id: 'hours-as',
            name: 'Which days',
            value: as === 'running' ? 'as they run' : 'as drafted',
            chosen: as,
            options: [
              { value: 'running', label: 'as they run' },
              { value: 'draft', label: 'as drafted' },
            ],
            onChoose: (v) => router.setParams({ as: v }),
          },
          '; a day repeats.',
        ]}
      />
      <View style={{ gap: 6 }} testID="two-nights">
        {[...others, ...(zone.groups.length > 0 ? [zone] : [])].map((z) => (
          <Night
            key={z.id}
            zone={z}
            desk={desk}
            nowMs={nowMs}
            as={as}
            fromMinute={start}
            nowMinute={as === 'running' ? (now < start ? now + 1440 : now) : null}
            width={page.main}
          />
        ))}
        <NightAxis fromMinute={start} width={page.main} />
      </View>
      <Type kind="small">
        In each strip red lies at the top and violet at the bottom; the brighter, the more light, each water
        by its own strongest.
      </Type>
      <View>
        {doc.zones.map((z) => (
          <ZoneHours
            key={z.id}
            zone={z}
            groups={groupsOf(z)}
            onlyDrafted={as === 'running' && runningAt(desk.bundle.history, z, utcIso(nowMs)).length === 0}
          />
        ))}
      </View>
      <Type>
        Algae lit while corals are dark take up carbon dioxide at night, so that pH falls less; what is proven
        is the smaller swing, not faster growth. Others run both at the same hours: less to look after, no
        light from the cabinet at night.
      </Type>
    </Page>
  );
}

const namesOf = (zones: readonly Zone[]): string => several(zones.map((z) => z.name));
const darkWords = (zones: readonly Zone[]): string =>
  `${namesOf(zones)} ${zones.length > 1 ? 'are' : 'is'} dark`;

/** One water's field, in its own light. */
function Night({
  zone,
  desk,
  nowMs,
  as,
  ...drawn
}: {
  zone: Zone;
  desk: Desk;
  nowMs: number;
  as: 'running' | 'draft';
  fromMinute: number;
  nowMinute: number | null;
  width: number;
}) {
  const { groups, light } = useWaterLight(desk, zone, nowMs, as);
  const lit = useSame(groups.map(({ lampKind, day }) => ({ lampKind, day })));
  const row = useMemo(
    (): NightRow => ({
      id: zone.id,
      name: zone.name,
      sources:
        light && zone.spots.length > 0
          ? lit.map((g, i) => ({
              full: light.spectra[i]![0]!,
              levelsAt: (minute: number) =>
                g.day.knots.length > 0 ? levelsAt(g.day, minute) : g.lampKind.channels.map(() => 0),
            }))
          : null,
      lit: litPieces(lit.map((g) => g.day)),
    }),
    [zone, light, lit],
  );
  return <NightField row={row} {...drawn} />;
}

/** One water's hours in a line. */
function ZoneHours({
  zone,
  groups,
  onlyDrafted,
}: {
  zone: Zone;
  groups: readonly LitGroup[];
  onlyDrafted: boolean;
}) {
  const lit = litPieces(groups.map((g) => g.day));
  const hours = zoneLitHours(groups);
  return (
    <Row style={{ minHeight: 44 }}>
      <Type kind="label" style={{ flex: 1 }}>
        {zone.name}
      </Type>
      <Type testID={`lit-${zone.name}`}>
        {groups.length === 0
          ? 'no lamp'
          : hours >= 24
            ? 'round the clock'
            : `${spans(lit)} · ${formatHours(hours)}${onlyDrafted ? ' · drafted, not running' : ''}`}
      </Type>
    </Row>
  );
}

/** "20:30-08:30": pieces that meet at midnight are one. */
function spans(lit: readonly { from: number; to: number }[]): string {
  const list = [...lit];
  if (list.length > 1 && list[0]!.from === 0 && list.at(-1)!.to === 1440) {
    const last = list.pop()!;
    list[0] = { from: last.from, to: list[0]!.to };
  }
  return list.map((p) => `${formatTime(p.from)}–${formatTime(p.to)}`).join(', ') || 'dark';
}

const HALF = 12;

/** Lights this water for so many hours, as far as can be while the other is dark. */
function Opposite({ desk, others, asked }: { desk: Desk; others: Zone[]; asked: string | undefined }) {
  const { doc, zone } = desk;
  const otherNames = namesOf(others);
  const kinds = algaeSpots(zone).flatMap((s) => (s.algaId ? [alga(s.algaId)] : []));
  // the most careful of them
  const careful = kinds.length === 0 ? null : kinds.reduce((a, b) => (b.toHours < a.toHours ? b : a));
  const drafted = draftGroups(doc, zone);
  const present = zoneLitHours(drafted);
  const given = Number(asked);
  const [hours, setHours] = useState(
    Number.isFinite(given) && given >= 1 && given <= 24
      ? given
      : Math.min(24, Math.max(1, Math.round(present) || HALF)),
  );
  const everyMin = Math.max(
    ...zone.groups.map((g) => doc.lampKinds.find((k) => k.id === g.lampKindId)!.controller.everyMin),
  );
  const free = lookedAtDays(doc, others);
  const { onMinute, offMinute } = oppositeHours(free, hours, everyMin);
  const command = (id: () => string) =>
    together(
      `${zone.name} lit ${formatHours(hours)}`,
      ...zone.groups.map((g) =>
        setThreads(
          g.id,
          'hours',
          plainHours(
            doc.lampKinds.find((k) => k.id === g.lampKindId)!,
            g,
            onMinute,
            offMinute,
            id,
          ),
        ),
      ),
    );
  // only looked at: its threads need no names yet
  const next = command(() => '').apply(desk.bundle).case;
  const planned = draftGroups(
    next,
    next.zones.find((z) => z.id === zone.id)!,
  );
  const [before, after] = [kWhPerDay(drafted), kWhPerDay(planned)];
  const o = overlap(litPieces(planned.map((g) => g.day)), litPieces(free));
  const same =
    Math.abs(before - after) < 1e-9 &&
    planned.every((g, i) => JSON.stringify(g.day) === JSON.stringify(drafted[i]!.day));
  const price = doc.kwhPrice ?? null;
  const cost = (v: number) => (price === null ? '' : `, ${Math.round(v * DAYS_PER_YEAR * price)} a year`);
  return (
    <Section
      title={others.length > 0 ? `Light ${zone.name} while ${darkWords(others)}` : `Hours of ${zone.name}`}
    >
      <Choice
        label="Hours"
        hideLabel
        value={hours === HALF ? 'half' : hours === 24 ? 'round' : 'own'}
        onChange={(v) =>
          setHours(v === 'half' ? HALF : v === 'round' ? 24 : Math.min(23, hours === HALF ? HALF + 2 : hours))
        }
        options={[
          { value: 'half', label: 'Half the clock' },
          { value: 'round', label: 'Round the clock' },
          { value: 'own', label: 'Own' },
        ]}
      />
      <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
        <Type testID="hours-value">
          <Type kind="strong">{formatHours(hours)}</Type>
          {' lit a day'}
        </Type>
        <Stepper
          name="Hours lit a day"
          onStep={(sign) => setHours(Math.min(24, Math.max(1, hours + sign)))}
          atLow={hours <= 1}
          atHigh={hours >= 24}
        />
      </View>
      <Type testID="hours-plan">
        {`${hours === 24 ? 'Always on' : `On at ${formatTime(onMinute)}, off at ${formatTime(offMinute)}`}: ${
          others.length > 0
            ? o.both < 1
              ? `never together with ${otherNames}`
              : `${formatHours(o.both / 60)} together with ${otherNames}`
            : 'every day'
        }. ${kWh(after)} kWh a day${cost(after)}; now ${kWh(before)}${cost(before)}.`}
      </Type>
      {careful && <Type kind="small" testID="hours-wants">{`${careful.name}: ${hoursWords(careful)}`}</Type>}
      {careful && hours > careful.toHours && !careful.roundClock && (
        <Note>{`${careful.name} does not take ${formatHours(hours)}: it needs its night.`}</Note>
      )}
      {zone.groups.some((g) => g.threads.length > 4) && (
        <Note>Plain hours take the place of the shape its day has now. Undo brings it back.</Note>
      )}
      {everyMin > 1 && (
        <Type kind="small">{`Its clock switches every ${everyMin} min: times are rounded to that.${everyMin >= 15 ? ' A timer in the wall keeps its own time: look at it when the clocks change and after a power cut.' : ''}`}</Type>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label={same ? 'Drafted already' : 'Draft these hours'}
          kind="filled"
          disabled={same}
          onPress={() => {
            if (run(command(newId))) router.setParams({ as: 'draft' });
          }}
          testID="hours-take"
        />
        <Button
          label="Ease it in"
          kind={same ? 'filled' : undefined}
          onPress={() => router.navigate('/ease')}
          testID="hours-ease"
        />
        <Button label="To Day" onPress={() => router.navigate('/day')} />
      </View>
      <Type kind="small">
        {`A draft until it is typed in. More hours are a step up: ${after > before ? `${percent(after / Math.max(before, 1e-9) - 1)} more here. ` : ''}algae need days to follow.`}
      </Type>
    </Section>
  );
}
