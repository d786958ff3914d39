import { floorUmolOf } from '@/core/record/needs';
import { changedThreads, mixModel } from './mix/model';
import { dayFiguresWords, dayUnder, stormWords } from './day/model';
import { interludeWords, nowModel } from './today/model';
import { bareCalibration } from '@/core/case/calibration';
import { judgeWater } from '@/core/case/judgement';
import { dayAt, levelsOfGroups, parUnder, zoneLight } from '@/core/case/light';
import type { DayLight } from '@/core/easing/accustomed';
import { draftGroups, rigOf } from '@/core/case/lit';
import { momentOf } from '@/core/case/moment';
import { lampLibrary } from '@/core/library/lamps';
import { computeResponse } from '@/core/optics/response';
import { par } from '@/core/spectrum/bands';
import { allFull } from '@/core/spectrum/controls';
import { integrate } from '@/core/spectrum/grid';
import { keptSpectrum, mixSpectrum } from '@/core/spectrum/lamp';
import { REFERENCES } from '@/core/library/references';
import { displayCase } from '@/demo/lagoon';
import { demoPanel } from '@/demo/panel';

import { candidatesOf, choosable, equivalentHours, MOST } from './compare/candidates';
import { formFromCensus, SEEN } from './lamps/census';
import { lampFromForm } from './case/lampForm';
import { laidBehind, otherLight, otherLights } from './mix/behind';
import { levelsAtMoment, levelsOfMix, lockedValues, parByControl, soloLevels, strengthAt } from './mix/view';
import { whatItDoes } from './mix/whatItDoes';
import { formOf } from '@/core/portrait/ofZone';
import { sceneOf } from './shared/scene';

const { case: doc } = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = doc.zones[0]!;
const group = zone.groups[0]!;
const groups = draftGroups(doc, zone);
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const plate = (id: string) => doc.plates.find((p) => p.id === id)!;

describe('what Mix shows', () => {
  test('the moment of a plate is lit as the day has it', () => {
    const noon = plate('demo-noon');
    const moment = momentOf(light, groups, group, noon.id, 0);
    expect(levelsAtMoment(groups, 0, noon, moment)).toEqual(levelsOfGroups(groups, moment.minute));
    expect(strengthAt(group, noon, moment)).toBe(1);
    const late = momentOf(light, groups, group, 'demo-late', 0);
    expect(strengthAt(group, plate('demo-late'), late)).toBe(0.92);
  });

  test('a plate that no thread uses is shown at full strength under the cap', () => {
    const unused = { ...plate('demo-noon'), id: 'unused' };
    const moment = momentOf(light, groups, group, 'unused', 0);
    expect(moment.used).toBe(false);
    const [levels] = levelsAtMoment(groups, 0, unused, moment);
    expect(levels![2]).toBeCloseTo(0.82 * 0.8, 9);
    expect(levelsOfMix(groups[0]!, unused.mix, 0.5)[2]).toBeCloseTo(0.41 * 0.8, 9);
  });

  test('solo lights only what the control drives; one that is off is shown at full', () => {
    const [only] = soloLevels(groups, 0, plate('demo-noon').mix, 'violet', 1);
    expect(only!.map((v) => v > 0)).toEqual(demoPanel.channels.map((c) => c.id === 'violet'));
    expect(only![1]).toBeCloseTo(0.7 * 0.8, 9);
    const [off] = soloLevels(groups, 0, { violet: 0 }, 'violet', 1);
    expect(off![1]).toBeCloseTo(0.8, 9);
  });

  test('PAR by control adds up to the whole, and locks carry their values', () => {
    const own = demoPanel.channels.map((_, i) => i + 1);
    const by = parByControl(demoPanel, own);
    expect(Object.values(by).reduce((a, b) => a + b, 0)).toBe(36);
    expect(lockedValues({ ...plate('demo-noon'), locked: ['violet', 'nothing'] })).toEqual({
      violet: 0.7,
      nothing: 0,
    });
  });

  test('what a channel does is told by its own light', () => {
    const says = (id: string) => whatItDoes(keptSpectrum(demoPanel.channels.find((c) => c.id === id)!));
    expect(says('violet').does).toMatch(/chlorophyll a/);
    expect(says('royal-blue').figures).toMatch(/royal blue.*usable \d+ % of PAR.*nm broad/);
    expect(says('cool-white').does).toMatch(/^Broad light/);
    expect(says('deep-red').does).toMatch(/much of it is widely held to harm/);
    // broad light is white only with both ends: lime has neither, a blue tube one
    const every = lampLibrary().flatMap(({ kind }) => kind.channels);
    const does = (name: string) => whatItDoes(keptSpectrum(every.find((c) => c.name === name)!)).does;
    expect(does('Warm white')).toMatch(/^Broad light/);
    expect(does('Lime')).toMatch(/very bright to the eye/);
    expect(does('Broad blue tube')).not.toMatch(/^Broad light/);
  });
});

describe('lights laid behind', () => {
  test('generic lights, plates and files; what is gone is nothing', () => {
    const own = {
      ...doc,
      references: [
        {
          id: 'f',
          name: 'File',
          points: [
            [400, 1],
            [700, 1],
          ] as [number, number][],
          quantity: 'photon' as const,
        },
      ],
    };
    expect(otherLights(own).map((l) => l.group)).toEqual(
      expect.arrayContaining(['Generic, modelled', 'Plates', 'From files']),
    );
    for (const l of otherLights(own)) expect(otherLight(own, l.key)!.name).toBe(l.name);
    expect(otherLight(own, 'plate:gone')).toBeNull();
    expect(otherLight(own, 'own:gone')).toBeNull();
    expect(otherLight(own, null)).toBeNull();
  });

  test('are scaled to equal PAR, and a dark mix has nothing behind it', () => {
    const mix = mixSpectrum(demoPanel, plate('demo-late').mix);
    const behind = laidBehind(mix, otherLight(doc, 'light:d65')!)!;
    expect(par(behind.spectrum)).toBeCloseTo(par(mix), 6);
    expect(behind.shared).toBeGreaterThan(0.1);
    expect(behind.shared).toBeLessThan(0.6);
    expect(laidBehind(mix, otherLight(doc, 'plate:demo-late')!)!.shared).toBeCloseTo(1, 9);
    expect(laidBehind(new Float64Array(421), otherLight(doc, 'light:d65')!)).toBeNull();
    expect(REFERENCES.map((r) => r.id)).toContain('ocean-20');
  });
});

describe('candidates of a comparison', () => {
  test('plates run as long as their day gives the same dose at its strongest', () => {
    const hours = equivalentHours(doc, zone, 'demo-panel');
    expect(hours).toBeGreaterThan(5);
    expect(hours).toBeLessThan(8.5);
    expect(equivalentHours(doc, zone, 'lib-nine')).toBe(8);
  });

  test('keys lead to plates and lamps; unknown ones are left out; four are the most', () => {
    const keys = ['plate.demo-noon', 'lamp.gone', 'lamp.lib-tubes'];
    const found = candidatesOf(doc, zone, keys, { 'lamp.lib-tubes': 11 });
    expect(found.map((c) => [c.name, c.hours])).toEqual([
      ['Reading noon', expect.any(Number)],
      ['Pair of fluorescent tubes', 11],
    ]);
    expect(found[1]!.mix).toEqual(allFull(found[1]!.kind));
    const many = candidatesOf(
      doc,
      zone,
      lampLibrary().map((l) => `lamp.${l.kind.id}`),
      {},
    );
    expect(many).toHaveLength(MOST);
    expect(new Set(choosable(doc).map((c) => c.key)).size).toBe(choosable(doc).length);
  });
});

describe('the census', () => {
  test('every look is a light that a lamp can have', () => {
    for (const seen of SEEN) {
      const kind = lampFromForm(
        formFromCensus('One', null, [{ id: 'a', kinds: [{ seen: seen.id, count: 4 }] }]),
        'k',
      );
      expect(kind.channels[0]!.name).toBe(seen.name);
      const light = keptSpectrum(kind.channels[0]!);
      expect(integrate(light)).toBeGreaterThan(0);
    }
  });

  test('stated watts are shared evenly; colours of one name are numbered', () => {
    const form = formFromCensus('Lamp', 100, [
      { id: 'a', kinds: [{ seen: 'blue', count: 10 }] },
      { id: 'b', kinds: [{ seen: 'blue', count: 10 }] },
    ]);
    expect(form.channels.map((c) => c.name)).toEqual(['Blue', 'Blue 2']);
    expect(form.channels[0]!.groups[0]!.watts).toBe('4.4');
  });
});

describe('the scene', () => {
  test('corals stand where their spots are, each under its own light; spots without a form are left out', () => {
    const bare = { ...zone, spots: zone.spots.map((s, i) => (i === 2 ? { ...s, formId: null } : s)) };
    const scene = sceneOf(doc, bare, light, levelsOfGroups(groups, 845));
    expect(scene.map((s) => s.name)).toEqual(['Copper table', 'Plum table', 'Slate plate', 'Straw polyp']);
    expect(par(scene[0]!.light)).toBeGreaterThan(par(scene[3]!.light));
  });

  test('a form of the case stands before one of the library; an unknown one is none', () => {
    const spot = zone.spots[0]!;
    const own = { ...formOf(doc, spot)!, name: 'Changed' };
    expect(formOf({ ...doc, forms: [own] }, spot)!.name).toBe('Changed');
    expect(formOf(doc, { ...spot, formId: 'gone' })).toBeNull();
    expect(formOf(doc, { ...spot, formId: null })).toBeNull();
  });
});

describe('what Mix says of its plate', () => {
  const used = zone.spots.map(() => ({ dli: 4, peak: 100 }));
  const judge = (accustomed: DayLight[] | null, levels?: number[][]) =>
    judgeWater({
      state: levels ? 'mix' : 'draft',
      zone,
      groups,
      light,
      cal: bareCalibration(groups, zone),
      accustomed,
      ceiling: 1.3,
      ...(levels ? { levels } : {}),
    });
  const model = (change: Partial<Parameters<typeof mixModel>[0]> = {}) =>
    mixModel({
      zone,
      group,
      kind: demoPanel,
      plate: plate('demo-noon'),
      groups,
      light,
      spot: zone.spots[0]!,
      spotIndex: 0,
      solo: null,
      touching: false,
      judge: (levels) => judge(used, levels),
      ...change,
    });
  test('agrees with the day at its moment, and adds up over lamps and controls', () => {
    const m = model();
    expect(m.umol).toBeCloseTo(parUnder(light, levelsOfGroups(groups, m.moment.minute), 0), 9);
    expect(m.parts.reduce((s, p) => s + p.umol, 0)).toBeCloseTo(m.umol, 6);
    expect(Object.values(m.byControl!).reduce((s, v) => s + v, 0)).toBeCloseTo(m.ownUmol, 6);
    expect(m.figures!.par).toBeCloseTo(m.umol, 6);
    expect(m.judged).toMatchObject({ state: 'draft' });
    expect(m.judged!.corals[0]!.step!.accustomed).toEqual(used[0]);
  });
  test('says nothing heavy while a finger is on it, nothing of controls while one is alone, nothing without light', () => {
    const red = { ...plate('demo-noon'), id: 'red', mix: { 'deep-red': 1 } };
    expect(model({ plate: red }).warnings.length).toBeGreaterThan(0);
    expect(model({ plate: red, touching: true }).warnings).toEqual([]);
    const solo = model({ solo: 'violet' });
    expect(solo.byControl).toBeNull();
    expect(solo.umol).toBeLessThan(model().umol);
    expect(model({ light: null })).toMatchObject({ spectrum: null, figures: null, umol: 0, parts: [] });
    expect(solo.judged).toBeNull();
    const alga = { ...zone.spots[0]!, need: 'macroalgae' as const, algaId: 'greenTangle' as const };
    expect(model({ spot: alga }).feeds).not.toBeNull();
  });
  test('a mix that no lit thread uses is judged as the brightest of a day, not by the day it is no part of', () => {
    const every = {
      ...plate('demo-noon'),
      id: 'every',
      mix: Object.fromEntries(demoPanel.controls.map((c) => [c.id, 1])),
    };
    const m = model({ plate: every });
    expect(m.moment.used).toBe(false);
    expect(m.judged!.state).toBe('mix');
    expect(m.judged!.corals[0]!.step).toMatchObject({ by: 'peak', large: true, harmful: true });
    const q = floorUmolOf(zone.spots[0]!, zone);
    // as corals take it: a mix with much blue is taken up better than a typical one
    expect(m.judged!.corals[0]!.step!.ratio / ((m.umol + q) / (100 + q))).toBeGreaterThan(1);
    expect(m.judged!.corals[0]!.step!.ratio / ((m.umol + q) / (100 + q))).toBeLessThan(1.2);
    expect(m.judged!.corals[0]!.dayMol).toBeNull();
    // a thread at no strength does not light it
    const dark = {
      ...group,
      threads: group.threads.map((t) => ({ ...t, strengthShare: 0 })),
    };
    const unlit = model({ group: dark });
    expect(unlit.moment.used).toBe(false);
    expect(unlit.umol).toBeGreaterThan(0);
    expect(unlit.judged!.corals[0]!.step!.ratio / ((unlit.umol + q) / (100 + q))).toBeCloseTo(1.08, 1);
  });
  test('threads that a change of the plate moves are named with light before and after', () => {
    const dimmer = { ...doc, plates: doc.plates.map((p) => ({ ...p, mix: { violet: 0.1 } })) };
    const changed = changedThreads(light, dimmer, zone, groups, group, 'demo-noon', 0);
    expect(changed).toHaveLength(1);
    expect(changed[0]!.before).toBeLessThan(changed[0]!.after);
    expect(changedThreads(null, dimmer, zone, groups, group, 'demo-noon', 0)).toEqual([]);
    const other = { ...dimmer, zones: [{ ...zone, groups: [] }] };
    expect(changedThreads(light, other, zone, groups, group, 'demo-noon', 0)).toEqual([]);
  });
});

describe('what Today says of now', () => {
  test('the next thread is looked for over midnight; parts add up to all', () => {
    const noon = nowModel(light, groups, 845, 0);
    expect(noon.umol).toBeCloseTo(noon.peakUmol, 6);
    expect(noon.parts.reduce((s, p) => s + p.share, 0)).toBeCloseTo(1, 9);
    expect(nowModel(light, groups, 846, 0).next).toEqual({ minute: 1050, words: 'Late light, 205 µmol' });
    // the last thread is dark: what comes there is the end of light
    expect(nowModel(light, groups, 1150, 0).next).toEqual({ minute: 1210, words: 'lamps dark, 0 µmol' });
    const night = nowModel(light, groups, 1300, 0);
    expect(night).toMatchObject({
      umol: 0,
      watts: 0,
      parts: [],
      next: { minute: 520, words: 'light begins, 76 µmol by 10:30' },
    });
    // a lamp that holds its levels does not begin where its dark thread stands
    const held = groups.map((g) => ({ ...g, day: { ...g.day, interpolation: 'hold' as const } }));
    expect(nowModel(light, held, 1300, 0).next!.words).toBe('lamps dark, 0 µmol');
    expect(noon.watts).toBeLessThan(noon.fullWatts);
    expect(nowModel(light, [{ ...groups[0]!, threads: [] }], 845, 0).next).toBeNull();
  });
  test('an interlude is said while it runs and before, never after', () => {
    const entry = displayCase(Date.UTC(2026, 10, 24), 'UTC').history.entries[0]!;
    const one = {
      id: 'i',
      kind: 'viewing' as const,
      date: '2026-11-24',
      fromMinute: 900,
      minutes: 30,
      strengthShare: 0.5,
      mix: {},
      mixName: 'Guests',
    };
    const e = { ...entry, extras: { interludes: [one] } };
    const on = { date: '2026-11-24', timeZone: 'UTC' };
    expect(interludeWords([e], on, 890)).toBe('Interlude 15:00–15:30: Guests.');
    expect(interludeWords([e, { ...e, extras: {} }], on, 910)).toBe(
      'Interlude until 15:30 of Panels: Guests at 50 %; then the day goes on.',
    );
    expect(interludeWords([e], on, 930)).toBeNull();
  });
});

describe('what Day says above its weave', () => {
  test('how the draft stands, and what a lamp that does not dim has for a cap', () => {
    expect(dayUnder({ groupName: 'Panels', changes: 0, cap: 'cap 80 %' })).toBe(
      'Panels · as it runs · cap 80 %',
    );
    expect(dayUnder({ groupName: 'Bars', changes: null, cap: 'on or off' })).toBe(
      'Bars · nothing known to be running · on or off',
    );
    expect(dayUnder({ groupName: 'P', changes: 1, cap: 'cap 100 %' })).toMatch(
      /not in the lamp yet: 1 change ·/,
    );
  });
  test('figures with their moment; a storm only where there is one', () => {
    const day = dayAt(light, groups, 0);
    expect(dayFiguresWords(day, groups).rest).toMatch(/^; lit 11 h 30 min; peak \d+ µmol at 14:05$/);
    expect(dayFiguresWords({ ...day, peak: 0 }, groups).rest).toMatch(/peak 0 µmol$/);
    expect(stormWords([])).toBeNull();
    expect(
      stormWords([
        { atS: 3600, share: 0.2 },
        { atS: 3660, share: 0.1 },
      ]),
    ).toMatch(/from 01:00 to 01:01: 2 flashes of at most 20 %/);
  });
});
