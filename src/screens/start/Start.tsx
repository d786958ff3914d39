import { counted } from '@/core/shape/counts';
import { lengthWords, sizeWords } from '@/core/shape/units';
import { useQuery } from '@tanstack/react-query';
import { router, useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { bareCalibration } from '@/core/case/calibration';
import { newCase } from '@/core/case/firstDay';
import { placed } from '@/core/case/judgement';
import { bandUnder, brightestLevels, dayAt } from '@/core/case/light';
import { draftGroups } from '@/core/case/lit';
import { PLACES } from '@/core/case/verdict';
import { wantsOf } from '@/core/record/needs';
import type { CaseBundle } from '@/core/record/documents';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import { deskOf } from '@/state/desk';
import { newId } from '@/state/id';
import { useLight } from '@/state/light';
import { lights } from '@/state/lights';
import { createCase, useSession } from '@/state/session';
import { changeSettings, NOTHING_CHOSEN } from '@/state/settings';
import { deviceTimeZone } from '@/state/time';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row } from '@/ui/Parts';
import { Sentence, type SetPart } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { HangingCautions, SheetCautions } from '../shared/Cautions';
import { Look, lookRoom, stageGoes } from '../shared/Look';
import { mol, umol } from '../shared/words';
import { ExactStart } from './ExactStart';
import {
  caseFrom,
  COUNTS,
  HEIGHTS_CM,
  needWords,
  type PlainAnswers,
  SIZES,
  startLamps,
  USUAL_START,
  WHERE,
} from './plain';

/** Start my tank: five sentences with a usual answer each, or field by field. */
export function Start() {
  const { exact: asked } = useLocalSearchParams<{ exact?: string }>();
  // what was typed field by field is gone on with there
  const typed = useTyped('start').changed;
  const [exact, setExact] = useState(asked !== undefined || typed);
  return exact ? <ExactStart /> : <PlainStart onExact={() => setExact(true)} />;
}

function PlainStart({ onExact }: { onExact: () => void }) {
  const typed = useTyped('start-plain');
  const page = usePageSize();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [answers, setAnswers] = typed.of<PlainAnswers>('answers', USUAL_START);
  const a = { ...USUAL_START, ...answers };
  const make = () => newCase(caseFrom(a, { id: newId, name: 'My tank', timeZone: deviceTimeZone(), lights }));
  const made = useQuery({
    queryKey: ['start', a],
    queryFn: make,
    staleTime: Infinity,
    networkMode: 'always',
    placeholderData: (before: CaseBundle | undefined) => before,
  });
  const kind = startLamps().find((l) => l.kind.id === a.kindId)!.kind;
  const many = a.corals !== '1';
  const part = <K extends keyof PlainAnswers>(
    key: K,
    name: string,
    options: readonly { value: PlainAnswers[K]; label: string }[],
  ): SetPart => ({
    id: key,
    name,
    options,
    chosen: a[key],
    value: options.find((o) => o.value === a[key])!.label,
    onChoose: (value) => setAnswers({ ...a, [key]: value }),
  });
  const keep = async () => {
    setBusy(true);
    try {
      const bundle = made.data && !made.isPlaceholderData ? made.data : await make();
      const kept = await createCase(bundle);
      setProblem(kept.ok ? null : kept.say);
      if (!kept.ok) return;
      changeSettings({ ...NOTHING_CHOSEN, caseId: bundle.case.id });
      if (useSession.getState().save.kind === 'saved') typed.clear();
      router.navigate('/day');
    } finally {
      setBusy(false);
    }
  };
  const lampPart: SetPart = {
    id: 'kind',
    name: 'Lamp',
    value: kind.name.toLowerCase(),
    panel: (
      <View>
        <Type kind="small">
          Invented lamps, typical of their kind: take the one that looks most like yours.
        </Type>
        {startLamps().map(({ kind: k, about }) => (
          <Row key={k.id} name={`Take ${k.name}`} onPress={() => setAnswers({ ...a, kindId: k.id })}>
            <View style={{ flex: 1, gap: space.xs }}>
              <Type kind={k.id === a.kindId ? 'strong' : 'label'}>{k.name}</Type>
              <Type kind="small">{about}</Type>
              <Strip
                spectrum={mixSpectrum(
                  k,
                  Object.fromEntries(k.controls.map((c) => [c.id, c.kind === 'tint' ? 0.5 : 1])),
                )}
                width={page.main - 2 * space.l}
                height={10}
                name={`Everything of it: ${k.name}`}
              />
            </View>
          </Row>
        ))}
        <Button label="Mine is another: type it" onPress={onExact} testID="start-type" />
      </View>
    ),
  };
  return (
    <Page
      testID="start"
      title="Start my tank"
      under="Set what is underlined; leave what you do not know. Everything can be changed later."
      stageGoes={stageGoes(page.main)}
      stage={<Preview bundle={made.data ?? null} width={page.main} error={made.error?.message ?? null} />}
      side={
        <>
          <HangingCautions />
          <SheetCautions hung />
        </>
      }
    >
      <View style={{ gap: space.m }} testID="start-answers">
        <Sentence
          parts={[
            'The water is ',
            part(
              'size',
              'Size of the water',
              SIZES.map((s) => ({ value: s, label: sizeWords(...s.split(' × ').map(Number)) })),
            ),
            '.',
          ]}
        />
        <Sentence
          parts={[
            'Over it: ',
            part(
              'lamps',
              'How many lamps',
              COUNTS.map((n) => ({ value: n, label: counted(Number(n), 'lamp') })),
            ),
            ', ',
            lampPart,
            ', ',
            part(
              'heightCm',
              'Height over the water',
              HEIGHTS_CM.map((h) => ({ value: h, label: `${lengthWords(Number(h), true)} up` })),
            ),
            '.',
          ]}
        />
        <Sentence
          parts={[
            'In it: ',
            part(
              'corals',
              'How many corals',
              COUNTS.map((n) => ({ value: n, label: counted(Number(n), 'coral') })),
            ),
            ', ',
            part(
              'need',
              'What kind',
              (['soft', 'largePolyp', 'smallPolyp'] as const).map((n) => ({
                value: n,
                label: needWords(n, many),
              })),
            ),
            ', ',
            part(
              'where',
              'Where they stand',
              (['sand', 'middle', 'top'] as const).map((w) => ({ value: w, label: WHERE[w].label })),
            ),
            '.',
          ]}
        />
        <Sentence
          parts={[
            'Until now they lived under ',
            part('under', 'What they lived under', [
              { value: 'unknown', label: 'a light I do not know' },
              { value: 'thisLamp', label: 'this very lamp' },
            ]),
            '.',
          ]}
        />
      </View>
      {problem !== null && (
        <Type kind="label" role="alert" testID="start-problem">
          {`▲ Not kept yet. ${problem}`}
        </Type>
      )}
      <Button
        label={a.under === 'thisLamp' ? 'Begin: set the day it runs' : 'Begin with this first day'}
        kind="filled"
        wide
        disabled={busy}
        onPress={() => void keep()}
        testID="start-plain"
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button label="Field by field instead" onPress={onExact} testID="start-exact" />
        {typed.changed && (
          <Button label="Start over" kind="plain" onPress={typed.clear} testID="start-over" />
        )}
      </View>
    </Page>
  );
}

/** That tank under its first day at its brightest, and what the first coral gets of it. */
function Preview({
  bundle,
  width,
  error,
}: {
  bundle: CaseBundle | null;
  width: number;
  error: string | null;
}) {
  return bundle ? (
    <Previewed bundle={bundle} width={width} />
  ) : (
    <View style={{ height: lookRoom(width) + 50 }}>
      <Type quiet>
        {error ? `The first day could not be reckoned: ${error}.` : 'A first safe day is being reckoned.'}
      </Type>
    </View>
  );
}

function Previewed({ bundle, width }: { bundle: CaseBundle; width: number }) {
  const desk = deskOf(bundle, bundle, NOTHING_CHOSEN);
  const { zone } = desk;
  const groups = draftGroups(bundle.case, zone);
  const cal = bareCalibration(
    zone.groups.map((g, i) => ({ ...groups[i]!, name: g.name })),
    zone,
  );
  const { light } = useLight(groups, zone, cal);
  if (!light || light.spots === 0) return <View style={{ height: lookRoom(width, zone.tank) + 50 }} />;
  const day = dayAt(light, groups, 0);
  const spot = zone.spots[0]!;
  const wants = wantsOf(spot, zone);
  const place =
    wants && placed(day.peak, bandUnder(cal, light, groups, brightestLevels(light, groups, 0), 0), wants);
  return (
    <View style={{ gap: 2 }}>
      <Look
        {...{ desk, groups, light, width }}
        levels={brightestLevels(light, groups, 0)}
        at="under its first day at its brightest"
      />
      <Type testID="start-day">
        <Type kind="strong">{`${umol(day.peak)} µmol`}</Type>
        {` at ${spot.name} at its brightest, ${mol(day.dli)} mol a day`}
      </Type>
      {wants && place && (
        <Type kind="label" testID="start-place">
          {`${PLACES[place.place].sign} ${PLACES[place.place].words} for the ${wants.fromUmol}–${wants.toUmol} µmol it wants; estimate`}
        </Type>
      )}
    </View>
  );
}
