/**
 * The timeline's scale. Steps take from half a millisecond to many seconds; on an even scale a single wait would
 * hide all others. Stretches between the beginnings and ends of steps keep their order, and long ones are
 * shortened: a stretch is as wide as the square root of its length.
 */
export type Scale = { x(time: number): number; time(x: number): number; ticks: { time: number; x: number }[] };

/** How wide a tick's label is, with some air. */
const tickRoom = 64;

/** A scale over `times` (boundaries, any order) that is `width` pixels wide. */
export function compressedScale(times: readonly number[], end: number, width: number): Scale {
  const at = [...new Set([0, ...times.filter((time) => time > 0 && time < end), end])].sort((a, b) => a - b);
  const weights = at.slice(1).map((time, i) => Math.sqrt(time - at[i]!) + 0.6);
  const total = weights.reduce((sum, weight) => sum + weight, 0) || 1;
  const xs = [0];
  for (const weight of weights) xs.push(xs.at(-1)! + (weight / total) * width);
  const between = (value: number, from: readonly number[], to: readonly number[]): number => {
    if (value <= from[0]!) return to[0]!;
    for (let i = 1; i < from.length; i++) {
      if (value > from[i]!) continue;
      const span = from[i]! - from[i - 1]!;
      return to[i - 1]! + (span === 0 ? 0 : ((value - from[i - 1]!) / span) * (to[i]! - to[i - 1]!));
    }
    return to.at(-1)!;
  };
  // The last tick's label stands before it, the others' behind them.
  const ticks: Scale['ticks'] = [];
  for (let i = 0; i < at.length - 1; i++) {
    if (ticks.length > 0 && xs[i]! - ticks.at(-1)!.x <= tickRoom) continue;
    if (width - xs[i]! > 2 * tickRoom) ticks.push({ time: at[i]!, x: xs[i]! });
  }
  ticks.push({ time: end, x: width });
  return { x: (time) => between(time, at, xs), time: (x) => between(x, xs, at), ticks };
}
