/** Long lines of which only the part that differs is worth reading. */

/** How much of what is the same stays before the part that differs. */
const before = 24;

/** How much of two texts is the same from the beginning on. */
function sharedStart(a: string, b: string): number {
  let at = 0;
  while (at < a.length && at < b.length && a[at] === b[at]) at++;
  return at;
}

/** A text from shortly before a place on, at most so long, with … where something was left out. */
function cut(text: string, from: number, most: number): string {
  if (text.length <= most) return text;
  const start = Math.max(0, Math.min(from - before, text.length - most));
  const end = Math.min(text.length, start + most);
  return `${start > 0 ? '…' : ''}${text.slice(start, end)}${end < text.length ? '…' : ''}`;
}

/** The line among others that is most like this one, or null when none begins like it. */
function counterpart(line: string, others: readonly string[]): string | null {
  let best: string | null = null;
  let most = 0;
  for (const other of others) {
    const shared = sharedStart(line, other);
    if (shared > most) [best, most] = [other, shared];
  }
  return best;
}

/** A line, cut to what differs from the most similar of the other side's lines. */
export function contrasted(line: string, others: readonly string[], most = 110): string {
  const other = counterpart(line, others);
  return cut(line, other === null ? 0 : sharedStart(line, other), most);
}
