import { router, useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';

import { type Ranked, USUAL_WISHES, type Wish, type Wishes } from '@/core/case/chooseRank';
import { COUNT_WORDS, COUNTS, type Counts } from '@/core/controller/counts';
import { capital, inWords } from '@/core/shape/counts';
import type { Desk } from '@/state/desk';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { controllerWords, countWords, idleWords, lackWords, stepWordsOf, upTo, WISHES } from './chooseWords';
import { howWords } from './hangWords';

const MOST = 4;
const USUAL_MOST = 2;

/** What is asked, kept in the address. */
export function useAsked() {
  const p = useLocalSearchParams<Record<string, string>>();
  const most = Number(p.most);
  const names = Object.keys(USUAL_WISHES) as Wish[];
  const counts = (w: Wish): Counts => (p[w] && p[w] in COUNTS ? (p[w] as Counts) : USUAL_WISHES[w]);
  return {
    most: Number.isInteger(most) && most >= 1 && most <= MOST ? most : USUAL_MOST,
    mine: p.of === 'mine',
    wishes: Object.fromEntries(names.map((w) => [w, counts(w)])) as Wishes,
    open: p.lamp ?? '',
    beside: (p.beside ?? '').split(',').filter(Boolean),
    set: (change: Record<string, string>) => router.setParams(change),
  };
}

/** How it hangs, what it lacks, what its controller makes of the day, and the way to it. */
export function ChoiceDetail({
  desk: { zone },
  ranked: { choice, others },
  beside,
  foot,
  first,
  onBeside,
  onSwap,
}: {
  desk: Desk;
  ranked: Ranked;
  /** so many stand side by side where they are not in sight */
  foot: number;
  beside: boolean;
  /** nothing is drafted that it could be swapped for */
  first: boolean;
  onBeside: () => void;
  onSwap: () => void;
}) {
  return (
    <View style={{ gap: space.s }} testID="choice-detail">
      <Type testID="choice-how">{howWords(choice)}</Type>
      {others.length > 0 && (
        <Type kind="small" testID="choice-counts">
          {others.map((o) => `With ${inWords(o.lamps.length)}: ${countWords(o)}.`).join(' ')}
        </Type>
      )}
      {choice.lacks.map((l) => (
        <Type key={l.what} kind="small">
          {lackWords(l)}
        </Type>
      ))}
      <Type kind="small">
        {[controllerWords(choice), idleWords(choice), stepWordsOf(choice, zone)].filter(Boolean).join(' ')}
      </Type>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label={first ? 'Plan the tank with it' : 'Swap to it'}
          kind="filled"
          onPress={onSwap}
          testID="choose-swap"
        />
        <Button
          label={beside ? 'Take it from beside' : 'Set it beside'}
          onPress={onBeside}
          testID="choose-set-beside"
        />
      </View>
      {foot > 0 && (
        <Type kind="small">{`${capital(inWords(foot))} side by side at the foot of this page.`}</Type>
      )}
    </View>
  );
}

/** What is asked and what counts, in a sentence. */
export function Asked({
  desk: { zone },
  asked,
  outId,
}: {
  desk: Desk;
  asked: ReturnType<typeof useAsked>;
  outId: string | null;
}) {
  const names = Object.keys(WISHES) as Wish[];
  return (
    <Sentence
      testID="choose-asked"
      parts={[
        ...(outId === null
          ? ['For a first light: ']
          : [
              'In place of ',
              {
                ...{ id: 'group', name: 'What comes down', chosen: outId },
                value: zone.groups.find((g) => g.id === outId)?.name ?? 'these lamps',
                options: zone.groups.map((g) => ({ value: g.id, label: g.name })),
                onChoose: (groupId: string) => changeSettings({ groupId }),
              },
              ', ',
            ]),
        {
          ...{ id: 'most', name: 'How many at most', chosen: String(asked.most), value: upTo(asked.most) },
          options: [1, 2, 3, 4].map((n) => ({ value: String(n), label: upTo(n) })),
          onChoose: (most: string) => asked.set({ most }),
        },
        ' of a kind, of ',
        {
          ...{ id: 'of', name: 'Which lamps', chosen: asked.mine ? 'mine' : 'all' },
          value: asked.mine ? 'the lamps of this case' : 'every lamp',
          options: [
            { value: 'all', label: 'every lamp' },
            { value: 'mine', label: 'the lamps of this case' },
          ],
          onChoose: (of: string) => asked.set({ of }),
        },
        '. What counts: ',
        ...names.flatMap((w, i) => [
          `${i === 0 ? '' : i === names.length - 1 ? ' and ' : ', '}${WISHES[w]} `,
          {
            ...{ id: w, name: `How much counts: ${WISHES[w]}`, chosen: asked.wishes[w] },
            value: COUNT_WORDS[asked.wishes[w]],
            options: (Object.keys(COUNTS) as Counts[]).map((c) => ({ value: c, label: COUNT_WORDS[c] })),
            onChoose: (counts: string) => asked.set({ [w]: counts }),
          },
        ]),
        '.',
      ]}
    />
  );
}
