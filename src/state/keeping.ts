/** Asks the browser not to clear what is kept here when its device runs short: once there is something of the keeper's own. */
export async function askToKeep(): Promise<void> {
  try {
    if (!(await globalThis.navigator?.storage?.persisted?.()))
      await globalThis.navigator?.storage?.persist?.();
  } catch {
    // where it cannot be asked all goes on as before
  }
}

/** Whether the browser has said that it keeps this; null where it does not say. */
export async function keptForGood(): Promise<boolean | null> {
  try {
    return (await globalThis.navigator?.storage?.persisted?.()) ?? null;
  } catch {
    return null;
  }
}
