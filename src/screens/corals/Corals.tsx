import { plural, several } from '@/core/shape/counts';
import { useSame } from '@/ui/useSame';
import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { levelsOfGroups } from '@/core/case/light';
import { NEEDS } from '@/core/record/needs';
import { formatTime } from '@/core/day/clock';
import {
  type BandAdvice,
  bandAdvice,
  coloursUnder,
  neverShown,
  PLAINLY_MOVED,
  type Stock,
  TRIED_SHARE,
  whiteAdvice,
} from '@/core/coral/advice';
import { appearanceUnder, glowByBand, glowOf, varietyOf } from '@/core/coral/glow';
import { formSeen } from '@/core/coral/seen';
import { bandsHeld, centreNm } from '@/core/library/held';
import { bandName } from '@/core/mix/shape';
import { BANDS } from '@/core/spectrum/bands';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { useDesk } from '@/state/desk';
import { useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { Fold, Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { levelsAtMoment } from '../mix/view';
import { LightPending } from '../shared/LightPending';
import { Figure } from '../shared/Figure';
import { Look, lookRoom } from '../shared/Look';
import { NoLamps } from '../shared/NoLamps';
import { formOf } from '@/core/portrait/ofZone';
import { percent } from '@/core/shape/percent';
import { varietyWords } from '../shared/words';
import { CoralSheet } from './CoralSheet';
import { useMoment } from './useMoment';

/** The tank's corals seen in their colours: under this mix and another, what feeds them, and what the stock asks for. */
export function Corals() {
  const desk = useDesk();
  return desk.group && desk.plate ? <Filled /> : <NoLamps title="Corals" />;
}

function Filled() {
  const desk = useDesk();
  const { doc, zone, spotIndex } = desk;
  const { coral } = useLocalSearchParams<{ coral?: string }>();
  const page = usePageSize();
  const fish = useSettings((s) => s.fish);
  const moment = useMoment(desk);
  const { light, levels, scene, spectrum } = moment;
  const [otherId, setOther] = useState<string | null>(null);
  const open = zone.spots.find((s) => s.id === coral) ?? null;
  const setOpen = (id: string | null) => router.setParams({ coral: id ?? '' } as never);
  const kind = desk.lampKind!;
  const siblings = doc.plates.filter((p) => p.lampKindId === kind.id && p.id !== desk.plate!.id);
  const other = siblings.find((p) => p.id === otherId) ?? null;
  const stock: Stock[] = useMemo(() => scene.map((s) => ({ name: s.name, form: s.form })), [scene]);
  // algae look as their kind does
  const unsaid = zone.spots.filter((s) => formOf(doc, s) === null && s.need !== 'macroalgae');

  // the same tank under another plate, at the same strength
  const otherScene = useMemo(() => {
    if (!other || !light) return null;
    const otherLevels = levelsAtMoment(moment.groups, moment.index, other, { minute: 0, used: false });
    const all = levelsOfGroups(moment.groups, moment.moment.minute).map((l, i) =>
      i === moment.index ? otherLevels[i]!.map((v) => v * moment.strength) : l,
    );
    const here = zeroSpectrum();
    all.forEach((l, g) => l.forEach((v, c) => addScaled(here, light.spectra[g]![spotIndex]![c]!, v)));
    return { levels: all, light: here };
  }, [other, light, moment.groups, moment.index, moment.moment.minute, moment.strength, spotIndex]);

  const variety = spectrum ? varietyOf(coloursUnder(stock, false, spectrum)) : 0;
  const pending = !spectrum && zone.spots.length > 0;
  return (
    <Page
      testID="corals"
      title="Corals"
      under={`${desk.plate!.name}, ${moment.moment.used ? formatTime(moment.moment.minute) : 'at full strength under the cap'}`}
      sentence={
        <Type testID="corals-says" roomLines={pending && !page.wide ? 2 : 0}>
          {pending
            ? 'How far their colours lie apart follows here.'
            : stock.length === 0
              ? unsaid.length > 0
                ? 'No coral here has a colour form yet.'
                : zone.spots.length > 0
                  ? 'No coral lives here; algae are drawn as their kind looks.'
                  : 'Nobody lives here yet.'
              : `${plural(stock.length, 'coral')} seen. Their colours are ${varietyWords(variety)}: spread ${variety.toFixed(0)}, where 1 is a difference just seen.`}
        </Type>
      }
      side={
        <>
          {spectrum && stock.length > 0 && light && (
            <Advice
              stock={stock}
              kindHeld={bandsHeld(kind)}
              spectrum={spectrum}
              split={splitLight(kind, light.spectra[moment.index]![spotIndex]!, levels[moment.index]!)}
              fish={fish}
            />
          )}
          <Section title="From here">
            <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
              <Button label="Design a mix for them" onPress={() => router.navigate('/design' as never)} />
              <Button label="To Mix" onPress={() => router.navigate('/mix')} />
            </View>
          </Section>
        </>
      }
    >
      {spectrum ? (
        <View style={{ gap: space.s }}>
          <Look
            {...{ desk, levels }}
            groups={moment.groups}
            light={light!}
            width={page.main}
            at={`under ${desk.plate!.name}`}
            movable
            beside={
              otherScene && other
                ? { levels: otherScene.levels, name: other.name, own: desk.plate!.name }
                : undefined
            }
          />
          {otherScene && other && (
            <Type kind="small" testID="corals-other">
              {apartWords(other.name, varietyOf(coloursUnder(stock, false, otherScene.light)), variety)}
            </Type>
          )}
          {siblings.length > 0 && (
            <Choice
              label="Beside it the same tank under"
              value={other?.id ?? 'none'}
              onChange={(id) => setOther(id === 'none' ? null : id)}
              options={[
                { value: 'none', label: 'nothing' },
                ...siblings.map((p) => ({ value: p.id, label: p.name })),
              ]}
            />
          )}
        </View>
      ) : (
        <LightPending
          error={moment.error}
          noSpot={zone.spots.length === 0}
          // picture, what it says, and a row of each coral
          height={lookRoom(page.main, zone.tank) + 62 + 73 * zone.spots.filter((s) => s.formId).length}
        />
      )}
      <View>
        {scene.map((c) => {
          const glow = glowOf(c.form, c.light);
          const fed = glowByBand(c.form, c.light);
          const top = BANDS.reduce((a, b) => (fed[b.id] > fed[a.id] ? b : a));
          return (
            <Row key={c.id} onPress={() => setOpen(c.id)} name={`Open ${c.name}`}>
              <Figure
                of={{ form: c.form }}
                id={c.id}
                light={c.light}
                eyeLight={spectrum ?? c.light}
                size={56}
                name={`${c.name}, small`}
              />
              <View style={{ flex: 1 }}>
                <Type kind="label">{c.name}</Type>
                <Type kind="small">{c.form.name}</Type>
              </View>
              <Type kind="small" style={{ textAlign: 'right' }} testID={`glow-${c.name}`}>
                {glow ? `${percent(glow.share)} glow\nmost from ${top.name}` : 'dark'}
              </Type>
            </Row>
          );
        })}
        {unsaid.map((s) => (
          <Row key={s.id} onPress={() => setOpen(s.id)} name={`Say what ${s.name} is made of`}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{s.name}</Type>
              <Type kind="small">
                {s.need ? NEEDS[s.need].name : 'no coral known'} · no colour form yet: choose the nearest one
              </Type>
            </View>
          </Row>
        ))}
      </View>
      {open && (
        <CoralSheet
          key={open.id}
          doc={doc}
          zone={zone}
          spot={open}
          kind={kind}
          light={scene.find((s) => s.id === open.id)?.light ?? spectrum}
          eyeLight={spectrum}
          onClose={() => setOpen(null)}
        />
      )}
    </Page>
  );
}

/** How far the corals' colours lie apart under another mix, beside this one (CAM16-UCS). */
function apartWords(name: string, there: number, here: number): string {
  const [a, b] = [Math.round(there), Math.round(here)];
  return a === b
    ? `Under ${name} the corals’ colours differ from one another as they do here: ${a} (1 is just seen).`
    : `Under ${name} the corals’ colours differ ${a > b ? 'more' : 'less'} from one another: ${a}, here ${b} (1 is just seen).`;
}

/** Breadth from which a channel counts as white, nm. Mark: rule of thumb. */
const BROAD_NM = 90;

/** The present light of a group parted into its blues and its whites. */
function splitLight(
  kind: NonNullable<ReturnType<typeof useDesk>['lampKind']>,
  full: readonly Float64Array[],
  levels: readonly number[],
): { blue: Float64Array; white: Float64Array } {
  const blue = zeroSpectrum();
  const white = zeroSpectrum();
  kind.channels.forEach((_, c) => {
    const s = full[c]!;
    const total = s.reduce((a, b) => a + b, 0);
    const width = total > 0 ? total ** 2 / s.reduce((a, b) => a + b * b, 0) : 0;
    if (width > BROAD_NM) addScaled(white, s, Math.max(levels[c]!, 1e-6));
    else if (centreNm(s) < 505) addScaled(blue, s, levels[c]!);
  });
  return { blue, white };
}

/** What the stock asks for: how much white, which band first, what no lamp will show. */
function Advice({
  stock,
  kindHeld,
  spectrum,
  split,
  fish,
}: {
  stock: Stock[];
  kindHeld: ReturnType<typeof bandsHeld>;
  spectrum: Float64Array;
  split: { blue: Float64Array; white: Float64Array };
  fish: boolean;
}) {
  const blue = useSame(split.blue);
  const pale = useSame(split.white);
  const white = useMemo(() => whiteAdvice(stock, fish, blue, pale), [stock, fish, blue, pale]);
  const seen = useSame(spectrum);
  const bands = useMemo(() => bandAdvice(stock, seen, kindHeld), [stock, seen, kindHeld]);
  const never = neverShown(stock);
  const look = appearanceUnder(spectrum);
  const dull = stock.filter((s) => {
    const seen = formSeen(s.form, spectrum);
    return seen.length > 0 && seen.every((r) => look(r.xyz).M < 12);
  });
  return (
    <Section title="What the stock asks for">
      <View style={{ gap: space.s }} testID="advice">
        {white ? (
          <Type kind="small" testID="advice-white">
            {`White: most colours are plainly seen with about ${percent(white.best)} of PAR from white; now ${percent(white.now)}. ${
              white.best <= 0.05
                ? 'These glow more than they reflect, so white gains little.'
                : white.now < white.best - 0.04
                  ? 'More white would show more of them.'
                  : white.now > white.best + 0.04
                    ? 'Less white would show more of them.'
                    : 'That is about right.'
            }`}
          </Type>
        ) : (
          <Type kind="small">This lamp has no white to judge.</Type>
        )}
        {white && (
          <Fold title="Each share of white" testID="white-shares">
            <WhiteShares {...{ stock, blue, pale, now: white.now }} />
          </Fold>
        )}
        {bands.length > 0 ? (
          <Type kind="small" testID="advice-band">
            {bandWords(bands[0]!)}
          </Type>
        ) : (
          <Type kind="small" testID="advice-band">
            No band that is thin in this light would plainly change these corals’ colours.
          </Type>
        )}
        {never.map((n) => (
          <Type key={n.name} kind="small">{`${n.name}, ${several(n.regions, Infinity)}: ${n.why}.`}</Type>
        ))}
        {dull.length > 0 && (
          <Note>{`Looks grey under this light: ${dull.map((d) => d.name).join(', ')}.`}</Note>
        )}
        <Type kind="small">From generic pigment spectra: estimates to look at, not promises.</Type>
      </View>
    </Section>
  );
}

/** How many colours are plainly seen with so much white, of the corals alone and with fish among them. */
function WhiteShares({
  stock,
  blue,
  pale,
  now,
}: {
  stock: Stock[];
  blue: Float64Array;
  pale: Float64Array;
  now: number;
}) {
  const [alone, among] = [false, true].map((fish) => whiteAdvice(stock, fish, blue, pale)!.curve);
  const near = alone!.reduce((a, b) => (Math.abs(b.share - now) < Math.abs(a.share - now) ? b : a)).share;
  return (
    <>
      <View role="table" aria-label="Colours plainly seen by share of white">
        <View role="row" style={ROW}>
          {['White, of PAR', 'Corals alone', 'With fish'].map((t) => (
            <Type key={t} kind="small" style={{ flex: 1 }} role="columnheader">
              {t}
            </Type>
          ))}
        </View>
        {alone!.map((a, i) => (
          <View key={a.share} role="row" style={ROW}>
            <Type kind={a.share === near ? 'strong' : 'label'} style={{ flex: 1 }} role="cell">
              {`${percent(a.share)}${a.share === near ? ', nearest to now' : ''}`}
            </Type>
            <Type style={{ flex: 1 }} role="cell">
              {percent(a.seen)}
            </Type>
            <Type style={{ flex: 1 }} role="cell">
              {percent(among![i]!.seen)}
            </Type>
          </View>
        ))}
      </View>
      <Type kind="small">Share of all their colours that stand out from rock, at equal PAR.</Type>
    </>
  );
}

const ROW = { flexDirection: 'row', minHeight: 28, alignItems: 'center' } as const;

/** What the first band to add would change, in figures. */
function bandWords({ band, corals, absent }: BandAdvice): string {
  const moves = corals.slice(0, 3).map((c) => `${c.name} ${c.moves.toFixed(0)}`);
  const more = corals.length > 3 ? ` and ${corals.length - 3} more less` : '';
  return `First band to add: ${bandName(band)}${absent ? ', of which this lamp has none' : ''}. With ${percent(TRIED_SHARE)} of all photons there colours would move by: ${moves.join(', ')}${more} (CAM16-UCS; ${PLAINLY_MOVED} is plainly seen).`;
}
