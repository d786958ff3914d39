import type { CaseBundle } from '@/core/record/documents';
import type { Reading, Session } from '@/core/record/readings';
import { newPlate } from '@/core/case/plate';
import { draftGroups } from '@/core/case/lit';
import { FORMS } from '@/core/coral/form';
import { lampLibrary, libraryLamp } from '@/core/library/lamps';
import { plainTank } from '@/core/optics/tank';
import { watersCase, displayCase } from '@/demo/lagoon';
import { problemLine } from '@/core/record/read';
import { exportText, importText } from '@/core/record/caseFile';

import { addGroup, addLampKind, setLampKind } from './commands/lamps';
import { addPlate, addReference, removeReference, setPlateNotes } from './commands/plates';
import { addSession, removeReading, removeSession, setReading, setSession } from './commands/readings';
import { addSoloNote, editForm, removeForm, removeSoloNote, setSpot, setSpotForm } from './commands/spots';
import { addThread } from './commands/days';
import { addZone, removeZone, setNeeds, setSystem, setZone } from './commands/waters';
import type { Command } from './commands/edit';

const demo = () => displayCase(Date.UTC(2026, 10, 24), 'UTC');
const after = (bundle: CaseBundle, ...commands: Command[]) => commands.reduce((b, c) => c.apply(b), bundle);
const ZONE = 'demo-display';
const SPOT = 'demo-moss';
const spotOf = (b: CaseBundle) => b.case.zones[0]!.spots.find((s) => s.id === SPOT)!;
/** What comes back from a file is what went into it. */
const read = (text: string) => {
  const file = importText(text);
  if (!file.ok) throw new Error(problemLine(file.problem));
  return file.value;
};
const survives = (b: CaseBundle) => expect(read(exportText(b))).toEqual(JSON.parse(JSON.stringify(b)));

describe('colour forms', () => {
  const green = FORMS.find((f) => f.id === 'green-tip-branch')!;

  test('a library form is copied once, then the copy is changed', () => {
    const once = after(demo(), editForm(ZONE, SPOT, { ...green, name: 'Mine' }, 'copy'));
    expect(once.case.forms.map((f) => [f.id, f.name])).toEqual([['copy', 'Mine']]);
    expect(spotOf(once).formId).toBe('copy');
    const twice = after(once, editForm(ZONE, SPOT, { ...once.case.forms[0]!, name: 'Again' }, 'other'));
    expect(twice.case.forms.map((f) => [f.id, f.name])).toEqual([['copy', 'Again']]);
    survives(twice);
  });

  test('corals that share a form of the case change together; removing it leaves them unsaid', () => {
    const b = after(
      demo(),
      editForm(ZONE, SPOT, green, 'copy'),
      setSpotForm(ZONE, 'demo-plum', 'copy'),
      editForm(ZONE, SPOT, { ...green, id: 'copy', regions: green.regions.slice(0, 2) }, 'x'),
    );
    expect(b.case.forms[0]!.regions).toHaveLength(2);
    const gone = after(b, removeForm('copy'));
    expect(gone.case.zones[0]!.spots.filter((s) => s.formId === null).map((s) => s.id)).toEqual([
      'demo-plum',
      'demo-moss',
    ]);
    survives(gone);
  });

  test('the newest word on a colour and region stands alone', () => {
    const note = (id: string, saw: 'good' | 'lost', region = 'tips') => ({
      id,
      colour: 'Blue',
      region,
      saw,
      atUtc: '2026-11-24T12:00:00.000Z',
    });
    const b = after(
      demo(),
      addSoloNote(ZONE, SPOT, note('1', 'good')),
      addSoloNote(ZONE, SPOT, note('2', 'lost')),
      addSoloNote(ZONE, SPOT, note('3', 'good', 'body')),
    );
    expect(spotOf(b).soloNotes.map((n) => n.id)).toEqual(['2', '3']);
    survives(b);
    expect(spotOf(after(b, removeSoloNote(ZONE, SPOT, '2'))).soloNotes.map((n) => n.id)).toEqual(['3']);
  });
});

describe('lamps and plates', () => {
  test('imported spectra are kept and removed', () => {
    const b = after(
      demo(),
      addReference({
        id: 'r',
        name: 'Window',
        points: [
          [400, 1],
          [700, 2],
        ],
        quantity: 'energy',
      }),
    );
    survives(b);
    expect(after(b, removeReference('r')).case.references).toEqual([]);
  });

  test('a plate stands behind the one it was copied from, or last', () => {
    const ids = (b: CaseBundle) => b.case.plates.map((p) => p.id);
    const made = newPlate('n', 'New', 'demo-panel', {});
    expect(ids(after(demo(), addPlate(made, 'demo-late')))).toEqual([
      'demo-late',
      'n',
      'demo-noon',
      'demo-dusk',
    ]);
    expect(ids(after(demo(), addPlate(made, 'gone')))).toEqual(['demo-late', 'demo-noon', 'demo-dusk', 'n']);
    expect(after(demo(), setPlateNotes('demo-late', 'long ago')).case.plates[0]!.notes).toBe('long ago');
  });

  test('the same lamp hung twice shares its kind; a foreign one comes without hanging', () => {
    const bundle = demo();
    const kind = bundle.case.lampKinds[0]!;
    const group = { ...bundle.case.zones[0]!.groups[0]!, id: 'second', name: 'Second' };
    const b = after(bundle, addGroup(ZONE, kind, newPlate('p', 'P', kind.id, {}), group, true));
    expect(b.case.lampKinds).toHaveLength(1);
    expect(b.case.zones[0]!.groups).toHaveLength(2);
    const tubes = libraryLamp('lib-tubes');
    const c = after(b, addLampKind(tubes, newPlate('t', 'Tubes', tubes.id, { broad: 1 })));
    expect(c.case.lampKinds).toHaveLength(2);
    expect(c.case.plates).toHaveLength(5);
    survives(c);
  });

  test('controls that a changed lamp no longer has vanish from plates, versions, locks and threads', () => {
    const bundle = demo();
    const kind = bundle.case.lampKinds[0]!;
    const noon = bundle.case.plates[1]!;
    const dressed: CaseBundle = {
      ...bundle,
      case: {
        ...bundle.case,
        plates: bundle.case.plates.map((p) =>
          p.id === noon.id
            ? {
                ...p,
                locked: ['violet', 'blue'],
                versions: [{ id: 'v', atUtc: '2026-01-01T00:00:00.000Z', note: '', mix: p.mix }],
              }
            : p,
        ),
      },
    };
    const fewer = {
      ...kind,
      channels: kind.channels.filter((c) => c.id !== 'violet'),
      controls: kind.controls.filter((c) => c.id !== 'violet'),
    };
    const b = after(dressed, addThread('demo-panels', 'own', 720), setLampKind(fewer));
    const plate = b.case.plates[1]!;
    expect('violet' in plate.mix || 'violet' in plate.versions[0]!.mix).toBe(false);
    expect(plate.locked).toEqual(['blue']);
    survives(b);
    expect(() => draftGroups(b.case, b.case.zones[0]!)).not.toThrow();
  });

  test('every lamp of the library can be kept in a case and comes back from a file', () => {
    for (const { kind } of lampLibrary()) survives(after(demo(), addLampKind(kind)));
  });
});

describe('readings', () => {
  const reading = (id: string, tries: number[]): Reading => ({
    id,
    spotId: SPOT,
    name: 'Moss branch',
    xCm: 74,
    yCm: 34,
    depthCm: 24,
    atUtc: '2026-11-24T12:00:00.000Z',
    tries,
    bands: null,
    levels: { 'demo-panels': { violet: 0.5 } },
  });
  const evening: Session = {
    id: 's',
    zoneId: ZONE,
    name: 'Evening',
    atUtc: '2026-11-24T12:00:00.000Z',
    meter: { kind: 'lux', immersionFactor: 1.1, sensorAboveCm: 2, simulated: false },
    pumpsOn: true,
    lit: 'noon',
    counts: true,
    rig: [
      {
        groupId: 'demo-panels',
        name: 'Panels',
        lampKind: demo().case.lampKinds[0]!,
        lamps: demo().case.zones[0]!.groups[0]!.lamps,
      },
    ],
    readings: [],
  };

  test('a session fills reading by reading, a reading grows try by try, and a file keeps all of it', () => {
    const b = after(
      demo(),
      addSession(evening),
      setReading('s', reading('a', [210])),
      setReading('s', reading('b', [190])),
      setReading('s', reading('a', [210, 216])),
    );
    expect(b.readings.sessions[0]!.readings.map((r) => r.tries)).toEqual([[210, 216], [190]]);
    survives(b);
    const aside = after(b, setSession('s', { counts: false, name: 'Set aside' }));
    expect(aside.readings.sessions[0]).toMatchObject({ counts: false, name: 'Set aside', lit: 'noon' });
    // a reading for a session that is gone changes nothing
    expect(after(b, setReading('gone', reading('c', [1]))).readings).toEqual(b.readings);
  });

  test('taking readings away: the last one of a session takes it along, an untouched one stays', () => {
    const two = after(
      demo(),
      addSession(evening),
      addSession({ ...evening, id: 't' }),
      setReading('s', reading('a', [210])),
    );
    expect(after(two, removeReading('s', 'a')).readings.sessions.map((s) => s.id)).toEqual(['t']);
    expect(after(two, removeSession('t')).readings.sessions.map((s) => s.id)).toEqual(['s']);
    expect(after(two, removeReading('s', 'unknown')).readings.sessions[0]!.readings).toHaveLength(1);
  });

  test('what kinds want travels with the case; a range that ends before it begins is refused', () => {
    const b = after(demo(), setNeeds(ZONE, { clam: { fromUmol: 200, toUmol: 500 } }));
    survives(b);
    const bad = after(demo(), setNeeds(ZONE, { clam: { fromUmol: 500, toUmol: 200 } }));
    expect(() => read(exportText(bad))).toThrow(/needs\.clam.*begins/);
    const strange = after(demo(), setNeeds(ZONE, { whale: { fromUmol: 1, toUmol: 2 } } as never));
    expect(() => read(exportText(strange))).toThrow(/needs/);
  });
});

describe('waters', () => {
  const whole = () => watersCase(Date.UTC(2026, 10, 24), 'UTC');
  const SUMP = 'demo-sump-zone';
  const shelf = (b: CaseBundle) => ({
    ...b.case.zones[0]!,
    id: 'shelf',
    name: 'Shelf',
    tank: plainTank(60, 30, 20),
    groups: [],
    spots: [],
  });

  test('one is added, named, made another kind, and comes back from a file', () => {
    const b = whole();
    const more = after(b, addZone(shelf(b)), setZone('shelf', { name: 'Frag shelf', kind: 'planted' }));
    expect(more.case.zones.map((z) => [z.name, z.kind])).toEqual([
      ['Display', 'display'],
      ['Refugium', 'refugium'],
      ['Frag shelf', 'planted'],
    ]);
    survives(more);
  });

  test('removed with all that ran, was read and was logged there; tests of the shared water stay; the last one stays', () => {
    const b = whole();
    const gone = after(b, removeZone(SUMP, 'Refugium'));
    expect(gone.case.zones.map((z) => z.id)).toEqual([ZONE]);
    expect(gone.history.entries.map((e) => e.zoneId)).toEqual([ZONE]);
    expect(gone.log.events).toHaveLength(5);
    expect(gone.log.events.every((e) => e.kind === 'test' && e.zoneId === ZONE)).toBe(true);
    survives(gone);
    expect(after(gone, removeZone(ZONE, 'Display'))).toEqual(gone);
    // its lamps and plates stay in the case
    expect(gone.case.lampKinds.map((k) => k.id)).toContain('demo-sump-lamp');
  });

  test('a smaller box keeps its algae inside it', () => {
    const b = after(whole(), setZone(SUMP, { tank: plainTank(20, 20, 6) }));
    expect(b.case.zones[1]!.spots[0]).toMatchObject({ xCm: 20, yCm: 17, depthCm: 6 });
    survives(b);
  });

  test('flow, chores, the shared water, a mat and its alga are kept; nonsense is refused with its place', () => {
    const b = whole();
    const spot = b.case.zones[1]!.spots[0]!;
    const kept = after(
      b,
      setSystem({ litres: 300 }),
      setZone(SUMP, { choreDays: { salt: 10 }, flow: { ...b.case.zones[1]!.flow!, way: 'still' } }),
      setSpot(SUMP, { ...spot, algaId: 'redLeaf', mat: { lengthCm: 10, widthCm: 8 } }),
    );
    expect(kept.case.system).toMatchObject({ litres: 300, fedGPerDay: 2.5 });
    survives(kept);
    // said for the first time, the rest is as usual
    expect(after(demo(), setSystem({ fedGPerDay: 1 })).case.system).toEqual({
      litres: null,
      fedGPerDay: 1,
      food: 'dry',
      dosedNitratePpm: 0,
      dosedPhosphatePpm: 0,
    });
    const refused = (bad: CaseBundle): string => {
      try {
        read(exportText(bad));
      } catch (error) {
        return (error as Error).message;
      }
      return 'taken';
    };
    const withSpot = (change: object) => after(b, setSpot(SUMP, { ...spot, ...change } as typeof spot));
    expect(refused(withSpot({ algaId: 'kelp' }))).toMatch(/spots\.0\.algaId.*no alga known here/);
    for (const id of ['toString', '__proto__', 'constructor'])
      expect(refused(withSpot({ id }))).toMatch(/id.*programs keep for themselves/);
    expect(refused(withSpot({ mat: { lengthCm: 0, widthCm: 3 } }))).toMatch(/mat\.lengthCm/);
    expect(refused(after(b, setSystem({ litres: -1 })))).toMatch(/system\.litres/);
    expect(refused(after(b, setZone(SUMP, { choreDays: { salt: 0.5 } })))).toMatch(/choreDays\.salt/);
    const event = b.log.events[0]!;
    const withEvent = (change: object) => ({
      ...b,
      log: { ...b.log, events: [{ ...event, ...change } as typeof event] },
    });
    expect(refused(withEvent({ wetG: -5 }))).toMatch(/log\.events\.0\.wetG/);
    expect(refused(withEvent({ drained: 'shaken' }))).toMatch(/events\.0\.drained.*no way of draining/);
    expect(refused(withEvent({ kind: 'picnic' }))).toMatch(/kind is .*"harvest".* or "photo"/);
    expect(refused(withEvent({ kind: 'chore', chore: 'lens' }))).toMatch(/no chore known here/);
  });

  test('what was kept before waters knew algae is read as it was', () => {
    const b = demo();
    const old = JSON.parse(exportText(b));
    old.case.version = 4;
    old.log.version = 1;
    expect(read(JSON.stringify(old))).toEqual(JSON.parse(JSON.stringify(b)));
  });
});
