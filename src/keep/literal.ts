/** Values as source text, in the style of the file that they are put into. */
import { keyOf, quoted, type Style } from '../core/draft/style.ts';

type Quotes = Pick<Style, 'quote'>;

/** A value that came as JSON; dates are `{ $date: ISO 8601 }`. */
export function literalOf(value: unknown, style: Quotes): string {
  if (typeof value === 'string') return quoted(value, style);
  if (typeof value !== 'object' || value === null) return String(value);
  if (Array.isArray(value)) return `[${value.map((one) => literalOf(one, style)).join(', ')}]`;
  const entries = Object.entries(value);
  const [[key, date] = []] = entries;
  if (entries.length === 1 && key === '$date' && typeof date === 'string') return `new Date(${quoted(date, style)})`;
  if (entries.length === 0) return '{}';
  return `{ ${entries.map(([name, one]) => `${keyOf(name, style)}: ${literalOf(one, style)}`).join(', ')} }`;
}
