import { useQueries } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { type FromPicture, fromPictures, NEAR_DAYS, untold } from '@/core/case/fromPictures';
import { patchColour } from '@/core/colour/patch';
import { blindShows, scored } from '@/core/evidence/blind';
import { type Experiment, type Measuring, measurings } from '@/core/record/experiment';
import type { Zone } from '@/core/record/zone';
import { inWords, plural } from '@/core/shape/counts';
import { seedOf } from '@/core/spectrum/random';
import { setValues } from '@/state/commands/experiments';
import { useDesk } from '@/state/desk';
import { meanQuery } from '@/state/photos';
import { run } from '@/state/session';
import { localDate, shortDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { usePageSize } from '@/ui/Page';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Pixels } from './Picture';

interface Props {
  zone: Zone;
  e: Experiment;
}

/** Measures that are taken from the corals' pictures: outlines, patches, or scores given without knowing which light it was. */
export function FromPictures({ zone, e, m }: Props & { m: Measuring }) {
  const { bundle } = useDesk();
  const none = untold(e);
  if (none.length === e.fragments.length)
    return (
      <Type kind="small" testID="from-pictures">
        Pictures are of corals: say under Fragments at which coral each stands, no two at one.
      </Type>
    );
  return (
    <View style={{ gap: space.s }} testID="from-pictures">
      {e.measure === 'blind' ? (
        <BlindScores {...{ zone, e }} />
      ) : (
        <Taken {...{ zone, e, m }} found={fromPictures(e, m, bundle.log, zone)} />
      )}
      {none.length > 0 && (
        <Type kind="small">{`${none.map((f) => f.name).join(', ')}: no coral of its own, so no picture tells it apart.`}</Type>
      )}
      <Button label="To the pictures" kind="plain" onPress={() => router.navigate('/pictures' as never)} />
    </View>
  );
}

/** Values of a day that its pictures hold already. */
function Taken({ zone, e, m, found }: Props & { m: Measuring; found: readonly FromPicture[] }) {
  const colour = e.measure !== 'area';
  const means = useQueries({
    queries: found.flatMap(({ photo }) => [
      meanQuery(photo.id, colour ? photo.grey : undefined),
      meanQuery(photo.id, colour ? (photo.outline ?? photo.patch) : undefined),
    ]),
  });
  const values = found.flatMap(({ fragmentId, photo, value }, i) => {
    const [grey, patch] = [means[2 * i]!.data, means[2 * i + 1]!.data];
    const lab = grey && patch ? patchColour(patch, grey) : null;
    const v = !colour ? value : lab && (e.measure === 'lightness' ? lab.l : Math.hypot(lab.a, lab.b));
    const date = localDate(Date.parse(photo.atUtc), zone.timeZone);
    return v === null || v <= 0
      ? []
      : [{ phase: m.phase, at: m.at, fragmentId, date, value: Math.max(0.001, Math.round(v * 100) / 100) }];
  });
  const wanted =
    e.measure === 'area' ? 'an outline and the points’ distance' : 'the grey card and an outline or patch';
  return values.length === 0 ? (
    <Type kind="small">{`No picture within ${inWords(NEAR_DAYS)} days of ${shortDate(m.date)} that has ${wanted}.`}</Type>
  ) : (
    <Button
      label={`Take ${plural(values.length, 'value')} from the pictures`}
      onPress={() => run(setValues(zone.id, e.id, values))}
      testID="take-from-pictures"
    />
  );
}

const SCORES = Array.from({ length: 10 }, (_, i) => ({ value: String(i + 1), label: String(i + 1) }));

/** Every phase's last pictures one by one, each twice and without saying which it is; the mean of both scores is kept. */
function BlindScores({ zone, e }: Props) {
  const { bundle } = useDesk();
  const page = usePageSize();
  const [given, setGiven] = useState<readonly number[] | null>(null);
  const [apart, setApart] = useState<number | null>(null);
  const all = measurings(e).flatMap((m) =>
    fromPictures(e, m, bundle.log, zone).map((f) => ({ ...f, phase: m.phase })),
  );
  const phases = new Set(all.map((x) => x.phase)).size;
  const shows = blindShows(all.length, seedOf(all.map((x) => x.photo.id).join()));
  const shown = given ? all[shows[given.length]!] : undefined;
  if (phases < 2)
    return (
      <Type kind="small">
        {`You score the pictures of both lights mixed, without knowing which is which. That needs pictures from within ${inWords(NEAR_DAYS)} days of the end of A and of B.`}
      </Type>
    );
  const give = (score: number) => {
    const now = [...given!, score];
    if (now.length < shows.length) return setGiven(now);
    const { scores, apart: off } = scored(shows, now);
    setGiven(null);
    setApart(off);
    run(
      setValues(
        zone.id,
        e.id,
        all.map(({ fragmentId, phase, photo }, i) => ({
          ...{ fragmentId, phase, at: 'end', value: scores[i]! },
          date: localDate(Date.parse(photo.atUtc), zone.timeZone),
        })),
      ),
    );
  };
  const width = Math.min(page.side, 360);
  return (
    <>
      {shown ? (
        <>
          <Type role="status" testID="score-asked">{`Picture ${given!.length + 1} of ${shows.length}`}</Type>
          <Pixels
            photo={shown.photo}
            width={width}
            height={(width * shown.photo.heightPx) / shown.photo.widthPx}
          />
          <Choice
            key={given!.length}
            label="How much of what is asked it shows, 10 most"
            value=""
            onChange={(v) => give(Number(v))}
            options={SCORES}
          />
          <Button label="Stop" kind="plain" onPress={() => setGiven(null)} testID="score-stop" />
        </>
      ) : (
        <Button
          label={`Score ${plural(all.length, 'picture')} without dates`}
          onPress={() => {
            setApart(null);
            setGiven([]);
          }}
          testID="score-begin"
        />
      )}
      {apart !== null && (
        <Type testID="score-told">
          {`Kept. When a picture came a second time your score differed by ${apart.toFixed(1)} on average${apart > 2 ? ': that is much, so trust the answer little' : ''}.`}
        </Type>
      )}
    </>
  );
}
