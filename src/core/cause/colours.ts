/** Colours in values of declarations: one that gave way to another one in many rules is one cause. */

const pairs = (digits: string): string[] => digits.match(/../g) ?? [];

/** `#0b5563` of a colour in hexadecimal or as `rgb(…)`, however opaque it is; null for any other text. */
export function opaque(text: string): string | null {
  const [, short] = /^#([0-9a-f]{3,4})$/i.exec(text) ?? [];
  if (short) return opaque(`#${[...short].map((digit) => digit + digit).join('')}`);
  const [, long] = /^#([0-9a-f]{6}(?:[0-9a-f]{2})?)$/i.exec(text) ?? [];
  if (long) return `#${pairs(long).slice(0, 3).join('').toLowerCase()}`;
  const [, red, green, blue] = /^rgba?\(\s*(\d+)[\s,]+(\d+)[\s,]+(\d+)(?:\s*[,/]\s*[\d.]+%?)?\s*\)$/i.exec(text) ?? [];
  if (!red || !green || !blue) return null;
  return `#${[red, green, blue].map((one) => Math.min(255, Number(one)).toString(16).padStart(2, '0')).join('')}`;
}

/** The parts of a value that stand beside one another. */
const partsOf = (value: string): string[] => value.match(/[^\s(]+(\([^()]*\))?/g) ?? [];

/** The colour that gave way to another one in a value, where that is all that differs; null otherwise. */
export function colourChange(before: string, now: string): [before: string, now: string] | null {
  const [one, other] = [partsOf(before), partsOf(now)];
  if (one.length !== other.length) return null;
  const changes = new Map<string, [string, string]>();
  for (const [i, part] of one.entries()) {
    if (part === other[i]) continue;
    const [from, to] = [opaque(part.replace(/,$/, '')), opaque(other[i]!.replace(/,$/, ''))];
    if (from === null || to === null || from === to) return null;
    changes.set(`${from} ${to}`, [from, to]);
  }
  return changes.size === 1 ? [...changes.values()][0]! : null;
}

/** A value of CSS with its opaque colours as `#rrggbb`, as most sheets write them. */
export const inHex = (value: string): string =>
  value.replace(
    /rgb\((\d+), (\d+), (\d+)\)/g,
    (_, ...parts: string[]) =>
      `#${parts
        .slice(0, 3)
        .map((one) => Number(one).toString(16).padStart(2, '0'))
        .join('')}`,
  );
