import { act, screen, waitFor, within } from '@testing-library/react';

import type { LogEvent } from '@/core/record/log';
import type { Spot, Zone } from '@/core/record/zone';
import { undo, useSession } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';

import { Algae } from './algae/Algae';
import { Sizing } from './algae/Sizing';
import { Which } from './algae/Which';
import { Case } from './case/Case';
import { Corals } from './corals/Corals';
import { Around } from './day/Around';
import { Day } from './day/Day';
import { FitPage } from './day/Fit';
import { Ease } from './ease/Ease';
import { Hours } from './hours/Hours';
import { Log } from './log/Log';
import { Mix } from './mix/Mix';
import { Rescue } from './rescue/Rescue';
import { Strip } from './shell/Places';
import {
  choose,
  doc,
  edit,
  fill,
  freshPlaces,
  open,
  press,
  show,
  tap,
  text,
  wholeDemo,
  onZone,
} from './test/kit';
import { offered } from './test/files';
import type * as Files from './test/files';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';
import { Tank } from './tank/Tank';
import { Today } from './today/Today';
import { Upkeep } from './upkeep/Upkeep';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);

freshPlaces();
beforeEach(async () => {
  routeAt();
  await open(wholeDemo());
  act(() => changeSettings({ zoneId: 'demo-sump-zone' }));
});

const log = () => useSession.getState().bundle!.log.events;
const sump = (): Zone => doc().zones.find((z) => z.id === 'demo-sump-zone')!;
const onSump = (change: (z: Zone) => Zone) =>
  edit(onZone((z) => (z.id === 'demo-sump-zone' ? change(z) : z)));
const onMat = (change: Partial<Spot>) =>
  onSump((z) => ({ ...z, spots: z.spots.map((s) => ({ ...s, ...change })) }));
const logged = (...events: LogEvent[]) => edit((b) => ({ ...b, log: { ...b.log, events } }));

describe('Algae', () => {
  test('light over the mat, what of it feeds, the judgement with its odds, and what was taken out', async () => {
    show(Algae);
    await waitFor(() =>
      expect(text('mat-Green tangle')).toMatch(
        /^\d\d\d µmol over it at its brightest, \d+ to \d+; it wants 80 to 350\.$/,
      ),
    );
    expect(text('algae-sentence')).toBe('Green tangle puts on 8.5 g a day, as such a mat does.');
    expect(text('fit-Green tangle')).toMatch(/^A green tangle can use 8\d % of this light/);
    expect(text('verdict-Green tangle')).toMatch(/^Nothing wanting\. It grows as such a mat does/);
    const odds = within(screen.getByTestId('odds-Green tangle')).getAllByRole('img');
    expect(odds[0]!.getAttribute('aria-label')).toMatch(/^nothing wanting: 9\d %$/);
    // never certain
    expect(odds[1]!.getAttribute('aria-label')).toMatch(/^something else: \d+ %$/);
    expect(text('taken-Green tangle')).toMatch(
      /^60 g wet a week by 4 harvests over 56 days: 0\.10–0\.36 g nitrogen.*1\.0–3\.8 ppm nitrate/,
    );
    expect(text('share-redLeaf')).toMatch(/^1\d %$/);
    expect(screen.queryByTestId('overlit-Green tangle')).toBeNull();
  });

  test('an overlit red is flagged with how far down or away it should go', async () => {
    onMat({ algaId: 'redLeaf' });
    show(Algae);
    await waitFor(() =>
      expect(text('overlit-Green tangle')).toMatch(
        /^Overlit: \d+ µmol is more than a red leaf takes \(100\)\. Reds bleach.*(\d+ cm deeper|Nowhere near)/,
      ),
    );
    expect(text('algae-sentence')).toBe(
      'Green tangle gets more light than it takes: move it or dim the lamp.',
    );
    expect(text('fit-Green tangle')).toMatch(/against \d\d % of daylight white/);
  });

  test('near-pure blue over algae is refused with its share; an alga that nobody named is asked for', async () => {
    const blue = wholeDemo();
    const kind = blue.case.lampKinds.find((k) => k.id === 'demo-sump-lamp')!;
    const own = {
      ...kind,
      channels: [
        {
          ...kind.channels[0]!,
          groups: [{ light: { shape: 'line' as const, peakNm: 455, fwhmNm: 20 }, count: 16, wattsEach: 2 }],
        },
      ],
    };
    await open({
      ...blue,
      case: { ...blue.case, lampKinds: blue.case.lampKinds.map((k) => (k.id === kind.id ? own : k)) },
      history: {
        ...blue.history,
        entries: blue.history.entries.map((e) => (e.lampKind.id === kind.id ? { ...e, lampKind: own } : e)),
      },
    });
    show(Algae);
    await waitFor(() =>
      expect(text('fit-Green tangle')).toMatch(
        /^Near-pure blue is no light for a green tangle: it can use \d\d %/,
      ),
    );
    expect(text('algae-sentence')).toMatch(/cannot live well on this light: it is near-pure blue/);
    onMat({ algaId: null });
    expect(text('algae-sentence')).toBe('Which alga Green tangle is has not been said yet.');
    press(/^About Grape-like green$/);
    press('Green tangle is this one');
    expect(sump().spots[0]!.algaId).toBe('grapeGreen');
  });

  test('a harvest: bad grams are named, what it took is said, kept, and taken back', async () => {
    show(Algae);
    tap('algae-harvest');
    tap('keep-event');
    expect(screen.getByText('▲ Give grams from 0 on.')).toBeTruthy();
    fill('harvest-wet', '400');
    expect(text('harvest-live')).toMatch(
      /^That is 0\.6–2\.4 g of nitrogen and 0\.03–0\.18 g of phosphorus: \d+–\d+ ppm nitrate.*of 420 l\.$/,
    );
    choose('lifted out, still dripping');
    expect(text('harvest-live')).toMatch(/^That is 0\.4–1\.8 g/);
    fill('harvest-left', '-3');
    tap('keep-event');
    expect(screen.getByText('▲ Give grams from 0 on, or leave it empty.')).toBeTruthy();
    fill('harvest-left', '');
    tap('keep-event');
    expect(log().at(-1)).toMatchObject({
      kind: 'harvest',
      wetG: 400,
      drained: 'dripping',
      leftG: null,
      spotId: 'demo-tangle',
    });
    act(() => undo());
    expect(log().at(-1)).not.toMatchObject({ wetG: 400 });
  });

  test('a water test: at least one of two, within bounds', () => {
    show(Algae);
    tap('algae-test');
    tap('keep-event');
    expect(screen.getByText('▲ Give at least one of them.')).toBeTruthy();
    fill('test-nitratePpm', '5000');
    tap('keep-event');
    expect(screen.getByText('▲ Give 0 to 1000 ppm, or nothing.')).toBeTruthy();
    fill('test-nitratePpm', '');
    fill('test-phosphatePpm', '0,04');
    tap('keep-event');
    expect(log().at(-1)).toMatchObject({ kind: 'test', nitratePpm: null, phosphatePpm: 0.04 });
  });

  test('flow: answers change what is said, and why', () => {
    show(Algae);
    expect(text('flow-words')).toContain('Under a baffle');
    tap('flow-open');
    choose('it hardly moves');
    expect(text('flow-words')).toContain('Hardly any water moves over it');
    tap('flow-screened');
    expect(sump().flow).toMatchObject({ way: 'still', screened: false });
    fill('flow-drainsL', '40');
    expect(text('flow-words')).toMatch(/It would run over by \d+ cm/);
    fill('flow-turnsPerHour', '');
    expect(text('flow-words')).toContain('Turns an hour are not known');
    fill('flow-headroomCm', 'abc');
    expect(screen.getByText(/Give 0 to 300 cm, or nothing/)).toBeTruthy();
  });

  test('an empty water says what will be here, and a mat is added with its alga and size', async () => {
    onSump((z) => ({ ...z, spots: [], groups: [] }));
    logged();
    show(Algae);
    expect(text('algae-sentence')).toMatch(/^No algae and no lamp are known here yet/);
    expect(screen.getByText(/Here will stand what the algae took out/)).toBeTruthy();
    tap('algae-add');
    choose('Red bush');
    fill('mat-length', '90');
    tap('keep-spot');
    expect(screen.getByText(/at most the box \(45 × 35 cm\)/)).toBeTruthy();
    fill('mat-length', '30');
    tap('keep-spot');
    expect(sump().spots[0]).toMatchObject({
      need: 'macroalgae',
      algaId: 'redBush',
      mat: { lengthCm: 30, widthCm: 28 },
    });
    expect(text('algae-sentence')).toBe('No lamp hangs over these algae yet.');
  });
});

describe('the other pages of a refugium', () => {
  test('Today and Tank speak of an alga; the other water is summed up in a line', async () => {
    show(Today);
    await waitFor(() => expect(text('today-sentence')).toMatch(/^Green tangle is within what it is used to/));
    expect((await screen.findByTestId('today-sign')).textContent).toBe('An alga looks …');
    await waitFor(() =>
      expect(text('today-algae')).toBe('Green tangle puts on 8.5 g a day, as such a mat does.'),
    );
    press('Algae of this water');
    expect(navigate).toHaveBeenCalledWith('/algae');
    await waitFor(() =>
      expect(text('water-Display')).toBe('lit until 20:10 · peak 250 µmol at Copper table'),
    );
    press('Show Display');
    expect(useSettings.getState().zoneId).toBe('demo-display');
    await waitFor(() =>
      expect(text('water-Refugium')).toMatch(/^dark until 19:30 · peak \d+ µmol at Green tangle$/),
    );
  });

  test('the tank has one alga with what it wants', async () => {
    show(Tank);
    await waitFor(() =>
      expect(text('tank-sentence')).toBe(
        'At the day’s brightest, as it runs: perhaps too much at Green tangle.',
      ),
    );
  });

  test('the log knows harvests, tests and chores; a test stands in the log of every water', async () => {
    show(Log);
    choose('Harvests');
    expect(screen.getAllByTestId('line-harvest')).toHaveLength(5);
    choose('Upkeep');
    expect(screen.getAllByTestId('line-chore')).toHaveLength(4);
    tap('log-sign');
    expect(screen.getByText('What an alga shows')).toBeTruthy();
    expect(screen.queryByTestId('sign-polypsIn')).toBeNull();
    await waitFor(() => {
      if (!screen.queryByTestId('sign-advice')) tap('sign-paling');
      expect(text('sign-advice')).toMatch(
        /^Pale, and the light has not risen lately: hungry water pales algae/,
      );
    });
    tap('sign-done');
    act(() => changeSettings({ zoneId: 'demo-display' }));
    choose('Tests');
    expect(screen.getAllByTestId('line-test')).toHaveLength(5);
    expect(screen.queryByTestId('log-harvest')).toBeNull();
    press(/Water test: nitrate 9 ppm, phosphate 0\.07 ppm/);
    fill('test-nitratePpm', '8');
    tap('keep-event');
    expect(log().find((e) => e.id === 'demo-test-5')).toMatchObject({
      nitratePpm: 8,
      zoneId: 'demo-sump-zone',
    });
  });

  test('what grew in shorter days is judged by those, and the keeper is told so', async () => {
    show(Algae);
    await waitFor(() => expect(text('verdict-Green tangle')).toMatch(/^Nothing wanting/));
    expect(document.body.textContent).not.toContain('grew in another light');
    // half the hours until a week ago
    edit((b) => ({
      ...b,
      history: {
        ...b.history,
        entries: b.history.entries.flatMap((e) => {
          if (e.zoneId !== 'demo-sump-zone') return [e];
          const [on, off] = [1200, 120];
          const short = e.threads.map((t, i) => ({ ...t, minute: i === 0 ? on : off }));
          return [
            { ...e, id: `${e.id}-short`, threads: short },
            { ...e, atUtc: new Date(Date.now() - 7 * 86_400_000).toISOString() },
          ];
        }),
      },
    }));
    await waitFor(() =>
      expect(document.body.textContent).toMatch(
        /What you weighed grew in another light than today’s, about 100 % as strong for 6 h( 30 min)? a day: that is counted in/,
      ),
    );
  });

  test('hours: half the clock falls into the dark; a red does not take the whole clock', async () => {
    show(Hours);
    // its timer kept summer time
    expect(text('hours-sentence')).toBe(
      'Refugium is lit 12 h a day, 40 min of it together with Display; for 1 h 10 min nothing is lit.',
    );
    expect(text('hours-plan')).toMatch(/^On at 20:30, off at 08:30: never together with Display/);
    expect(screen.getByTestId('hours-take').getAttribute('aria-disabled')).toBe('true');
    expect(text('hours-take')).toBe('Drafted already');
    press('Hours lit a day up');
    press('Hours lit a day up');
    expect(text('hours-plan')).toMatch(/^On at 19:30, off at 09:30: 1 h 30 min together with Display/);
    onMat({ algaId: 'redLeaf' });
    choose('Round the clock');
    expect(screen.getByText('Red leaf does not take 24 h: it needs its night.')).toBeTruthy();
    tap('hours-take');
    expect(sump().groups[0]!.threads).toHaveLength(1);
    act(() => undo());
    expect(sump().groups[0]!.threads).toHaveLength(2);
    // with two displays it has both to avoid
    expect(screen.getByText('Light Refugium while Display is dark')).toBeTruthy();
    edit((b) => ({
      ...b,
      case: {
        ...b.case,
        zones: [
          ...b.case.zones,
          {
            ...b.case.zones[0]!,
            id: 'second',
            name: 'Shelf',
            spots: [],
            groups: b.case.zones[0]!.groups.map((g) => ({ ...g, id: 'second-group' })),
          },
        ],
      },
    }));
    expect(screen.getByText('Light Refugium while Display and Shelf are dark')).toBeTruthy();
    act(() => undo());
    // a display keeps the shape of its day
    act(() => changeSettings({ zoneId: 'demo-display' }));
    expect(screen.getByText(/This water is looked at: its day is shaped thread by thread/)).toBeTruthy();
    expect(screen.queryByTestId('hours-take')).toBeNull();
  });

  test('upkeep: due dates, done, undone, another interval, and a lens as light given back', async () => {
    show(Upkeep);
    expect(text('upkeep-sentence')).toBe('Due: lens and splash guard.');
    tap('upkeep-calendar');
    const dates = await offered('upkeep.ics');
    expect(dates).toMatch(/SUMMARY:Lens and splash guard\\, Refugium/);
    expect(dates).toContain('RRULE:FREQ=DAILY;INTERVAL=21');
    expect(dates.match(/BEGIN:VEVENT/g)).toHaveLength(7);
    expect(text('hours-lit')).toMatch(/^Lit since first typed in: Sump lamp about 900 h\.$/);
    expect(dates).toMatch(/BEGIN:VALARM[\s\S]*TRIGGER;RELATED=START:PT9H/);
    expect(text('due-salt')).toBe('in 12 days');
    fill('every-salt', '0');
    expect(screen.getByText(/Give 1 to 3650 whole days/)).toBeTruthy();
    fill('every-salt', '30');
    expect(text('due-salt')).toBe('in 21 days');
    tap('done-residual');
    expect(log().at(-1)).toMatchObject({ kind: 'chore', chore: 'residual' });
    expect(text('due-residual')).toBe('in 90 days');
    tap('undone-residual');
    expect(text('due-residual')).toBe('in 50 days');
    tap('later-lens');
    expect(text('due-lens')).toBe('in 7 days');
    expect(screen.getByText(/Put off until Tue 1 Dec\.$/)).toBeTruthy();
    tap('done-lens');
    fill('lens-gain', '5');
    tap('keep-event');
    expect(log().at(-1)).toMatchObject({ kind: 'lens', gainShare: 0.05 });
    expect(text('due-lens')).toBe('in 14 days');
    onSump((z) => ({ ...z, groups: [], id: z.id }));
    edit((b) => ({ ...b, history: { ...b.history, entries: [] } }));
    expect(text('upkeep-sentence')).toBe('Nothing runs here yet, so nothing is due.');
  });
});

describe('wording and the strip', () => {
  test('Mix tells what of the light feeds the alga, and no warning that only corals need', async () => {
    show(Mix);
    await waitFor(() => expect(text('figures')).toContain('Feeds a mat of green tangle83 % of PAR'));
    expect(screen.queryByTestId('mix-warnings')).toBeNull();
    onMat({ algaId: 'redLeaf' });
    expect(text('mix-warnings')).toMatch(
      /A red leaf can use 1\d % of this light, against \d\d % of daylight white/,
    );
    act(() => changeSettings({ zoneId: 'demo-display', groupId: null, plateId: null, spotId: null }));
    await waitFor(() => expect(text('figures')).toContain('Usable share (PUR/PAR)'));
  });

  test('cautions speak of who lives there, and of hours where nothing can be capped', async () => {
    show(Ease);
    await waitFor(() =>
      expect(
        screen.getByText(/^Set its hours before it hangs over algae: it is at full strength/),
      ).toBeTruthy(),
    );
    act(() => changeSettings({ zoneId: 'demo-display' }));
    await waitFor(() =>
      expect(screen.getByText(/^Set the cap before this lamp hangs over corals/)).toBeTruthy(),
    );
  });

  test('the sheet and the day speak of who lives there', async () => {
    show(Day);
    await waitFor(() => expect(screen.getByTestId('gives-fold')).toBeTruthy());
    tap('gives-fold');
    await waitFor(() =>
      expect(text('gives')).toMatch(/h above 150 µmol, where a green tangle is about saturated/),
    );
    onMat({ algaId: 'brownBlade' });
    expect(text('gives')).toMatch(/h above 130 µmol, where a brown blade is about saturated/);
  });

  test('every place speaks of algae, and of a lamp that is on or off', async () => {
    const one = show(Today);
    await waitFor(() =>
      expect(text('today-sentence')).toBe(
        'Green tangle is within what it is used to; perhaps too much for it. The lamp runs as typed in 75 days ago.',
      ),
    );
    await waitFor(() => expect(screen.getByTestId('today-sign')).toBeTruthy());
    expect(screen.queryByTestId('today-befell')).toBeNull();
    one.unmount();
    const two = show(Rescue);
    expect(screen.getByText(/a mat grows again from little/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Log what an alga shows' })).toBeTruthy();
    expect(screen.queryByText(/skeleton/)).toBeNull();
    two.unmount();
    const three = show(Around);
    await waitFor(() => expect(text('interlude-sentence')).toContain('as a camera wants it: On; then'));
    tap('add-interlude');
    expect(sump().groups[0]!.extras?.interludes?.[0]).toMatchObject({ strengthShare: 1 });
    three.unmount();
    const four = show(Corals);
    await waitFor(() => expect(text('corals-says')).toMatch(/^No coral lives here/));
    four.unmount();
    show(Log);
    await waitFor(() =>
      expect(
        screen.getByText('Sump lamp: first typed in, 2 threads; who lives here was used to it'),
      ).toBeTruthy(),
    );
  });

  test('the strip chooses the water, and another one is another lamp, mix and spot', () => {
    act(() => changeSettings({ spotId: 'demo-tangle', groupId: 'demo-sump-group' }));
    show(Strip);
    expect(screen.getByRole('radio', { name: 'Refugium' }).getAttribute('aria-checked')).toBe('true');
    choose('Display');
    expect(useSettings.getState()).toMatchObject({
      zoneId: 'demo-display',
      spotId: null,
      groupId: null,
      plateId: null,
    });
    expect(screen.getByRole('radio', { name: 'Display' }).getAttribute('aria-checked')).toBe('true');
  });

  test('a water without lamps says on every page what it needs', () => {
    onSump((z) => ({ ...z, groups: [] }));
    for (const Place of [Day, Mix, FitPage]) {
      const { unmount } = show(Place);
      expect(screen.getByText(/No lamp hangs over this water yet/)).toBeTruthy();
      press('Add a lamp');
      expect(navigate).toHaveBeenLastCalledWith('/case');
      press('Start my tank');
      expect(navigate).toHaveBeenLastCalledWith('/start');
      unmount();
    }
    show(Hours);
    expect(text('hours-sentence')).toBe('No lamp hangs over Refugium yet.');
    expect(text('lit-Refugium')).toBe('no lamp');
  });

  test('hours of a water that only stands as a draft are told apart', () => {
    edit((b) => ({
      ...b,
      history: { ...b.history, entries: b.history.entries.filter((e) => e.zoneId !== 'demo-sump-zone') },
    }));
    show(Hours);
    expect(text('lit-Refugium')).toBe('20:30–08:30 · 12 h · drafted, not running');
    expect(text('lit-Display')).toBe('08:40–20:10 · 11 h 30 min');
  });
});

describe('setting up', () => {
  test('which tank: purpose and alga lead to a family; a water with a lamp, a mat and its night', async () => {
    show(Which);
    expect(text('which-sentence')).toMatch(/^Red and blue\. Nobody looks/);
    expect(text('family-blue')).toMatch(/^57 % of its light feeds/);
    expect(screen.queryByTestId('take-blue')).toBeNull();
    tap('take-daylight');
    fill('which-length', '4');
    tap('which-look');
    expect(screen.getByText('▲ Give 5 to 1000 cm.')).toBeTruthy();
    fill('which-length', '40');
    tap('which-look');
    await waitFor(() => expect(screen.getByTestId('set-up-0')).toBeTruthy());
    tap('set-up-0');
    const made = doc().zones[2]!;
    expect(made).toMatchObject({ name: 'Refugium 2', kind: 'refugium', tank: { lengthCm: 40 } });
    expect(made.spots[0]).toMatchObject({ need: 'macroalgae', algaId: 'greenTangle', mat: { lengthCm: 34 } });
    const kind = doc().lampKinds.find((k) => k.id === made.groups[0]!.lampKindId)!;
    expect(kind).toMatchObject({ name: 'Daylight refugium lamp', controller: { name: 'Wall timer' } });
    // in the dark of the display, not of the other refugium
    expect(made.groups[0]!.threads.map((t) => [t.minute, t.strengthShare])).toEqual([
      [20 * 60 + 30, 1],
      [8 * 60 + 30, 0],
    ]);
    expect(navigate).toHaveBeenCalledWith('/ease');
    act(() => undo());
    expect(doc().zones).toHaveLength(2);
  });

  test('algae as the show and among corals: daylight, and a spot in the water on the desk', async () => {
    routeAt('/', { for: 'show', alga: 'redBush' });
    show(Which);
    expect(text('which-sentence')).toMatch(/^Daylight white\. Algae are seen by what they send back/);
    tap('which-look');
    await waitFor(() => expect(screen.getByTestId('set-up-0')).toBeTruthy());
    tap('set-up-0');
    const shown = doc().zones[2]!;
    expect(shown).toMatchObject({ name: 'Planted display', kind: 'planted', tank: { lengthCm: 80 } });
    // lit with the display, when somebody looks: about its middle
    expect(shown.groups[0]!.threads.map((t) => t.minute)).toEqual([8 * 60 + 30, 20 * 60 + 30]);
    act(() => undo());
    choose('Some algae among corals');
    expect(text('which-sentence')).toMatch(/^Reef lamp with real white and red/);
    act(() => changeSettings({ zoneId: 'demo-display' }));
    // the display's own light, before any alga stands in it
    await waitFor(() => expect(text('among-fit')).toMatch(/^At Copper table: .*a red bush can use \d\d % /i));
    tap('among-spot');
    expect(doc().zones[0]!.spots.at(-1)).toMatchObject({ need: 'macroalgae', algaId: 'redBush' });
    expect(navigate).toHaveBeenCalledWith('/algae');
  });

  test('what was found is no answer to another family, role, box or alga, and a name is not given twice', async () => {
    show(Which);
    tap('which-look');
    await waitFor(() => expect(screen.getByTestId('set-up-0')).toBeTruthy());
    choose('main filter');
    expect(screen.queryByTestId('set-up-0')).toBeNull();
    choose('helper');
    expect(screen.getByTestId('set-up-0')).toBeTruthy();
    tap('take-reef');
    expect(screen.queryByTestId('set-up-0')).toBeNull();
    tap('which-look');
    await waitFor(() => expect(screen.getByTestId('set-up-0')).toBeTruthy());
    // typed since, not looked for
    fill('which-length', '90');
    expect(screen.queryByTestId('set-up-0')).toBeNull();
    fill('which-length', '45');
    fill('which-name', 'Display');
    expect(screen.getByText('▲ Another water of this case has that name.')).toBeTruthy();
    tap('set-up-0');
    expect(doc().zones).toHaveLength(2);
    fill('which-name', 'Shelf');
    tap('set-up-0');
    const made = doc().zones[2]!;
    expect(made.tank.lengthCm).toBe(45);
    expect(doc().lampKinds.find((k) => k.id === made.groups[0]!.lampKindId)!.name).toMatch(
      /nine-channel panel/,
    );
  });

  test('a display that is blue alone says so before algae are put into it', async () => {
    const whole = wholeDemo();
    const blue = { 'royal-blue': 1, blue: 0.8 };
    await open({
      ...whole,
      history: {
        ...whole.history,
        entries: whole.history.entries.map((e) => ({
          ...e,
          threads: e.threads.map((t) => (t.mixName === 'On' ? t : { ...t, mix: blue })),
        })),
      },
    });
    act(() => changeSettings({ zoneId: 'demo-display' }));
    routeAt('/', { for: 'among', alga: 'greenTangle' });
    show(Which);
    await waitFor(() =>
      expect(text('among-fit')).toMatch(/Near-pure blue is no light for a green tangle: it can use \d\d %/),
    );
    press('Lamps of the library');
    expect(navigate).toHaveBeenCalledWith('/lamps');
  });

  test('size the light: lamps over the mat, one is hung and goes to be eased in; the outlook knows feeding', async () => {
    show(Sizing);
    expect(text('sizing-sentence')).toBe(
      'A main filter of green tangle wants about 242 µmol over the mat, nowhere above 350.',
    );
    tap('set-size-up');
    fill('size-room', '900');
    expect(screen.getByText(/Give 1 to 200 cm/)).toBeTruthy();
    tap('find-lamps');
    await waitFor(() => expect(screen.getByTestId('way-0')).toBeTruthy());
    expect(text('way-0')).toMatch(/cm up · .*µmol · \d\d % of its light misses the mat/);
    choose('helper');
    expect(screen.getByText('What stands below was found for what was asked before.')).toBeTruthy();
    expect(text('several')).toMatch(/^Several small against one strong: .*least over mean 0\.\d\d/);
    await waitFor(() =>
      expect(text('expected')).toMatch(
        /ppm nitrate and .* ppm phosphate a week, from \d+–\d+ g wet a day, likely \d/,
      ),
    );
    fill('system-litres', '');
    expect(doc().system!.litres).toBeNull();
    expect(screen.getByText('empty = 423 l, from the boxes')).toBeTruthy();
    fill('system-litres', '300');
    expect(doc().system!.litres).toBe(300);
    press(/^1 Red-and-blue lamp: /);
    expect(text('way-taken')).toMatch(/^It would take out .* ppm nitrate and .* ppm phosphate a week\. /);
    tap('hang-way');
    expect(sump().groups).toHaveLength(2);
    expect(navigate).toHaveBeenCalledWith('/ease');
  });

  test('waters on Case: named, of a kind, of a size, removed with all of theirs, and back', () => {
    show(Case);
    press('Water Refugium');
    fill('water-name', 'Display');
    tap('keep-water');
    expect(screen.getByText('▲ Another water of this case has that name.')).toBeTruthy();
    fill('water-name', 'Night garden');
    choose(/^planted display:/);
    tap('keep-water');
    expect(sump()).toMatchObject({ name: 'Night garden', kind: 'planted' });
    tap('add-water');
    fill('water-name', 'Shelf');
    fill('water-length', '2');
    tap('keep-water');
    expect(screen.getByText('▲ Give 5 to 1000 cm.')).toBeTruthy();
    fill('water-length', '60');
    tap('keep-water');
    const shelf = doc().zones.at(-1)!;
    expect(shelf).toMatchObject({ name: 'Shelf', kind: 'refugium', tank: { lengthCm: 60 } });
    expect(useSettings.getState().zoneId).toBe(shelf.id);
    press('Water Night garden');
    tap('remove-water');
    expect(doc().zones.map((z) => z.name)).toEqual(['Display', 'Shelf']);
    expect(log().every((e) => e.kind === 'test' && e.zoneId === 'demo-display')).toBe(true);
    act(() => undo());
    expect(log().filter((e) => e.kind === 'harvest')).toHaveLength(5);
  });
});
