import { useSyncExternalStore } from 'react';

const listeners = new Set<() => void>();
let params: Record<string, string> = {};
let path = '/';

const setParams = (next: Record<string, string>): void => {
  params = { ...params, ...next };
  listeners.forEach((l) => l());
};

/** Every address the places led to. */
export const navigate = jest.fn();

/** The router the tests of the places hold: parameters live, everything else written down. */
export const mockRouter = {
  router: { navigate: (to: string) => navigate(to), setParams },
  usePathname: () => path,
  useLocalSearchParams: () =>
    useSyncExternalStore(
      (l) => {
        listeners.add(l);
        return () => listeners.delete(l);
      },
      () => params,
    ),
};

/** Before every test: at a path, with parameters, nothing led to. */
export function routeAt(at = '/', with_: Record<string, string> = {}): void {
  navigate.mockClear();
  path = at;
  params = with_;
}

export const routeParams = (): Record<string, string> => params;

const chain: unknown = new Proxy(() => chain, { get: () => () => chain });
/** Gestures are tested in the browser; here their views only have to stand. */
export const mockGestures = {
  Gesture: { Pan: () => chain },
  GestureDetector: ({ children }: { children: unknown }) => children,
};
