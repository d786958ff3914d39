/**
 * A function that remembers what it made of its latest inputs, by identity: documents are never changed in place, so the same objects
 * mean the same result, on every screen and at every draw.
 * @param most how many results are kept, the oldest going first
 */
export function remembered<I extends readonly unknown[], O>(
  make: (...input: I) => O,
  most = 16,
): (...input: I) => O {
  let kept: { input: I; made: O }[] = [];
  return (...input) => {
    const found = kept.find(
      (k) => k.input.length === input.length && k.input.every((x, i) => Object.is(x, input[i])),
    );
    if (found) return found.made;
    const made = make(...input);
    kept = [{ input, made }, ...kept.slice(0, most - 1)];
    return made;
  };
}

const tokens = new WeakMap<object, number>();
let last = 0;
/** A number that stands for an object in the key of a query: the same as long as it is the same object. */
export function token(of: object | null | undefined): number {
  if (!of) return 0;
  let found = tokens.get(of);
  if (found === undefined) tokens.set(of, (found = last += 1));
  return found;
}
