/** What is wrong with a depth as typed, or null. */
export function wrongWith(text: string, least: number, most: number): string | null {
  if (text === '') return null;
  const metres = Number(text);
  if (Number.isNaN(metres)) return 'Not a number.';
  if (metres < least) return `At least ${least} m.`;
  if (metres > most) return `Only ${most} m of water at this berth.`;
  return null;
}

/** A depth as typed, in metres; null when there is none, or it is wrong. */
export const depthOf = (text: string, least: number, most: number): number | null =>
  text === '' || wrongWith(text, least, most) ? null : Number(text);

/** How much water is under a keel at low tide, in metres, and how wide that is drawn, in percent. */
export function underKeel(depth: number, draught: number): { metres: number; width: number; words: string } {
  const metres = Math.round((depth - draught) * 10) / 10;
  const width = Math.max(4, Math.min(100, (metres / depth) * 100));
  return { metres, width, words: metres < 0 ? 'Aground at low tide' : `${metres} m under the keel at low tide` };
}
