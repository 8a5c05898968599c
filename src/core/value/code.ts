/** Values as source text, as somebody would write them in a script. */
import { keyOf, quoted } from '../draft/style.ts';

const style = { quote: "'" } as const;

/** A text as source text, however long it is. */
export const textInCode = (text: string): string => quoted(text, style);

const isPlain = (value: object): boolean => {
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === Object.prototype || prototype === null;
};

/** Nothing longer is worth being checked. */
const longest = 200;

function visit(value: unknown, depth: number): string | null {
  if (typeof value === 'string') return textInCode(value);
  if (value === null || value === undefined || typeof value === 'boolean') return String(value);
  if (typeof value === 'number') return Number.isFinite(value) ? String(value) : null;
  if (typeof value !== 'object' || depth > 4) return null;
  if (Array.isArray(value)) {
    const entries = value.map((one) => visit(one, depth + 1));
    return entries.includes(null) ? null : `[${entries.join(', ')}]`;
  }
  if (!isPlain(value)) return null;
  const entries = Object.entries(value).map(([key, one]) => [keyOf(key, style), visit(one, depth + 1)] as const);
  if (entries.some(([, code]) => code === null)) return null;
  return entries.length === 0 ? '{}' : `{ ${entries.map(([key, code]) => `${key}: ${code}`).join(', ')} }`;
}

/** A value as source text; null for what cannot be written down, or only at length. */
export function codeOf(value: unknown): string | null {
  const code = visit(value, 0);
  return code === null || code.length > longest ? null : code;
}
