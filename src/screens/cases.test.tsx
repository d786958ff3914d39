import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { act, screen, waitFor, within } from '@testing-library/react';

import { openDemo } from '@/state/boot';
import { setZone } from '@/state/commands/waters';
import { deskOf, useDesk } from '@/state/desk';
import { flush, run, undo, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';
import { exportText, withId } from '@/core/record/caseFile';

import { Case } from './case/Case';
import { choose, demo, doc, freshPlaces, onGroup, open, press, show, tap, text } from './test/kit';
import type * as Files from './test/files';
import { downloads, freshFiles, giveFile } from './test/files';
import type * as Router from './test/router';
import { navigate, routeAt } from './test/router';
import { Probe } from './tank/Probe';
import { useTankLight } from './tank/useTankLight';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock(
  'react-native-gesture-handler',
  () => jest.requireActual<typeof Router>('./test/router').mockGestures,
);
jest.mock('@/ui/files', () => jest.requireActual<typeof Files>('./test/files').mockFiles);

const storage = createAsyncStorage('chromatheca');
beforeEach(freshFiles);
freshPlaces();
beforeEach(async () => {
  routeAt('/case');
  await storage.clear();
  await open(demo());
});
const own = (id: string, name: string) => {
  const bundle = withId(demo(), id, name);
  return { ...bundle, case: { ...bundle.case, demo: false } };
};
const message = () => waitFor(() => text('case-message'));
const importing = async (content: string) => {
  giveFile({ name: 'some.json', text: content });
  press('Import a case file');
  return message();
};

describe('cases in and out', () => {
  test('the open case is a file named by it; what differs from it is asked about, and can be a case of its own', async () => {
    show(Case);
    press('Export the open case as a file');
    await waitFor(() => expect(downloads).toHaveLength(1));
    const [file] = downloads;
    expect(file!.name).toBe('reading-room-lagoon.chromatheca.json');
    expect(await importing(file!.text)).toMatch(/is here already, just as in the file/);
    act(() => void run(setZone(doc().zones[0]!.id, { name: 'Changed since' })));
    await act(flush);
    giveFile({ name: 'some.json', text: file!.text });
    press('Import a case file');
    await waitFor(() => expect(screen.getByText('otherwise than here', { exact: false })).toBeTruthy());
    choose('as a case of its own');
    tap('backup-take');
    await waitFor(() => expect(text('case-message')).toBe('Imported Reading-room lagoon (imported).'));
    expect(doc().id).not.toBe('demo');
    expect(doc().zones).toEqual(demo().case.zones);
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Open Reading-room lagoon' })).toBeTruthy(),
    );
    press('Open Reading-room lagoon');
    await waitFor(() => expect(doc().id).toBe('demo'));
  });

  test.each([
    ['no file of this kind', '{"format":"something"}', /^Not imported\. .*format/],
    ['no JSON', 'PK\u0003\u0004', /^Not imported\. .*JSON/],
    [
      'a newer one',
      exportText(demo()).replace(/"version": ?(\d+)/, '"version": 99'),
      /^Not imported\. .*versions? up to/,
    ],
    [
      'a lamp that is missing',
      exportText(onGroup((g) => ({ ...g, lampKindId: 'gone' }))(demo())),
      /^Not imported\. .*lamp/,
    ],
  ])('%s is refused with what to do, and nothing changes', async (_, content, says) => {
    show(Case);
    const before = doc();
    const said = await importing(content);
    expect(said).toMatch(says);
    expect(said).toMatch(/Nothing was changed\.$/);
    expect(doc()).toBe(before);
  });

  test('a file that cannot be read is said; choosing none says nothing', async () => {
    show(Case);
    giveFile({ name: 'big.json', problem: 'It is larger than 50 MB.' });
    press('Import a case file');
    expect(await message()).toBe('big.json was not imported. It is larger than 50 MB. Nothing was changed.');
    giveFile(null);
    press('Import a case file');
    expect(text('case-message')).toMatch(/larger than 50 MB/);
  });

  test('deleting asks first, offers the file, and lays out the demo when nothing is left', async () => {
    await open(own('mine', 'My tank'));
    // as the shell does: between two cases there is no place
    show(() => (useSession((x) => x.bundle !== null) ? <Case /> : null));
    press('Delete the open case');
    expect(screen.getByText(/It cannot be undone/)).toBeTruthy();
    press('Export first');
    expect(downloads[0]!.name).toBe('my-tank.chromatheca.json');
    tap('delete-confirm');
    await waitFor(() => expect(doc().id).toBe('demo'));
    await waitFor(() => expect(navigate).toHaveBeenCalledWith('/case'));
    expect(await storage.getItem('case/mine')).toBeNull();
  });

  test('from an own case the demo is a tap away, and the own one stays', async () => {
    await open(own('mine', 'My tank'));
    show(Case);
    press('Open the demo');
    await waitFor(() => expect(doc().id).toBe('demo'));
    expect(screen.queryByRole('button', { name: 'Open the demo' })).toBeNull();
    await waitFor(() => expect(screen.getByRole('button', { name: 'Open My tank' })).toBeTruthy());
  });

  test('one of a newer app is listed, can be taken along, and is not opened', async () => {
    await act(flush);
    const newer = JSON.stringify({ ...own('new', 'From tomorrow').case, version: 99 });
    await storage.setItem('case/new', newer);
    show(Case);
    await waitFor(() => expect(screen.getByText(/of a newer Chromatheca, untouched/)).toBeTruthy());
    expect(screen.queryByRole('button', { name: 'Open From tomorrow' })).toBeNull();
    press('Download');
    await waitFor(() => expect(downloads).toEqual([{ name: 'new.json', text: newer }]));
  });

  test('what was set aside can be taken along and dropped; a broken case says where it went', async () => {
    await open(own('mine', 'My tank'));
    await act(async () => {
      await openDemo();
      await flush();
    });
    show(Case);
    await waitFor(() => expect(screen.getByRole('button', { name: 'Open My tank' })).toBeTruthy());
    await storage.setItem('case/mine', 'half a docu');
    press('Open My tank');
    expect(await message()).toMatch(/set aside\. It can be downloaded below/);
    await waitFor(() => expect(screen.getByText('the case')).toBeTruthy());
    const row = screen.getByText('the case').parentElement!.parentElement!;
    act(() => within(row).getByRole('button', { name: 'Download' }).click());
    await waitFor(() => {
      expect(downloads[0]!.name).toBe('case-mine.txt');
      // the whole case as it was found, in a file that can be mended and imported
      expect(JSON.parse(downloads[0]!.text)).toMatchObject({
        case: 'half a docu',
        history: { caseId: 'mine', entries: [{ groupName: 'Panels' }] },
      });
    });
    act(() => within(row).getByRole('button', { name: 'Drop' }).click());
    await waitFor(() => expect(screen.queryByText('case/mine')).toBeNull());
  });
});

describe('the water and this device', () => {
  test('sizes, names and yellowing are checked, taken and undone by name', () => {
    show(Case);
    tap('set-water-yellow');
    choose('long neglected');
    expect(doc().zones[0]!.water.yellow440PerM).toBe(0.8);
    expect(screen.getByText(/Yellow substances absorb 0\.80 per metre/)).toBeTruthy();
    tap('set-paper');
    choose('night');
    expect(useSettings.getState().paper).toBe('night');
    press('Add a lamp: library, typed in, or counted');
    expect(navigate).toHaveBeenCalledWith('/lamps');
    act(() => void run(setZone('demo-display', { name: 'Lagoon' })));
    act(() => undo());
    act(() => undo());
    expect(doc().zones[0]).toEqual(demo().case.zones[0]);
  });

  test('a desk whose choices are gone falls back to the first of each', () => {
    const bundle = demo();
    const gone = { zoneId: 'x', groupId: 'x', plateId: 'x', spotId: 'x' };
    const desk = deskOf(bundle, bundle, gone);
    expect(desk.zone.id).toBe('demo-display');
    expect(desk.group!.id).toBe('demo-panels');
    expect(desk.spot!.id).toBe(bundle.case.zones[0]!.spots[0]!.id);
    expect(desk.spotIndex).toBe(0);
    const bare = { ...bundle, case: { ...bundle.case, zones: [{ ...desk.zone, groups: [], spots: [] }] } };
    expect(deskOf(bare, bare, gone)).toMatchObject({
      group: null,
      lampKind: null,
      spot: null,
      spotIndex: -1,
    });
  });
});

describe('a tapped place', () => {
  const kept = jest.fn();
  const closed = jest.fn();
  function Probed() {
    const desk = useDesk();
    const light = useTankLight(desk);
    if (!light.field.field) return null;
    return (
      <Probe
        desk={desk}
        light={light}
        place={{ xCm: 60, yCm: 30, depthCm: 20 }}
        width={300}
        onClose={closed}
        onKeep={kept}
      />
    );
  }

  test('tells PAR with its band, the dose, the colour against its depth, who would like it, and is kept', async () => {
    show(Probed);
    await waitFor(() => expect(screen.getByTestId('probe-umol')).toBeTruthy(), { timeout: 30_000 });
    await waitFor(() => expect(text('probe-band')).toMatch(/^µmol ± \d\d %/));
    const here = Number(text('probe-umol'));
    expect(here).toBeGreaterThan(30);
    expect(text('probe-dli')).toMatch(/^\d+\.\d+ mol a day\. Colour \d+\.\d° from the mean of this depth/);
    tap('who-likes');
    expect(screen.getAllByText(/\d+–\d+ µmol/).length).toBeGreaterThan(4);
    press('Close');
    expect(closed).toHaveBeenCalled();
    tap('probe-keep');
    expect(kept.mock.calls[0][0]).toMatchObject({
      name: `Spot ${doc().zones[0]!.spots.length + 1}`,
      xCm: 60,
      yCm: 30,
      depthCm: 20,
      need: null,
    });
  });
});
