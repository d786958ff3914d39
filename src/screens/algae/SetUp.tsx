import { lengthWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { View } from 'react-native';
import { ZONE_KINDS } from '@/core/record/chores';
import type { Zone } from '@/core/record/zone';
import { type Alga } from '@/core/feeding/algae';
import { type FamilyId, type FamilyOffer, type Purpose } from '@/core/refugium/families';
import { type Role, ROLES } from '@/core/refugium/roles';
import type { LampAsk, LampWay } from '@/core/refugium/lampFor';
import { algaSpot, hang } from '@/core/refugium/setUp';
import { libraryLamp } from '@/core/library/lamps';
import { allFull, dims } from '@/core/spectrum/controls';
import type { Levels, LampKind } from '@/core/spectrum/lampKind';
import { plainTank } from '@/core/optics/tank';
import { addGroup } from '@/state/commands/lamps';
import { addZone } from '@/state/commands/waters';
import { together } from '@/state/commands/edit';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { useLampFor } from '@/state/solvers';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Fold, Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { useNumbers, waterNameWrong } from '../case/typed';
import { AlgaeCautions } from '../shared/Cautions';
import { SolvingRow } from '../shared/SolvingRow';
import { percent } from '@/core/shape/percent';
import { umol, watts } from '../shared/words';

const CLEARANCE_CM = 8;
/** Ways that are offered. */
const OFFERED = 4;
/** What new water starts as where nothing is said. */
const NEW_WATER = { yellow440PerM: 0.15, scatterPerM: 0.05 };
const KIND: Record<Exclude<Purpose, 'among'>, Zone['kind']> = { filter: 'refugium', show: 'planted' };

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

/** A box for the algae with a lamp of the family over it. */
export function SetUp({
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
        const k = libraryLamp(id);
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
