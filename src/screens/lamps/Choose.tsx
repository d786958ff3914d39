import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';

import type { ChooseAsk, LampChoice } from '@/core/case/choose';
import { type Ranked, rankChoices, type Wishes } from '@/core/case/chooseRank';
import { brightestLevels } from '@/core/case/light';
import { lampLibrary } from '@/core/library/lamps';
import { type Desk, draftOf, useDesk } from '@/state/desk';
import { hangKey, useChoose, useLookAgain } from '@/state/hanging';
import { useCalibration, useLight } from '@/state/light';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { SolvingRow } from '../shared/SolvingRow';
import { Asked, ChoiceDetail, useAsked } from './ChooseParts';
import { judgedIn, Nobody } from './Nobody';
import { bestWords, costWords, countedName, doesWords } from './chooseWords';

const LOWEST_CM = 15;
const HIGHEST_CM = 60;
/** So many stand side by side. */
const BESIDE = 3;

/** Which lamps would do for this tank, ranked by what counts, each with what it gives, costs and lacks. */
export function ChoosePage() {
  const desk = useDesk();
  const { zone, doc, bundle, group } = desk;
  const page = usePageSize();
  const cal = useCalibration(bundle, zone);
  const asked = useAsked();
  const groups = draftOf(desk);
  // a group without a day has no look to match
  const dated = groups.filter((g) => g.threads.length > 0);
  const out = dated.find((g) => g.groupId === group?.id) ?? dated[0];
  const kinds = useMemo(
    () => [
      ...doc.lampKinds,
      ...(asked.mine
        ? []
        : lampLibrary()
            .map((l) => l.kind)
            .filter((k) => !doc.lampKinds.some((own) => own.id === k.id))),
    ],
    [doc.lampKinds, asked.mine],
  );
  const judged = judgedIn(zone);
  const ask: Omit<ChooseAsk, 'used'> | null =
    judged > 0 && (out || groups.length === 0)
      ? {
          ...{ zone, groups, outGroupId: out?.groupId ?? null, kinds, most: asked.most, cal },
          ...{ lowestCm: LOWEST_CM, highestCm: HIGHEST_CM },
        }
      : null;
  const key = ask ? hangKey(groups, zone, cal, [ask.outGroupId, asked.most, asked.mine, doc.lampKinds]) : '';
  const { look, found, cancel, ...solving } = useChoose([key]);
  useLookAgain(key, ask, look, bundle);
  const wished = JSON.stringify(asked.wishes);
  const ranked = useMemo(
    () => (found ? rankChoices(found, JSON.parse(wished) as Wishes) : []),
    [found, wished],
  );
  const typed = useTyped(`swap in ${zone.id}`);
  if (judged === 0) return <Nobody testID="choose" title="Choose a lamp" zone={zone} />;
  if (!ask)
    return (
      <Page testID="choose" title="Choose a lamp" under={zone.name}>
        <Type>The lamps that are drafted here have no day yet that could be matched. Draw one first.</Type>
        <Button label="To Day" kind="filled" wide onPress={() => router.navigate('/day')} />
      </Page>
    );
  const chosen = ranked.find((r) => r.choice.kind.id === asked.open) ?? ranked[0];
  const beside = ranked.filter((r) => asked.beside.includes(r.choice.kind.id));
  const others = groups.filter((g) => g !== out);
  const swap = ({ kind, lamps }: LampChoice) => {
    if (!out)
      return router.navigate(`/whole?lamp=${encodeURIComponent(kind.id)}&count=${lamps.length}` as never);
    typed.setAll({ out: out.groupId, kind: kind.id, count: String(lamps.length) });
    router.navigate('/swap' as never);
  };
  const setBeside = (id: string) => {
    const now = beside.map((r) => r.choice.kind.id);
    const next = now.includes(id) ? now.filter((x) => x !== id) : [...now, id].slice(-BESIDE);
    asked.set({ beside: next.join(',') });
  };
  const picture = (choice: LampChoice, width: number) => (
    <ChoicePicture {...{ desk, choice, others, cal, width }} />
  );
  const best = ranked[0];
  const detail = (r: Ranked) => (
    <>
      {picture(r.choice, page.side)}
      <ChoiceDetail
        {...{ desk, ranked: r }}
        foot={page.wide ? 0 : beside.length}
        beside={beside.includes(r)}
        onBeside={() => setBeside(r.choice.kind.id)}
        first={!out}
        onSwap={() => swap(r.choice)}
      />
    </>
  );
  return (
    <Page
      testID="choose"
      title="Choose a lamp"
      under={`${zone.name} · ${out ? `in place of ${out.name}` : 'no lamp is drafted yet'}`}
      sentence={
        <Type
          kind="sentence"
          testID="choose-sentence"
          roomLines={page.wide ? 2 : 4}
          style={{ maxWidth: 700 }}
        >
          {best
            ? `By what counts here: ${countedName(best.choice)}. As reckoned ${doesWords(best.choice)}`
            : `Every lamp is hung where it serves these corals best, under ${out ? 'the day and the colours of the draft' : 'a careful first day, blue leading'}.`}
        </Type>
      }
      side={
        <>
          {page.wide && chosen && <Section title={countedName(chosen.choice)}>{detail(chosen)}</Section>}
          {beside.length > 0 && (
            <Section title="Side by side">
              <View style={{ gap: space.l }} testID="choose-beside">
                {beside.map(({ choice }) => (
                  <View key={choice.kind.id} style={{ gap: space.xs }}>
                    {picture(choice, page.side)}
                    <Type kind="label">{countedName(choice)}</Type>
                    <Type kind="small">
                      {`${doesWords(choice)} ${costWords(choice, doc.kwhPrice ?? null)}`}
                    </Type>
                  </View>
                ))}
              </View>
            </Section>
          )}
        </>
      }
    >
      <Asked {...{ desk, asked }} outId={out?.groupId ?? null} />
      <SolvingRow solver={{ ...solving, cancel }} what="Trying lamps" />
      {ranked.length > 0 && (
        <View testID="choices">
          {ranked.map((r, i) => (
            <View key={r.choice.kind.id}>
              <Row
                name={`${i + 1}. ${countedName(r.choice)}. ${r === chosen ? 'Shown' : 'Shows it'}`}
                onPress={() => asked.set({ lamp: r.choice.kind.id })}
              >
                <View style={{ flex: 1, gap: 2, paddingVertical: space.s }} testID={`choice-${i}`}>
                  <Type
                    kind={r === chosen ? 'strong' : 'label'}
                  >{`${i + 1} · ${countedName(r.choice)}`}</Type>
                  <Type kind="small">{doesWords(r.choice)}</Type>
                  <Type kind="small">{`${costWords(r.choice, doc.kwhPrice ?? null)} ${bestWords(r.best)}`}</Type>
                </View>
              </Row>
              {!page.wide && r === chosen && (
                <View style={{ gap: space.s, paddingVertical: space.m }}>{detail(r)}</View>
              )}
            </View>
          ))}
        </View>
      )}
      <Type kind="small">
        Lamps of the library are invented, and so are their prices; none was ever measured here, which the ±
        says. Type in, count or import a real one, and it stands among them.
      </Type>
      <Button label="Lamps" onPress={() => router.navigate('/lamps')} testID="choose-lamps" />
    </Page>
  );
}

/** The tank as it would look under a choice. */
function ChoicePicture({
  desk,
  choice,
  others,
  cal,
  width,
}: {
  desk: Desk;
  choice: LampChoice;
  others: readonly LampChoice['group'][];
  cal: ChooseAsk['cal'];
  width: number;
}) {
  const lit = useMemo(() => [...others, choice.group], [others, choice]);
  const { light } = useLight(lit, desk.zone, cal);
  if (!light || desk.zone.spots.length === 0) return null;
  return (
    <Glimpse
      {...{ desk, light, width }}
      groups={lit}
      levels={brightestLevels(light, lit, Math.max(0, desk.spotIndex))}
      name={`The tank under ${countedName(choice)}`}
    />
  );
}
