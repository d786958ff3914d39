import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import { newPlate } from '@/core/case/plate';
import { libraryLamp } from '@/core/library/lamps';
import { plateText } from '@/store/plateFile';
import { changeSettings, useSettings } from '@/state/settings';
import { undo, useSession } from '@/state/session';

import { Compare } from './compare/Compare';
import { Day } from './day/Day';
import { Lamps } from './lamps/Lamps';
import { Mix } from './mix/Mix';
import { Plates } from './plates/Plates';
import { LampSheet } from './sheet/LampSheet';
import {
  choose,
  demo,
  doc,
  edit,
  fill,
  freshPlaces,
  open,
  press,
  show,
  tap,
  text,
  withLamp,
} from './test/kit';
import type * as Files from './test/files';
import { freshFiles, giveFile, offered } from './test/files';
import type * as Router from './test/router';
import { navigate, routeAt, routeParams } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);

freshPlaces();
beforeEach(() => {
  routeAt();
  freshFiles();
});

const groups = () => doc().zones[0]!.groups;

describe('Lamps', () => {
  test('a lamp of the library is looked at, refused at a nonsense height, and hung low', async () => {
    show(Lamps);
    press('Open Pair of fluorescent tubes');
    expect(screen.getByText(/hold mercury/)).toBeTruthy();
    expect(text('bands-held')).toMatch(/^Thin or missing: .*red \(none\).*\.$/);
    fill('hang-height', 'high');
    tap('hang-it');
    expect(screen.getByText('▲ Height: give 1 to 300 cm.')).toBeTruthy();
    fill('hang-height', '25');
    tap('hang-it');
    // its light is computed first; tapped again meanwhile, it hangs once
    tap('hang-it');
    await waitFor(() => expect(groups()).toHaveLength(2));
    const hung = groups()[1]!;
    expect(hung.lamps[0]!.heightCm).toBe(25);
    // tubes cannot be dimmed: their first day is short instead
    expect(hung.threads).toHaveLength(2);
    expect(hung.threads[1]!.minute - hung.threads[0]!.minute).toBeLessThanOrEqual(480);
    expect(navigate).toHaveBeenCalledWith('/mix');
    expect(useSettings.getState().groupId).toBe(hung.id);
    act(() => undo());
    expect(groups()).toHaveLength(1);
  });

  test('a dimmable lamp that is added starts at a tenth or less', async () => {
    show(Lamps);
    press('Open Full-spectrum nine-channel panel');
    tap('hang-it');
    await waitFor(() => expect(groups()).toHaveLength(2));
    expect(groups()[1]!.capShare).toBeLessThanOrEqual(0.1);
    expect(doc().lampKinds).toHaveLength(2);
  });

  test('a lamp that hangs nowhere can be forgotten with its plates; one that hangs cannot', () => {
    const bundle = demo();
    const kind = libraryLamp('lib-blue-bar');
    return open({
      ...bundle,
      case: {
        ...bundle.case,
        lampKinds: [...bundle.case.lampKinds, kind],
        plates: [...bundle.case.plates, newPlate('bar', 'Bar', kind.id, { blue: 1 })],
      },
    }).then(() => {
      show(Lamps);
      press('Open Eight-channel panel');
      expect(screen.queryByRole('button', { name: /^Forget/ })).toBeNull();
      press('Done');
      fireEvent.click(screen.getAllByRole('button', { name: 'Open Blue bar' })[0]!);
      press(/^Forget Blue bar/);
      expect(doc().lampKinds).toHaveLength(1);
      expect(doc().plates).toHaveLength(3);
    });
  });

  test('a lamp is typed in with tied colours, a budget that cannot be and one that can', async () => {
    show(Lamps);
    tap('type-lamp');
    fill('lamp-name', 'Two keys');
    fill('channel-0-name', 'Violet');
    fill('channel-0-peak', '420');
    fill('channel-0-count', '4');
    fill('channel-0-watts', '2');
    tap('add-channel');
    fill('channel-1-name', 'Blue');
    fill('channel-1-peak', '455');
    fill('channel-1-count', '10');
    fill('channel-1-watts', '2');
    choose('Colours tied to keys');
    tap('save-group');
    await waitFor(() => expect(screen.getAllByText('▲ Name the key it hangs on.')).toHaveLength(2));
    fill('channel-0-key', 'Blue key');
    fill('channel-1-key', 'Blue key');
    tap('lamp-more');
    fill('lamp-budget', '900');
    tap('save-group');
    await waitFor(() => expect(screen.getByText(/channels add up to only 32 W/)).toBeTruthy());
    fill('lamp-budget', '25');
    tap('save-group');
    await waitFor(() => expect(groups()).toHaveLength(2));
    const kind = doc().lampKinds[1]!;
    expect(kind.controls).toEqual([
      {
        kind: 'level',
        id: kind.channels[0]!.id,
        name: 'Blue key',
        drives: { [kind.channels[0]!.id]: 1, [kind.channels[1]!.id]: 1 },
      },
    ]);
    expect(kind.powerBudgetWatts).toBe(25);
  });

  test('a channel takes a measured spectrum from a file, and says what is wrong with a bad one', async () => {
    show(Lamps);
    tap('type-lamp');
    giveFile({ name: 'bad.csv', text: '400,1\nx,2' });
    choose('Measured');
    await waitFor(() => expect(text('channel-0-problem')).toContain('bad.csv, line 2: "x" is no wavelength'));
    giveFile({ name: 'big.csv', problem: 'It is larger than 2 MB.' });
    choose('Measured');
    await waitFor(() => expect(text('channel-0-problem')).toContain('big.csv: It is larger than 2 MB.'));
    giveFile({ name: 'good.csv', text: 'nm,photons\n440,1\n450,4\n460,1' });
    choose('Measured');
    await waitFor(() => expect(text('channel-0-table')).toBe('3 points from 440 to 460 nm, photons.'));
    press(/as IES TM-27/);
    expect(await offered('channel.spdx')).toContain('<SpectralData wavelength="450">');
    press(/^Keep the spectrum of channel as CSV/);
    expect(await offered('channel.csv')).toContain('photons (relative)');
  });

  test('a census counts what lights together as one channel, and colours can be taken back', () => {
    show(Lamps);
    tap('census');
    fill('census-name', 'Box');
    fill('census-watts', '-3');
    tap('census-begin');
    expect(screen.getByText(/Watts: give 1 to 5000/)).toBeTruthy();
    fill('census-watts', '');
    tap('census-begin');
    choose('violet');
    fill('census-count', '3');
    press('Others light with it');
    choose('deep blue');
    fill('census-count', '9');
    tap('census-next');
    choose('green');
    tap('census-next');
    expect(text('census-done')).toContain('1: 3 × violet, 9 × deep blue');
    press('Remove colour 2');
    tap('census-finish');
    const field = (id: string) => (screen.getByTestId(id) as HTMLInputElement).value;
    expect([field('lamp-name'), field('channel-0-name')]).toEqual(['Box', 'Violet and Royal blue']);
    expect([field('channel-0-count'), field('channel-0-1-count'), field('channel-0-watts')]).toEqual([
      '3',
      '9',
      '2.5',
    ]);
  });
});

describe('the comb of any lamp', () => {
  test('tint and brightness: two controls and trims of their own; the rail steps by keyboard', async () => {
    await open(withLamp('lib-tint', { brightness: 0.7, tint: 0.5, violet: 0.3, green: 0, red: 0 }));
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    // one grip for brightness and one per trim on the comb, and the tint on its rail
    expect(screen.getAllByRole('slider').map((s) => s.getAttribute('aria-label'))).toEqual([
      expect.stringMatching(/^Brightness/),
      expect.stringMatching(/^Violet/),
      expect.stringMatching(/^Green/),
      expect.stringMatching(/^Red/),
      'Tint',
    ]);
    const tint = screen.getByRole('slider', { name: 'Tint' });
    expect(tint.getAttribute('aria-valuetext')).toBe('50 % of the way');
    await screen.findByTestId('figures');
    const before = text('figures');
    fireEvent.keyDown(tint, { key: 'ArrowRight', shiftKey: true });
    expect(doc().plates[0]!.mix.tint).toBeCloseTo(0.6, 9);
    await waitFor(() => expect(text('figures')).not.toBe(before));
    press('Tint: what it does, solo, lock');
    expect(screen.getByText(/From white to deep blue: moves white, royal blue, blue together/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Solo/ })).toBeNull();
    press('Lock Tint');
    press('Done');
    fireEvent.keyDown(tint, { key: 'ArrowRight' });
    expect(doc().plates[0]!.mix.tint).toBeCloseTo(0.6, 9);
  });

  test('the comb is taken along: its levels in words, its light as a table whose channels add up to the mix', async () => {
    await open(withLamp('lib-tint', { brightness: 0.7, tint: 0.5, violet: 0.3, green: 0, red: 0 }));
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    tap('take-mix');
    press('Numbers of mix as CSV');
    const [head, ...rows] = (await offered('mix.csv')).trim().split(/\r?\n/);
    const kind = doc().lampKinds.find((k) => k.id === 'lib-tint')!;
    expect(head!.split(',')).toEqual([
      'nm',
      ...[doc().plates[0]!.name, ...kind.channels.map((c) => c.name)].map((n) => `${n} (µmol s⁻¹ nm⁻¹)`),
    ]);
    let lit = 0;
    for (const row of rows) {
      const [, mix, ...channels] = row.split(',').map(Number);
      lit += mix!;
      expect(channels.reduce((s, v) => s + v, 0)).toBeCloseTo(mix!, 2);
    }
    expect(lit).toBeGreaterThan(10);
    press('mix as SVG');
    const words = (await offered('mix.svg')).replace(/<[^>]*>|\s/g, ' ').replace(/ +/g, ' ');
    expect(words).toContain('Brightness 70 %, Tint 50 %, Violet 30 %');
  });

  test('circuits: on and off, no cap on Day, on and off on the sheet', async () => {
    await open(withLamp('lib-two-circuit', { blue: 1, white: 1 }));
    const { unmount } = show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    const lit = Number.parseFloat(text('mix-umol'));
    fireEvent.click(within(screen.getByTestId('level-white')).getByRole('radio', { name: 'Off' }));
    expect(doc().plates[0]!.mix.white).toBe(0);
    expect(Number.parseFloat(text('mix-umol'))).toBeLessThan(lit);
    expect(screen.getByRole('slider', { name: /^White circuit/ }).getAttribute('aria-valuetext')).toBe('off');
    unmount();
    const day = show(Day);
    await waitFor(() => expect(text('day-figures')).toMatch(/mol a day/));
    expect(screen.queryByTestId('cap')).toBeNull();
    expect(screen.getByText(/on or off: no cap acts on it/)).toBeTruthy();
    day.unmount();
    show(LampSheet);
    const row = screen.getAllByRole('row').find((r) => r.textContent!.startsWith('Blue circuit'))!;
    expect(
      within(row)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['on', 'off']);
    // too much at once for a lamp that cannot be dimmed: said, with the way to what can be done instead
    await waitFor(() => expect(screen.getByTestId('to-ease')).toBeTruthy());
  });

  test('tied keys move together and show what hangs on them; five steps are five', async () => {
    await open(withLamp('lib-five-step', { 'blue-key': 0.4, 'white-key': 0.2 }));
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    expect(screen.getByText(/violet \+ blue/)).toBeTruthy();
    press('Blue key up');
    expect(doc().plates[0]!.mix['blue-key']).toBeCloseTo(0.6, 9);
    press('Blue key: what it does, solo, lock');
    expect(screen.getByText(/Tied together on this lamp: violet, blue\./)).toBeTruthy();
  });

  test('a locked balance with trims: the trim says its range', async () => {
    await open(withLamp('lib-balance', { balance: 0.6, 'violet-trim': 0.5, 'cyan-trim': 0.5, white: 0.1 }));
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    expect(screen.getByText(/× 0.5 to 1.1/)).toBeTruthy();
    const trim = screen.getByRole('slider', { name: /^Violet trim/ });
    expect(trim.getAttribute('aria-valuetext')).toBe('50 % of its range');
    press('Violet trim: what it does, solo, lock');
    expect(screen.getByText('Multiplies its channel by 0.5 to 1.1.')).toBeTruthy();
  });

  test('a cap that rescales is said so', async () => {
    const bundle = withLamp('lib-nine', { 'royal-blue': 0.5 });
    const kind = bundle.case.lampKinds[0]!;
    await open({
      ...bundle,
      case: {
        ...bundle.case,
        lampKinds: [{ ...kind, controller: { ...kind.controller, capMeans: 'rescales' } }],
      },
    });
    const { unmount } = show(Day);
    await waitFor(() => expect(text('day-figures')).toMatch(/mol a day/));
    expect(screen.getByText(/rescales the day: its largest channel level becomes the cap/)).toBeTruthy();
    unmount();
    show(LampSheet);
    expect(screen.getByText(/this lamp’s cap rescales the day/)).toBeTruthy();
  });

  test('all levels together, solo, and a light laid behind at equal PAR', async () => {
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toBe('250 µmol'));
    press('All levels together down');
    expect(doc().plates.find((p) => p.id === 'demo-noon')!.mix['royal-blue']).toBeCloseTo(0.82 / 1.05, 3);
    act(() => undo());
    press('Royal blue: what it does, solo, lock');
    expect(screen.getByText(/it carries growth/)).toBeTruthy();
    press(/^Solo/);
    expect(text('solo')).toBe('Solo: Royal blue alone. Nothing is changed.');
    expect(Number.parseFloat(text('mix-umol'))).toBeLessThan(200);
    tap('end-solo');
    expect(text('mix-umol')).toBe('250 µmol');
    press('Lay another light behind the comb');
    choose('Daylight D65');
    press('Done');
    expect(text('behind-match')).toMatch(
      /^Dashed: Daylight D65 at equal PAR; \d\d % of photons in common\.$/,
    );
    press('Lay another light behind the comb');
    giveFile({ name: 'mine.spdx', text: '<svg/>' });
    press(/^Lay a spectrum from a file behind/);
    await waitFor(() => expect(text('behind-problem')).toContain('not IESTM2714'));
    giveFile({ name: 'mine.csv', text: '400 1\n700 1' });
    press(/^Lay a spectrum from a file behind/);
    await waitFor(() => expect(doc().references).toHaveLength(1));
    expect(useSettings.getState().behind).toBe(`own:${doc().references[0]!.id}`);
    press('Remove this one');
    expect(doc().references).toHaveLength(0);
  });
});

describe('a mix for photographs, and my meter', () => {
  test('a lamp without white cannot, and it is said', async () => {
    await open(withLamp('lib-blue-bar', { blue: 1 }));
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    press('For photographs');
    await waitFor(() => expect(screen.getByText(/This lamp cannot get there/)).toBeTruthy());
  });

  test('a lamp with white gets a plate that says what it is for', async () => {
    await open(withLamp('lib-nine', { 'royal-blue': 0.4, blue: 0.4, violet: 0.3, 'cool-white': 0.2 }));
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toMatch(/µmol/));
    press('For photographs');
    await waitFor(() => expect(text('photograph')).toMatch(/^\d+ K, PAR × (0\.9\d|1\.0\d) at the coral\.$/));
    tap('keep-photograph');
    expect(doc().plates).toHaveLength(2);
    expect(doc().plates[1]!.notes).toMatch(/go back to the everyday mix/);
  });

  test('each kind of meter has its own factor; a quantum meter has no range switch', async () => {
    show(Mix);
    await waitFor(() => expect(text('mix-umol')).toBe('250 µmol'));
    press('Lux to PAR: my meter reads');
    expect(text('meter-par')).toMatch(/^1 lux is 0\.0\d+ µmol of PAR here, ± \d+ %\.$/);
    choose('× 100');
    fill('meter-reads', '54');
    const many = Number(/PAR (\d+)/.exec(text('meter-par'))![1]);
    choose('Quantum meter, full spectrum');
    expect(screen.queryByRole('radio', { name: '× 100' })).toBeNull();
    fill('meter-reads', '243');
    expect(text('meter-par')).toMatch(/^PAR 24\d µmol, ± \d %/);
    expect(many).toBeGreaterThan(200);
    expect(useSettings.getState().meter).toBe('ideal');
  });
});

describe('Plates', () => {
  test('find, and what is said when nothing is found', async () => {
    show(Plates);
    await waitFor(() =>
      expect(
        screen.getAllByRole('img', { name: /^The tank under (Late light|Reading noon|Deep shelf)/ }),
      ).toHaveLength(3),
    );
    fill('plates-find', 'whiter, so that');
    expect(screen.getAllByRole('button', { name: /^Open plate/ })).toHaveLength(1);
    fill('plates-find', 'zzz');
    expect(screen.getByText(/No plate has “zzz”/)).toBeTruthy();
    fireEvent.keyDown(document.body, { key: '/' });
  });

  test('a plate in use is deleted with undo; its threads keep the mix', () => {
    show(Plates);
    press('Open plate Deep shelf');
    press('Delete Deep shelf');
    expect(doc().plates).toHaveLength(2);
    expect(groups()[0]!.threads.filter((t) => 'own' in t.mix)).toHaveLength(3);
    act(() => undo());
    expect(doc().plates).toHaveLength(3);
  });

  test('the last plate of a lamp that hangs stays', async () => {
    await open(withLamp('lib-blue-bar', { blue: 1 }));
    show(Plates);
    press('Open plate Own mix');
    expect(screen.getByRole('button', { name: 'Delete Own mix' }).getAttribute('aria-disabled')).toBe('true');
  });

  test('a nameless plate is refused; duplicates stand behind; a blend lies between', () => {
    show(Plates);
    press('Open plate Late light');
    fill('plate-name', '  ');
    expect(screen.getByText('▲ Give the plate a name.')).toBeTruthy();
    press('Duplicate');
    expect(
      doc()
        .plates.map((p) => p.name)
        .slice(0, 2),
    ).toEqual(['Late light', 'Late light, copy']);
    tap('blend');
    choose('Reading noon');
    press('Blend up');
    tap('make-blend');
    const made = doc().plates[1]!;
    expect(made.name).toBe('Late light and Reading noon');
    expect(made.mix['cool-white']).toBeCloseTo(0.2 + 0.35 * 0.55, 2);
  });

  test('a foreign plate names its match and what is lost, and is kept on this lamp', async () => {
    const tubes = libraryLamp('lib-violet-bar');
    giveFile({
      name: 'v.json',
      text: plateText(newPlate('v', 'All violet', tubes.id, { violet: 1 }), tubes),
    });
    show(Plates);
    tap('import-plate');
    await waitFor(() => expect(text('plates-message')).toMatch(/made for a lamp that does not hang here/));
    tap('take-over');
    await waitFor(() => expect(text('carry-match')).toMatch(/^Match \d+ % of the spectrum at Copper table/));
    tap('keep-carried');
    const kept = doc().plates.find((p) => p.name === 'All violet on Eight-channel panel')!;
    expect(kept.lampKindId).toBe('demo-panel');
    expect(kept.mix.violet).toBeGreaterThan(0.3);
    expect(kept.mix['deep-red']).toBeLessThan(0.02);
    expect(kept.notes).toMatch(/^Carried from Violet bar: match/);
  });

  test('a file that is no plate says so and changes nothing', async () => {
    giveFile({ name: 'x.json', text: '{"format":"chromatheca-file","version":1}' });
    show(Plates);
    tap('import-plate');
    await waitFor(() =>
      expect(text('plates-message')).toMatch(/whole case: import it under Case.*Nothing was changed/),
    );
    expect(doc().plates).toHaveLength(3);
    expect(useSession.getState().past).toHaveLength(0);
  });
});

describe('Compare', () => {
  test('begins with the plate on the desk and asks for another', () => {
    show(Compare);
    expect(text('compare-says')).toBe('Add another to compare with.');
    tap('compare-add');
    fill('compare-find', 'no such lamp');
    expect(screen.getByText(/Nothing of that name is left/)).toBeTruthy();
    fill('compare-find', 'daylight');
    press('Add Daylight refugium lamp');
    expect(routeParams().with).toBe('plate.demo-noon,lamp.lib-refugium-day');
  });

  test('token and absent bands are marked, and the cheapest addition named with its price', () => {
    routeAt('/', { with: 'lamp.lib-refugium-fixed,lamp.lib-nine' });
    show(Compare);
    const violet = screen.getAllByRole('row').find((r) => r.textContent!.startsWith('cyan'))!;
    expect(violet.textContent).toMatch(/▲ (token|none)/);
    expect(screen.getAllByText(/would add it\.$/).length).toBeGreaterThan(0);
    expect(screen.getByText('Real output in every band.')).toBeTruthy();
    // what each does at the coral of the page, by its kind
    const row = (name: string) => screen.getAllByRole('row').find((r) => r.textContent!.startsWith(name))!;
    expect(row('Above saturation').textContent).toMatch(/\d h/);
    expect(row('Feeds, of its light').textContent).toMatch(/\d+ (to \d+ )?%/);
    expect(row('Beyond its use').textContent).toMatch(/mol/);
  });

  test('a lamp is set as near the mix as it can, or with everything full, by its address', async () => {
    routeAt('/', { with: 'plate.demo-noon,lamp.lib-nine' });
    show(Compare);
    expect(text('as-1')).toBe('everything full');
    const violet = () =>
      screen
        .getAllByRole('row')
        .find((r) => r.textContent!.startsWith('green'))!
        .textContent!.replace(/^green, µmol · mol/, '');
    const full = violet();
    tap('near-1');
    expect(routeParams().with).toBe('plate.demo-noon,near.lib-nine');
    await waitFor(() => expect(text('as-1')).toMatch(/^as near Reading noon as it can, match \d+ %$/));
    expect(violet()).not.toBe(full);
    tap('near-1');
    expect(text('as-1')).toBe('everything full');
    expect(violet()).toBe(full);
  });

  test('what is gone is left out; four fill the page; hours are checked', () => {
    routeAt('/', { with: 'plate.gone,lamp.lib-nine,lamp.lib-nine-half,lamp.lib-tint,lamp.lib-balance' });
    show(Compare);
    expect(screen.getAllByTestId(/^hours-/)).toHaveLength(3);
    fill('hours-0', '30');
    expect(screen.getByText('▲ 0 to 24')).toBeTruthy();
    routeAt('/', { with: 'lamp.lib-nine,lamp.lib-nine-half,lamp.lib-tint,lamp.lib-balance' });
    changeSettings({});
    edit((b) => ({ ...b, case: { ...b.case, name: 'x' } }));
    expect(screen.getByTestId('compare-add').getAttribute('aria-disabled')).toBe('true');
  });
});
