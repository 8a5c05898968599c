/** Values as source text, in the style of the file that they are put into. */
import { keyOf, quoted, type Style } from '../core/draft/style.ts';

/** So long a value may be on its line before its parts get lines of their own. */
const longest = 80;

/** The parts of a list or an object, with what is before each; null for values without parts. */
function partsOf(
  value: unknown,
  style: Style,
): { open: string; parts: [before: string, of: unknown][]; close: string } | null {
  if (Array.isArray(value)) return { open: '[', parts: value.map((one) => ['', one]), close: ']' };
  if (typeof value !== 'object' || value === null) return null;
  return { open: '{', parts: Object.entries(value).map(([name, one]) => [`${keyOf(name, style)}: `, one]), close: '}' };
}

function inLine(value: unknown, style: Style): string {
  if (typeof value === 'string') return quoted(value, style);
  const whole = partsOf(value, style);
  if (!whole) return String(value);
  const { open, parts, close } = whole;
  const [[key, date] = []] = Object.entries(value as object);
  if (parts.length === 1 && key === '$date' && typeof date === 'string') return `new Date(${quoted(date, style)})`;
  const inside = parts.map(([before, one]) => before + inLine(one, style)).join(', ');
  return parts.length === 0 || open === '[' ? `${open}${inside}${close}` : `${open} ${inside} ${close}`;
}

/**
 * A value that came as JSON; dates are `{ $date: ISO 8601 }`. `at` is the white space before the line that it stands
 * in: a long one goes over several.
 */
export function literalOf(value: unknown, style: Style, at: string): string {
  const line = inLine(value, style);
  const whole = line.length > longest ? partsOf(value, style) : null;
  if (!whole) return line;
  const inner = at + style.indent;
  const parts = whole.parts.map(([before, one]) => `${inner}${before}${literalOf(one, style, inner)},\n`);
  return `${whole.open}\n${parts.join('')}${at}${whole.close}`;
}
