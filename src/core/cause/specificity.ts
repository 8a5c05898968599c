/** How specific selectors are, by Selectors Level 4. */
import { type CSSToken, tokenize, TokenType } from '@csstools/css-tokenizer';

/** Ids, classes and the like, types and the like. */
export type Specificity = [number, number, number];

export function compareSpecificity(one: Specificity, other: Specificity): number {
  return one[0] - other[0] || one[1] - other[1] || one[2] - other[2];
}

const said = (token: CSSToken | undefined): string =>
  ((token?.[4] as { value?: string } | undefined)?.value ?? token?.[1] ?? '').toLowerCase();

const opens = (type: TokenType): boolean =>
  type === TokenType.Function || type === TokenType.OpenParen || type === TokenType.OpenSquare;
const closes = (type: TokenType): boolean => type === TokenType.CloseParen || type === TokenType.CloseSquare;

/** The place of the token that closes what is opened at `at`. */
function closing(tokens: readonly CSSToken[], at: number): number {
  let depth = 0;
  for (let i = at; i < tokens.length; i++) {
    if (opens(tokens[i]![0])) depth++;
    else if (closes(tokens[i]![0]) && --depth === 0) return i;
  }
  return tokens.length;
}

/** Tokens between commas that no bracket is around. */
function parts(tokens: readonly CSSToken[]): CSSToken[][] {
  const lists: CSSToken[][] = [[]];
  let depth = 0;
  for (const token of tokens) {
    if (opens(token[0])) depth++;
    else if (closes(token[0])) depth--;
    if (token[0] === TokenType.Comma && depth === 0) lists.push([]);
    else if (token[0] !== TokenType.EOF) lists.at(-1)!.push(token);
  }
  return lists;
}

/** The single selectors of a list. */
export const selectorsIn = (list: string): string[] =>
  parts(tokenize({ css: list }))
    .map((tokens) => tokens.map(([, text]) => text).join(''))
    .map((one) => one.trim())
    .filter((one) => one !== '');

const sum = (one: Specificity, other: Specificity): Specificity => [
  one[0] + other[0],
  one[1] + other[1],
  one[2] + other[2],
];

const highest = (list: readonly CSSToken[]): Specificity =>
  parts(list)
    .map(ofTokens)
    .reduce((best, one) => (compareSpecificity(one, best) > 0 ? one : best), [0, 0, 0] as Specificity);

/** Pseudo-elements that may be written with one colon. */
const oldElements = new Set(['before', 'after', 'first-line', 'first-letter']);

/** `:is(…)` and other pseudo-classes with arguments. */
function ofFunction(name: string, inside: readonly CSSToken[]): Specificity {
  if (name === 'where') return [0, 0, 0];
  if (name === 'is' || name === 'not' || name === 'has') return highest(inside);
  if (name === 'host' || name === 'host-context') return sum([0, 1, 0], highest(inside));
  if (name !== 'nth-child' && name !== 'nth-last-child') return [0, 1, 0];
  const of = inside.findIndex((token) => token[0] === TokenType.Ident && said(token) === 'of');
  return of < 0 ? [0, 1, 0] : sum([0, 1, 0], highest(inside.slice(of + 1)));
}

function ofTokens(tokens: readonly CSSToken[]): Specificity {
  let found: Specificity = [0, 0, 0];
  for (let i = 0; i < tokens.length; i++) {
    const [type] = tokens[i]!;
    const isElement = tokens[i - 2]?.[0] === TokenType.Colon;
    const isPseudo = tokens[i - 1]?.[0] === TokenType.Colon;
    if (type === TokenType.Hash) found = sum(found, [1, 0, 0]);
    else if (type === TokenType.OpenSquare) {
      found = sum(found, [0, 1, 0]);
      i = closing(tokens, i);
    } else if (type === TokenType.Function) {
      const end = closing(tokens, i);
      const inside = tokens.slice(i + 1, end);
      const name = said(tokens[i]);
      if (isElement) found = sum(found, name === 'slotted' ? sum([0, 0, 1], highest(inside)) : [0, 0, 1]);
      else found = sum(found, ofFunction(name, inside));
      i = end;
    } else if (type === TokenType.Ident) {
      const isClass = tokens[i - 1]?.[1] === '.' || (isPseudo && !isElement && !oldElements.has(said(tokens[i])));
      // A namespace is no type.
      if (tokens[i + 1]?.[1] === '|') continue;
      found = sum(found, isClass ? [0, 1, 0] : [0, 0, 1]);
    }
  }
  return found;
}

/** How specific a single selector is. */
export const specificityOf = (selector: string): Specificity => highest(tokenize({ css: selector }));
