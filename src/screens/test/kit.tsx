import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, configure, fireEvent, render, screen } from '@testing-library/react';
import { type ComponentType } from 'react';

import type { CaseBundle } from '@/core/record/documents';
import type { Group, Zone } from '@/core/record/zone';
import { newPlate } from '@/core/case/plate';
import { libraryLamp } from '@/core/library/lamps';
import { watersCase, displayCase } from '@/demo/lagoon';
import { closeSession, createCase, flush, run, useSession } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { forgetTyped } from '@/state/typed';
import { DEFAULT_SETTINGS } from '@/store/settings';

/** The instant every test of a place happens at. */
export const NOW = Date.parse('2026-11-24T14:40:00Z');
/** The demo's display by itself. */
export const demo = () => displayCase(NOW, 'Europe/Berlin');
/** The whole demo, its refugium with it. */
export const wholeDemo = () => watersCase(NOW, 'Europe/Berlin');

// a busy machine may take seconds for a first light; whether each is hidden would be asked of every ancestor again: nothing here is hidden by style
configure({ defaultHidden: true, asyncUtilTimeout: 15_000 });

let client: QueryClient;

/** A fixed clock, fresh queries, default settings and the demo case before every test. */
export function freshPlaces(): void {
  HTMLCanvasElement.prototype.getContext = (() => null) as never;
  beforeEach(async () => {
    jest.useFakeTimers({
      now: NOW,
      doNotFake: [
        'setTimeout',
        'setInterval',
        'setImmediate',
        'queueMicrotask',
        'nextTick',
        'clearTimeout',
        'clearInterval',
        'performance',
      ],
    });
    client = new QueryClient();
    closeSession();
    forgetTyped();
    sessionStorage.clear();
    changeSettings({ ...DEFAULT_SETTINGS });
    await open(demo());
  });
  afterEach(async () => {
    await act(flush);
    client.clear();
    jest.useRealTimers();
  });
}

const storage = createAsyncStorage('chromatheca');
export const open = async (bundle: CaseBundle): Promise<void> => {
  await act(async () => {
    await flush();
    await storage.clear();
    await createCase(bundle);
    await flush();
  });
};

export const show = (Place: ComponentType) =>
  render(
    <QueryClientProvider client={client}>
      <Place />
    </QueryClientProvider>,
  );

export const doc = () => useSession.getState().bundle!.case;
export const edit = (change: (bundle: CaseBundle) => CaseBundle) =>
  act(() => void run({ name: 'test', apply: change }));
/** The case with every water changed. */
export const onZone =
  (change: (z: Zone) => Zone) =>
  (b: CaseBundle): CaseBundle => ({ ...b, case: { ...b.case, zones: b.case.zones.map(change) } });
/** The case with every group of lamps changed. */
export const onGroup = (change: (g: Group) => Group) =>
  onZone((z) => ({ ...z, groups: z.groups.map(change) }));
export const text = (id: string): string => screen.getByTestId(id).textContent!;
export const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));
export const tap = (id: string) => fireEvent.click(screen.getByTestId(id));
/** Chooses one of several; where they are part of a sentence, that part is opened first. */
export function choose(name: string | RegExp): void {
  if (!screen.queryByRole('radio', { name }))
    for (const part of screen.queryAllByTestId(/^set-/)) {
      fireEvent.click(part);
      if (screen.queryByRole('radio', { name })) break;
    }
  fireEvent.click(screen.getByRole('radio', { name }));
}

/** Fills a field and leaves it. */
export function fill(id: string, value: string): void {
  const field = screen.getByTestId(id);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
}

/** The demo with a lamp of the library as its only lamp, its mix in one plate, a plain day. */
export function withLamp(
  kindId: string,
  mix: Record<string, number>,
  group: Partial<Group> = {},
): CaseBundle {
  const bundle = demo();
  const kind = libraryLamp(kindId);
  const zone = bundle.case.zones[0]!;
  const old = zone.groups[0]!;
  const plate = newPlate('own', 'Own mix', kind.id, mix);
  const own: Group = {
    ...old,
    lampKindId: kind.id,
    capShare: 0.5,
    threads: [
      { id: 'on', minute: 600, strengthShare: 1, mix: { plateId: 'own' } },
      { id: 'off', minute: 1200, strengthShare: 0, mix: { plateId: 'own' } },
    ],
    ...group,
  };
  return {
    ...bundle,
    case: { ...bundle.case, lampKinds: [kind], plates: [plate], zones: [{ ...zone, groups: [own] }] },
    history: { ...bundle.history, entries: [] },
  };
}
