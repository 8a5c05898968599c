/** Chance that comes out the same every time. */

/** Draws whole numbers from 0 to before `n` that depend on the seed only (the generator is mulberry32). */
export function numbersFrom(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32) * n);
  };
}

/** A list in an order that depends on the seed only (Fisher–Yates). */
export function shuffled<T>(list: readonly T[], seed: number): T[] {
  const found = [...list];
  const number = numbersFrom(seed);
  for (let i = found.length - 1; i > 0; i--) {
    const other = number(i + 1);
    [found[i], found[other]] = [found[other]!, found[i]!];
  }
  return found;
}
