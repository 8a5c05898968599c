/**
 * How different two colours look: the Euclidean distance in OKLab (Ottosson 2020), with a little flare added to
 * the linear light first. Without flare the cube root makes near-black steps look huge; with it one step of
 * 8-bit grey is about 0.003 everywhere.
 */

/** Below this nobody sees a difference. */
export const visibleDistance = 0.004;
/** From this on everybody does. */
export const plainDistance = 0.02;

const flare = 0.005;

/** 8-bit sRGB (IEC 61966-2-1) to linear light with flare. */
const linear = new Float64Array(256);
for (let i = 0; i < 256; i++) {
  const v = i / 255;
  const lin = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  linear[i] = (lin + flare) / (1 + flare);
}

/** A channel laid over white: what a transparent picture looks like on paper. */
const overWhite = (channel: number, alpha: number): number => Math.round(channel * (alpha / 255) + 255 - alpha);

/** The distance between two pixels given as little-endian RGBA words. */
export function colourDistance(a: number, b: number): number {
  let r1 = a & 255,
    g1 = (a >>> 8) & 255,
    b1 = (a >>> 16) & 255;
  let r2 = b & 255,
    g2 = (b >>> 8) & 255,
    b2 = (b >>> 16) & 255;
  const alpha1 = a >>> 24,
    alpha2 = b >>> 24;
  if (alpha1 !== 255) {
    r1 = overWhite(r1, alpha1);
    g1 = overWhite(g1, alpha1);
    b1 = overWhite(b1, alpha1);
  }
  if (alpha2 !== 255) {
    r2 = overWhite(r2, alpha2);
    g2 = overWhite(g2, alpha2);
    b2 = overWhite(b2, alpha2);
  }
  const lr1 = linear[r1]!,
    lg1 = linear[g1]!,
    lb1 = linear[b1]!;
  const lr2 = linear[r2]!,
    lg2 = linear[g2]!,
    lb2 = linear[b2]!;
  const l =
    Math.cbrt(0.4122214708 * lr1 + 0.5363325363 * lg1 + 0.0514459929 * lb1) -
    Math.cbrt(0.4122214708 * lr2 + 0.5363325363 * lg2 + 0.0514459929 * lb2);
  const m =
    Math.cbrt(0.2119034982 * lr1 + 0.6806995451 * lg1 + 0.1073969566 * lb1) -
    Math.cbrt(0.2119034982 * lr2 + 0.6806995451 * lg2 + 0.1073969566 * lb2);
  const s =
    Math.cbrt(0.0883024619 * lr1 + 0.2817188376 * lg1 + 0.6299787005 * lb1) -
    Math.cbrt(0.0883024619 * lr2 + 0.2817188376 * lg2 + 0.6299787005 * lb2);
  // OKLab is linear in the cube roots, so the difference can be taken before the last matrix.
  const L = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
  const A = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  const B = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
  return Math.sqrt(L * L + A * A + B * B);
}
