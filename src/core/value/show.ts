/** Any value as one short line for people: arguments of a spy, of a console call, sides of a comparison. */
import { counted } from '../text/counted.ts';
import { shortened } from '../text/folded.ts';

/** `[1, 2, …]`, with the name of what holds them before it. */
function listed(name: string, values: readonly unknown[], depth: number, seen: unknown[]): string {
  if (depth > 3) return `${name}[…]`;
  const shown = values.slice(0, 20).map((one) => visit(one, depth + 1, seen));
  return `${name}[${shown.join(', ')}${values.length > 20 ? ', …' : ''}]`;
}

function visit(value: unknown, depth: number, seen: unknown[]): string {
  if (typeof value === 'string') return JSON.stringify(shortened(value, 200));
  if (typeof value === 'function') return `function ${value.name || '(anonymous)'}`;
  if (typeof value === 'bigint') return `${value}n`;
  if (typeof value !== 'object' || value === null) return String(value);
  if (seen.includes(value)) return '(circular)';
  if (value instanceof Error) return `${value.name}: ${value.message}`;
  if (value instanceof Date) return `Date(${Number.isNaN(value.getTime()) ? 'invalid' : value.toISOString()})`;
  if (value instanceof RegExp) return String(value);
  const like = value as { nodeType?: unknown; localName?: unknown; type?: unknown; size?: unknown; name?: unknown };
  const kind = Object.prototype.toString.call(value).slice(8, -1);
  if (like.nodeType === 1 && typeof like.localName === 'string') return `<${like.localName}>`;
  if (kind.endsWith('Event') && typeof like.type === 'string') return `Event(${like.type})`;
  if (kind === 'File' || kind === 'Blob') {
    const name = kind === 'File' ? `${JSON.stringify(like.name)}, ` : '';
    return `${kind}(${name}${counted(Number(like.size), 'byte')}, ${like.type || 'no type'})`;
  }
  if (kind === 'URL' || kind === 'URLSearchParams') return `${kind}(${String(value)})`;
  if (['Number', 'String', 'Boolean'].includes(kind)) return `${kind}(${visit(value.valueOf(), depth, seen)})`;
  const within = [...seen, value];
  if (Array.isArray(value)) return listed('', value, depth, within);
  if (value instanceof Map || value instanceof Set) return listed(kind, [...value], depth, within);
  if (ArrayBuffer.isView(value) || kind === 'ArrayBuffer')
    return `${kind}(${counted((value as ArrayBufferView).byteLength, 'byte')})`;
  const type = Object.getPrototypeOf(value)?.constructor?.name as string | undefined;
  const named = type && type !== 'Object' ? type : '';
  if (named.startsWith('Synthetic')) return `event ${String((value as { type?: unknown }).type)}`;
  if (depth > 3) return named || '{…}';
  const entries = Object.entries(value).slice(0, 20);
  const shown = entries.map(([key, one]) => `${key}: ${visit(one, depth + 1, within)}`);
  return `${named ? `${named} ` : ''}{${shown.join(', ')}}`;
}

/** A value in at most 500 characters. Never throws, whatever its getters do. */
export function show(value: unknown): string {
  try {
    return shortened(visit(value, 0, []), 500);
  } catch {
    return '(a value that cannot be shown)';
  }
}

/** Anything thrown in one line: `TypeError: no such knot`. */
export const errorInWords = (error: unknown): string => {
  try {
    if (error instanceof Error) return `${error.name}: ${error.message}`;
    return typeof error === 'string' ? error : show(error);
  } catch {
    return 'an error that cannot be shown';
  }
};
