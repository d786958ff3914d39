import { type RefObject, useDeferredValue, useMemo } from 'react';
import { useWindowDimensions, View } from 'react-native';

import { formatTime } from '@/core/day/clock';
import { alga } from '@/core/feeding/algae';
import { capital } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { hasCap } from '@/core/spectrum/controls';
import { Comb } from '@/pieces/Comb';
import { Strip } from '@/pieces/Strip';
import { TintRail } from '@/pieces/TintRail';
import { commitLive } from '@/state/desk';
import { usePageSize } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { useSame } from '@/ui/useSame';

import { EyeCaution } from '../shared/Cautions';
import { LightPending } from '../shared/LightPending';
import { Look, lookRoom } from '../shared/Look';
import { Stage } from '../shared/Stage';
import { Following, Still } from '../shared/Still';
import { Verdict } from '../shared/Verdict';
import { apart, tintWords, UMOL } from '../shared/words';
import { BehindSheet } from './BehindSheet';
import { ChannelRow, PartOfPar } from './ChannelRow';
import { ControlSheet } from './ControlSheet';
import { Figures } from './Figures';
import { MeterSheet } from './MeterSheet';
import { aboutOf, everythingFull, partOfPar } from './model';
import { type MixNow, useMixNow } from './now';
import { SpotRows } from './SpotRows';
import type { useLevels } from './useLevels';
import { soloLevels, strengthAt } from './view';

const momentWords = ({ model: { moment }, kind }: MixNow): string =>
  moment.used
    ? formatTime(moment.minute)
    : `if it ran at full strength${hasCap(kind) ? ' under the cap' : ''}: no lit thread uses this plate`;

/** The tank under the mix, the chosen coral's figure and its verdict. */
export function MixStage() {
  const now = useMixNow();
  const { desk, kind, plate, groups, light, error, model, ready, solo, touching } = now;
  const { zone, spot } = desk;
  const page = usePageSize();
  const when = momentWords(now);
  return (
    <Stage
      desk={desk}
      picture={
        model.spectrum ? (
          <Look
            {...{ desk, groups, levels: model.levels }}
            light={light!}
            width={page.main}
            live={touching}
            at={`under ${plate.name}, ${when}, the light at ${spot!.name}`}
          />
        ) : (
          <LightPending
            error={error}
            noSpot={zone.spots.length === 0}
            height={lookRoom(page.main, zone.tank)}
          />
        )
      }
      figure={ready ? model.umol : null}
      when={when}
      judged={model.judged}
      live={touching}
      lines={page.wide ? 1 : 2}
      ids={{ figure: 'mix-umol', verdict: 'mix-step' }}
      more={
        solo && (
          <Type testID="solo">{`Solo: ${kind.controls.find((c) => c.id === solo)!.name} alone. Nothing is changed.`}</Type>
        )
      }
    />
  );
}

/** Height of the comb: with the picture above it as high as a wide window has room for. */
const combHeight = (wide: boolean, windowPx: number): number =>
  wide ? Math.min(340, Math.max(190, windowPx - 600)) : 264;

interface Chosen {
  selected: string | null;
  onSelect: (controlId: string) => void;
}

/** The comb, its tint where the lamp has one, and the spectrum at the coral. */
export function MixComb({
  box,
  selected,
  onSelect,
  levels: { setLevel, pullLevel },
}: Chosen & { box: RefObject<View | null>; levels: ReturnType<typeof useLevels> }) {
  const { desk, kind, plate, model, basis, crests, solo, sum, behind } = useMixNow();
  const { zone, spot } = desk;
  const page = usePageSize();
  const window = useWindowDimensions();
  const most = useMemo(() => everythingFull(kind), [kind]);
  const stepShare = kind.controller.pointStepShare;
  const tint = kind.controls.find((c) => c.kind === 'tint');
  const brightness = kind.controls.find((c) => c.kind === 'brightness');
  const { spectrum, figures } = model;
  return (
    <View ref={box}>
      <Comb
        {...{ crests, sum, most, solo, stepShare, selected, onSelect }}
        levels={plate.mix}
        behind={behind?.spectrum}
        locked={plate.locked}
        width={page.main}
        height={combHeight(page.wide, window.height)}
        onPull={pullLevel}
        onRelease={commitLive}
        onStep={setLevel}
      />
      {tint && brightness && (
        <TintRail
          {...{ kind, stepShare }}
          tintId={tint.id}
          brightnessId={brightness.id}
          value={plate.mix[tint.id] ?? 0}
          width={page.main}
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
          <Type kind="small">{`${figures ? `${capital(tintWords(figures.tint))}. ` : ''}PAR: ${basis}.`}</Type>
        </View>
      )}
    </View>
  );
}

/** A step that is too large, once the finger has lifted. */
export function MixVerdict() {
  const { desk, model } = useMixNow();
  const { judged } = model;
  return <Still>{judged?.worst?.step?.large && <Verdict judged={judged} zone={desk.zone} />}</Still>;
}

/** What a pull makes to be said under the comb. */
export function MixSays({ selected }: Pick<Chosen, 'selected'>) {
  const { desk, plate, crests, other, behind, changed } = useMixNow();
  return (
    <>
      {other && behind && (
        <Type kind="small" testID="behind-match">
          {`Dashed: ${other.name} at equal PAR; ${percent(behind.shared ?? 0)} of photons in common.`}
        </Type>
      )}
      {plate.locked.length > 0 && (
        <Type kind="small">Locked channels stay when all are scaled, so the tint then moves.</Type>
      )}
      {crests.some((c) => c.caution && c.id === selected) && <EyeCaution />}
      {changed.length > 0 && (
        <Type kind="small" role="status" testID="threads-changed">
          {`Changes ${changed.map((t) => `${t.time} ${apart(UMOL, t.before, t.after).join(' → ')}`).join(', ')} µmol at ${desk.spot!.name}.`}
        </Type>
      )}
    </>
  );
}

/** A row a control, and the caution that goes with violet ones unless it is said already. */
export function MixRows({
  selected,
  onLevel,
  onOpen,
}: Pick<Chosen, 'selected'> & {
  onLevel: (id: string, level: number) => void;
  onOpen: (id: string) => void;
}) {
  const { kind, plate, model, crests } = useMixNow();
  // every colour's share moves with each of the others: read, not pulled, they follow in slices
  const shares = useDeferredValue(useSame(partOfPar(kind, model)));
  return (
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
                level={plate.mix[c.id] ?? 0}
                caution={crest?.caution ?? false}
                locked={plate.locked.includes(c.id)}
                step={kind.controller.pointStepShare}
                onLevel={onLevel}
                onOpen={onOpen}
              />
            );
          })}
        </View>
      </PartOfPar>
      {crests.some((c) => c.caution) && !crests.some((c) => c.caution && c.id === selected) && <EyeCaution />}
    </>
  );
}

/** Figures where it is looked at. */
export function MixFigures() {
  const { desk, groups, model } = useMixNow();
  const { zone, spot } = desk;
  return (
    <Following>
      <Figures
        model={model}
        groups={groups}
        alga={spot?.algaId ? alga(spot.algaId) : null}
        room={zone.spots.length > 0}
      />
      {model.warnings.length > 0 && (
        <View style={{ gap: space.s }} testID="mix-warnings">
          {model.warnings.map((w) => (
            <Note key={w.id + w.text}>{w.text}</Note>
          ))}
        </View>
      )}
    </Following>
  );
}

export function MixSpots() {
  const { desk, light, model, ready } = useMixNow();
  return desk.zone.spots.length === 0 ? null : (
    <Following>
      <Section title="At the spots">
        {ready && <SpotRows zone={desk.zone} light={light!} levels={model.levels} judged={model.judged} />}
      </Section>
    </Following>
  );
}

export function MixBehind({ onClose }: { onClose: () => void }) {
  const { desk, sum } = useMixNow();
  return <BehindSheet doc={desk.doc} sum={sum} onClose={onClose} />;
}

export function MixMeter({ onClose }: { onClose: () => void }) {
  const { spectrum } = useMixNow().model;
  return spectrum && <MeterSheet light={spectrum} onClose={onClose} />;
}

/** What one control does, alone. */
export function MixControl({
  id,
  onSolo,
  onClose,
}: {
  id: string;
  onSolo: (id: string | null) => void;
  onClose: () => void;
}) {
  const { desk, group, kind, plate, groups, light, model, ready, crests } = useMixNow();
  return (
    <ControlSheet
      {...{ kind, plate, onSolo, onClose }}
      controlId={id}
      crest={crests.find((c) => c.id === id)}
      seen={
        ready
          ? {
              ...{ desk, groups },
              light: light!,
              levels: soloLevels(
                groups,
                desk.zone.groups.indexOf(group),
                plate.mix,
                id,
                strengthAt(group, plate, model.moment),
              ),
            }
          : null
      }
    />
  );
}
