import { screen, waitFor } from '@testing-library/react';

import { lampLibrary } from '@/core/library/lamps';
import { cardText } from '@/core/case/card';
import { draftGroups } from '@/core/case/lit';
import { exportText } from '@/core/record/caseFile';
import { waterAlone } from '@/core/record/given';
import { dayFile } from '@/state/dayFiles';
import { useDesk } from '@/state/desk';
import { useGivenDay } from '@/state/givenDay';
import { lampFile } from '@/state/lampFiles';
import { plateFile } from '@/state/plates';
import { listCases } from '@/store/documents';

import { Given } from './given/Given';
import { GiveWater } from './given/GiveWater';
import { Qr } from './given/Qr';
import { PlateDetail } from './plates/PlateDetail';
import { doc, fill, freshPlaces, show, tap, text } from './test/kit';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
const mockTexts: Record<string, { letter: string; text: string }> = {};
jest.mock('@/state/share', () => ({
  GIVEN: { p: 'plate', d: 'day', l: 'lamp', c: 'card', t: 'tank' },
  codeOf: async () => 'p1.code',
  linkOf: (code: string) => `https://example.org/given#${code}`,
  readCode: async (code: string) =>
    mockTexts[code]
      ? { ok: true, value: mockTexts[code] }
      : {
          ok: false,
          problem: { kind: 'invalid', path: '', problem: 'it is damaged', remedy: 'Copy it again.' },
        },
}));

freshPlaces();
beforeEach(() => {
  routeAt('/given');
  globalThis.location.hash = '';
});

const given = async (letter: string, content: string) => {
  const code = `it-${Object.keys(mockTexts).length}`;
  mockTexts[code] = { letter, text: content };
  const page = show(Given);
  fill('given-link', code);
  tap('given-open');
  await waitFor(() => expect(screen.getByTestId('given-for')).toBeTruthy());
  return page;
};

test('a plate says for which lamp it is and is drawn; taken it is one more plate, not before', async () => {
  const plate = { ...doc().plates[1]!, name: 'From a friend' };
  const plates = doc().plates.length;
  await given('p', plateFile(plate, doc().lampKinds[0]!).text);
  expect(text('given-for')).toMatch(/^A mix for Eight-channel panel\./);
  expect(screen.getByRole('img', { name: 'Spectrum of From a friend at the lamp' })).toBeTruthy();
  expect(doc().plates).toHaveLength(plates);
  tap('given-take');
  expect(doc().plates.at(-1)!.name).toBe('From a friend');
  expect(navigate).toHaveBeenCalledWith('/plates');
});

test('a lamp, a day and a card are taken where each belongs', async () => {
  const kind = lampLibrary()[3]!.kind;
  (await given('l', lampFile(kind).text)).unmount();
  const page = await given('l', lampFile(kind).text);
  tap('given-take');
  expect(doc().lampKinds.some((k) => k.name === kind.name)).toBe(true);
  page.unmount();
  const zone = doc().zones[0]!;
  const lit = draftGroups(doc(), zone)[0]!;
  const day = await given('d', dayFile(lit, zone.groups[0]!, zone.spots[0]!, null).text);
  expect(text('given-for')).toBe('For Eight-channel panel, 2 lamps, cap 80 %.');
  tap('given-take');
  expect(useGivenDay.getState().day!.name).toBe('Panels');
  expect(navigate).toHaveBeenCalledWith('/carry');
  day.unmount();
  await given(
    'c',
    cardText({ name: 'Rust plate', peakUmol: 120, hours: 8, light: 'white', origin: 'farmed', water: {} }),
  );
  expect(text('given-for')).toBe('120 µmol at its brightest, lit for 8 h, white light, farmed.');
  tap('given-take');
  expect(doc().zones[0]!.inHand).toMatchObject([
    { name: 'Rust plate', cameFrom: { peakUmol: 120, hours: 8 }, light: 'white', origin: 'farmed' },
  ]);
});

test('what is damaged, or no such file, is refused in words; nothing is changed', async () => {
  const before = doc();
  show(Given);
  fill('given-link', 'broken');
  tap('given-open');
  await waitFor(() =>
    expect(text('given-sentence')).toBe(
      '▲ It cannot be opened: it is damaged. Copy it again. Nothing was changed.',
    ),
  );
  mockTexts.odd = { letter: 'p', text: '{"format":"chromatheca-plate","version":2}' };
  fill('given-link', 'odd');
  tap('given-open');
  await waitFor(() => expect(text('given-problem')).toMatch(/^▲ .*Nothing was changed\.$/));
  expect(doc()).toBe(before);
});

test('a water is looked at, then opened as a case of its own beside what is here', async () => {
  const here = doc();
  const zone = { ...here.zones[0]!, name: 'A friend’s tank' };
  await given('t', exportText(waterAlone(here, zone, 'given-1')));
  expect(text('given-for')).toMatch(/^150 × 60 × 50 cm of water with Copper table, .*\.$/);
  expect(screen.getByText(/^2 × Eight-channel panel, cap \d+ %, strongest at /)).toBeTruthy();
  expect(doc()).toBe(here);
  tap('given-take');
  await waitFor(() => expect(navigate).toHaveBeenCalledWith('/'));
  expect(doc()).toMatchObject({ name: 'A friend’s tank', demo: false });
  expect(doc().zones).toHaveLength(1);
  expect((await listCases()).map((c) => c.id)).toContain(here.id);
});

test('a dense code says so, and a text that no code holds', () => {
  const show_ = (length: number) => show(() => <Qr text={'x'.repeat(length)} width={320} name="The code" />);
  const few = show_(400);
  expect(screen.queryByText(/Its squares are small/)).toBeNull();
  few.unmount();
  const many = show_(2600);
  expect(screen.getByRole('img', { name: 'The code' })).toBeTruthy();
  expect(screen.getByText(/Its squares are small/)).toBeTruthy();
  many.unmount();
  show_(3000);
  expect(screen.queryByTestId('qr')).toBeNull();
  expect(screen.getByText('It is too long for a QR code: use the link.')).toBeTruthy();
});

test('a water is given along as a link', async () => {
  const Giver = () => <GiveWater desk={useDesk()} />;
  show(Giver);
  tap('water-link');
  await waitFor(() => expect(text('link')).toBe('https://example.org/given#p1.code'));
});

test('a plate is given along as a link and a QR code', async () => {
  show(() => <PlateDetail doc={doc()} plate={doc().plates[0]!} onClose={() => undefined} />);
  tap('plate-link');
  await waitFor(() => expect(text('link')).toBe('https://example.org/given#p1.code'));
  expect(screen.getByTestId('qr')).toBeTruthy();
  expect(screen.getByTestId('copy-link')).toBeTruthy();
});
