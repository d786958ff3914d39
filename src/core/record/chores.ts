import type { ChoreId, Zone } from './zone';

/** A chore that keeps lamps safe and bright, and what is looked at. */
export interface Chore {
  id: ChoreId;
  name: string;
  /** what is done */
  how: string;
  /** what can go wrong */
  caution: string;
  /** days between two turns in an open room and in a damp place. Mark: rule of thumb; the maker's manual wins */
  everyDays: { open: number; damp: number };
}

export const CHORES: readonly Chore[] = [
  {
    id: 'lens',
    name: 'Lens and splash guard',
    how: 'Wipe off salt and algae with a damp cloth, then dry. Log it as a wiped lens: it gives light back.',
    caution: 'Plug out and cold before it is wiped; a clean lens is a step up in light.',
    everyDays: { open: 30, damp: 14 },
  },
  {
    id: 'fan',
    name: 'Fan and cooling fins',
    how: 'Blow or brush out dust; listen for a fan that grinds or stands.',
    caution: 'A lamp without air runs hot in a closed cabinet: leave a way in and a way out for air.',
    everyDays: { open: 90, damp: 60 },
  },
  {
    id: 'salt',
    name: 'Salt creep',
    how: 'Look along cables, plugs, clamps and the rim; wipe salt off with fresh water and dry.',
    caution: 'Salt draws damp and conducts. A plug with salt on it is changed, not wiped under power.',
    everyDays: { open: 60, damp: 21 },
  },
  {
    id: 'drip',
    name: 'Drip loops',
    how: 'See that every cable hangs lower than its socket before it reaches it, and that no socket is under water that could run out.',
    caution: 'Sockets and timers belong outside the damp, above and to the side of the water.',
    everyDays: { open: 180, damp: 30 },
  },
  {
    id: 'residual',
    name: 'Residual-current protection',
    how: 'Press its test key: it has to trip. Set it again and see that every clock and lamp comes back as it was.',
    caution:
      'If it does not trip, stop using the circuit and call a licensed electrician. Its test is due as its maker says.',
    everyDays: { open: 180, damp: 90 },
  },
  {
    id: 'clock',
    name: 'Clocks of the lamps',
    how: 'See that every lamp shows the time on the wall, and that its day runs as it was typed in.',
    caution:
      'A clock that was reset by a power cut lights corals at night. Prove what runs where you are not sure.',
    everyDays: { open: 180, damp: 180 },
  },
  {
    id: 'tubes',
    name: 'Tubes and bulbs',
    how: 'Change them one at a time, weeks apart, and write the new one down.',
    caution:
      'A new tube is a step up in light: ease it in. Old ones hold mercury: hand them in, never into the bin.',
    everyDays: { open: 300, damp: 300 },
  },
  {
    id: 'test',
    name: 'Water tests',
    how: 'Nitrate, phosphate and alkalinity at least. It is logged as a water test.',
    caution: 'A doubtful value is measured once more before anything is dosed.',
    everyDays: { open: 14, damp: 14 },
  },
  {
    id: 'meter',
    name: 'Meter session',
    how: 'Read the corals again with everything lit as last time; Before and after says whether light has faded.',
    caution: 'Hands wet, lamps hot: dry hands on anything with a plug.',
    everyDays: { open: 90, damp: 180 },
  },
  {
    id: 'pictures',
    name: 'Photographs',
    how: 'The same corals under the same plate at the same hour from the same place, with a grey card in the frame.',
    caution: 'Compare pictures only under one light: the eye and the camera follow the lamp.',
    everyDays: { open: 30, damp: 90 },
  },
  {
    id: 'carbon',
    name: 'Carbon',
    how: 'Change it for fresh, rinsed carbon. It is logged as fresh carbon: clearer water is more light.',
    caution: 'A step up in light of its own: raise no cap in the same week.',
    everyDays: { open: 30, damp: 30 },
  },
  {
    id: 'age',
    name: 'Age of the lamps',
    how: 'Read the corals again with a meter, lit as last time: Before and after says whether the light has faded. Diodes lose a few percent in some thousand hours.',
    caution: 'A lamp that has grown dim is not simply turned up: the new light is eased in like any other.',
    everyDays: { open: 365, damp: 365 },
  },
];
export const chore = (id: ChoreId): Chore => CHORES.find((c) => c.id === id)!;

/** Where a kind of water usually stands: a refugium in a damp cabinet. */
export const DAMP: Readonly<Record<Zone['kind'], boolean>> = {
  display: false,
  planted: false,
  refugium: true,
};

/** What a kind of water is called, in names and in sentences. */
export const ZONE_KINDS: Readonly<Record<Zone['kind'], { name: string; about: string; lookedAt: boolean }>> =
  {
    display: { name: 'display', about: 'corals, fish, looked at', lookedAt: true },
    refugium: {
      name: 'refugium',
      about: 'macroalgae out of sight, to take nitrate and phosphate',
      lookedAt: false,
    },
    planted: { name: 'planted display', about: 'macroalgae as the show', lookedAt: true },
  };

/** Days between two turns of a chore in a water. */
export const choreDays = (zone: Pick<Zone, 'kind' | 'choreDays'>, id: ChoreId): number =>
  zone.choreDays?.[id] ?? chore(id).everyDays[DAMP[zone.kind] ? 'damp' : 'open'];
