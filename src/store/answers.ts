/** A store that has not answered after so long is not waited for any more, ms. Mark: rule of thumb. */
export const ANSWER_MS = 10_000;

/** What comes of something within a time. @throws Error that says it did not answer */
export function within<T>(ms: number, work: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout>;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error('it does not answer')), ms);
  });
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}
