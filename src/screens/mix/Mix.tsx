import { changedThreads, mixModel } from './model';
import { useSame } from '@/ui/useSame';
import { router } from 'expo-router';
import { memo, useCallback, useMemo, useState } from 'react';
import { View } from 'react-native';

import { parUnder, wattsUnder } from '@/core/case/light';

import type { Spot, Zone } from '@/core/record/zone';
import { wantsOf, type Standing, standingOf } from '@/core/record/needs';
import { formatTime } from '@/core/day/clock';

import { scaleAll } from '@/core/mix/versions';
import { alga } from '@/core/feeding/algae';

import { type Control, drivenChannels, type Levels, type LampKind } from '@/core/spectrum/lampKind';
import { dims } from '@/core/spectrum/controls';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { fullWallWatts } from '@/core/spectrum/watts';
import { keptSpectrum, mixSpectrum } from '@/core/spectrum/lamp';
import { Comb } from '@/pieces/Comb';
import { type Crest, crestMix, crestsOf } from '@/pieces/combShape';
import { Strip } from '@/pieces/Strip';
import { TintRail } from '@/pieces/TintRail';
import { setMix } from '@/state/commands/plates';
import { commitLive, setLive, useDesk, useLive } from '@/state/desk';
import { run, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';
import { Button, Stepper } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { EyeCaution, TubeCaution } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { Look, lookHeight } from '../shared/Look';
import { NoLamps } from '../shared/NoLamps';
import { useScene } from '../shared/scene';
import { SpotChoice } from '../shared/SpotChoice';
import { useDraftLight } from '../shared/useDraftLight';
import { percent } from '@/core/shape/percent';
import { times, tintWords, umol, watts } from '../shared/words';
import { laidBehind, otherLight } from './behind';
import { BehindSheet } from './BehindSheet';
import { ChannelRow } from './ChannelRow';
import { ControlSheet } from './ControlSheet';
import { EyeSetting } from './EyeSetting';
import { MeterSheet } from './MeterSheet';
import { PhotographSheet } from './PhotographSheet';
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
  const { groups, light, error, basis, accustomed } = useDraftLight(desk);
  const touching = useLive((s) => s.command !== null);
  const [selected, setSelected] = useState<string | null>(null);
  const [open, setOpen] = useState<Opened>(null);
  const [control, setControl] = useState<string | null>(null);
  const [soloWanted, setSolo] = useState<string | null>(null);
  const solo = kind.controls.some((c) => c.id === soloWanted) ? soloWanted : null;
  const behindKey = useSettings((s) => s.behind);
  // a pull redraws humps only where one control acts on what another drives
  const acting = useSame(crestMix(kind, plate.mix));
  const crests = useMemo(() => crestsOf(kind, acting), [kind, acting]);
  const most = useMemo(() => everythingFull(kind), [kind]);
  const sum = useMemo(
    () => (solo ? soloLight(crests, plate.mix, solo) : mixSpectrum(kind, plate.mix)),
    [kind, plate.mix, crests, solo],
  );
  const other = useMemo(() => otherLight(doc, behindKey), [doc, behindKey]);
  const behind = useMemo(() => (other && !solo ? laidBehind(sum, other) : null), [sum, other, solo]);
  const cautious = crests.some((c) => c.caution && c.id === selected);
  const stepShare = kind.controller.pointStepShare;
  const tint = kind.controls.find((c) => c.kind === 'tint');
  const brightness = kind.controls.find((c) => c.kind === 'brightness');

  const ready = light !== null && spotIndex >= 0;
  const {
    moment,
    levels,
    figures,
    spectrum,
    umol: here,
    ownUmol: ownSum,
    byControl,
    feeds: fit,
    warnings,
    safety,
    parts,
  } = mixModel({
    zone,
    group,
    kind,
    plate,
    groups,
    light,
    spot,
    spotIndex,
    solo,
    touching,
    accustomed: accustomed?.perSpot ?? null,
  });
  const scene = useScene(doc, zone, ready ? light : null, levels);
  const grown = spot?.algaId ? alga(spot.algaId) : null;

  // what the last change of this plate does to the day, in light
  const before = useSession((s) => s.past[s.past.length - 1]?.before.case);
  const beforePlate = before?.plates.find((p) => p.id === plate.id);
  const reference = touching
    ? desk.saved.case
    : before && beforePlate && beforePlate.mix !== plate.mix
      ? before
      : null;
  const changed = changedThreads(light, reference, zone, groups, group, plate.id, spotIndex);

  const plateId = plate.id;
  const mix = plate.mix;
  const setLevel = useCallback(
    (id: string, level: number) => {
      const kept = useSession.getState().bundle!.case.plates.find((p) => p.id === plateId)!.mix;
      if (
        useSession
          .getState()
          .bundle!.case.plates.find((p) => p.id === plateId)!
          .locked.includes(id)
      )
        return;
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
  const scale = useCallback(
    (sign: 1 | -1) => {
      const kept = useSession.getState().bundle!.case.plates.find((p) => p.id === plateId)!;
      run(
        setMix(
          plateId,
          round(scaleAll(kind, kept.mix, sign > 0 ? SCALE_STEP : 1 / SCALE_STEP, kept.locked)),
          `scale-${plateId}`,
        ),
      );
    },
    [kind, plateId],
  );
  const endSolo = useCallback(() => setSolo(null), []);
  const momentWords = moment.used
    ? `${formatTime(moment.minute)}`
    : 'if it ran at full strength under the cap: no thread uses this plate';

  return (
    <Page
      testID="mix"
      title={plate.name}
      titleOpens={{ name: `Plate ${plate.name}: choose, copy, rename`, onPress: () => setOpen('plates') }}
      under={`${kind.name} · ${group.lamps.map((l) => l.name).join(' and ')}${dims(kind) ? ` · cap ${percent(group.capShare)}` : ''}`}
      sentence={
        <View style={{ gap: 2, minHeight: ready || zone.spots.length === 0 ? 0 : page.wide ? 48 : 71 }}>
          {ready && figures ? (
            <>
              <Type>
                <Type kind="strong" testID="mix-umol">{`${umol(here)} µmol`}</Type>
                {` at ${spot!.name}, ${momentWords}.`}
              </Type>
              {solo && (
                <Type testID="solo">{`Solo: ${kind.controls.find((c) => c.id === solo)!.name} alone. Nothing is changed.`}</Type>
              )}
              <Type quiet>
                {[
                  !solo && safety && `${times(safety.ratio)} what it is used to.`,
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
            {!figures ? (
              <View style={{ minHeight: zone.spots.length > 0 ? 275 : 0 }} />
            ) : (
              <View testID="figures">
                <Figure name="PAR here" value={`${umol(figures.par)} µmol m⁻² s⁻¹`} />
                {grown ? (
                  <Figure
                    name={`Feeds a mat of ${grown.name.toLowerCase()}`}
                    value={fit === null ? '–' : `${percent(fit.share)} of PAR`}
                  />
                ) : (
                  <Figure
                    name="Usable share (PUR/PAR)"
                    value={figures.usableShare === null ? '–' : `${percent(figures.usableShare)} of PAR`}
                  />
                )}
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
          {warnings.length > 0 && (
            <View style={{ gap: space.s }} testID="mix-warnings">
              {warnings.map((w) => (
                <Note key={w.id + w.text}>{w.text}</Note>
              ))}
            </View>
          )}
          <Section title="With this mix">
            <MixKeys plateId={plate.id} onOpen={setOpen} />
          </Section>
          <Section title="At the spots">
            {ready &&
              zone.spots.map((s, i) => {
                const par = parUnder(light, levels, i);
                const wants = wantsOf(s, zone);
                return (
                  <SpotRow
                    key={s.id}
                    spot={s}
                    zone={zone}
                    value={umol(par)}
                    standing={wants && standingOf(par, wants)}
                  />
                );
              })}
            <SpotChoice label="Speak of" spots={zone.spots} spotId={spot?.id} />
          </Section>
        </>
      }
    >
      <GroupChoice />
      {spectrum ? (
        <Look
          light={spectrum}
          scene={scene}
          width={page.main}
          dim={touching ? 1 : plateDim}
          at={spot!.name}
        />
      ) : (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={lookHeight(page.main)} />
      )}
      <View>
        <Comb
          crests={crests}
          levels={mix}
          sum={sum}
          most={most}
          behind={behind?.spectrum}
          locked={plate.locked}
          solo={solo}
          width={page.main}
          height={page.wide ? 340 : 264}
          stepShare={stepShare}
          selected={selected}
          onSelect={setSelected}
          onPull={pullLevel}
          onRelease={commitLive}
          onStep={setLevel}
        />
        {tint && brightness && (
          <TintRail
            kind={kind}
            tintId={tint.id}
            brightnessId={brightness.id}
            value={mix[tint.id] ?? 0}
            width={page.main}
            stepShare={stepShare}
            locked={plate.locked.includes(tint.id)}
            onPull={pullLevel}
            onRelease={commitLive}
            onStep={setLevel}
          />
        )}
        {!spectrum ? (
          <View style={{ height: zone.spots.length > 0 ? 77 : 0 }} />
        ) : (
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
                {`PAR: ${basis}. Comb: photons per nm at the lamp, height by square root. Strip: at ${spot!.name}.`}
              </Type>
              <EyeKey onOpen={setOpen} />
            </View>
          </View>
        )}
      </View>
      <CombKeys
        solo={solo !== null}
        behind={other !== null}
        onScale={scale}
        onEndSolo={endSolo}
        onOpen={setOpen}
      />
      {other && behind && (
        <Type kind="small" testID="behind-match">
          {`Dashed: ${other.name} at equal PAR; ${percent(behind.shared ?? 0)} of photons in common.`}
        </Type>
      )}
      {plate.locked.length > 0 && (
        <Type kind="small">Locked channels stay when all are scaled, so the tint then moves.</Type>
      )}
      {cautious && <EyeCaution />}
      {changed.length > 0 && (
        <Type kind="small" role="status" testID="threads-changed">
          {`Changes ${changed.map((t) => `${t.time} ${umol(t.before)} → ${umol(t.after)}`).join(', ')} µmol at ${spot!.name}.`}
        </Type>
      )}
      <View>
        {kind.controls.map((c) => {
          const crest = crests.find((x) => x.id === c.id);
          return (
            <ChannelRow
              key={c.id}
              id={c.id}
              kind={c.kind}
              name={c.name}
              about={aboutOf(kind, c, crest)}
              level={mix[c.id] ?? 0}
              parPercent={
                byControl && ownSum > 0 && c.kind !== 'tint' && c.kind !== 'trim'
                  ? Math.round((100 * byControl[c.id]!) / ownSum)
                  : null
              }
              caution={crest?.caution ?? false}
              locked={plate.locked.includes(c.id)}
              step={stepShare}
              onLevel={setLevel}
              onOpen={setControl}
            />
          );
        })}
      </View>
      {!cautious && crests.some((c) => c.caution) && <EyeCaution />}
      {kind.source !== 'led' && <TubeCaution />}
      {open === 'plates' && <PlateSheet doc={doc} onClose={() => setOpen(null)} />}
      {open === 'eye' && spectrum && <EyeSetting light={spectrum} onClose={() => setOpen(null)} />}
      {open === 'behind' && <BehindSheet doc={doc} sum={sum} onClose={() => setOpen(null)} />}
      {open === 'meter' && spectrum && <MeterSheet light={spectrum} onClose={() => setOpen(null)} />}
      {open === 'photograph' && <PhotographSheet onClose={() => setOpen(null)} />}
      {control !== null && kind.controls.some((c) => c.id === control) && (
        <ControlSheet
          kind={kind}
          plate={plate}
          controlId={control}
          crest={crests.find((c) => c.id === control)}
          onSolo={setSolo}
          onClose={() => setControl(null)}
        />
      )}
    </Page>
  );
}

/** One step of scaling all levels. */
const SCALE_STEP = 1.05;
const round = (mix: Levels): Levels =>
  Object.fromEntries(Object.entries(mix).map(([id, v]) => [id, Math.round(v * 1000) / 1000]));

function everythingFull(kind: LampKind): Float64Array {
  const out = zeroSpectrum();
  for (const c of kind.channels) addScaled(out, keptSpectrum(c), 1);
  return out;
}

/** The hump of one control alone, at its value or at full where it is off. */
function soloLight(crests: readonly Crest[], mix: Levels, id: string): Float64Array {
  const crest = crests.find((c) => c.id === id);
  const out = zeroSpectrum();
  if (crest) addScaled(out, crest.full, mix[id] || 1);
  return out;
}

function aboutOf(kind: LampKind, control: Control, crest: Crest | undefined): string {
  if (control.kind === 'tint') return `${control.fromName} to ${control.toName}`;
  if (control.kind === 'trim') return `× ${control.fromFactor} to ${control.toFactor}`;
  const tied = control.kind === 'brightness' ? [] : drivenChannels(control);
  if (tied.length > 1) {
    return kind.channels
      .filter((c) => tied.includes(c.id))
      .map((c) => c.name.toLowerCase())
      .join(' + ');
  }
  return crest ? `${crest.nm} nm` : '';
}

type Opened = 'plates' | 'eye' | 'behind' | 'meter' | 'photograph' | null;

/** What one does with a mix; left alone while a finger pulls. */
const MixKeys = memo(function MixKeys({
  plateId,
  onOpen,
}: {
  plateId: string;
  onOpen: (what: Opened) => void;
}) {
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
      <Button
        label="Compare"
        name="Compare this mix with lamps and other mixes"
        onPress={() => router.navigate(`/compare?with=plate.${plateId}` as never)}
      />
      <Button
        label="Plates"
        name="All plates: notes, versions, order, files"
        onPress={() => router.navigate('/plates' as never)}
      />
      <Button
        label="Corals"
        name="Corals: seen in their colours"
        onPress={() => router.navigate('/corals' as never)}
      />
      <Button label="Design" name="Design a mix" onPress={() => router.navigate('/design' as never)} />
      <Button label="For photographs" onPress={() => onOpen('photograph')} />
      <Button label="My meter reads" name="Lux to PAR: my meter reads" onPress={() => onOpen('meter')} />
    </View>
  );
});

const CombKeys = memo(function CombKeys({
  solo,
  behind,
  onScale,
  onEndSolo,
  onOpen,
}: {
  solo: boolean;
  behind: boolean;
  onScale: (sign: 1 | -1) => void;
  onEndSolo: () => void;
  onOpen: (what: Opened) => void;
}) {
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: space.m }}>
      <Type kind="label">All</Type>
      <Stepper name="All levels together" onStep={onScale} />
      <View style={{ flexGrow: 1, alignItems: 'flex-end' }}>
        {solo ? (
          <Button label="End solo" kind="filled" onPress={onEndSolo} testID="end-solo" />
        ) : (
          <Button
            label={behind ? 'Behind' : 'Lay behind'}
            name="Lay another light behind the comb"
            onPress={() => onOpen('behind')}
          />
        )}
      </View>
    </View>
  );
});

const EyeKey = memo(function EyeKey({ onOpen }: { onOpen: (what: Opened) => void }) {
  return <Button label="Eye" kind="plain" onPress={() => onOpen('eye')} name="How far the eye has adapted" />;
});

const withLevel = (mix: Levels, id: string, level: number): Levels => ({
  ...mix,
  [id]: Math.round(level * 1000) / 1000,
});
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const STANDINGS = { below: '▼ below', within: 'within', above: '▲ above' } as const;

const SpotRow = memo(function SpotRow({
  spot,
  zone,
  value,
  standing,
}: {
  spot: Spot;
  zone: Zone;
  value: string;
  standing: Standing | null;
}) {
  const { name } = spot;
  const need = wantsOf(spot, zone);
  const word = standing ? STANDINGS[standing] : '';
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
