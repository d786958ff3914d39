import { lengthWords, sizeWords } from '@/core/shape/units';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';
import { DAMP } from '@/core/record/chores';
import { type LogEvent, kindNamed } from '@/core/record/log';
import { type Spot, plainSpot } from '@/core/record/zone';
import { aboutHours, formatHours } from '@/core/day/clock';
import { type Alga } from '@/core/feeding/algae';
import { plainDaylight } from '@/core/refugium/growth';
import { testsOf } from '@/core/refugium/harvests';
import { type Cause, CAUSES, type Judgement } from '@/core/refugium/judge';
import { systemLitres } from '@/core/record/system';
import { Strip } from '@/pieces/Strip';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Fold, Note, Section } from '@/ui/Parts';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { Figure } from '../shared/Figure';
import { EntrySheet, SpotSheet } from '../sheets';
import { AlgaeCautions } from '../shared/Cautions';
import { LightPending } from '../shared/LightPending';
import { bandWords, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { AlgaSheet } from './AlgaSheet';
import { FlowSection } from './FlowSection';
import { algaeSentence } from './sentence';
import { type MatState, useMats } from './useMats';
import { Library } from './Library';
import { Taken } from './Taken';

type Open =
  | { what: 'harvest'; event?: Extract<LogEvent, { kind: 'harvest' }> }
  | { what: 'test' }
  | { what: 'spot'; spot: Spot }
  | { what: 'alga'; alga: Alga };

/** The algae of a water: the light over each mat, whether it works, and what it takes out. */
export function Algae() {
  const desk = useDesk();
  const { zone, bundle, doc } = desk;
  const nowMs = useNowMs();
  const page = usePageSize();
  const { mats, groups, whose, error, pending } = useMats(desk, nowMs);
  const [open, setOpen] = useState<Open | null>(null);
  const close = () => setOpen(null);
  const spectrum = mats.find((m) => m.spectrum)?.spectrum ?? null;
  const newSpot = () =>
    setOpen({
      what: 'spot',
      spot: plainSpot({
        id: newId(),
        name: mats.length === 0 ? 'Algae' : `Algae ${mats.length + 1}`,
        xCm: Math.round(zone.tank.lengthCm / 2),
        yCm: Math.round(zone.tank.widthCm / 2),
        depthCm: Math.round(zone.tank.depthCm / 4),
        need: 'macroalgae',
        mat: {
          lengthCm: Math.round(zone.tank.lengthCm * 0.8),
          widthCm: Math.round(zone.tank.widthCm * 0.8),
        },
      }),
    });

  return (
    <Page
      testID="algae"
      title="Algae"
      under={`${zone.name} · light ${whose === 'running' ? 'as it runs' : 'as drafted'}`}
      sentence={
        <Type kind="sentence" testID="algae-sentence" style={{ maxWidth: 700 }}>
          {algaeSentence(mats, groups.length > 0)}
        </Type>
      }
      side={
        <>
          <Library
            spectrum={spectrum}
            light={spectrum ?? plainDaylight()}
            onOpen={(a) => setOpen({ what: 'alga', alga: a })}
          />
          <Section title="Further">
            <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
              <Button label="Size the light" onPress={() => router.navigate('/sizing')} testID="to-sizing" />
              <Button label="Hours" onPress={() => router.navigate('/hours')} testID="to-hours" />
              <Button label="Which tank is it?" onPress={() => router.navigate('/which')} testID="to-which" />
              <Button label="Upkeep" onPress={() => router.navigate('/upkeep')} testID="to-upkeep" />
            </View>
          </Section>
          <FlowSection zone={zone} />
          <Fold title="Cautions" testID="algae-cautions">
            <AlgaeCautions damp={DAMP[zone.kind]} />
          </Fold>
        </>
      }
    >
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Harvest"
          kind="filled"
          disabled={mats.length === 0}
          onPress={() => setOpen({ what: 'harvest' })}
          testID="algae-harvest"
        />
        <Button label="Water test" onPress={() => setOpen({ what: 'test' })} testID="algae-test" />
        <Button label="Add algae" icon={Plus} onPress={newSpot} testID="algae-add" />
      </View>
      {pending && <LightPending error={error} noSpot={false} height={120} />}
      {mats.map((m) => (
        <Mat
          key={m.spot.id}
          mat={m}
          light={m.spectrum ?? plainDaylight()}
          width={page.main}
          onEdit={() => setOpen({ what: 'spot', spot: m.spot })}
        />
      ))}
      {mats.map((m) => m.judgement && <Works key={m.spot.id} mat={m} judgement={m.judgement} />)}
      <Taken
        mats={mats}
        nowMs={nowMs}
        width={page.main}
        litres={systemLitres(doc)}
        tests={testsOf(bundle.log)}
        timeZone={zone.timeZone}
        onHarvest={(event) => setOpen({ what: 'harvest', event })}
      />
      {open?.what === 'harvest' && (
        <EntrySheet kind={kindNamed('harvest')} event={open.event} onClose={close} />
      )}
      {open?.what === 'test' && <EntrySheet kind={kindNamed('test')} onClose={close} />}
      {open?.what === 'spot' && <SpotSheet key={open.spot.id} spot={open.spot} zone={zone} onClose={close} />}
      {open?.what === 'alga' && <AlgaSheet alga={open.alga} light={spectrum} zone={zone} onClose={close} />}
    </Page>
  );
}

/** One mat: what it is, what light falls on it, and what of that feeds it. */
function Mat({
  mat,
  light,
  width,
  onEdit,
}: {
  mat: MatState;
  light: Float64Array;
  width: number;
  onEdit: () => void;
}) {
  const { alga, spot, wants } = mat;
  const l = mat.light;
  return (
    <Section
      title={spot.name}
      aside={<Button label="Change" name={`Change ${spot.name}`} kind="plain" onPress={onEdit} />}
    >
      {!alga ? (
        <Type>It is not said which alga this is: choose it under Change, and its light can be judged.</Type>
      ) : (
        <>
          <View style={{ flexDirection: 'row', gap: space.l }}>
            <Figure
              of={{ algaId: alga.id }}
              id={alga.id}
              light={light}
              size={112}
              name={`${alga.name} as it looks in its light`}
            />
            <View style={{ flex: 1, gap: space.xs }}>
              <Type kind="label">{`${alga.name}, ${sizeWords(mat.place.lengthCm, mat.place.widthCm)}, ${lengthWords(mat.place.depthCm, true)} deep`}</Type>
              {l && (
                <>
                  <Type testID={`mat-${spot.name}`}>
                    <Type kind="strong">{`${umol(l.mean)} µmol`}</Type>
                    {` over it at its brightest, ${umol(l.min)} to ${umol(l.max)}; it wants ${wants.fromUmol} to ${wants.toUmol}.`}
                  </Type>
                  <Type kind="small">
                    {`Lit ${formatHours(l.litHours)}, as good as ${aboutHours(l.saturatedHours)} of light that saturates it; wants ${alga.fromHours} to ${alga.toHours} h. PAR estimate ${bandWords(mat.band)}; the rest rule of thumb.`}
                  </Type>
                </>
              )}
            </View>
          </View>
          {mat.spectrum && l && (
            <>
              <Strip spectrum={mat.spectrum} width={width} height={16} name={`Light at ${spot.name}`} />
              <Type testID={`fit-${spot.name}`}>{mat.fit?.words ?? ''}</Type>
            </>
          )}
          {mat.overlit && (
            <Note>
              <Type kind="label" testID={`overlit-${spot.name}`}>
                {`Overlit: ${mat.overlit.words}`}
              </Type>
            </Note>
          )}
        </>
      )}
    </Section>
  );
}

const useOdds = themed((p) => ({
  rail: { height: 6, backgroundColor: p.line, flex: 1, borderRadius: 3, overflow: 'hidden' },
  share: { height: 6, backgroundColor: p.ink },
}));

/** Does it work: the judgement with its odds, its reasons and its doubt. */
function Works({ mat, judgement: j }: { mat: MatState; judgement: Judgement }) {
  const styles = useOdds();
  return (
    <Section title={`Does it work? ${mat.spot.name}`}>
      <Type kind="sentence" testID={`verdict-${mat.spot.name}`}>
        {`${CAUSES[j.verdict]}. ${j.advice}`}
      </Type>
      <View style={{ gap: 6 }} testID={`odds-${mat.spot.name}`}>
        {j.odds
          .filter((o) => o.share >= 0.02)
          .map((o) => (
            <View
              key={o.cause}
              style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}
              role="img"
              aria-label={`${ODDS[o.cause]}: ${percent(o.share)}`}
            >
              <Type kind="label" style={{ width: 128 }}>
                {ODDS[o.cause]}
              </Type>
              <View style={styles.rail}>
                <View style={[styles.share, { width: `${Math.round(o.share * 100)}%` }]} />
              </View>
              <Type kind="label" style={{ width: 44, textAlign: 'right' }}>
                {percent(o.share)}
              </Type>
            </View>
          ))}
      </View>
      {j.missing.length > 0 && (
        <View style={{ gap: 2 }}>
          <Type kind="label">What would decide</Type>
          {j.missing.map((m) => (
            <Type key={m}>{`· ${m}`}</Type>
          ))}
        </View>
      )}
      <Fold title="Reasons" open testID={`reasons-${mat.spot.name}`}>
        <View style={{ gap: 4 }}>
          {j.reasons.map((r) => (
            <Type key={r} kind="small">
              {r}
            </Type>
          ))}
          <Type kind="small">
            Odds from the light by P-E, the hours, the tests and the weighed growth, each within its doubt;
            growth of cultures and half-saturation from the literature, rounded. What is not measured here
            (flow, iron, grazers) can hold a mat back as well.
          </Type>
        </View>
      </Fold>
    </Section>
  );
}

const ODDS: Readonly<Record<Cause, string>> = {
  light: 'light',
  hours: 'hours',
  nitrate: 'nitrate',
  phosphate: 'phosphate',
  shaded: 'its own shade',
  fine: 'nothing wanting',
  other: 'something else',
};
