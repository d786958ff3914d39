import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import type { SwapAnswer } from '@/core/case/swap';
import { lampLibrary } from '@/core/library/lamps';
import { livesByLight } from '@/core/record/needs';
import { percent } from '@/core/shape/percent';
import { inWords, plural } from '@/core/shape/counts';
import type { Spot } from '@/core/record/zone';
import { dims, hasCap } from '@/core/spectrum/controls';
import { together } from '@/state/commands/edit';
import { addLampKind, hangGroup } from '@/state/commands/lamps';
import { takeDown } from '@/state/commands/running';
import { type Desk, runningOf, draftOf, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useCeiling } from '@/state/judgement';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { useSwap } from '@/state/hanging';
import { nowUtcIso, useNowMs } from '@/state/time';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { HangingCautions } from '../shared/Cautions';
import { SolvingRow } from '../shared/SolvingRow';
import { tenantsOf, times } from '../shared/words';
import { criticWords } from './hangWords';
import { answerWords, SwapTable } from './SwapTable';

const LOWEST_CM = 15;
const HIGHEST_CM = 60;
const MOST_LAMPS = 6;

/** Corals that were read since the light last changed: what a swap is matched to is then measured. */
function readCorals(
  { zone, bundle }: Desk,
  sinceUtc: string,
): { ids: ReadonlySet<string>; simulated: boolean } {
  const sessions = bundle.readings.sessions.filter(
    (s) => s.zoneId === zone.id && s.counts && s.atUtc >= sinceUtc,
  );
  return {
    ids: new Set(
      sessions.flatMap((s) => s.readings.flatMap((r) => (r.tries.length > 0 && r.spotId ? [r.spotId] : []))),
    ),
    simulated: sessions.some((s) => s.meter.simulated),
  };
}

/** One lamp for another in four steps; what is chosen is kept as it goes over days. */
export function SwapPage() {
  const desk = useDesk();
  const { zone, bundle, doc } = desk;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const ceiling = useCeiling();
  const typed = useTyped(`swap in ${zone.id}`);
  const running = runningOf(desk, nowMs);
  const groups = running.groups.length > 0 ? running.groups : draftOf(desk);
  const [outId, setOut] = typed.of('out', groups[0]?.groupId ?? '');
  const out = groups.find((g) => g.groupId === outId) ?? groups[0];
  const [kindId, setKind] = typed.of('kind', '');
  const [count, setCount] = typed.of('count', String(out?.lamps.length ?? 1));
  const [readings, setReadings] = typed.of('readings', '');
  const [pictures, setPictures] = typed.of('pictures', '');
  const [asking, setAsking] = useState(false);
  const kinds = [
    ...doc.lampKinds.map((kind) => ({ kind, known: true })),
    ...lampLibrary()
      .filter(({ kind }) => !doc.lampKinds.some((k) => k.id === kind.id))
      .map(({ kind }) => ({ kind, known: false })),
  ];
  const chosen = kinds.find((k) => k.kind.id === kindId) ?? null;
  const n = parseNumber(count);
  const asked = JSON.stringify([out?.groupId, kindId, n, zone.spots, zone.tank]);
  const { look, found, cancel, ...solving } = useSwap([asked, bundle.history, cal]);
  if (!out)
    return (
      <Page testID="swap" title="Swap a lamp" under={zone.name}>
        <Type>No lamp hangs here that could come down.</Type>
        <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/lamps')} />
      </Page>
    );
  const since = running.entries.find((e) => e.groupId === out.groupId)?.atUtc ?? '';
  const corals = zone.spots.filter((s) => s.need !== null && livesByLight(s));
  const who = tenantsOf(zone.spots);
  const read = readCorals(desk, since);
  const unread = corals.filter((s) => !read.ids.has(s.id));
  const ready = unread.length === 0 || readings === 'none';
  const take = (a: SwapAnswer) => {
    const id = newId();
    const known = kinds.find((k) => k.kind.id === a.kind.id)!.known;
    const done = run(
      together(
        `swapped: ${a.kind.name}`,
        ...(known ? [] : [addLampKind(a.kind)]),
        hangGroup(zone.id, {
          ...{ id, name: a.kind.name.slice(0, 60), lampKindId: a.kind.id, capShare: a.capShare },
          lamps: a.lamps.map((l) => ({ ...l, id: newId() })),
          threads: a.threads.map(({ minute, strengthShare, mix }) => ({
            ...{ id: newId(), minute, strengthShare },
            mix: { own: mix },
          })),
        }),
        takeDown(out.groupId, { id: newId(), atUtc: nowUtcIso() }),
      ),
    );
    if (!done) return;
    typed.clear();
    changeSettings({ groupId: id });
    router.navigate('/sheet');
  };
  return (
    <Page
      testID="swap"
      title="Swap a lamp"
      under={
        corals.length === 0
          ? zone.name
          : `${zone.name} · ${plural(corals.length, who.one, who.many)} to keep in ${corals.length === 1 ? 'its' : 'their'} light`
      }
      sentence={
        <Type kind="sentence" testID="swap-sentence" roomLines={2} style={{ maxWidth: 700 }}>
          {found
            ? answerWords(found, zone, ceiling)
            : `The new lamp is hung${corals.length > 0 ? ` and set so that each ${who.one} keeps the light it has` : ''}.`}
        </Type>
      }
      side={
        <Section title="Before anything is lifted">
          <HangingCautions />
        </Section>
      }
    >
      <Sentence
        testID="swap-asked"
        parts={[
          'Take down ',
          ...(groups.length > 1
            ? [
                {
                  ...{ id: 'out', name: 'What comes down', chosen: out.groupId },
                  value: zone.groups.find((g) => g.id === out.groupId)?.name ?? 'these lamps',
                  options: groups.map((g) => ({
                    value: g.groupId,
                    label: zone.groups.find((x) => x.id === g.groupId)?.name ?? g.lampKind.name,
                  })),
                  onChoose: setOut,
                },
              ]
            : [zone.groups.find((g) => g.id === out.groupId)?.name ?? 'the lamps']),
          ' and hang ',
          {
            ...{ id: 'count', name: 'How many', value: inWords(n ?? 1) },
            panel: (
              <FieldRow>
                <TextField
                  label="How many of them"
                  value={count}
                  onChange={setCount}
                  numeric
                  error={
                    n === null || n < 1 || n > MOST_LAMPS || n % 1 !== 0
                      ? `Give 1 to ${MOST_LAMPS}.`
                      : undefined
                  }
                  testID="swap-count"
                />
              </FieldRow>
            ),
          },
          ' × ',
          {
            ...{
              id: 'kind',
              name: 'The new lamp',
              chosen: kindId,
              value: chosen?.kind.name ?? 'a lamp to be chosen',
            },
            options: kinds.map(({ kind, known }) => ({
              value: kind.id,
              label: known ? `${kind.name}, in this case` : kind.name,
            })),
            onChoose: setKind,
          },
          '.',
        ]}
      />
      <Section title="1 · While the old one hangs">
        <Type testID="swap-read">{readWords(who.one, corals, unread, read.simulated)}</Type>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          <Button
            label={`Read the ${who.many}`}
            kind={ready ? undefined : 'filled'}
            onPress={() => router.navigate('/readings')}
            testID="swap-readings"
          />
        </View>
        {unread.length > 0 && (
          <Choice
            label="Without readings"
            value={readings}
            onChange={setReadings}
            options={[
              { value: '', label: 'I will read them' },
              { value: 'none', label: 'I have no readings' },
            ]}
          />
        )}
        {readings === 'none' && unread.length > 0 && (
          <Note>
            The light they are used to is then an estimate, and so is what the new lamp gives: the ± beside
            each ratio says how far.
          </Note>
        )}
        <Choice
          label="Photographs of each coral, to compare with later"
          value={pictures}
          onChange={setPictures}
          options={[
            { value: '', label: 'not yet' },
            { value: 'taken', label: 'taken' },
          ]}
        />
        <Button
          label="Pictures"
          onPress={() => router.navigate('/pictures' as never)}
          testID="swap-pictures"
        />
      </Section>
      <Section title="2 · The new one">
        <Button
          label={chosen ? 'Work it out' : 'Choose the new lamp above'}
          kind={found ? undefined : 'filled'}
          disabled={!chosen || n === null || n < 1 || n > MOST_LAMPS || n % 1 !== 0}
          onPress={() =>
            look({
              ...{ zone, groups, outGroupId: out.groupId, kind: chosen!.kind, count: n!, cal },
              ...{ lowestCm: LOWEST_CM, highestCm: HIGHEST_CM },
            })
          }
          testID="swap-look"
        />
        <SolvingRow solver={{ ...solving, cancel }} what="Hanging the new lamp" />
        {found && <SwapTable found={found} desk={desk} />}
        {found && criticWords(found.criticism, zone) !== '' && (
          <Type testID="swap-critic">{`Under the new light ${criticWords(found.criticism, zone)}`}</Type>
        )}
      </Section>
      {found && (
        <Section title="3 · Its first light">
          <Type testID="swap-first">
            {`${firstLight(found)}${found.lamps.length > 1 ? ' Light one lamp after the other, and look at the corals between.' : ''} Then type its day in from the sheet, ease in what is more than ${times(ceiling)}, read the corals again, and compare.`}
          </Type>
          {asking ? (
            <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
              <Button
                label="The old one is down"
                kind="filled"
                disabled={!ready}
                onPress={() => take(found)}
                testID="swap-take"
              />
              <Button label="Not yet" onPress={() => setAsking(false)} />
            </View>
          ) : (
            <Button
              label="Swap it"
              kind="filled"
              wide
              disabled={!ready}
              onPress={() => setAsking(true)}
              testID="swap-it"
            />
          )}
          {!ready && <Type kind="small">Read them first, or say above that there are no readings.</Type>}
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button label="Ease it in" onPress={() => router.navigate('/ease')} />
            <Button label="Compare readings" onPress={() => router.navigate('/before-after')} />
          </View>
        </Section>
      )}
    </Page>
  );
}

/** How far the corals are read; nothing is called measured where nobody lives. */
function readWords(
  one: string,
  corals: readonly Spot[],
  unread: readonly Spot[],
  simulated: boolean,
): string {
  if (corals.length === 0) return 'No coral lives here whose light would have to be kept.';
  const by = simulated ? ' Some of it with the simulated meter, which says nothing of a real tank.' : '';
  if (unread.length === 0) return `Every ${one} was read since these lamps were last typed in.${by}`;
  const who =
    unread.length === corals.length
      ? `No ${one} was`
      : `${unread.map((s) => s.name).join(', ')} ${unread.length === 1 ? 'was not' : 'were not'}`;
  return `${who} read since these lamps were last typed in. Once they are down it cannot be done any more.${by}`;
}

/** What to set before it hangs, as the lamp can take it. */
const firstLight = ({ kind, capShare }: SwapAnswer): string =>
  hasCap(kind)
    ? `Set its cap to ${percent(capShare)} before it hangs: many lamps start at a bright default.`
    : dims(kind)
      ? `Type its values in, with ${percent(capShare)} strength in them, before it hangs: many lamps start at a bright default.`
      : 'It cannot be dimmed: set its hours before it hangs.';
