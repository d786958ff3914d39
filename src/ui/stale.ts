const LAST = 'chromatheca/reloaded-for';

/**
 * After an update an open page asks for parts that are gone. It then loads itself anew, once for each part, so that a part that is
 * missing for good cannot make it go round. @returns whether it does
 */
export function reloadOnceFor(part: string): boolean {
  try {
    if (sessionStorage.getItem(LAST) === part) return false;
    sessionStorage.setItem(LAST, part);
  } catch {
    return false;
  }
  location.reload();
  return true;
}

/** Watches for scripts of the app that cannot be fetched. @param mayReload false where loading anew would lose something */
export function watchForStaleParts(mayReload: () => boolean): void {
  globalThis.addEventListener?.(
    'error',
    ({ target }) => {
      if (typeof HTMLScriptElement === 'undefined' || !(target instanceof HTMLScriptElement)) return;
      if (mayReload()) reloadOnceFor(new URL(target.src).pathname);
    },
    true,
  );
}
