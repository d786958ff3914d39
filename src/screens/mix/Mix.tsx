import { capital, several } from '@/core/shape/counts';
import { useSame } from '@/ui/useSame';

import { useCallback, useMemo, useRef, useState } from 'react';
import { useWindowDimensions, View } from 'react-native';

import { formatTime } from '@/core/day/clock';
import { alga } from '@/core/feeding/algae';

import { dims, hasCap } from '@/core/spectrum/controls';

import { mixSpectrum } from '@/core/spectrum/lamp';
import { Comb } from '@/pieces/Comb';
import { crestMix, crestsOf } from '@/pieces/combShape';
import { Strip } from '@/pieces/Strip';
import { TintRail } from '@/pieces/TintRail';
import { commitLive, useDesk, useLive } from '@/state/desk';
import { useSession } from '@/state/session';
import { useSettings } from '@/state/settings';

import { Page, usePageSize } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { EyeCaution, TubeCaution } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { DraftLine } from '../shared/DraftLine';
import { LightPending } from '../shared/LightPending';
import { Look, lookRoom, stageGoes } from '../shared/Look';
import { NoLamps } from '../shared/NoLamps';
import { Stage } from '../shared/Stage';
import { Following, Still } from '../shared/Still';
import { useDraftLight } from '../shared/useDraftLight';
import { Verdict } from '../shared/Verdict';
import { percent } from '@/core/shape/percent';
import { apart, tintWords, UMOL } from '../shared/words';
import { laidBehind, otherLight } from './behind';
import { BehindSheet } from './BehindSheet';
import { ChannelRow, PartOfPar } from './ChannelRow';
import { ControlSheet } from './ControlSheet';
import { MeterSheet } from './MeterSheet';
import { PhotographSheet } from './PhotographSheet';
import { Figures } from './Figures';
import { CombKeys, MixKeys, type Opened } from './keys';
import { aboutOf, changedThreads, everythingFull, mixModel, partOfPar, soloLight } from './model';
import { PlateSheet } from './PlateSheet';
import { PutOn } from './PutOn';
import { soloLevels, strengthAt } from './view';
import { SpotRows } from './SpotRows';
import { TakeComb } from './TakeComb';
import { useLevels } from './useLevels';

/** Height of the comb: with the picture above it as high as a wide window has room for. */
const combHeight = (wide: boolean, windowPx: number): number =>
  wide ? Math.min(340, Math.max(190, windowPx - 600)) : 264;

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
  const page = usePageSize();
  const window = useWindowDimensions();
  const { groups, light, error, basis, judge, judgeMix } = useDraftLight(desk);
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
  const comb = useRef<View>(null);
  const cautious = crests.some((c) => c.caution && c.id === selected);
  const stepShare = kind.controller.pointStepShare;
  const tint = kind.controls.find((c) => c.kind === 'tint');
  const brightness = kind.controls.find((c) => c.kind === 'brightness');

  const ready = light !== null && spotIndex >= 0;
  const model = mixModel({
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
    judge: (mixLevels) => (mixLevels ? judgeMix(mixLevels) : judge()),
  });
  const { moment, levels, figures, spectrum, umol: here, warnings, judged } = model;
  const shares = useSame(partOfPar(kind, model));
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

  const mix = plate.mix;
  const { setLevel, pullLevel, scale } = useLevels(kind, plate.id, setSelected);
  const openPlates = useCallback(() => setOpen('plates'), []);
  const endSolo = useCallback(() => setSolo(null), []);
  const momentWords = moment.used
    ? `${formatTime(moment.minute)}`
    : `if it ran at full strength${hasCap(kind) ? ' under the cap' : ''}: no lit thread uses this plate`;

  return (
    <Page
      testID="mix"
      title={plate.name}
      titleOpens={{ name: `Plate ${plate.name}: choose, copy, rename`, onPress: openPlates }}
      under={`${kind.name} · ${several(group.lamps.map((l) => l.name))}${dims(kind) ? ` · ${hasCap(kind) ? 'cap' : 'strength'} ${percent(group.capShare)}` : ''}`}
      stageGoes={stageGoes(page.main, zone.tank)}
      stage={
        <Stage
          desk={desk}
          picture={
            spectrum ? (
              <Look
                {...{ desk, groups, levels }}
                light={light!}
                width={page.main}
                live={touching}
                at={`under ${plate.name}, ${momentWords}, the light at ${spot!.name}`}
              />
            ) : (
              <LightPending
                error={error}
                noSpot={zone.spots.length === 0}
                height={lookRoom(page.main, zone.tank)}
              />
            )
          }
          figure={ready ? here : null}
          when={momentWords}
          judged={judged}
          live={touching}
          lines={page.wide ? 1 : 2}
          ids={{ figure: 'mix-umol', verdict: 'mix-step' }}
          more={
            solo && (
              <Type testID="solo">{`Solo: ${kind.controls.find((c) => c.id === solo)!.name} alone. Nothing is changed.`}</Type>
            )
          }
        />
      }
      set={
        <>
          <PartOfPar value={shares}>
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
                    caution={crest?.caution ?? false}
                    locked={plate.locked.includes(c.id)}
                    step={stepShare}
                    onLevel={setLevel}
                    onOpen={setControl}
                  />
                );
              })}
            </View>
          </PartOfPar>
          {!cautious && crests.some((c) => c.caution) && <EyeCaution />}
          {kind.source !== 'led' && <TubeCaution />}
        </>
      }
      side={
        <>
          <Following>
            <>
              <Figures model={model} groups={groups} alga={grown} room={zone.spots.length > 0} />
              {warnings.length > 0 && (
                <View style={{ gap: space.s }} testID="mix-warnings">
                  {warnings.map((w) => (
                    <Note key={w.id + w.text}>{w.text}</Note>
                  ))}
                </View>
              )}
            </>
          </Following>
          <Still>
            <Section title="With this mix">
              <PutOn doc={doc} group={group} plate={plate} />
              <MixKeys plateId={plate.id} onOpen={setOpen} />
              <TakeComb box={comb} {...{ kind, plate }} />
            </Section>
          </Still>
          <Following>
            <Section title="At the spots">
              {ready && <SpotRows zone={zone} light={light} levels={levels} judged={judged} />}
            </Section>
          </Following>
        </>
      }
    >
      <GroupChoice />
      <View ref={comb}>
        <Comb
          crests={crests}
          levels={mix}
          sum={sum}
          most={most}
          behind={behind?.spectrum}
          locked={plate.locked}
          solo={solo}
          width={page.main}
          height={combHeight(page.wide, window.height)}
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
            <Type kind="small">
              {`${figures ? `${capital(tintWords(figures.tint))}. ` : ''}PAR: ${basis}.`}
            </Type>
          </View>
        )}
      </View>
      <CombKeys
        scales={dims(kind)}
        solo={solo !== null}
        behind={other !== null}
        onScale={scale}
        onEndSolo={endSolo}
        onOpen={setOpen}
      />
      <Still>
        <>
          {judged?.worst?.step?.large && <Verdict judged={judged} zone={zone} />}
          <DraftLine desk={desk} />
        </>
      </Still>
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
          {`Changes ${changed.map((t) => `${t.time} ${apart(UMOL, t.before, t.after).join(' → ')}`).join(', ')} µmol at ${spot!.name}.`}
        </Type>
      )}
      {open === 'plates' && <PlateSheet doc={doc} onClose={() => setOpen(null)} />}
      {open === 'behind' && <BehindSheet doc={doc} sum={sum} onClose={() => setOpen(null)} />}
      {open === 'meter' && spectrum && <MeterSheet light={spectrum} onClose={() => setOpen(null)} />}
      {open === 'photograph' && <PhotographSheet onClose={() => setOpen(null)} />}
      {control !== null && kind.controls.some((c) => c.id === control) && (
        <ControlSheet
          kind={kind}
          plate={plate}
          controlId={control}
          crest={crests.find((c) => c.id === control)}
          seen={
            ready
              ? {
                  desk,
                  groups,
                  light,
                  levels: soloLevels(
                    groups,
                    zone.groups.indexOf(group),
                    mix,
                    control,
                    strengthAt(group, plate, moment),
                  ),
                }
              : null
          }
          onSolo={setSolo}
          onClose={() => setControl(null)}
        />
      )}
    </Page>
  );
}
