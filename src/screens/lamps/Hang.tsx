import { router, useLocalSearchParams } from 'expo-router';
import { useState } from 'react';

import type { HangAsk, HangWay } from '@/core/case/hang';
import { lengthWords } from '@/core/shape/units';
import { dims } from '@/core/spectrum/controls';
import { TradeMap } from '@/pieces/TradeMap';
import { setCap } from '@/state/commands/days';
import { type Command, together } from '@/state/commands/edit';
import { setLamp, setLampKind } from '@/state/commands/lamps';
import { type Desk, draftOf, useDesk } from '@/state/desk';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { hangKey, useHang, useLookAgain } from '@/state/hanging';
import { Button } from '@/ui/Button';
import { FieldRow, ValueField } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { Sentence } from '@/ui/Sentence';
import { TakeAlong } from '@/ui/TakeAlong';
import { Type } from '@/ui/Type';

import { HangingCautions } from '../shared/Cautions';
import { DraftLine } from '../shared/DraftLine';
import { formats } from '../shared/formats';
import { SolvingRow } from '../shared/SolvingRow';
import { umol } from '../shared/words';
import { HangCritic } from './HangCritic';
import { HangPicture, HangSection } from './HangSection';
import { HangWays } from './HangWays';
import { figureWords, howWords, letterOf, nameOf } from './hangWords';
import { heightPart } from './heightPart';
import { judgedIn, Nobody } from './Nobody';

const LOWEST_CM = 15;
const HIGHEST_CM = 60;
const CALM_UMOL = 60;
/** Nearer to the water than this a lamp is within reach of splashes, cm. Mark: rule of thumb. */
const SPLASH_CM = 15;

const bounded = (text: string | undefined, fallback: number, low: number, high: number): number => {
  const v = Number(text);
  return text && Number.isFinite(v) && v >= low && v <= high ? v : fallback;
};

/** Angles as typed: "60, 90"; null = something among them is none. */
const lensesRead = (text: string): number[] | null => {
  const parts = text
    .split(/[\s,;°]+/)
    .filter(Boolean)
    .map(Number);
  return parts.length <= MOST_LENSES && parts.every((v) => v >= 5 && v <= 175) ? parts : null;
};
const lensesIn = (text: string): number[] => lensesRead(text) ?? [];
const MOST_LENSES = 8;

/** What is asked, kept in the address. */
function useAsked(desk: Desk) {
  const p = useLocalSearchParams<Record<string, string>>();
  const { zone, group } = desk;
  const lowest = bounded(p.low, LOWEST_CM, 1, 300);
  const calmAt = zone.spots.findIndex((s) => s.id === p.calm);
  return {
    groupId: zone.groups.some((g) => g.id === group?.id) ? group!.id : (zone.groups[0]?.id ?? ''),
    lowest,
    highest: Math.max(lowest, bounded(p.high, HIGHEST_CM, 1, 300)),
    lenses: lensesIn(p.lens ?? ''),
    calm: calmAt < 0 ? null : { spot: calmAt, mostUmol: bounded(p.most, CALM_UMOL, 1, 3000) },
    set: (change: Record<string, string>) => router.setParams(change),
  };
}

/** Where the lamps of a group could hang, each answer in section, with its figures and what it gives up. */
export function HangPage() {
  const desk = useDesk();
  const { zone, bundle } = desk;
  const page = usePageSize();
  const cal = useCalibration(bundle, zone);
  const asked = useAsked(desk);
  const groups = draftOf(desk);
  const kindId = zone.groups.find((g) => g.id === asked.groupId)?.lampKindId;
  const judged = judgedIn(zone);
  const hangs = groups.some((g) => g.groupId === asked.groupId);
  const ask: Omit<HangAsk, 'used'> | null =
    hangs && judged > 0
      ? {
          ...{ zone, groups, groupId: asked.groupId, cal },
          ...{ lowestCm: asked.lowest, highestCm: asked.highest, calm: asked.calm, lensesDeg: asked.lenses },
          bare: desk.doc.zones
            .flatMap((z) => z.groups)
            .some((g) => g.id !== asked.groupId && g.lampKindId === kindId),
        }
      : null;
  const key = ask
    ? hangKey(groups, zone, cal, [asked.groupId, asked.lowest, asked.highest, asked.calm, asked.lenses])
    : '';
  const { look, found, cancel, ...solving } = useHang([key]);
  useLookAgain(key, ask, look, bundle);
  const [letter, setLetter] = useState('A');
  const chosen = found?.ways.findIndex((_, i) => letterOf(i) === letter) ?? -1;
  const way = found ? (found.ways[chosen] ?? found.ways[0] ?? null) : null;
  if (hangs && judged === 0) return <Nobody testID="hang" title="Hang the lamps" zone={zone} />;
  if (!ask)
    return (
      <Page testID="hang" title="Hang the lamps" under={zone.name}>
        <Type>There is no lamp to hang yet.</Type>
        <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/lamps')} />
      </Page>
    );
  const group = zone.groups.find((g) => g.id === asked.groupId)!;
  const kind = groups.find((g) => g.groupId === asked.groupId)!.lampKind;
  const hang = (w: HangWay) =>
    run(together(`${group.name} hung: ${howWords(w)}`, ...hungBy(w, asked.groupId, kind)));
  const seen = (
    <>
      {found && (
        <TakeAlong
          name="ways-to-hang"
          caption={`${zone.name}: what is traded between ways to hang ${group.name}. Letters are the ways that are offered, dots what else was tried.`}
          csv={async () =>
            (await formats()).tableCsv(
              [
                'way',
                'corals off what they want (mean of logarithms)',
                'unevenness (1 - darkest/mean)',
                'most on a pane (µmol)',
              ],
              [
                ...found.ways.map(({ figures: f }, i) => [letterOf(i), f.cost, f.uneven, f.glassUmol]),
                ...found.seen.map((f) => ['tried', f.cost, f.uneven, f.glassUmol]),
              ],
            )
          }
        >
          <TradeMap
            width={page.wide ? page.main : page.side}
            chosen={way && letterOf(found.ways.indexOf(way))}
            name={`What is traded between ${found.ways.map((w, i) => nameOf(w, i)).join('; ')}`}
            all={[
              ...found.seen.map((f) => ({
                letter: null,
                suits: -f.cost,
                even: -f.uneven,
                clean: -f.glassUmol,
              })),
              ...found.ways.map(({ figures: f }, i) => ({
                ...{ letter: letterOf(i), suits: -f.cost, even: -f.uneven, clean: -f.glassUmol },
              })),
            ]}
          />
        </TakeAlong>
      )}
      {way && <HangPicture {...{ desk, ask, way }} width={page.wide ? page.main : page.side} />}
    </>
  );
  return (
    <Page
      testID="hang"
      title="Hang the lamps"
      under={`${zone.name} · ${group.name}`}
      sentence={
        <Type kind="sentence" testID="hang-sentence" roomLines={page.wide ? 2 : 4} style={{ maxWidth: 700 }}>
          {found
            ? `Now ${figureWords(found.now, judged, zone)}`
            : 'Heights, distances, turns and caps are being tried.'}
        </Type>
      }
      side={
        <>
          {found && <HangWays {...{ found, judged, desk, letter, hang }} onLetter={setLetter} />}
          {!page.wide && seen}
          <Section title="Before anything is lifted">
            <HangingCautions />
            <Type kind="small">
              {`A lamp lower than ${lengthWords(SPLASH_CM)} over the water gets splashed and warms what is under it (rule of thumb). The least distance that its maker gives wins.`}
            </Type>
          </Section>
        </>
      }
    >
      <Asked {...{ desk, asked, shared: ask.bare ?? false }} />
      <SolvingRow solver={{ ...solving, cancel }} what="Hanging lamps" />
      {found && <HangCritic desk={desk} criticism={found.criticism} />}
      <HangSection
        askKey={key}
        now={found?.now ?? null}
        {...{ desk, ask, way }}
        name={way ? nameOf(way, found!.ways.indexOf(way)) : 'as drafted'}
      />
      {page.wide && seen}
      <DraftLine desk={desk} />
    </Page>
  );
}

/** What hangs a group's lamps as an answer says. */
const hungBy = (w: HangWay, groupId: string, kind: HangWay['kind']): Command[] => [
  ...((w.kind.diffuserShare ?? 0) === (kind.diffuserShare ?? 0) && w.arrangement?.lensDeg === undefined
    ? []
    : [setLampKind(w.kind)]),
  ...w.lamps.map((l) => setLamp(groupId, l)),
  ...(dims(kind) ? [setCap(groupId, Math.round(w.figures.capShare * 100) / 100)] : []),
];

function Asked({
  desk,
  asked,
  shared,
}: {
  desk: Desk;
  asked: ReturnType<typeof useAsked>;
  /** other lamps are of this kind: its lenses stay */
  shared: boolean;
}) {
  const { zone } = desk;
  const length = (id: string, name: string, value: number) =>
    heightPart(id, name, value, `hang-${id}`, (cm) => asked.set({ [id]: String(cm) }));
  return (
    <Sentence
      testID="hang-asked"
      parts={[
        ...(zone.groups.length > 1
          ? [
              {
                ...{ id: 'group', name: 'Lamps', chosen: asked.groupId },
                value: zone.groups.find((g) => g.id === asked.groupId)?.name ?? '',
                options: zone.groups.map((g) => ({ value: g.id, label: g.name })),
                onChoose: (groupId: string) => changeSettings({ groupId }),
              },
              ' between ',
            ]
          : ['Between ']),
        length('low', 'No lower than', asked.lowest),
        ' and ',
        length('high', 'No higher than', asked.highest),
        ' over the water, with ',
        ...(shared
          ? ['their own lenses, ']
          : [
              {
                ...{ id: 'lens', name: 'Lenses' },
                value:
                  asked.lenses.length === 0
                    ? 'their own lenses'
                    : `their own lenses or ${asked.lenses.map((d) => `${d}°`).join(', ')}`,
                panel: (
                  <FieldRow>
                    <ValueField
                      label="Other lenses at hand"
                      value={asked.lenses.join(', ')}
                      unit="°"
                      hint="Full angles at half intensity, such as 60, 90. Empty = none."
                      testID="hang-lens"
                      onCommit={(text) => {
                        const lens = lensesRead(text);
                        if (!lens) return `Give up to ${MOST_LENSES} angles from 5 to 175°, or nothing.`;
                        asked.set({ lens: lens.join(',') });
                        return null;
                      }}
                    />
                  </FieldRow>
                ),
              },
              ', ',
            ]),
        {
          ...{
            id: 'calm',
            name: 'A place to keep darker',
            chosen: asked.calm ? zone.spots[asked.calm.spot]!.id : '',
          },
          value: asked.calm
            ? `no more than ${umol(asked.calm.mostUmol)} µmol at ${zone.spots[asked.calm.spot]!.name}`
            : 'no place kept darker',
          options: [
            { value: '', label: 'no place' },
            ...zone.spots.map((s) => ({ value: s.id, label: s.name })),
          ],
          onChoose: (calm: string) => asked.set({ calm }),
        },
        ...(asked.calm
          ? [
              ' (',
              {
                ...{ id: 'most', name: 'The most there', value: `${umol(asked.calm.mostUmol)} µmol` },
                panel: (
                  <FieldRow>
                    <ValueField
                      label="The most there"
                      value={String(asked.calm.mostUmol)}
                      unit="µmol"
                      numeric
                      testID="hang-most"
                      onCommit={(text) => {
                        const v = parseNumber(text);
                        if (v === null || v < 1 || v > 3000) return 'Give 1 to 3000 µmol.';
                        asked.set({ most: String(v) });
                        return null;
                      }}
                    />
                  </FieldRow>
                ),
              },
              ')',
            ]
          : []),
        '.',
      ]}
    />
  );
}
