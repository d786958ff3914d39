import { lengthWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { ZONE_KINDS } from '@/core/record/chores';
import { brightestLevels, spectrumUnder } from '@/core/case/light';
import type { Zone } from '@/core/record/zone';
import { formOf } from '@/core/portrait/ofZone';
import { libraryForm } from '@/core/coral/form';
import { glowOf } from '@/core/coral/glow';
import { type Alga, ALGAE, type AlgaId } from '@/core/feeding/algae';
import {
  familiesFor,
  type FamilyId,
  familyLamp,
  type FamilyOffer,
  fitOf,
  hoursWords,
  type Purpose,
  PURPOSES,
} from '@/core/refugium/families';
import { feedingPerJoule, type Role, ROLES } from '@/core/refugium/roles';
import type { LampAsk, LampWay } from '@/core/refugium/lampFor';
import { algaSpot, hang } from '@/core/refugium/setUp';
import { lampLibrary } from '@/core/library/lamps';
import { allFull, dims } from '@/core/spectrum/controls';
import type { Levels, LampKind } from '@/core/spectrum/lampKind';
import { plainTank } from '@/core/optics/tank';
import { Strip } from '@/pieces/Strip';
import { addGroup } from '@/state/commands/lamps';
import { addZone } from '@/state/commands/waters';
import { setSpot } from '@/state/commands/spots';
import { together } from '@/state/commands/edit';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { useLampFor } from '@/state/solvers';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { parseNumber } from '@/ui/parseNumber';
import { Fold, Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { useNumbers, waterNameWrong } from '../case/typed';
import { AlgaeCautions } from '../shared/Cautions';
import { Figure } from '../shared/Figure';
import { SolvingRow } from '../shared/SolvingRow';
import { useWaterLight } from '../shared/useWaterLight';
import { percent } from '@/core/shape/percent';
import { umol, watts } from '../shared/words';

const CLEARANCE_CM = 8;
/** Ways that are offered. */
const OFFERED = 4;
/** What new water starts as where nothing is said. */
const NEW_WATER = { yellow440PerM: 0.15, scatterPerM: 0.05 };
const KIND: Record<Exclude<Purpose, 'among'>, Zone['kind']> = { filter: 'refugium', show: 'planted' };

const familyLampOf = (id: string): LampKind => lampLibrary().find((l) => l.kind.id === id)!.kind;
/** What of a mix a lamp has keys for. */
const knownOf = (kind: LampKind, mix: Levels): Levels =>
  Object.fromEntries(Object.entries(mix).filter(([id]) => kind.controls.some((c) => c.id === id)));
/** Lamps of a family: the one that stands for it, and its kin. */
const KIN: Record<FamilyId, readonly string[]> = {
  redBlue: ['lib-refugium-fixed', 'lib-refugium-dim'],
  reef: ['lib-nine', 'lib-nine-half'],
  daylight: ['lib-refugium-day'],
  blue: ['lib-blue-bar'],
};

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

/** A box for the algae with a lamp of the family over it. */
function SetUp({
  purpose,
  a,
  offer,
  zones,
}: {
  purpose: Exclude<Purpose, 'among'>;
  a: Alga;
  offer: FamilyOffer;
  zones: readonly Zone[];
}) {
  const { doc, zone } = useDesk();
  const solver = useLampFor();
  const kind = KIND[purpose];
  const typed = useTyped(`refugium ${purpose} in ${doc.id}`);
  const [role, setRole] = typed.of<Role>('role', 'helper');
  const proper = ZONE_KINDS[kind].name.replace(/^./, (c) => c.toUpperCase());
  const free = (n = 1): string => {
    const name = n === 1 ? proper : `${proper} ${n}`;
    return zones.some((z) => z.name === name) ? free(n + 1) : name;
  };
  const [name, setName] = typed.of('name', free());
  const { field, read } = useNumbers(
    typed,
    purpose === 'filter'
      ? { length: 45, width: 35, depth: 30, room: 40 }
      : { length: 80, width: 45, depth: 45, room: 60 },
    { length: [5, 1000], width: [5, 1000], depth: [5, 300], room: [1, 200] },
  );
  const hours = Math.min(12, a.toHours);
  const mat = (b: { length: number; width: number; depth: number }) => ({
    xCm: Math.round(b.length / 2),
    yCm: Math.round(b.width / 2),
    depthCm: Math.round(b.depth * (purpose === 'filter' ? 0.27 : 0.6)),
    lengthCm: Math.round(b.length * 0.85),
    widthCm: Math.round(b.width * 0.8),
  });
  const look = () => {
    const n = read();
    if (!n) return;
    const ask: LampAsk = {
      tank: plainTank(n.length, n.width, n.depth),
      water: NEW_WATER,
      mat: mat(n),
      alga: a,
      role,
      clearanceCm: CLEARANCE_CM,
      roomCm: n.room,
      hours,
      lamps: KIN[offer.family.id].map((id) => {
        const k = familyLampOf(id);
        return { kind: k, mix: { ...allFull(k), ...knownOf(k, offer.family.mix) } };
      }),
    };
    solver.look(ask);
  };
  const { found } = solver;
  const nameWrong = waterNameWrong(zones, name);
  const now = (key: Parameters<typeof field>[0]) => parseNumber(field(key).value);
  // another purpose, alga, role, family or box since: what was found is no answer to that
  const stale =
    found !== null &&
    (found.ask.alga.id !== a.id ||
      found.ask.role !== role ||
      found.ask.tank.lengthCm !== now('length') ||
      found.ask.tank.widthCm !== now('width') ||
      found.ask.tank.depthCm !== now('depth') ||
      found.ask.roomCm !== now('room') ||
      !found.ask.lamps.some((l) => l.kind.id === offer.family.lampId));
  const ways = found && !stale ? found.ways.slice(0, OFFERED) : [];
  const make = (way: LampWay, { tank, mat: place, alga: of, hours: lit }: LampAsk) => {
    if (nameWrong) return;
    const id = newId();
    const water: Zone = {
      id,
      name: name.trim(),
      kind,
      timeZone: zone.timeZone,
      tank,
      water: NEW_WATER,
      carbonDate: null,
      rippleSlope: 0.05,
      needs: {},
      groups: [],
      spots: [algaSpot(newId(), of, place, place)],
    };
    const made = hang(way, doc, zones, ZONE_KINDS[kind].lookedAt, lit, newId);
    if (
      run(together(`set up ${water.name}`, addZone(water), addGroup(id, made.kind, made.plate, made.group)))
    ) {
      typed.clear();
      changeSettings({ zoneId: id, groupId: made.group.id, plateId: made.plate.id, spotId: null });
      router.navigate('/ease');
    }
  };
  return (
    <Section title="Set it up">
      <TextField
        label="Name of the water"
        value={name}
        onChange={setName}
        error={nameWrong}
        testID="which-name"
      />
      <FieldRow>
        <TextField label="Length" {...field('length')} testID="which-length" />
        <TextField label="Width" {...field('width')} testID="which-width" />
      </FieldRow>
      <FieldRow>
        <TextField label="Water depth" {...field('depth')} testID="which-depth" />
        <TextField label="Room above" {...field('room')} testID="which-room" />
      </FieldRow>
      <Choice
        label="It is to be a"
        value={role}
        onChange={setRole}
        options={(Object.entries(ROLES) as [Role, string][]).map(([value, label]) => ({ value, label }))}
      />
      {solver.progress === null && (
        <Button
          label={`Find the height for ${offer.family.name.toLowerCase()}`}
          wide
          kind={ways.length > 0 ? undefined : 'filled'}
          onPress={look}
          testID="which-look"
        />
      )}
      <SolvingRow solver={solver} what="Hanging lamps" />
      {ways.map((w, i) => (
        <View key={`${w.kind.id}-${w.lamps.length}`} style={{ gap: space.xs }}>
          <Type kind="label">{`${w.lamps.length > 1 ? `${w.lamps.length} × ` : ''}${w.kind.name}${dims(w.kind) ? '' : ', not dimmable'}`}</Type>
          <Type kind="small">
            {`${lengthWords(w.heightCm, true)} up${w.tilted ? ', leaning from behind' : ''}, ${umol(w.min)}–${umol(w.max)} µmol, ${watts(w.watts)}, ${percent(w.lostShare)} lost. ${w.words}`}
          </Type>
          <Button
            label={`Set up with ${w.lamps.length > 1 ? 'these' : 'this one'}`}
            name={`Set up with ${w.lamps.length} × ${w.kind.name}`}
            kind={i === 0 ? 'filled' : undefined}
            disabled={nameWrong !== undefined}
            onPress={() => make(w, found!.ask)}
            testID={`set-up-${i}`}
          />
        </View>
      ))}
      <Note>
        Set up as a draft: nothing is lit yet. The next page plans the first days, because algae lit at full
        length on day one bleach as corals do.
      </Note>
      <Fold title="Cautions for lamps in a cabinet">
        <AlgaeCautions damp />
      </Fold>
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
