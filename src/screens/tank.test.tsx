import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import { must } from '@/core/fixtures/result';
import { parseIes } from '@/core/formats/ies';
import { undo, useSession } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { download, pickText } from '@/ui/files';

import { Case } from './case/Case';
import { HungLampSheet } from './case/HungLampSheet';
import { BeforeAfterPage } from './readings/BeforeAfter';
import { CalibrationPage } from './readings/Calibration';
import { Readings } from './readings/Readings';
import { Tank } from './tank/Tank';
import { choose, doc, edit, fill, freshPlaces, press, show, tap, text, onZone } from './test/kit';
import type * as Router from './test/router';
import { routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => ({
  ...jest.requireActual('@/ui/files'),
  pickText: jest.fn(),
  download: jest.fn(),
}));
const kept = download as jest.MockedFunction<typeof download>;
const pick = pickText as jest.MockedFunction<typeof pickText>;
const zone = () => doc().zones[0]!;
const sessions = () => useSession.getState().bundle!.readings.sessions;

freshPlaces();
beforeEach(() => routeAt('/tank'));

/** Waits for the field: it is computed in place here, in jsdom's slow world. */
const charted = (view: 'top' | 'front' | 'side') =>
  waitFor(() => expect(screen.getByTestId(`sounding-${view}`)).toBeTruthy(), { timeout: 30_000 });

/** Starts a session at the spots and lies at its first place. */
async function startWalk(simulated = false): Promise<void> {
  routeAt('/readings');
  const list = show(Readings);
  tap('start-session');
  expect(screen.queryByTestId('walk')).toBeNull();
  tap('eyes-shaded');
  choose(simulated ? 'a simulated meter' : 'my meter');
  choose('Quantum meter, full spectrum');
  tap('walk');
  list.unmount();
  routeAt('/readings', { at: sessions().at(-1)!.id });
  show(Readings);
  await waitFor(() => expect(text('walk-expected')).toContain('The model expects'));
}

/** Sets a part of the chart's sentence. */
const setting = (part: string, to: string) => {
  fireEvent.click(screen.getByTestId(`set-${part}`));
  choose(to);
};

describe('Tank', () => {
  test('says who has the light it wants, draws the chart, and every mark can be moved by keys', async () => {
    show(Tank);
    // until the light is there its place is kept, and nothing is said of it
    expect(text('evenness-fold')).toMatch(/^Evenness: not known yet/);
    expect(screen.queryByTestId('sounding-top')).toBeNull();
    await charted('top');
    expect(text('evenness-fold')).toMatch(/the darkest place has \d+ % of the mean/);
    expect(text('tank-sentence')).toBe(
      'Two of five corals have what they want at the day’s brightest, as it runs: perhaps too much at Slate plate, Straw polyp; perhaps too little at Moss branch.',
    );
    tap('other-corals');
    expect(text('standing-Straw polyp')).toBe('▲ perhaps too much');
    expect(text('chart-basis')).toMatch(
      /^In µmol, estimate ± 5\d % \(90 %\)\. Dotted: less than the 180–400 wanted/,
    );
    const coral = screen.getByTestId('mark-top-Moss branch');
    fireEvent.keyDown(coral, { key: 'ArrowRight' });
    expect(zone().spots.find((s) => s.name === 'Moss branch')!.xCm).toBe(75);
    fireEvent.keyDown(coral, { key: 'ArrowUp' });
    expect(zone().spots.find((s) => s.name === 'Moss branch')!.yCm).toBe(35);
    // a lamp that is moved is a draft: the chart goes over to it
    fireEvent.keyDown(screen.getByTestId('mark-top-left'), { key: 'ArrowRight', shiftKey: true });
    expect(zone().groups[0]!.lamps[0]!.xCm).toBe(52);
    expect(useSettings.getState().tank.whose).toBe('draft');
    act(() => undo());
    expect(zone().groups[0]!.lamps[0]!.xCm).toBe(42);
    choose('From the front');
    await charted('front');
    fireEvent.keyDown(screen.getByTestId('mark-front-left'), { key: 'ArrowUp' });
    expect(zone().groups[0]!.lamps[0]!.heightCm).toBe(25);
    fireEvent.keyDown(screen.getByTestId('mark-front-Moss branch'), { key: 'ArrowDown' });
    expect(zone().spots.find((s) => s.name === 'Moss branch')!.depthCm).toBe(25);
    choose('From the side');
    await charted('side');
  });

  test('shows DLI, this moment, and a difference with its sign; remembers it', async () => {
    show(Tank);
    await charted('top');
    setting('shows', 'light a day');
    expect(text('chart-basis')).toContain('In mol a day');
    setting('shows', 'PAR at a plateau');
    setting('plateau', '17:30 Late light');
    tap('take-light-in-the-tank');
    press('Numbers of light-in-the-tank as CSV');
    await waitFor(() => expect(kept).toHaveBeenCalledTimes(1));
    const table = kept.mock.calls[0]![1].trim().split('\r\n');
    expect(table[0]).toBe('coral,from the left (cm),from the front (cm),deep (cm),light (µmol)');
    const [moss] = table.filter((l) => l.startsWith('Moss branch,'));
    // what the file says is what stands at its mark
    expect(screen.getByTestId('mark-top-Moss branch').getAttribute('aria-valuetext')).toMatch(
      new RegExp(`, ${Math.round(Number(moss!.split(',').at(-1)))}$`),
    );
    // against the other plateau everything is less
    setting('against', '14:05 Reading noon');
    expect(text('chart-basis')).toContain('against Reading noon');
    edit(onZone((z) => ({ ...z, groups: z.groups.map((g) => ({ ...g, capShare: 0.4 })) })));
    setting('against', 'the draft');
    await waitFor(() => expect(text('chart-basis')).toContain('Difference in µmol against the draft'));
    expect(useSettings.getState().tank.against).toBe('other');
    setting('against', 'nothing');
    expect(text('chart-sentence')).toMatch(
      /^From above: PAR at a plateau, 17:30 Late light, as it runs, set against nothing/,
    );
    tap('evenness-fold');
    expect(text('evenness')).toContain('Coefficient'.toLowerCase());
    expect(text('evenness')).toMatch(/Lost light.*%/);
    expect(text('evenness')).toMatch(/Ripple-blend.*°/);
    expect(text('evenness')).toMatch(/From all sides.*parts get, in µmol: .*\d+ \(estimate\)1\.\d ×/);
    expect(text('evenness')).toMatch(/Flashes.*one moment in twenty more; ± \d+ %.*\d+ µmol/);
  });

  test('a lamp says how long it has run, how warm it is, and that nobody held a level to it', () => {
    const [lamp] = zone().groups[0]!.lamps;
    show(() => (
      <HungLampSheet groupId={zone().groups[0]!.id} lamp={lamp!} zone={zone()} onClose={() => undefined} />
    ));
    press('Older, warmer, or not sure it is level');
    choose('not sure');
    fill('lamp-hours', '18000');
    fill('lamp-warmer', '70');
    tap('keep-lamp');
    expect(zone().groups[0]!.lamps[0]).toEqual(lamp);
    fill('lamp-warmer', '12');
    tap('keep-lamp');
    expect(zone().groups[0]!.lamps[0]).toMatchObject({ hoursRun: 18000, warmerC: 12, leanUnsure: true });
    act(() => undo());
    expect(zone().groups[0]!.lamps[0]).toEqual(lamp);
  });

  test('where could it go: places with the light it wants, and one tap moves it', async () => {
    show(Tank);
    await charted('top');
    tap('where');
    const move = await screen.findByRole('button', { name: 'Move Copper table to A' });
    const before = zone().spots[0]!;
    fireEvent.click(move);
    expect(zone().spots[0]!.xCm).not.toBe(before.xCm);
    act(() => undo());
    expect(zone().spots[0]).toEqual(before);
  });

  test('a coral’s wants, arrival and source light are its own; nonsense is refused in place', async () => {
    show(Tank);
    await waitFor(() => expect(text('standing-Copper table')).toContain('right'));
    tap('edit-spot');
    fireEvent.change(screen.getByTestId('wants-from'), { target: { value: '300' } });
    tap('keep-spot');
    expect(screen.getByText(/▲ Give both/)).toBeTruthy();
    fireEvent.change(screen.getByTestId('wants-to'), { target: { value: '500' } });
    fireEvent.change(screen.getByTestId('arrived'), { target: { value: 'spring' } });
    tap('keep-spot');
    expect(screen.getByText(/▲ Give a date/)).toBeTruthy();
    fireEvent.change(screen.getByTestId('arrived'), { target: { value: '2026-03-21' } });
    fireEvent.change(screen.getByTestId('source-light'), { target: { value: 'blue panel, 200 µmol' } });
    tap('keep-spot');
    expect(zone().spots[0]).toMatchObject({
      wants: { fromUmol: 300, toUmol: 500 },
      arrived: '2026-03-21',
      sourceLight: 'blue panel, 200 µmol',
    });
    await waitFor(() => expect(text('standing-Copper table')).toContain('too little'));
  });

  test('what a kind wants is edited for all of it, save those that have their own', async () => {
    show(Tank);
    await waitFor(() => expect(text('standing-Copper table')).toContain('right'));
    tap('tank-more');
    tap('to-needs');
    fireEvent.change(screen.getByTestId('need-smallPolyp-from'), { target: { value: '500' } });
    tap('keep-needs');
    expect(screen.getByText(/▲ Give both/)).toBeTruthy();
    expect(zone().needs).toEqual({});
    fireEvent.change(screen.getByTestId('need-smallPolyp-from'), { target: { value: '270' } });
    fireEvent.change(screen.getByTestId('need-smallPolyp-to'), { target: { value: '450' } });
    tap('keep-needs');
    expect(zone().needs).toEqual({ smallPolyp: { fromUmol: 270, toUmol: 450 } });
    await waitFor(() => expect(text('standing-Copper table')).toContain('too little'));
    tap('other-corals');
    expect(text('standing-Slate plate')).toContain('perhaps too much');
    tap('to-needs');
    press('Rules of thumb again');
    expect(zone().needs).toEqual({});
  });

  test('rock, panes and lid change the tank and are refused when they make no sense', async () => {
    routeAt('/tank', { open: 'rock' });
    show(Tank);
    tap('add-rock');
    fireEvent.change(screen.getByTestId('rock-top'), { target: { value: '60' } });
    tap('keep-rock');
    expect(screen.getByText('▲ Give 0 to 49 cm.')).toBeTruthy();
    fireEvent.change(screen.getByTestId('rock-top'), { target: { value: '20' } });
    tap('keep-rock');
    expect(zone().tank.solids).toMatchObject([{ shape: 'mound', topCm: 20, bottomCm: 50 }]);
    fireEvent.click(
      within(screen.getByRole('radiogroup', { name: 'Back' })).getByRole('radio', { name: /painted/ }),
    );
    expect(zone().tank.walls.back).toBe(0);
    fill('lid', '140');
    expect(screen.getByText('▲ Give 0 to 100 %.')).toBeTruthy();
    fill('lid', '85');
    expect(zone().tank.lidShare).toBe(0.85);
    choose('strong ripples');
    expect(zone().rippleSlope).toBe(0.12);
    await charted('top');
  });

  test('yellow water by card and by days, and what fresh carbon would do', async () => {
    routeAt('/tank', { open: 'water' });
    show(Tank);
    await charted('top');
    await waitFor(() => expect(text('carbon-word')).toContain('The largest step would be'));
    choose('Weak tea');
    tap('take-card');
    expect(zone().water.yellow440PerM).toBeCloseTo((0.7 * 60) / 150, 3);
    fireEvent.change(screen.getByTestId('carbon-days'), { target: { value: '-3' } });
    tap('take-days');
    expect(screen.getByText('▲ Give 0 to 2000 days.')).toBeTruthy();
    fireEvent.change(screen.getByTestId('carbon-days'), { target: { value: '20' } });
    tap('take-days');
    expect(zone()).toMatchObject({ carbonDate: '2026-11-04', water: { yellow440PerM: 0.13 } });
    await waitFor(() => expect(text('yellow-now')).toContain('0.13 per metre'));
  });

  test('an optic comes from a photometric file; a bad one is refused with its line', async () => {
    routeAt('/case');
    show(Case);
    press(/^Edit .*panel/i);
    pick.mockResolvedValueOnce({ name: 'broken.ies', text: 'IESNA:LM-63-2002\nTILT=NONE\n1 1000 1 2 1 2\n' });
    tap('read-optic');
    await waitFor(() =>
      expect(text('optic-problem')).toMatch(/broken\.ies was not taken: line 3: the photometric type is B/),
    );
    const good =
      'IESNA:LM-63-2002\n[LUMINAIRE] Lens 80\nTILT=NONE\n1 1 1 3 1 1 2 0 0 0\n1 1 9\n0 40 90\n0\n10 5 0\n';
    pick.mockResolvedValueOnce({ name: 'good.ies', text: good });
    tap('read-optic');
    await waitFor(() => expect(text('optic')).toContain('Lens 80'));
    fireEvent.change(screen.getByTestId('diffuser'), { target: { value: '20' } });
    tap('save-lamp');
    await waitFor(() =>
      expect(doc().lampKinds[0]).toMatchObject({ optic: must(parseIes(good)), diffuserShare: 0.2 }),
    );
  });
});

describe('Readings', () => {
  test('walks the spots with big keys, several tries each, and refuses what is no reading', async () => {
    await startWalk();
    tap('next-place');
    expect(screen.getByText(/▲ Type a reading first/)).toBeTruthy();
    for (const key of ['2', '9', '9', '9', '9', '9']) tap(`key-${key}`);
    tap('another-try');
    expect(screen.getByText(/▲ More µmol than the sun gives/)).toBeTruthy();
    for (let i = 0; i < 6; i += 1) tap('key-back');
    for (const key of ['2', '3', '0']) tap(`key-${key}`);
    tap('another-try');
    expect(text('walk-tries')).toBe('1 try: 230. Median 230.');
    // by keyboard as well
    for (const key of ['2', '4', '1', '.', '5']) fireEvent.keyDown(document, { key });
    expect(text('walk-value')).toBe('241.5');
    fireEvent.keyDown(document, { key: 'Backspace' });
    fireEvent.keyDown(document, { key: 'Enter' });
    expect(text('walk-tries')).toContain('No try here yet');
    const session = sessions()[0]!;
    expect(session.readings).toMatchObject([{ name: 'Copper table', tries: [230, 241] }]);
    expect(session.rig![0]!.lamps).toHaveLength(2);
    press('Place before');
    expect(text('walk-tries')).toBe('2 tries: 230, 241. Median 236, spread 11.');
    tap('change-lit');
    choose('Violet alone');
    fill('lit-share', '0');
    expect(screen.getByText(/▲ Give above 0/)).toBeTruthy();
    fill('lit-share', '50');
    await waitFor(() => expect(text('walk-lit')).toBe('Lit: Violet alone at 50 %'));
    expect(text('walk-tries')).toContain('No try here yet');
  });

  test('a first reading that is not what was expected is asked about before it is kept', async () => {
    // yesterday's lamps stood at full: a new session asks anew
    changeSettings({ readings: { ...useSettings.getState().readings, lit: 'full' } });
    await startWalk();
    expect(text('walk-lit')).toMatch(/^Lit: The day now/);
    const expected = () => Number(/expects (\d+)/.exec(text('walk-expected'))![1]);
    const now = expected();
    act(() => changeSettings({ readings: { ...useSettings.getState().readings, lit: 'full' } }));
    await waitFor(() => expect(expected()).toBeGreaterThan(1.4 * now));
    const full = expected();
    act(() => changeSettings({ readings: { ...useSettings.getState().readings, lit: 'now' } }));
    await waitFor(() => expect(expected()).toBe(now));
    for (const key of String(full)) tap(`key-${key}`);
    tap('next-place');
    expect(text('walk-doubt')).toContain(`▲ ${now} µmol expected, ${full} read. Is something else lit?`);
    expect(sessions()[0]!.readings).toEqual([]);
    // one tap says what is lit; what was typed is still there
    tap('likely-full');
    await waitFor(() => expect(expected()).toBe(full));
    expect(text('walk-value')).toBe(String(full));
    tap('next-place');
    expect(sessions()[0]!.readings).toMatchObject([{ name: 'Copper table', tries: [full] }]);
    // only the first is asked about
    for (const key of '9') tap(`key-${key}`);
    tap('next-place');
    expect(sessions()[0]!.readings).toHaveLength(2);
  });

  test('what is as it was said is kept as it was read', async () => {
    await startWalk();
    for (const key of '31') tap(`key-${key}`);
    tap('another-try');
    expect(text('walk-doubt')).toMatch(/expected, 31 read/);
    tap('keep-doubted');
    expect(text('walk-tries')).toBe('1 try: 31. Median 31.');
    expect(screen.queryByTestId('walk-doubt')).toBeNull();
  });

  test('a simulated session calibrates; one tap shows what it changed; it says that it is made up', async () => {
    await startWalk(true);
    for (let i = 0; i < 5; i += 1) {
      tap('simulate');
      await waitFor(() => expect(text('walk-tries')).toMatch(/^1 try/));
      if (i < 4) tap('next-place');
    }
    expect(sessions()[0]!.meter.simulated).toBe(true);
    show(CalibrationPage);
    await waitFor(() => expect(text('calibration-sentence')).toContain('5 readings fitted.'));
    expect(screen.getByText(/every figure now follows a made-up truth/)).toBeTruthy();
    tap('what-changed');
    await waitFor(() => expect(text('changed')).toMatch(/Copper table\d+ ± 5\d %→ \d+ ± \d+ %/));
    expect(text('parameters')).toMatch(/Royal blue\d\.\d\d ×± 0\.\d\d/);
    expect(text('visit')).toMatch(/^In 10 minutes .*(narrow|fall)/);
    expect(text('residuals')).toContain('standard deviations');
    press(/^Set aside/);
    await waitFor(() => expect(text('calibration-sentence')).toContain('No reading counts yet'));
  });

  test('before and after needs two sessions at the same places', async () => {
    show(BeforeAfterPage);
    expect(screen.getByText(/There is none yet/)).toBeTruthy();
  });

  test('a list is read in as a session; bad lines are named and nothing is taken', async () => {
    routeAt('/readings');
    show(Readings);
    pick.mockResolvedValueOnce({ name: 'bad.csv', text: 'spot;PAR\nCopper table;much\nMoss branch;-3\n' });
    tap('import-readings');
    await waitFor(() => expect(text('csv-problems')).toContain('line 2: "much" under "PAR" is no number'));
    expect(text('csv-problems')).toContain('line 3');
    expect(sessions()).toEqual([]);
    pick.mockResolvedValueOnce({
      name: 'evening.csv',
      text: 'spot;PAR (µmol)\nCopper table;231,5\nNowhere;100\n',
    });
    tap('import-readings');
    await waitFor(() => expect(screen.getByTestId('keep-list')).toBeTruthy());
    tap('keep-list');
    expect(screen.getByText(/line 3: "Nowhere" is no spot of this tank/)).toBeTruthy();
    expect(screen.getByText(/choose a meter that shows µmol/)).toBeTruthy();
    expect(sessions()).toEqual([]);
    press('Done');
    pick.mockResolvedValueOnce({
      name: 'evening.csv',
      text: 'spot;x;y;depth;PAR 1;PAR 2;level: Panels / Violet (%)\nCopper table;;;;231,5;229;50\nRock;20;20;30;120;;50\n',
    });
    tap('import-readings');
    await waitFor(() => expect(screen.getByTestId('keep-list')).toBeTruthy());
    choose('Quantum meter, full spectrum');
    tap('keep-list');
    expect(sessions()[0]).toMatchObject({
      name: 'evening',
      readings: [
        { spotId: 'demo-copper', tries: [231.5, 229], levels: { 'demo-panels': { violet: 0.5, blue: 0 } } },
        { spotId: null, name: 'Rock', xCm: 20, depthCm: 30, tries: [120] },
      ],
    });
  });
});
