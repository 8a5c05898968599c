/** Where a look is written down in its file, as far as that is plain to see. */

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** The line on which a look's name stands as a key; null where it is not written out. */
export function lineOfLook(source: string, look: string): number | null {
  const names = [JSON.stringify(look), `'${look.replaceAll("'", "\\'")}'`, look].map(escaped).join('|');
  const found = new RegExp(`(?:^|[{,\\s])(?:${names})\\s*:`).exec(source);
  if (!found) return null;
  const at = found.index + found[0].search(/[^{,\s]/);
  return source.slice(0, at).split('\n').length;
}
