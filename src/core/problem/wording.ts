/** What is said of values that somebody has written wrongly, whichever part of Sguardo reads them. */
import { counted } from '../text/counted.ts';

type Wrong = { path: string; type: string; originalValue?: unknown };

/** A value's place in words; the whole has none. */
const placeOf = (path: string): string => (path === 'this' ? 'it' : path);

const shown = (value: unknown): string => {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? String(value));
  return `“${text.length > 60 ? `${text.slice(0, 60)}…` : text}”`;
};

/** Messages of the schema library, in our words: `lanes must be a number, got “four”`. */
export const schemaWords = {
  mixed: {
    notType: ({ path, type, originalValue }: Wrong): string =>
      `${placeOf(path)} must be ${/^[aeiou]/.test(type) ? 'an' : 'a'} ${type}, got ${shown(originalValue)}`,
    required: ({ path }: { path: string }): string => `${placeOf(path)} is missing`,
  },
  array: {
    min: ({ path, min }: { path: string; min: number }): string =>
      `${placeOf(path)} needs at least ${counted(min, 'entry', 'entries')}`,
  },
  object: {
    exact: ({ path, properties }: { path: string; properties: string | string[] }): string =>
      `Unknown entry “${properties}”${path === 'this' ? '' : ` in ${path}`}`,
  },
};
