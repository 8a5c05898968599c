/** A value of a type, as somebody would write it in a look file to begin with. */
import type { Prop, PropType } from '../props/type.ts';
import { keyOf, type Style, quoted } from './style.ts';

/** What is made of a type: source text, and whether a spy stands in it. */
export type Sample = { text: string; hasSpy: boolean };

const plain = (text: string): Sample => ({ text, hasSpy: false });

/** `vesselName` as words: `Vessel name`. */
export function inWords(name: string): string {
  const words = name
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .replace(/[_-]+/g, ' ')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Texts that are more than words, by what a prop is called. */
const texts: readonly [RegExp, string][] = [
  [/e-?mail$/i, 'ada@example.com'],
  [/(url|href|src|link)$/i, 'https://example.com/'],
  [/(colour|color)$/i, '#3366cc'],
  [/(date|day)$/i, '2026-03-02'],
  [/(At|Time|Timestamp)$/, '2026-03-02T09:30:00Z'],
  [/(^id|Id)$/, 'A'],
];

/** `nth` tells the entries of a list apart. */
function textFor(name: string, nth: number): string {
  const found = texts.find(([pattern]) => pattern.test(name))?.[1] ?? inWords(name);
  if (nth === 0) return found;
  return found === 'A' ? `A-${nth}` : /^(#|http|\d{4}-)|@/.test(found) ? found : `${found} ${nth}`;
}

const made: Record<string, string> = {
  Date: "new Date('2026-03-02T09:30:00Z')",
  URL: "new URL('https://example.com/')",
  RegExp: '/a/',
  File: "new File(['text'], 'note.txt')",
  Blob: "new Blob(['text'])",
};

/** What a function returns that is asked for something. */
function functionFor(text: string, style: Style): string {
  const returned = text.slice(text.lastIndexOf('=>') + 2).trim();
  if (returned === 'string') return `() => ${quoted('Text', style)}`;
  if (returned === 'number') return '() => 1';
  if (returned === 'boolean') return '() => true';
  if (/(ReactNode|ComponentChildren)$/.test(returned)) return `() => ${quoted('Text', style)}`;
  return style.isTyped ? '() => undefined as never' : '() => undefined';
}

const unknown = ({ isTyped }: Style): Sample => plain(isTyped ? '{} as never' : '{}');

/** The entries of an object that must be given, or all. */
export const entriesOf = (entries: Record<string, Prop>, all: boolean): [string, Prop][] =>
  Object.entries(entries).filter(([, { isOptional }]) => all || !isOptional);

/** A value for a prop of this name. With `nth` it is one of several that differ. */
export function sampleOf(type: PropType, name: string, style: Style, nth = 0): Sample {
  switch (type.is) {
    case 'text':
      return plain(quoted(textFor(name, nth), style));
    case 'number':
      return plain(String(nth || 1));
    case 'boolean':
      return plain('false');
    case 'null':
    case 'undefined':
      return plain(type.is);
    case 'value':
      return plain(typeof type.value === 'string' ? quoted(type.value, style) : String(type.value));
    case 'content':
      return plain(quoted(inWords(name), style));
    case 'function':
      return type.hears ? { text: 'spy()', hasSpy: true } : plain(functionFor(type.text, style));
    case 'list': {
      const one = name.replace(/s$/, '');
      return joined(
        [1, 2].map((n) => sampleOf(type.of, one, style, n)),
        '[',
        ']',
      );
    }
    case 'row':
      return joined(
        type.of.slice(0, type.least || type.of.length).map((one, n) => sampleOf(one, name, style, n)),
        '[',
        ']',
      );
    case 'instance':
      if (/^(Map|Set|FormData|Headers|URLSearchParams)$/.test(type.name)) return plain(`new ${type.name}()`);
      return made[type.name] ? plain(made[type.name]!) : unknown(style);
    case 'object': {
      const parts = entriesOf(type.entries, false).map(([key, prop]): Sample => {
        const { text, hasSpy } = sampleOf(prop.type, key, style, nth);
        return { text: `${keyOf(key, style)}: ${text}`, hasSpy };
      });
      return parts.length === 0 ? plain('{}') : joined(parts, '{ ', ' }');
    }
    case 'one': {
      const first = type.of.find(({ is }) => is !== 'null' && is !== 'undefined') ?? type.of[0];
      return first ? sampleOf(first, name, style, nth) : plain('undefined');
    }
    default:
      return unknown(style);
  }
}

function joined(parts: readonly Sample[], open: string, close: string): Sample {
  return { text: open + parts.map(({ text }) => text).join(', ') + close, hasSpy: parts.some(({ hasSpy }) => hasSpy) };
}
