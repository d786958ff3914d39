import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { ZONE_KINDS } from '@/core/record/chores';
import { brightestLevels, spectrumUnder } from '@/core/case/light';
import { formOf } from '@/core/portrait/ofZone';
import { libraryForm } from '@/core/coral/form';
import { glowOf } from '@/core/coral/glow';
import { type Alga, ALGAE, type AlgaId } from '@/core/feeding/algae';
import {
  familiesFor,
  familyLamp,
  type FamilyOffer,
  fitOf,
  hoursWords,
  type Purpose,
  PURPOSES,
} from '@/core/refugium/families';
import { feedingPerJoule } from '@/core/refugium/roles';
import { algaSpot } from '@/core/refugium/setUp';
import { Strip } from '@/pieces/Strip';
import { setSpot } from '@/state/commands/spots';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { Figure } from '../shared/Figure';
import { useWaterLight } from '../shared/useWaterLight';
import { percent } from '@/core/shape/percent';
import { SetUp } from './SetUp';

/** Which tank is it: what the algae are for leads to a family of lamps, a spectrum, a day, and a water set up so. */
export function Which() {
  const desk = useDesk();
  const { doc } = desk;
  const p = useLocalSearchParams<Record<string, string>>();
  const page = usePageSize();
  const purpose = (Object.keys(PURPOSES) as Purpose[]).find((x) => x === p.for) ?? 'filter';
  const a =
    ALGAE.find((x) => x.id === p.alga) ??
    (purpose === 'show' ? ALGAE.find((x) => x.id === 'redBush')! : ALGAE[0]!);
  const { offers, why, others } = useMemo(() => familiesFor(purpose, a), [purpose, a]);
  const [taken, setTaken] = useState<string | null>(null);
  const chosen = offers.find((o) => o.family.id === taken && o.standing !== 'refused') ?? offers[0]!;
  // corals of the case, else one that glows and one that does not
  const corals = useMemo(() => {
    const own = doc.zones.flatMap((z) => z.spots.map((s) => formOf(doc, s))).filter((f) => f !== null);
    return own.length > 0 ? own : [libraryForm('green-tip-branch')!, libraryForm('purple-table')!];
  }, [doc]);

  return (
    <Page
      testID="which"
      title="Which tank is it?"
      under="What the algae are for, the lamp that asks for, and a water set up so."
      sentence={
        <Type kind="sentence" testID="which-sentence" style={{ maxWidth: 700 }}>
          {`${offers[0]!.family.name}. ${why}`}
        </Type>
      }
      side={
        purpose === 'among' ? (
          <Among a={a} />
        ) : (
          <SetUp key={purpose} purpose={purpose} a={a} offer={chosen} zones={doc.zones} />
        )
      }
    >
      <Choice
        label="The algae are"
        value={purpose}
        onChange={(v) => {
          setTaken(null);
          router.setParams({ for: v });
        }}
        options={(Object.entries(PURPOSES) as [Purpose, string][]).map(([value, label]) => ({
          value,
          label,
        }))}
      />
      <Choice
        label="Mostly"
        value={a.id}
        onChange={(v: AlgaId) => {
          setTaken(null);
          router.setParams({ alga: v });
        }}
        options={ALGAE.map((x) => ({ value: x.id, label: x.name }))}
      />
      <Type kind="small">{a.about}</Type>
      {offers.map((o) => (
        <Offer
          key={o.family.id}
          o={o}
          a={a}
          corals={corals}
          width={page.main}
          chosen={purpose !== 'among' && o.family.id === chosen.family.id}
          onTake={purpose === 'among' || o.standing === 'refused' ? null : () => setTaken(o.family.id)}
        />
      ))}
      <Section title="What other schools do">
        {others.map((x) => (
          <Type key={x}>{x}</Type>
        ))}
      </Section>
      <Section title="The day">
        <Type>{`Lit ${hoursWords(a)}`}</Type>
        <Type kind="small">
          {purpose === 'filter'
            ? `${ZONE_KINDS.refugium.name.replace(/^./, (c) => c.toUpperCase())} lamps usually burn while the display is dark; “Hours of the waters” shows both.`
            : 'Where algae are looked at, they are lit when somebody is there.'}
        </Type>
      </Section>
    </Page>
  );
}

const STANDING = { recommended: 'recommended', possible: 'possible', refused: 'refused' } as const;

/** A family of lamps: what it gives the alga, how it looks, what it costs in glow. */
function Offer({
  o,
  a,
  corals,
  width,
  chosen,
  onTake,
}: {
  o: FamilyOffer;
  a: Alga;
  corals: readonly NonNullable<ReturnType<typeof libraryForm>>[];
  width: number;
  chosen: boolean;
  onTake: (() => void) | null;
}) {
  const glow = useMemo(() => {
    const shares = corals.flatMap((f) => glowOf(f, o.light)?.share ?? []);
    return shares.length > 0 ? shares.reduce((x, y) => x + y, 0) / shares.length : 0;
  }, [corals, o.light]);
  const perJoule = feedingPerJoule(familyLamp(o.family), o.family.mix, a);
  return (
    <Section
      title={o.family.name}
      aside={<Type kind="label">{`${o.standing === 'refused' ? '▲ ' : ''}${STANDING[o.standing]}`}</Type>}
    >
      <Strip spectrum={o.light} width={width} height={16} name={`Spectrum of ${o.family.name}`} />
      <View style={{ flexDirection: 'row', gap: space.l }}>
        <View style={{ flexDirection: 'row', gap: 4 }}>
          <Figure
            of={{ algaId: a.id }}
            id={a.id}
            light={o.light}
            size={84}
            name={`${a.name} under ${o.family.name}`}
          />
          <Figure
            of={{ form: corals[0]! }}
            id={corals[0]!.id}
            light={o.light}
            size={84}
            name={`A coral under ${o.family.name}`}
          />
        </View>
        <View style={{ flex: 1, gap: 2 }}>
          <Type testID={`family-${o.family.id}`}>
            <Type kind="strong">{percent(o.fit.share)}</Type>
            {` of its light feeds a ${a.name.toLowerCase()}`}
          </Type>
          <Type kind="small">{`${perJoule.toFixed(2)} µmol that feed per joule from the wall`}</Type>
          <Type kind="small">{`glow: ${percent(glow)} of the light of ${corals.length > 2 ? 'your corals' : 'two corals'}`}</Type>
        </View>
      </View>
      <Type kind="small">{o.standing === 'refused' ? o.fit.words : o.family.look}</Type>
      {onTake &&
        (chosen ? (
          <Type kind="label">✓ Chosen for the set-up</Type>
        ) : (
          <Button
            label={`Take ${o.family.name.toLowerCase()} instead`}
            onPress={onTake}
            testID={`take-${o.family.id}`}
          />
        ))}
    </Section>
  );
}

/** Algae in the water on the desk: what its own light is to them, and a spot for them. */
function Among({ a }: { a: Alga }) {
  const desk = useDesk();
  const { zone } = desk;
  const { spotIndex, spot } = desk;
  const { groups, light } = useWaterLight(desk, zone, useNowMs(), 'running');
  // what falls on the chosen spot when it is brightest; none while nothing is lit there
  const fit =
    light && spotIndex >= 0
      ? fitOf(spectrumUnder(light, brightestLevels(light, groups, spotIndex), spotIndex), a)
      : null;
  return (
    <Section title={`In ${zone.name}`}>
      <Type testID="among-fit">
        {fit
          ? `At ${spot!.name}: ${fit.words}`
          : 'Put a spot for the algae where they are to grow: their light there, and what of it feeds them, is reckoned at once.'}
      </Type>
      <Button
        label={`A spot for ${a.name.toLowerCase()}`}
        kind="filled"
        wide
        onPress={() => {
          const done = run(
            setSpot(
              zone.id,
              algaSpot(newId(), a, {
                xCm: Math.round(zone.tank.lengthCm / 2),
                yCm: Math.round(zone.tank.widthCm / 2),
                depthCm: Math.round(zone.tank.depthCm * 0.7),
              }),
            ),
          );
          if (done) router.navigate('/algae');
        }}
        testID="among-spot"
      />
      {fit && fit.standing !== 'good' && (
        <>
          <Type kind="small">
            A bar of neutral white with deep red beside the panel gives what is missing: compare it on Lamps,
            mix it on Design, and ease it in.
          </Type>
          <Button label="Lamps of the library" onPress={() => router.navigate('/lamps')} />
        </>
      )}
      <Button label="Size the light for them" onPress={() => router.navigate(`/sizing?alga=${a.id}`)} />
    </Section>
  );
}
