/** Any value as one short line for people: arguments of a spy, of a console call, sides of a comparison. */

const shorten = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

function visit(value: unknown, depth: number, seen: unknown[]): string {
  if (typeof value === 'string') return JSON.stringify(shorten(value, 200));
  if (typeof value === 'function') return `function ${value.name || '(anonymous)'}`;
  if (typeof value === 'bigint') return `${value}n`;
  if (typeof value !== 'object' || value === null) return String(value);
  if (seen.includes(value)) return '(circular)';
  if (value instanceof Error) return `${value.name}: ${value.message}`;
  if (value instanceof Date) return `Date(${Number.isNaN(value.getTime()) ? 'invalid' : value.toISOString()})`;
  if (value instanceof RegExp) return String(value);
  if (value instanceof Element) return `<${value.localName}>`;
  if (value instanceof Event) return `Event(${value.type})`;
  const within = [...seen, value];
  if (Array.isArray(value))
    return depth > 3
      ? '[…]'
      : `[${value
          .slice(0, 20)
          .map((one) => visit(one, depth + 1, within))
          .join(', ')}${value.length > 20 ? ', …' : ''}]`;
  if (value instanceof Map || value instanceof Set) return `${value.constructor.name}(${value.size})`;
  const type = Object.getPrototypeOf(value)?.constructor?.name as string | undefined;
  const named = type && type !== 'Object' ? type : '';
  if (named.startsWith('Synthetic')) return `event ${String((value as { type?: unknown }).type)}`;
  if (depth > 3) return named || '{…}';
  const entries = Object.entries(value).slice(0, 20);
  return `${named ? `${named} ` : ''}{${entries.map(([key, one]) => `${key}: ${visit(one, depth + 1, within)}`).join(', ')}}`;
}

export const show = (value: unknown): string => shorten(visit(value, 0, []), 500);
