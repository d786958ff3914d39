import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { newPlate } from '@/core/case/plate';
import { levelsOfGroups, spectrumUnder } from '@/core/case/light';
import { formatTime } from '@/core/day/clock';
import type { Aims, DesignInput, Lead } from '@/core/mix/aims';
import type { Answer } from '@/core/mix/design';
import { SCHOOLS } from '@/core/mix/schools';
import { blend } from '@/core/mix/versions';
import { channelLevels } from '@/core/spectrum/controls';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { emittedShares } from '@/core/spectrum/drive';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import { addPlate, setMix } from '@/state/commands/plates';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { useDesign } from '@/state/solvers';
import { Button, Stepper } from '@/ui/Button';
import { Choice, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { useMoment } from '../corals/useMoment';
import { lockedValues } from '../mix/view';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { Glimpse } from '../shared/Look';
import { percent } from '@/core/shape/percent';
import { umol } from '../shared/words';

/** Designs mixes for the tank's own corals: aims, three to five answers with reasons, never one oracle. */
export function Design() {
  const desk = useDesk();
  return desk.group && desk.plate ? <Filled /> : <NoLamps title="Design" />;
}

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
const WEIGHTS = [
  { id: 'feeding', name: 'Feeding the coral', about: 'usable share of the light' },
  { id: 'glow', name: 'Glow of my corals', about: 'what fluorescence gives the eye' },
  { id: 'variety', name: 'Variety', about: 'colours far apart' },
  { id: 'look', name: 'Look', about: '0 icy white, 100 deep blue' },
  { id: 'lookWeight', name: 'How firmly that look', about: '' },
  { id: 'watts', name: 'Thrift', about: 'few watts' },
] as const;
const SEED = 20_261;

function Filled() {
  const desk = useDesk();
  const { zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const plate = desk.plate!;
  const page = usePageSize();
  const moment = useMoment(desk);
  const { light, levels, scene } = moment;
  const [school, setSchool] = useState(SCHOOLS[0]!.id);
  const [aims, setAims] = useState<Aims>(SCHOOLS[0]!.aims);
  const [parTyped, setPar] = useState<number | null>(null);
  const found = useDesign([kind, group.id, spot]);
  const parWanted = parTyped ?? Math.round(moment.par);
  const strength = moment.strength * group.capShare;
  // the corals on the desk, or a plain stock where nobody has said
  const corals = useMemo(() => scene.map((s) => ({ name: s.name, form: s.form })), [scene]);

  const input = (): DesignInput | null => {
    if (!light || spotIndex < 0) return null;
    const beside = zeroSpectrum();
    levels.forEach((l, g) => {
      if (g !== moment.index) l.forEach((v, c) => addScaled(beside, light.spectra[g]![spotIndex]![c]!, v));
    });
    return {
      kind,
      mix: plate.mix,
      fixed: lockedValues(plate),
      channels: light.spectra[moment.index]![spotIndex]!,
      beside,
      strength,
      parWanted,
      corals,
      aims,
      seed: SEED,
    };
  };
  const start = () => {
    const i = input();
    if (i) found.start(i);
  };
  const set = (change: Partial<Aims>) => {
    setAims({ ...aims, ...change });
    found.clear();
  };
  const step = (id: keyof Aims, by: number, sign: number, most = 1) =>
    set({ [id]: Math.min(most, Math.max(0, Math.round((aims[id] + sign * by) / by) * by)) });
  return (
    <Page
      testID="design"
      title="Design"
      under={`${kind.name}, from ${plate.name}${moment.moment.used ? ` at ${formatTime(moment.moment.minute)}` : ''}`}
      sentence={
        <Type>
          {corals.length === 0
            ? 'Say under Corals what your corals are made of; until then only feeding, look and watts can be weighed.'
            : `Answers for ${corals.length === 1 ? 'one coral' : `${corals.length} corals`}, at ${umol(parWanted)} µmol at ${spot?.name ?? 'the coral'}. You choose; nothing here is the one right mix.`}
        </Type>
      }
      side={
        <Section title="Aims">
          <Choice
            label="Begin from a school"
            value={school}
            onChange={(id) => {
              setSchool(id);
              setAims(SCHOOLS.find((s) => s.id === id)!.aims);
              found.clear();
            }}
            options={SCHOOLS.map((s) => ({ value: s.id, label: s.name }))}
          />
          <Type kind="small">{SCHOOLS.find((s) => s.id === school)!.about}</Type>
          <View>
            {WEIGHTS.map((w) => (
              <Row key={w.id}>
                <View style={{ flex: 1 }}>
                  <Type kind="label">{w.name}</Type>
                  {w.about !== '' && <Type kind="small">{w.about}</Type>}
                </View>
                <Type kind="strong" testID={`aim-${w.id}`} style={{ width: 40, textAlign: 'right' }}>
                  {String(Math.round(aims[w.id] * 100))}
                </Type>
                <Stepper
                  name={w.name}
                  atLow={aims[w.id] <= 0}
                  atHigh={aims[w.id] >= 1}
                  onStep={(sign) => step(w.id, 0.1, sign)}
                />
              </Row>
            ))}
            <Row>
              <Type kind="label" style={{ flex: 1 }}>{`Red at most ${percent(aims.redCeiling)} of PAR`}</Type>
              <Stepper
                name="Red ceiling"
                atLow={aims.redCeiling <= 0}
                atHigh={aims.redCeiling >= 0.3}
                onStep={(sign) => step('redCeiling', 0.01, sign, 0.3)}
              />
            </Row>
            <Row>
              <Type
                kind="label"
                style={{ flex: 1 }}
              >{`Violet at least ${percent(aims.violetFloor)} of PAR`}</Type>
              <Stepper
                name="Violet floor"
                atLow={aims.violetFloor <= 0}
                atHigh={aims.violetFloor >= 0.4}
                onStep={(sign) => step('violetFloor', 0.01, sign, 0.4)}
              />
            </Row>
          </View>
          <ValueField
            label={`PAR wanted at ${spot?.name ?? 'the coral'}, everything lit`}
            value={String(parWanted)}
            unit="µmol"
            numeric
            testID="design-par"
            onCommit={(text) => {
              const v = parseNumber(text);
              if (v === null || v <= 0 || v > 2000) return 'Give 1 to 2000 µmol.';
              setPar(v);
              found.clear();
              return null;
            }}
          />
          {plate.locked.length > 0 && (
            <Type kind="small">{`Locked on ${plate.name} and kept: ${kind.controls
              .filter((c) => plate.locked.includes(c.id))
              .map((c) => c.name)
              .join(', ')}.`}</Type>
          )}
        </Section>
      }
    >
      {!light || spotIndex < 0 ? (
        <LightPending error={moment.error} noSpot={zone.spots.length === 0} height={120} />
      ) : found.progress !== null ? (
        <View style={{ gap: space.s }}>
          <Type role="status" testID="design-progress">{`Looking: ${percent(found.progress)}`}</Type>
          <Button label="Cancel" onPress={found.cancel} />
        </View>
      ) : (
        <Button
          label={found.answers ? 'Look again' : 'Find mixes'}
          kind="filled"
          wide
          onPress={start}
          testID="design-start"
        />
      )}
      {light && !found.answers && !found.error && found.progress === null && (
        <Type kind="small" testID="design-empty">
          Answers appear here, each with the tank under it, why, and what it gives up; nothing changes until
          you take one.
        </Type>
      )}
      {found.error && <Note>{`Not found: ${found.error}.`}</Note>}
      {light &&
        found.answers?.map((a, i) => (
          <AnswerPlate
            key={i}
            answer={a}
            index={i}
            width={page.main}
            scene={(mix) => {
              const drive = channelLevels(kind, mix).map((v) => v * strength);
              const shares = emittedShares(kind, drive);
              const all = levelsOfGroups(moment.groups, moment.moment.minute).map((l, g) =>
                g === moment.index ? shares : l,
              );
              return {
                seen: { desk, groups: moment.groups, light, levels: all },
                light: spectrumUnder(light, all, spotIndex),
              };
            }}
          />
        ))}
      {found.answers && (
        <Type kind="small">
          Each is held against hundreds of random mixes: none of them beats it on all aims at once.
          Differences are against the mix as it is. Glow and colours from generic pigments: estimates.
        </Type>
      )}
    </Page>
  );
}

function AnswerPlate({
  answer,
  index,
  width,
  scene,
}: {
  answer: Answer;
  index: number;
  width: number;
  scene: (mix: Answer['mix']) => {
    seen: Omit<Parameters<typeof Glimpse>[0], 'width' | 'name'>;
    light: Float64Array;
  };
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
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Keep as a plate"
          name={`Keep ${name} as a plate`}
          kind="filled"
          onPress={() => keep(answer.mix, `${name}, from ${plate.name}`.slice(0, 120))}
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
              `Half way to ${name.toLowerCase()}, from ${plate.name}`.slice(0, 120),
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
