/** What a computation in steps comes to, run to its end in one go. */
export function ended<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}
