import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';

import { FORMS } from '@/core/coral/form';
import type { Reckoner } from '@/workers/service';
import { setEvent } from '@/state/commands/log';
import { run, undo, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';

import { Corals } from './corals/Corals';
import { Design } from './design/Design';
import { Mix } from './mix/Mix';
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
  onZone,
} from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';
import { Today } from './today/Today';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
let mockDesign: Reckoner['design'] | null = null;
jest.mock('@/workers/client', () => {
  const real = jest.requireActual<{ reckoner: () => Reckoner }>('../workers/client.ts');
  return {
    reckoner: (): Reckoner => {
      const all = real.reckoner();
      return mockDesign ? { ...all, design: mockDesign } : all;
    },
  };
});

freshPlaces();
beforeEach(() => {
  routeAt();
  mockDesign = null;
});

const spot = (name: string) => doc().zones[0]!.spots.find((s) => s.name === name)!;

describe('Corals', () => {
  test('every coral with its glow, the band that feeds it, and what the stock asks for', async () => {
    show(Corals);
    await waitFor(() =>
      expect(text('corals-says')).toMatch(/^5 corals seen. Their colours are far apart: spread \d+/),
    );
    for (const name of ['Copper table', 'Plum table', 'Moss branch', 'Slate plate', 'Straw polyp'])
      expect(text(`glow-${name}`)).toMatch(/^\d+ % glow\s*most from \w+/);
    expect(text('advice-white')).toMatch(/plainly seen with about \d+ % of PAR from white; now 1\d %/);
    const withFish = text('advice-white');
    tap('whose-eye');
    choose('corals alone');
    expect(useSettings.getState().fish).toBe(false);
    expect(text('advice-white')).not.toBe('');
    choose('with fish');
    expect(text('advice-white')).toBe(withFish);
    // the same for those who read, and as a file where something is drawn
    tap('seen-words');
    expect(
      screen.getAllByText(/Moss branch: tips .*, (brighter|darker) than the rock by \d stops?/).length,
    ).toBeGreaterThan(0);
    tap('keep-picture');
    await waitFor(() => expect(screen.getByText('Nothing is drawn here that could be kept.')).toBeTruthy());
    choose('a phone’s camera');
    choose('evened, to judge hues');
    expect(text('whose-eye')).toMatch(/klux at Copper table · a phone’s camera · evened, to judge hues$/);
  });

  test('the same tank under another mix looks another way', async () => {
    show(Corals);
    await waitFor(() =>
      expect(
        screen.getByRole('img', { name: /^The tank under Reading noon, .*Copper table: rim .*the rock/ }),
      ).toBeTruthy(),
    );
    choose('Deep shelf');
    expect(text('corals-other')).toMatch(
      /^Under Deep shelf the corals’ colours differ more from one another: \d+, here \d+ \(1 is just seen\)\.$/,
    );
    expect(
      screen.getByRole('img', { name: /^The tank under Reading noon, beside it the same under Deep shelf/ }),
    ).toBeTruthy();
    const divider = screen.getByTestId('divider');
    expect(divider.getAttribute('aria-valuetext')).toBe('50 % from the left');
    fireEvent.keyDown(divider, { key: 'ArrowRight', shiftKey: true });
    expect(screen.getByTestId('divider').getAttribute('aria-valuetext')).toBe('70 % from the left');
  });

  test('no colour is stored: a coral under no light is dark, and one without a form asks for one', async () => {
    edit(
      onZone((z) => ({
        ...z,
        spots: z.spots.map((s) => (s.name === 'Moss branch' ? { ...s, formId: null } : s)),
      })),
    );
    show(Corals);
    await waitFor(() => expect(text('corals-says')).toMatch(/^4 corals/));
    press('Say what Moss branch is made of');
    expect(screen.getByText(/Nobody has said yet what this coral is made of/)).toBeTruthy();
    press('Form Cream branch, blue polyps');
    expect(spot('Moss branch').formId).toBe('cream-branch');
    expect(text('coral-glow')).toMatch(/of what the eye gets from it is glow/);
  });

  test('pigments are changed for one coral alone, with undo, and a form of the case can be removed', async () => {
    routeAt('/', { coral: 'demo-plum' });
    show(Corals);
    await waitFor(() => expect(text('coral-glow')).toMatch(/^\d+ %/));
    tap('edit-form');
    fill('form-name', '');
    expect(screen.getByText('▲ Give it a name.')).toBeTruthy();
    fill('amount-cyan', '90');
    const copy = doc().forms[0]!;
    expect(spot('Plum table').formId).toBe(copy.id);
    expect(copy.regions[0]!.proteins.cyan).toBeCloseTo(0.9, 9);
    fill('form-name', 'My plum');
    fireEvent.click(screen.getByRole('button', { name: 'Brown down' }));
    expect(doc().forms).toHaveLength(1);
    expect(doc().forms[0]).toMatchObject({ name: 'My plum' });
    // the library is as it was
    expect(FORMS.find((f) => f.id === 'purple-table')!.regions[0]!.proteins.cyan).toBe(0.2);
    fill('amount-cyan', '0');
    expect('cyan' in doc().forms[0]!.regions[0]!.proteins).toBe(false);
    act(() => undo());
    expect(doc().forms[0]!.regions[0]!.proteins.cyan).toBeCloseTo(0.9, 9);
    press('Done');
    tap('choose-form');
    press('Remove this form');
    expect(doc().forms).toHaveLength(0);
    expect(spot('Plum table').formId).toBeNull();
  });

  test('how wide a coral is drawn is said, refused where it makes no sense, and goes back to the usual', async () => {
    routeAt('/', { coral: 'demo-plum' });
    show(Corals);
    await waitFor(() => expect(text('coral-glow')).toMatch(/^\d+ %/));
    const usual = (screen.getByTestId('coral-size') as HTMLInputElement).value;
    expect(Number(usual)).toBeGreaterThan(10);
    fill('coral-size', '900');
    expect(screen.getByText('▲ Give 1 to 200 cm.')).toBeTruthy();
    fill('coral-size', '31,5');
    expect(spot('Plum table').sizeCm).toBe(31.5);
    fill('coral-size', '');
    expect('sizeCm' in spot('Plum table')).toBe(false);
    expect((screen.getByTestId('coral-size') as HTMLInputElement).value).toBe(usual);
  });

  test('a coral measured again tells how it grew, no finer than a ruler under water; typed twice a day it is measured once', async () => {
    const measured = (widthCm: number, daysAgo: number) =>
      run(
        setEvent(
          {
            ...{ id: `w-${daysAgo}`, zoneId: 'demo-display', note: '', kind: 'width', spotId: 'demo-plum' },
            ...{ widthCm, atUtc: new Date(Date.now() - daysAgo * 86_400_000).toISOString() },
          },
          'measured',
        ),
      );
    const widths = () => useSession.getState().bundle!.log.events.filter((e) => e.kind === 'width');
    routeAt('/', { coral: 'demo-plum' });
    show(Corals);
    await waitFor(() => expect(text('coral-glow')).toMatch(/^\d+ %/));
    expect(screen.queryByTestId('coral-grew')).toBeNull();
    fill('coral-size', '22');
    expect(text('coral-grew')).toMatch(/^Measured on \d+ \w+ \d{4}\. Measure again in some months/);
    act(() => measured(21.6, 20));
    expect(text('coral-grew')).toMatch(/^21\.6 cm on .*, 22 cm on .*: no growth can be told yet, .* 0\.7 cm/);
    act(() => measured(18, 122));
    expect(text('coral-grew')).toMatch(/: 4 ± 0\.7 cm wider in 122 days, about 1 cm a month\. ±/);
    // cut back since
    fill('coral-size', '16.5');
    expect(text('coral-grew')).toMatch(/: 1\.5 ± 0\.7 cm narrower in 122 days/);
    expect(widths()).toHaveLength(3);
    fill('coral-size', '');
    expect(widths().map((e) => e.id)).toEqual(['w-20', 'w-122']);
    act(undo);
    expect(widths()).toHaveLength(3);
    expect(spot('Plum table').sizeCm).toBe(16.5);
  });

  test('fitting: a pick can be taken back, doubt is said, and the result becomes the region', async () => {
    routeAt('/', { coral: 'demo-moss' });
    show(Corals);
    await waitFor(() => expect(text('coral-glow')).toMatch(/^\d+ %/));
    tap('fit-form');
    const patches = (colour: string) =>
      within(screen.getByRole('radiogroup', { name: `Seen under ${colour} alone` })).getAllByRole('radio');
    expect(screen.getByTestId('fit-use').getAttribute('aria-disabled')).toBe('true');
    fireEvent.click(patches('Blue')[0]!);
    expect(text('fit-says')).toMatch(/Cannot tell yet|Most likely/);
    fireEvent.click(patches('Blue')[0]!);
    expect(text('fit-says')).toBe('Nothing picked yet.');
    expect(text('fit-tell')).toMatch(/^Would tell most now: .* \(\d\.\d bits\)/);
    for (const colour of ['Violet', 'Royal blue', 'Blue', 'Cyan', 'Cool white'])
      fireEvent.click(patches(colour).at(-1)!);
    const says = text('fit-says');
    tap('fit-use');
    expect(doc().forms).toHaveLength(1);
    const tips = doc().forms[0]!.regions[0]!;
    if (/green glow/.test(says))
      expect(Object.keys(tips.proteins)).toEqual([expect.stringMatching(/green/i)]);
    expect(doc().forms[0]!.regions[1]).toEqual(FORMS[0]!.regions[1]);
  });

  test('what a lone colour did is noted per region; the newest word counts; it can be removed', async () => {
    routeAt('/', { coral: 'demo-slate' });
    show(Corals);
    await waitFor(() => expect(text('coral-glow')).toMatch(/^\d+ %/));
    choose('Cyan');
    tap('saw-good');
    tap('saw-lost');
    expect(spot('Slate plate').soloNotes.map((n) => [n.colour, n.region, n.saw])).toEqual([
      ['Cyan', 'rim', 'lost'],
    ]);
    press('Remove the note on Cyan and rim');
    expect(spot('Slate plate').soloNotes).toHaveLength(0);
  });

  test('the band that would change a coral most is named with its figure, where the lamp hardly has it; conversions are marked uncertain', async () => {
    const bundle = withLamp('lib-blue-bar', { blue: 1 });
    const zone = bundle.case.zones[0]!;
    await open({
      ...bundle,
      case: {
        ...bundle.case,
        zones: [
          { ...zone, spots: zone.spots.map((s, i) => (i === 0 ? { ...s, formId: 'turning-brain' } : s)) },
        ],
      },
    });
    routeAt('/', { coral: 'demo-straw' });
    const { unmount } = show(Corals);
    await waitFor(() =>
      expect(
        screen.getByText(
          /Of what is thin in this light green would change it most: with 5 % of all photons .* move by \d+ .*This lamp hardly has it\./,
        ),
      ).toBeTruthy(),
    );
    unmount();
    routeAt('/', { coral: 'demo-copper' });
    show(Corals);
    await waitFor(() => expect(screen.getByText(/green may stay green here.*Uncertain/)).toBeTruthy());
  });
});

describe('corals where the mix and the day are looked at', () => {
  test('Mix shows the tank’s own corals, and without forms the card, sand and rock', async () => {
    const { unmount } = show(Mix);
    await waitFor(() =>
      expect(screen.getByRole('img', { name: /^The tank .*Moss branch: tips / })).toBeTruthy(),
    );
    unmount();
    const bundle = demo();
    const zone = bundle.case.zones[0]!;
    await open({
      ...bundle,
      case: { ...bundle.case, zones: [{ ...zone, spots: zone.spots.map((s) => ({ ...s, formId: null })) }] },
    });
    show(Mix);
    await waitFor(() =>
      expect(
        screen.getByRole('img', { name: /Moss branch: its colours are not described; drawn pale/ }),
      ).toBeTruthy(),
    );
  });

  test('Today shows them under what runs now', async () => {
    show(Today);
    await waitFor(() =>
      expect(screen.getByRole('img', { name: /^The tank now, the light at Copper table/ })).toBeTruthy(),
    );
  });

  test('Today is looked at through its hours, and is back at now by one tap', async () => {
    show(Today);
    await waitFor(() => expect(screen.getByTestId('scrub-grip')).toBeTruthy());
    const grip = screen.getByTestId('scrub-grip');
    expect(grip.getAttribute('aria-valuetext')).toBe('15:40, 230 µmol');
    fireEvent.keyDown(grip, { key: 'ArrowRight', shiftKey: true });
    expect(screen.getByRole('img', { name: /^The tank at 18:10, the light at Copper table/ })).toBeTruthy();
    expect(text('today')).toContain('µmolat 18:10 at Copper table');
    expect(parseInt(text('now-umol'), 10)).toBeLessThan(230);
    // what comes next is still said of now
    expect(text('next-change')).toContain('17:30');
    tap('back-to-now');
    expect(text('now-umol')).toBe('230 µmol');
    expect(screen.queryByTestId('back-to-now')).toBeNull();
  });
});

describe('Design', () => {
  test('schools set the aims, steppers move them, nonsense PAR is refused', async () => {
    show(Design);
    await waitFor(() => expect(screen.getByTestId('design-start')).toBeTruthy());
    choose('Glow first');
    expect(text('aim-glow')).toBe('100');
    press('Glow of my corals down');
    expect(text('aim-glow')).toBe('90');
    press('Red ceiling down');
    expect(screen.getByText('Red at most 1 % of PAR')).toBeTruthy();
    fill('design-par', '-1');
    expect(screen.getByText('▲ Give 1 to 2000 µmol.')).toBeTruthy();
  });

  test('answers quote differences; one is put into the plate and undone, one is kept, one goes half way', async () => {
    show(Design);
    await waitFor(() => expect(screen.getByTestId('design-start')).toBeTruthy());
    expect(text('design-empty')).toMatch(/^Answers appear here/);
    tap('design-start');
    await waitFor(() => expect(screen.getByTestId('answer-2')).toBeTruthy(), { timeout: 20_000 });
    expect(screen.queryByTestId('design-empty')).toBeNull();
    expect(text('reasons-0')).toMatch(/→/);
    // what is to be typed is shown before it is kept, in whole percents
    for (const i of [0, 1, 2])
      expect(text(`levels-${i}`)).toMatch(/^To type in: Near UV \d+, Violet \d+, .*Deep red \d+ %\.$/);
    const noon = () => doc().plates.find((p) => p.id === 'demo-noon')!.mix;
    const before = noon();
    fireEvent.click(screen.getAllByRole('button', { name: /^Put .* into Reading noon/ })[0]!);
    expect(noon()).not.toEqual(before);
    act(() => undo());
    expect(noon()).toEqual(before);
    tap('keep-1');
    expect(doc().plates).toHaveLength(4);
    expect(navigate).toHaveBeenCalledWith('/mix');
  });

  test('a long run shows its progress and can be stopped; a failure is said', async () => {
    let report: (share: number) => boolean | Promise<boolean> = () => true;
    let fail: (error: Error) => void = () => undefined;
    mockDesign = (_, onProgress) => {
      report = onProgress;
      return new Promise((__, reject) => (fail = reject));
    };
    show(Design);
    await waitFor(() => expect(screen.getByTestId('design-start')).toBeTruthy());
    tap('design-start');
    await act(async () => expect(await report(0.42)).toBe(true));
    expect(text('design-progress')).toBe('Looking: 42 %');
    press('Cancel');
    expect(screen.queryByTestId('design-progress')).toBeNull();
    await act(async () => expect(await report(0.5)).toBe(false));
    tap('design-start');
    await act(async () => fail(new Error('the worker stopped')));
    await waitFor(() => expect(screen.getByText('Not found: the worker stopped.')).toBeTruthy());
  });

  test('locked channels are named and kept', async () => {
    edit((b) => ({
      ...b,
      case: {
        ...b.case,
        plates: b.case.plates.map((p) => (p.id === 'demo-noon' ? { ...p, locked: ['violet'] } : p)),
      },
    }));
    show(Design);
    await waitFor(() => expect(screen.getByTestId('design-start')).toBeTruthy());
    expect(screen.getByText('Locked on Reading noon and kept: Violet.')).toBeTruthy();
    tap('design-start');
    await waitFor(() => expect(screen.getByTestId('answer-1')).toBeTruthy(), { timeout: 20_000 });
    tap('keep-0');
    const kept = doc().plates.find((p) => /, from Reading noon$/.test(p.name))!;
    expect(kept.mix.violet).toBe(0.7);
  });
});
