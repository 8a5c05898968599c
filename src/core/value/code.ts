/** Values as source text, as somebody would write them in a script. */

const quoted = (text: string): string =>
  `'${text.replace(/[\\']/g, '\\$&').replaceAll('\n', '\\n').replaceAll('\r', '\\r')}'`;

const isPlain = (value: object): boolean => {
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === Object.prototype || prototype === null;
};

const keyOf = (key: string): string => (/^[A-Za-z_$][\w$]*$/.test(key) ? key : quoted(key));

/** Nothing longer is worth being written down. */
const longest = 200;

function visit(value: unknown, depth: number): string | null {
  if (typeof value === 'string') return quoted(value);
  if (value === null || value === undefined || typeof value === 'boolean') return String(value);
  if (typeof value === 'number') return Number.isFinite(value) ? String(value) : null;
  if (typeof value !== 'object' || depth > 4) return null;
  if (Array.isArray(value)) {
    const entries = value.map((one) => visit(one, depth + 1));
    return entries.includes(null) ? null : `[${entries.join(', ')}]`;
  }
  if (!isPlain(value)) return null;
  const entries = Object.entries(value).map(([key, one]) => [keyOf(key), visit(one, depth + 1)] as const);
  if (entries.some(([, code]) => code === null)) return null;
  return entries.length === 0 ? '{}' : `{ ${entries.map(([key, code]) => `${key}: ${code}`).join(', ')} }`;
}

/** A value as source text; null for what cannot be written down, or only at length. */
export function codeOf(value: unknown): string | null {
  const code = visit(value, 0);
  return code === null || code.length > longest ? null : code;
}
