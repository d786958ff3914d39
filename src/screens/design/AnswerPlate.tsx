import { router } from 'expo-router';
import { View } from 'react-native';

import { spectrumUnder } from '@/core/case/light';
import { newPlate } from '@/core/case/plate';
import { tintOf } from '@/core/colour/tint';
import { bandWork } from '@/core/coral/byBand';
import { formOf } from '@/core/portrait/ofZone';
import type { Lead } from '@/core/mix/aims';
import type { Answer } from '@/core/mix/design';
import { bandName } from '@/core/mix/shape';
import { blend } from '@/core/mix/versions';
import { percent } from '@/core/shape/percent';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import { addPlate, setMix } from '@/state/commands/plates';
import { type Desk, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Fold } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse, type Seen } from '../shared/Look';
import { tintWords, umol, madeFrom } from '../shared/words';

const LEADS: Record<Lead, string> = {
  feeding: 'Feeds most',
  asSet: 'As the aims stand',
  look: 'Nearest the look',
  whiter: 'Whiter',
  bluer: 'Bluer',
  thrift: 'Fewest watts',
  variety: 'Most variety',
  glow: 'Most glow',
};
/** What each answer is for, where none of its figures says it by itself. */
const MEANT: Record<Lead, string> = {
  feeding: 'as much of its light as can be feeds the coral',
  asSet: 'all aims by the weights that are set',
  look: 'the look that is asked for, before all else',
  whiter: 'the same aims, whiter than asked for',
  bluer: 'the same aims, bluer than asked for',
  thrift: 'the same aims with fewer watts',
  variety: 'colours as far apart as they come',
  glow: 'as much glow as can be',
};
/** Bands that do less than this of anything at a coral are not listed. */
const LEAST_WORK = 0.04;

/** Per coral, at its own place: which bands feed it and by which it is seen. */
function BandRows({ desk, seen }: { desk: Desk; seen: Seen }) {
  const corals = desk.zone.spots.flatMap((s, i) => {
    const form = formOf(desk.doc, s);
    return form && seen.light.spots > i
      ? [{ name: s.name, work: bandWork(form, spectrumUnder(seen.light, seen.levels, i)) }]
      : [];
  });
  if (corals.length === 0) return <Type kind="small">Say under Corals what your corals are made of.</Type>;
  return (
    <View style={{ gap: space.s }}>
      {corals.map((c) => {
        const list = (of: 'feeds' | 'lights') =>
          c.work
            .filter((w) => w[of] >= LEAST_WORK)
            .sort((a, b) => b[of] - a[of])
            .map((w) => `${bandName(w.band)} ${percent(w[of])}`)
            .join(', ');
        return (
          <View key={c.name}>
            <Type kind="label">{c.name}</Type>
            <Type kind="small">{`Fed by: ${list('feeds') || 'nothing'}.`}</Type>
            <Type kind="small">{`Seen by: ${list('lights') || 'nothing'}.`}</Type>
          </View>
        );
      })}
      <Type kind="small">
        Shares of the photons it can use, and of the light that comes back from it to the eye; its glow counts
        with the colour that makes it glow. From generic pigments: estimates.
      </Type>
    </View>
  );
}

/** One answer: the tank under it, why, what it gives up, what each band does at each coral, and keys to keep it. */
export function AnswerPlate({
  answer,
  index,
  width,
  scene,
}: {
  answer: Answer;
  index: number;
  width: number;
  /** the tank under a mix, and the light of that at the chosen coral */
  scene: (mix: Answer['mix']) => { seen: Seen; light: Float64Array };
}) {
  const desk = useDesk();
  const plate = desk.plate!;
  const kind = desk.lampKind!;
  const seen = scene(answer.mix);
  const name = LEADS[answer.lead];
  const keep = (mix: Answer['mix'], title: string) => {
    const id = newId();
    const made = newPlate(id, title, kind.id, mix, [...answer.reasons, ...answer.givesUp].join('; '));
    if (run(addPlate(made, plate.id))) {
      changeSettings({ plateId: id });
      router.navigate('/mix');
    }
  };
  return (
    <View style={{ gap: space.s }} testID={`answer-${index}`} role="group" aria-label={name}>
      <Type kind="heading">{name}</Type>
      <Glimpse {...seen.seen} width={width} name={`The tank under the mix that ${name.toLowerCase()}`} />
      <Strip spectrum={seen.light} width={width} height={14} name={`Spectrum of ${name}`} />
      <Type kind="label" testID={`tint-${index}`}>
        {`Light: ${tintWords(tintOf(seen.light))}.`}
      </Type>
      <Type kind="small">
        {`${percent(answer.figures.usable)} usable · glow ${percent(answer.figures.glow)} · spread ${answer.figures.variety.toFixed(1)} · red ${percent(answer.figures.red)} · violet ${percent(answer.figures.violet)} · ${Math.round(answer.figures.watts)} W a lamp · ${umol(answer.figures.par)} µmol`}
      </Type>
      {answer.reasons.length > 0 && (
        <Type testID={`reasons-${index}`}>{`For it: ${answer.reasons.join('; ')}.`}</Type>
      )}
      {answer.reasons.length === 0 && answer.givesUp.length > 0 && (
        <Type testID={`meant-${index}`}>{`What it is for: ${MEANT[answer.lead]}.`}</Type>
      )}
      {answer.givesUp.length > 0 && <Type quiet>{`It gives up: ${answer.givesUp.join('; ')}.`}</Type>}
      {answer.reasons.length + answer.givesUp.length === 0 && <Type>This is nearly the mix as it is.</Type>}
      <Type kind="small" testID={`levels-${index}`}>
        {`To type in: ${kind.controls
          .map((c) => `${c.name} ${Math.round(1000 * (answer.mix[c.id] ?? 0)) / 10}`)
          .join(', ')} %.`}
      </Type>
      <Fold title="What each colour of it does at each coral" testID={`bands-${index}`}>
        <BandRows desk={desk} seen={seen.seen} />
      </Fold>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Keep as a plate"
          name={`Keep ${name} as a plate`}
          kind="filled"
          onPress={() => keep(answer.mix, madeFrom(name, plate.name))}
          testID={`keep-${index}`}
        />
        <Button
          label="Put into this plate"
          name={`Put ${name} into ${plate.name}`}
          onPress={() => {
            if (run(setMix(plate.id, answer.mix))) router.navigate('/mix');
          }}
        />
        <Button
          label="Half way"
          name={`Half way from ${plate.name} to ${name}`}
          onPress={() =>
            keep(
              blend(kind, plate.mix, answer.mix, 0.5),
              madeFrom(`Half way to ${name.toLowerCase()}`, plate.name),
            )
          }
        />
      </View>
      <Strip
        spectrum={mixSpectrum(kind, plate.mix)}
        width={width}
        height={6}
        name={`For comparison: ${plate.name}`}
      />
    </View>
  );
}
