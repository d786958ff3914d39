import { keepOffline, takeUpdate, useUpdate } from './offline';

type Told = Record<string, () => void>;
const listening = (told: Told) => (event: string, then: () => void) => void (told[event] = then);

/** A browser's own keeping of workers, as far as it is used. */
function browser({ controlled = true, waiting = null as object | null } = {}) {
  const [registered, installing, container]: Told[] = [{}, {}, {}];
  const registration = {
    waiting,
    installing: { addEventListener: listening(installing!) },
    addEventListener: listening(registered!),
  };
  const serviceWorker = {
    controller: controlled ? {} : null,
    register: jest.fn(async () => registration),
    addEventListener: listening(container!),
  };
  Object.defineProperty(globalThis, 'navigator', { value: { serviceWorker }, configurable: true });
  return {
    registration,
    serviceWorker,
    registered: registered!,
    installing: installing!,
    container: container!,
  };
}

const env = process.env as { NODE_ENV: string };
const was = env.NODE_ENV;
beforeEach(() => {
  env.NODE_ENV = 'production';
  useUpdate.setState({ waiting: null });
});
afterEach(() => {
  env.NODE_ENV = was;
});

test('a newer version is offered once it lies ready, and the first of all is not', async () => {
  const first = browser({ controlled: false });
  await keepOffline();
  expect(first.serviceWorker.register).toHaveBeenCalledWith('/sw.js');
  first.registration.waiting = {};
  first.registered.updatefound!();
  first.installing.statechange!();
  expect(useUpdate.getState().waiting).toBeNull();

  const later = browser();
  await keepOffline();
  expect(useUpdate.getState().waiting).toBeNull();
  later.registered.updatefound!();
  later.installing.statechange!();
  expect(useUpdate.getState().waiting).toBeNull();
  const ready = { postMessage: jest.fn() };
  later.registration.waiting = ready;
  later.installing.statechange!();
  expect(useUpdate.getState().waiting).toBe(ready);
  // taken when the keeper says so, and the page follows it
  const reload = jest.fn();
  Object.defineProperty(globalThis, 'location', { value: { reload }, configurable: true });
  takeUpdate();
  expect(ready.postMessage).toHaveBeenCalledWith({ type: 'SKIP_WAITING' });
  expect(reload).not.toHaveBeenCalled();
  later.container.controllerchange!();
  expect(reload).toHaveBeenCalledTimes(1);
});

test('one that waited already is offered; a browser that keeps nothing, or refuses, is let be', async () => {
  const waiting = {};
  browser({ waiting });
  await keepOffline();
  expect(useUpdate.getState().waiting).toBe(waiting);

  useUpdate.setState({ waiting: null });
  browser().serviceWorker.register.mockRejectedValueOnce(new Error('private window'));
  await expect(keepOffline()).resolves.toBeUndefined();
  Object.defineProperty(globalThis, 'navigator', { value: {}, configurable: true });
  await expect(keepOffline()).resolves.toBeUndefined();
  env.NODE_ENV = 'test';
  const here = browser();
  await keepOffline();
  expect(here.serviceWorker.register).not.toHaveBeenCalled();
});
