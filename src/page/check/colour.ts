/** Colours as the screen shows them, in whatever notation they are written. */

const paint = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })!;

/** What was read last: a page has few colours, and many elements of each. */
const known = new Map<string, readonly number[] | null>();
const mostKnown = 500;

/** A colour as the screen shows it: red, green, blue and opacity from 0 to 255; null for what is none. */
export function colourOf(text: string): readonly number[] | null {
  const before = known.get(text);
  if (before !== undefined) return before;
  if (known.size >= mostKnown) known.clear();
  const colour = paintedAs(text);
  known.set(text, colour);
  return colour;
}

function paintedAs(text: string): readonly number[] | null {
  if (!/^[a-z#]/i.test(text) || !CSS.supports('color', text) || /^(inherit|initial|unset|revert)/i.test(text))
    return null;
  paint.clearRect(0, 0, 1, 1);
  paint.fillStyle = text;
  paint.fillRect(0, 0, 1, 1);
  return [...paint.getImageData(0, 0, 1, 1).data];
}
