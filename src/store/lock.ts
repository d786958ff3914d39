/** Runs work alone among all tabs of this origin. Where the platform has no locks there are no tabs either. */
export async function alone<T>(name: string, work: () => Promise<T>): Promise<T> {
  const locks = globalThis.navigator?.locks;
  return locks ? locks.request(name, work) : work();
}
