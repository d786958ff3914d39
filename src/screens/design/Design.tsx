import { counted } from '@/core/shape/counts';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { levelsOfGroups, spectrumUnder } from '@/core/case/light';
import { formatTime } from '@/core/day/clock';
import type { Aims, DesignInput } from '@/core/mix/aims';
import { percent } from '@/core/shape/percent';
import { SCHOOLS } from '@/core/mix/schools';
import { channelLevels } from '@/core/spectrum/controls';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { emittedShares } from '@/core/spectrum/drive';
import { useDesk } from '@/state/desk';
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
import { tenantsOf, umol } from '../shared/words';

import { AnswerPlate } from './AnswerPlate';

/** Designs mixes for the tank's own corals: aims, three to five answers with reasons, never one oracle. */
export function Design() {
  const desk = useDesk();
  return desk.group && desk.plate ? <Filled /> : <NoLamps title="Design" />;
}

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
            ? zone.spots.every((s) => s.need === null) || tenantsOf(zone.spots).one === 'alga'
              ? 'No coral lives here: only feeding, look and watts can be weighed.'
              : 'Say under Corals what your corals are made of; until then only feeding, look and watts can be weighed.'
            : `Answers for ${counted(corals.length, 'coral')}, at ${umol(parWanted)} µmol at ${spot?.name ?? 'the coral'}. You choose; nothing here is the one right mix.`}
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
