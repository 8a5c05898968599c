/** Finds where the source says what a cause says. */
import { escaped } from '../text/escaped.ts';
import type { Cause, CausePlace, Trace } from './cause.ts';
import { channelsOf } from './colours.ts';
import type { Winner } from './effect.ts';

export type Source = { file: string; text: string };

/** A text as a pattern that white space does not matter to. */
const loosely = (text: string): string => text.trim().split(/\s+/).map(escaped).join('\\s*');

/** `paddingBlock` of `padding-block`. */
const inScript = (property: string): string => property.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

const lineAt = (text: string, at: number): number => text.slice(0, at).split('\n').length;

const isOfPackage = (file: string): boolean => file.includes('node_modules/');

const isSheet = (file: string): boolean => /\.(css|scss|sass|less|styl|pcss)$/.test(file);

/** Look files say what looks are given: what is found elsewhere as well comes from there. */
const isLookFile = (file: string): boolean => /\.look\.\w+$/.test(file);

type Match = { file: string; line: number; score: number };

/** The score of a place that is in the very rule. */
const sameRule = 4;

/** How well the rule around a place is the one that is looked for. */
function ruleScore(text: string, at: number, selector: string | null): number {
  if (selector === null) return 0;
  const open = text.lastIndexOf('{', at);
  const head = text.slice(Math.max(0, open - 400), Math.max(0, open));
  const last = head.slice(Math.max(head.lastIndexOf('}'), head.lastIndexOf('{'), head.lastIndexOf(';')) + 1);
  if (new RegExp(`^\\s*${loosely(selector)}\\s*$`).test(last.replace(/\/\*.*?\*\//gs, ''))) return sameRule;
  const names = selector.match(/[.#][\w-]+/g) ?? [];
  return names.some((name) => last.includes(name)) ? 2 : 0;
}

function declarations({ property, selector, texts }: Trace, sources: readonly Source[]): Match[] {
  if (property === null) return [];
  const value = texts[0];
  const names = [escaped(property), ...(property.startsWith('--') ? [] : [inScript(property)])].join('|');
  const end = value === undefined ? '' : `\\s*['"\`]?\\s*${loosely(value)}`;
  const pattern = new RegExp(`(?<![\\w-])(?:${names})['"]?\\s*:${end}`, 'gi');
  return sources.flatMap(({ file, text }) =>
    [...text.matchAll(pattern)].map(({ index }) => ({
      file,
      line: lineAt(text, index),
      score: ruleScore(text, index, selector) + (isSheet(file) ? 1 : 0),
    })),
  );
}

function rules({ trace: { selector } }: Cause, sources: readonly Source[]): Match[] {
  if (selector === null) return [];
  const pattern = new RegExp(`${loosely(selector)}\\s*\\{`, 'g');
  return sources.flatMap(({ file, text }) =>
    [...text.matchAll(pattern)].map(({ index }) => ({ file, line: lineAt(text, index), score: isSheet(file) ? 1 : 0 })),
  );
}

/** A single word as a text between quotes or tags, or as the name of an attribute: as a name it stands anywhere. */
const asText = (word: string): string =>
  `(?<=[>'"\`}]\\s*)${escaped(word)}(?=\\s*[<'"\`{])|(?<=\\s)${escaped(word)}(?==[{"'])`;

/**
 * The first text that is found; one that is a single word, or only a part of what is shown, has to stand in one place
 * alone.
 */
function words({ trace: { texts } }: Cause, sources: readonly Source[]): Match[] {
  for (const [nth, text] of texts.entries()) {
    // A single letter or number stands everywhere.
    if (text.length < 3) continue;
    const isWord = !/\s/.test(text.trim());
    const pattern = new RegExp(isWord ? asText(text.trim()) : loosely(text), 'g');
    const found = sources
      .filter(({ file }) => !isSheet(file))
      .flatMap(({ file, text: source }) =>
        [...source.matchAll(pattern)].slice(0, 5).map(({ index }) => ({
          file,
          line: lineAt(source, index),
          score: isLookFile(file) ? 0 : 1,
        })),
      );
    const top = Math.max(...found.map(({ score }) => score));
    if ((nth > 0 || isWord) && found.filter(({ score }) => score === top).length > 1) continue;
    if (found.length > 0) return found;
  }
  return [];
}

/** The colour in a value as sources write it: style attributes are read back as `rgb(…)`, whatever was written. */
function hexIn(value: string): string | null {
  const hex = /^#[0-9a-f]{6,8}$/i.exec(value)?.[0];
  if (hex) return hex;
  const channels = /rgb\((\d+), (\d+), (\d+)\)/.exec(value)?.slice(1);
  return channels ? `#${channels.map((one) => Number(one).toString(16).padStart(2, '0')).join('')}` : null;
}

/** How a colour may be written: in hexadecimal with three digits, too, where that is the same; others as they are. */
function notations(value: string): string | null {
  const hex = hexIn(value);
  if (hex !== null) return `(?:${hex}|${hex.replace(/^#(.)\1(.)\2(.)\3$/, '#$1$2$3')})(?![\\da-f])`;
  return value.includes('(') && channelsOf(value) ? loosely(value) : null;
}

/** Where a colour itself stands, as in a theme that is written in a script. */
function colours({ now }: Cause, sources: readonly Source[]): Match[] {
  const written = notations(now ?? '');
  if (written === null) return [];
  const pattern = new RegExp(written, 'i');
  return sources.flatMap(({ file, text }) => {
    const at = text.search(pattern);
    return at < 0 ? [] : [{ file, line: lineAt(text, at), score: isLookFile(file) ? 0 : 1 }];
  });
}

const best = (matches: readonly Match[]): CausePlace | null => {
  const [first] = matches.toSorted((one, other) => other.score - one.score);
  return first ? { file: first.file, line: first.line } : null;
};

/**
 * Where a cause's new value stands in the sources behind its look; null where it cannot be told. Scripts of packages
 * are no such sources: what they show was asked for elsewhere.
 */
export function placeOf(cause: Cause, all: readonly Source[]): CausePlace | null {
  const { kind } = cause;
  const sources = all.filter(({ file }) => isSheet(file) || !isOfPackage(file));
  if (kind === 'engine' || kind === 'view' || kind === 'failed' || kind === 'picture') return null;
  if (kind === 'token' || kind === 'style') {
    const written = best(declarations(cause.trace, sources));
    if (written || cause.now !== null) return written ?? best(colours(cause, sources));
    return best(rules(cause, sources));
  }
  if (kind === 'rule') return best(rules(cause, sources));
  return best(words(cause, sources));
}

/** Where a winning declaration stands: only where it is in the rule of that selector. */
export function placeOfWinner({ rule, property, value }: Winner, sources: readonly Source[]): CausePlace | null {
  const trace = { property, selector: rule, texts: value === '' ? [] : [value] };
  return rule === null ? null : best(declarations(trace, sources).filter(({ score }) => score >= sameRule));
}
