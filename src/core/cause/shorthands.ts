/** Properties of CSS that say several others at once. */

const sides = ['top', 'right', 'bottom', 'left'];

const shorthands: [name: string, parts: string[]][] = [
  ['padding', sides.map((side) => `padding-${side}`)],
  ['margin', sides.map((side) => `margin-${side}`)],
  ['inset', sides],
  ...['width', 'style', 'color'].map((what): [string, string[]] => [
    `border-${what}`,
    sides.map((side) => `border-${side}-${what}`),
  ]),
  ['border-radius', ['top-left', 'top-right', 'bottom-right', 'bottom-left'].map((at) => `border-${at}-radius`)],
  ['overflow', ['overflow-x', 'overflow-y']],
  ['gap', ['row-gap', 'column-gap']],
];

/** The same properties in as few names as possible. */
export function fewest(names: readonly string[]): string[] {
  let left = [...names];
  const whole: string[] = [];
  for (const [name, parts] of shorthands) {
    if (!parts.every((part) => left.includes(part))) continue;
    whole.push(name);
    left = left.filter((one) => !parts.includes(one));
  }
  return [...whole, ...left];
}

/** True when `name` is a shorthand that sets `property`, too: `border` sets `border-top-color`. */
export const says = (name: string, property: string): boolean =>
  name === 'all' ||
  property.startsWith(`${name}-`) ||
  (name === 'font' && property === 'line-height') ||
  shorthands.some(([shorthand, parts]) => shorthand === name && parts.includes(property));
