/** Random ids; the core never makes its own. */
export const newId = (): string => globalThis.crypto.randomUUID();
