import { router, useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';

import type { WholeAsk } from '@/core/case/whole';
import { lampLibrary } from '@/core/library/lamps';
import { SCHOOLS } from '@/core/mix/schools';
import { formOf } from '@/core/portrait/ofZone';
import { USUAL_HOME } from '@/core/record/zone';
import { formatTime } from '@/core/day/clock';
import { inWords } from '@/core/shape/counts';
import { type Desk, draftOf, useDesk } from '@/state/desk';
import { hangKey, useLookAgain, useWhole } from '@/state/hanging';
import { useCalibration } from '@/state/light';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { Sentence } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

import { HangingCautions } from '../shared/Cautions';
import { DraftLine } from '../shared/DraftLine';
import { SolvingRow } from '../shared/SolvingRow';
import { heightPart } from './heightPart';
import { bestWords } from './wholeWords';
import { WholeWays } from './WholeWays';

const LOWEST_CM = 15;
const HIGHEST_CM = 60;
const MOST_LAMPS = 4;

/** What is asked, kept in the address. */
function useAsked({ zone, group, doc }: Desk) {
  const p = useLocalSearchParams<Record<string, string>>();
  const cm = (text: string | undefined, fallback: number) => {
    const v = Number(text);
    return text && v >= 1 && v <= 300 ? v : fallback;
  };
  const lowest = cm(p.low, LOWEST_CM);
  const count = Number(p.count);
  const kinds = [
    ...doc.lampKinds,
    ...lampLibrary()
      .map((l) => l.kind)
      .filter((k) => !doc.lampKinds.some((own) => own.id === k.id)),
  ];
  return {
    kinds,
    groupId: zone.groups.some((g) => g.id === group?.id) ? group!.id : (zone.groups[0]?.id ?? ''),
    lowest,
    highest: Math.max(lowest, cm(p.high, HIGHEST_CM)),
    school: SCHOOLS.find((s) => s.id === p.look) ?? SCHOOLS[0]!,
    kind: kinds.find((k) => k.id === p.lamp) ?? kinds[0]!,
    count: Number.isInteger(count) && count >= 1 && count <= MOST_LAMPS ? count : 2,
    letter: p.way ?? 'A',
    set: (change: Record<string, string>) => router.setParams(change),
  };
}

/** A whole tank: where its lamps hang, how strong, their mix and day, and who stands where, as a few unlike proposals. */
export function WholePage() {
  const desk = useDesk();
  const { zone, doc, bundle } = desk;
  const page = usePageSize();
  const cal = useCalibration(bundle, zone);
  const asked = useAsked(desk);
  const groups = draftOf(desk).filter((g) => g.threads.length > 0);
  const drafted = groups.find((g) => g.groupId === asked.groupId) ?? groups[0];
  const home = zone.home ?? USUAL_HOME;
  const corals = [...zone.spots, ...(zone.inHand ?? [])].flatMap((c) => {
    const form = formOf(doc, c);
    return form ? [{ name: c.name, form }] : [];
  });
  const first = drafted ? undefined : { kind: asked.kind, count: asked.count };
  const nobody = !zone.spots.some((s) => s.need !== null) && !zone.inHand;
  const ask: Omit<WholeAsk, 'used'> | null = nobody
    ? null
    : {
        ...{ zone, groups, groupId: drafted?.groupId ?? '', cal, corals, home },
        ...{ lowestCm: asked.lowest, highestCm: asked.highest, aims: asked.school.aims },
        ...(first ? { first } : {}),
      };
  const key = ask
    ? hangKey(groups, zone, cal, [
        ...[ask.groupId, asked.lowest, asked.highest, asked.school.id, first, home, zone.inHand],
        corals.map((c) => c.form),
      ])
    : '';
  const { look, found, cancel, ...solving } = useWhole([key]);
  useLookAgain(key, ask, look, bundle);
  const best = found?.[0];
  return (
    <Page
      testID="whole"
      title="The whole tank"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="whole-sentence" roomLines={page.wide ? 1 : 3} style={{ maxWidth: 700 }}>
          {nobody
            ? 'Say who lives here, or who is to: corals in hand need no place yet.'
            : best
              ? bestWords(best)
              : found
                ? 'These lamps fit nowhere side by side over this tank.'
                : 'Lamps, mix, day and places are sought together.'}
        </Type>
      }
      side={
        <>
          <Section title="In hand, without a place">
            <View>
              {(zone.inHand ?? []).map((c) => (
                <Row
                  key={c.id}
                  name={`${c.name}: opens it`}
                  onPress={() => router.navigate(`/place?hand=${encodeURIComponent(c.id)}` as never)}
                >
                  <Type kind="label">{c.name}</Type>
                </Row>
              ))}
            </View>
            <Button
              label="A coral in hand"
              onPress={() => router.navigate('/place' as never)}
              testID="whole-hand"
            />
          </Section>
          <Section title="Before anything is lifted">
            <HangingCautions />
          </Section>
          <Type kind="small">
            {`Light to look at is above a tenth of the day’s peak. You are home from ${formatTime(home.fromMinute)} to ${formatTime(home.toMinute)}${zone.home ? '' : ', as is usual until you say otherwise on A day as I want it'}. A proposal changes nothing over the tank.`}
          </Type>
        </>
      }
    >
      <Asked {...{ desk, asked, drafted: drafted !== undefined }} />
      <SolvingRow solver={{ ...solving, cancel }} what="Planning the tank" />
      {found && found.length > 0 && (
        <WholeWays {...{ desk, found, asked, cal, first: first !== undefined }} />
      )}
      <DraftLine desk={desk} />
    </Page>
  );
}

function Asked({
  desk: { zone },
  asked,
  drafted,
}: {
  desk: Desk;
  asked: ReturnType<typeof useAsked>;
  drafted: boolean;
}) {
  const length = (id: string, name: string, value: number) =>
    heightPart(id, name, value, `whole-${id}`, (cm) => asked.set({ [id]: String(cm) }));
  const lamps = drafted
    ? zone.groups.length > 1
      ? [
          {
            ...{ id: 'group', name: 'Lamps', chosen: asked.groupId },
            value: zone.groups.find((g) => g.id === asked.groupId)?.name ?? '',
            options: zone.groups.map((g) => ({ value: g.id, label: g.name })),
            onChoose: (groupId: string) => changeSettings({ groupId }),
          },
        ]
      : ['The lamps']
    : [
        {
          ...{ id: 'count', name: 'How many lamps', chosen: String(asked.count) },
          value: inWords(asked.count).replace(/^./, (c) => c.toUpperCase()),
          options: Array.from({ length: MOST_LAMPS }, (_, i) => ({
            value: String(i + 1),
            label: inWords(i + 1),
          })),
          onChoose: (count: string) => asked.set({ count }),
        },
        ' of ',
        {
          ...{ id: 'lamp', name: 'Which lamp', chosen: asked.kind.id, value: asked.kind.name },
          options: asked.kinds.map((k) => ({ value: k.id, label: k.name })),
          onChoose: (lamp: string) => asked.set({ lamp }),
        },
      ];
  return (
    <Sentence
      testID="whole-asked"
      parts={[
        ...lamps,
        ' between ',
        length('low', 'No lower than', asked.lowest),
        ' and ',
        length('high', 'No higher than', asked.highest),
        ' over the water; looks by ',
        {
          ...{ id: 'look', name: 'What counts for the look', chosen: asked.school.id },
          value: `“${asked.school.name}”`,
          options: SCHOOLS.map((s) => ({ value: s.id, label: s.name })),
          onChoose: (look: string) => asked.set({ look }),
        },
        '.',
      ]}
    />
  );
}
