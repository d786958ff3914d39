import { memo, useCallback, useMemo, useState } from 'react';
import { View } from 'react-native';

import { levelsOfGroups, partsUnder, parUnder, spectrumUnder, wattsUnder } from '@/core/case/light';
import { momentOf, threadsChanged } from '@/core/case/moment';
import { draftGroups } from '@/core/case/lit';
import { judgeSpot } from '@/core/case/safety';
import { type NeedId, NEEDS } from '@/core/case/types';
import { formatTime } from '@/core/day/clock';
import { type Levels, toStep } from '@/core/day/thread';
import { lightFigures } from '@/core/mix/figures';
import { fullWallWatts } from '@/core/spectrum/lamp';
import { Comb } from '@/pieces/Comb';
import { crestsOf } from '@/pieces/combShape';
import { LookPlate } from '@/pieces/LookPlate';
import { Strip } from '@/pieces/Strip';
import { setMix } from '@/state/commands';
import { commitLive, setLive, useDesk, useLive } from '@/state/desk';
import { run, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { EyeCaution } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { SpotChoice } from '../shared/SpotChoice';
import { useDraftLight } from '../shared/useDraftLight';
import { parBasis, percent, times, tintWords, umol, watts } from '../shared/words';
import { ChannelRow } from './ChannelRow';
import { EyeSetting } from './EyeSetting';
import { PlateSheet } from './PlateSheet';

/** The mix: one plate of one group of lamps, pulled on its comb. */
export function Mix() {
  const desk = useDesk();
  return desk.group && desk.plate ? <Filled /> : <NoLamps title="Mix" />;
}

function Filled() {
  const desk = useDesk();
  const { doc, zone, spotIndex, spot } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const plate = desk.plate!;
  const { plateDim } = usePaper();
  const page = usePageSize();
  const eyeDegree = useSettings((s) => s.eyeDegree);
  const { groups, light, error, gain, accustomed } = useDraftLight(desk);
  const touching = useLive((s) => s.command !== null);
  const [selected, setSelected] = useState<string | null>(null);
  const [choosing, setChoosing] = useState(false);
  const [looking, setLooking] = useState(false);
  const crests = useMemo(() => crestsOf(kind), [kind]);
  const cautious = crests.some((c) => c.caution && c.id === selected);
  const stepShare = kind.controller.pointStepShare;

  const index = zone.groups.findIndex((g) => g.id === group.id);
  const ready = light !== null && spotIndex >= 0;
  const moment = ready ? momentOf(light, groups, group, plate.id, spotIndex) : { minute: 720, used: false };
  const levels = levelsOfGroups(groups, moment.minute);
  if (!moment.used)
    levels[index] = kind.channels.map((c) => toStep(plate.mix[c.id] ?? 0, stepShare) * group.capShare);
  const spectrum = ready ? spectrumUnder(light, levels, spotIndex) : null;
  const figures = spectrum ? lightFigures(spectrum) : null;
  const here = ready ? parUnder(light, levels, spotIndex) : 0;
  const own = ready ? light.par[index]![spotIndex]!.map((p, c) => p * levels[index]![c]!) : null;
  const ownSum = own?.reduce((a, b) => a + b, 0) ?? 0;
  const safety =
    ready && accustomed ? judgeSpot(light, groups, accustomed.perSpot[spotIndex]!, spotIndex) : undefined;
  const parts = ready ? partsUnder(light, groups, levels, spotIndex) : [];

  // what the last change of this plate does to the day, in light
  const before = useSession((s) => s.past[s.past.length - 1]?.before.case);
  const beforePlate = before?.plates.find((p) => p.id === plate.id);
  const reference = touching
    ? desk.saved.case
    : before && beforePlate && beforePlate.mix !== plate.mix
      ? before
      : null;
  const referenceZone = reference?.zones.find((z) => z.id === zone.id);
  const changed =
    ready && reference && referenceZone && referenceZone.groups.length === zone.groups.length
      ? threadsChanged(light, draftGroups(reference, referenceZone), groups, group, plate.id, spotIndex)
      : [];

  const plateId = plate.id;
  const mix = plate.mix;
  const setLevel = useCallback(
    (id: string, level: number) => {
      const kept = useSession.getState().bundle!.case.plates.find((p) => p.id === plateId)!.mix;
      run(setMix(plateId, withLevel(kept, id, level), `level-${plateId}-${id}`));
      setSelected(id);
    },
    [plateId],
  );
  const pullLevel = useCallback(
    (id: string, level: number) => {
      const kept = useSession.getState().bundle!.case.plates.find((p) => p.id === plateId)!.mix;
      setLive(setMix(plateId, withLevel(kept, id, level)));
    },
    [plateId],
  );
  const momentWords = moment.used
    ? `${formatTime(moment.minute)}`
    : 'if it ran at full strength under the cap: no thread uses this plate';

  return (
    <Page
      testID="mix"
      title={plate.name}
      titleOpens={{ name: `Plate ${plate.name}: choose, copy, rename`, onPress: () => setChoosing(true) }}
      under={`${kind.name} · ${group.lamps.map((l) => l.name).join(' and ')} · cap ${percent(group.capShare)}`}
      sentence={
        <View style={{ gap: 2 }}>
          {ready && figures ? (
            <>
              <Type>
                <Type kind="strong" testID="mix-umol">{`${umol(here)} µmol`}</Type>
                {` at ${spot!.name}, ${momentWords}.`}
              </Type>
              <Type quiet>
                {[
                  safety && `${times(safety.ratio)} what it is used to.`,
                  `${capital(tintWords(figures.tint))}.`,
                ]
                  .filter(Boolean)
                  .join(' ')}
              </Type>
            </>
          ) : (
            <Type quiet>Light at the corals follows here.</Type>
          )}
        </View>
      }
      side={
        <>
          <Section title="Figures">
            {figures && (
              <View testID="figures">
                <Figure name="PAR here" value={`${umol(figures.par)} µmol m⁻² s⁻¹`} />
                <Figure
                  name="Usable share (PUR/PAR)"
                  value={figures.usableShare === null ? '–' : `${percent(figures.usableShare)} of PAR`}
                />
                <Figure
                  name="Lux per µmol of PAR"
                  value={figures.luxPerPar === null ? '–' : figures.luxPerPar.toFixed(1)}
                />
                <Figure name="Tint" value={tintWords(figures.tint)} />
                <Figure
                  name="Watts, all lamps"
                  value={`${watts(wattsUnder(groups, levels))} of ${watts(groups.reduce((s, g) => s + g.lamps.length * fullWallWatts(g.lampKind), 0))}`}
                />
                {parts.length > 1 && (
                  <Figure name="By lamp" value={parts.map((p) => `${p.name} ${umol(p.umol)}`).join(' · ')} />
                )}
                <Type kind="small">
                  Usable share from published pigment spectra; watts from typical drivers (rule of thumb).
                </Type>
              </View>
            )}
          </Section>
          <Section title="At the spots">
            {ready &&
              zone.spots.map((s, i) => (
                <SpotRow key={s.id} name={s.name} need={s.need} value={umol(parUnder(light, levels, i))} />
              ))}
            <SpotChoice label="Speak of" spots={zone.spots} spotId={spot?.id} />
          </Section>
        </>
      }
    >
      <GroupChoice />
      {spectrum ? (
        <LookPlate
          light={spectrum}
          width={page.main}
          height={page.wide ? 150 : 96}
          eye={{ degree: eyeDegree ?? undefined }}
          dim={touching ? 1 : plateDim}
          name={`White card, sand and grey rock at ${spot!.name}`}
        />
      ) : (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={108} />
      )}
      <View>
        <Comb
          crests={crests}
          levels={mix}
          width={page.main}
          height={page.wide ? 340 : 264}
          stepShare={stepShare}
          selected={selected}
          onSelect={setSelected}
          onPull={pullLevel}
          onRelease={commitLive}
          onStep={setLevel}
        />
        {spectrum && (
          <View style={{ paddingTop: space.s, gap: space.xs }}>
            <Strip spectrum={spectrum} width={page.main} name={`Spectrum at ${spot!.name}, 375 to 705 nm`} />
            <View
              style={{
                flexDirection: 'row',
                justifyContent: 'space-between',
                alignItems: 'center',
                gap: space.m,
              }}
            >
              <Type kind="small" style={{ flex: 1 }}>
                {`Comb: photons per nm at the lamp, height by square root. Strip: at ${spot!.name}. PAR: ${parBasis(gain)}.`}
              </Type>
              <Button
                label="Eye"
                kind="plain"
                onPress={() => setLooking(true)}
                name="How far the eye has adapted"
              />
            </View>
          </View>
        )}
      </View>
      {cautious && <EyeCaution />}
      {changed.length > 0 && (
        <Type kind="small" role="status" testID="threads-changed">
          {`Changes ${changed.map((t) => `${t.time} ${umol(t.before)} → ${umol(t.after)}`).join(', ')} µmol at ${spot!.name}.`}
        </Type>
      )}
      <View>
        {crests.map((c, i) => (
          <ChannelRow
            key={c.id}
            id={c.id}
            name={c.name}
            nm={c.nm}
            level={mix[c.id] ?? 0}
            parPercent={own && ownSum > 0 ? Math.round((100 * own[i]!) / ownSum) : null}
            caution={c.caution}
            step={stepShare}
            onLevel={setLevel}
          />
        ))}
      </View>
      {!cautious && crests.some((c) => c.caution) && <EyeCaution />}
      {choosing && <PlateSheet doc={doc} onClose={() => setChoosing(false)} />}
      {looking && spectrum && <EyeSetting light={spectrum} onClose={() => setLooking(false)} />}
    </Page>
  );
}

const withLevel = (mix: Levels, id: string, level: number): Levels => ({
  ...mix,
  [id]: Math.round(level * 1000) / 1000,
});
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const SpotRow = memo(function SpotRow({
  name,
  need: needId,
  value,
}: {
  name: string;
  need: NeedId | null;
  value: string;
}) {
  const need = needId ? NEEDS[needId] : null;
  const word = !need
    ? ''
    : Number(value) > need.toUmol
      ? '▲ above'
      : Number(value) < need.fromUmol
        ? '▼ below'
        : 'within';
  return (
    <Row>
      <View style={{ flex: 1 }}>
        <Type kind="label">{name}</Type>
        {need && <Type kind="small">{`wants ${need.fromUmol}–${need.toUmol}`}</Type>}
      </View>
      <Type kind="strong" testID={`par-${name}`}>{`${value} µmol`}</Type>
      {need && (
        <Type kind="small" style={{ width: 62 }}>
          {word}
        </Type>
      )}
    </Row>
  );
});

const Figure = memo(function Figure({ name, value }: { name: string; value: string }) {
  return (
    <Row style={{ minHeight: 38, paddingVertical: 5 }}>
      <Type kind="small" style={{ flex: 1 }}>
        {name}
      </Type>
      <Type kind="label" style={{ flexShrink: 1, textAlign: 'right', maxWidth: '62%' }}>
        {value}
      </Type>
    </Row>
  );
});
