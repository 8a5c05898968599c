/**
 * Rewrites a style sheet's text so that a redrawn moment shows what the recorded window showed. A redrawn document
 * has no pointer, no focus and the media features of whoever looks at it, so states become attributes and
 * media features and colour schemes become constants. What is rewritten is found by CSS Syntax Level 3's tokens, not in
 * strings and comments.
 */
import { type CSSToken, tokenize, TokenType } from '@csstools/css-tokenizer';
import type { ColourScheme } from '../settings/environment.ts';

/** The pseudo-classes that are recorded, and the attribute that stands for each in a redrawn document. */
export const stateAttributes = {
  hover: 'data-sg-hover',
  'focus-visible': 'data-sg-focus-visible',
  'focus-within': 'data-sg-focus-within',
  focus: 'data-sg-focus',
  'user-invalid': 'data-sg-user-invalid',
  'user-valid': 'data-sg-user-valid',
} as const;

/** The attribute of a redrawn custom element that lists what sheets see of it: nothing is defined there. */
export const customAttribute = 'data-sg-custom';
const isCustom = (what: string): string => `[${customAttribute}~=${JSON.stringify(what)}]`;

export type MediaFeatures = {
  scheme: ColourScheme;
  motion: 'reduce' | 'no-preference';
  contrast: 'more' | 'no-preference';
  forcedColours?: boolean;
};

const always = '(min-width:0px)';
const never = '(max-width:-1px)';

/**
 * A page that can be shown in both schemes is shown in the one that was recorded, whoever looks at it. `value` is
 * that of `color-scheme`.
 */
export const pinScheme = (value: string, { scheme }: Pick<MediaFeatures, 'scheme'>): string =>
  /\blight\b/.test(value) && /\bdark\b/.test(value) ? scheme : value;

/** What a token is written as, and what it says without escapes. */
const written = (token: CSSToken | undefined): string => token?.[1] ?? '';
const said = (token: CSSToken | undefined): string => (token?.[4] as { value?: string } | undefined)?.value ?? '';
const isBlank = (token: CSSToken): boolean => token[0] === TokenType.Whitespace || token[0] === TokenType.Comment;

/** The place of the next token that is neither white space nor a comment. */
function nextSolid(tokens: readonly CSSToken[], from: number): number {
  let at = from;
  while (at < tokens.length && isBlank(tokens[at]!)) at++;
  return at;
}

const tokensOf = (css: string): CSSToken[] => tokenize({ css });

/** A piece of a sheet that is written otherwise: the tokens from `from` to before `to`. */
type Piece = { from: number; to: number; text: string };

/** An address in `url(…)`, `url("…")`, `@import "…"`, or a string in `image-set(…)`. */
type Found = Piece & { url: string; isImport: boolean };

/** Every address in a sheet. */
function* addresses(tokens: readonly CSSToken[]): Generator<Found> {
  const functions: string[] = [];
  for (let i = 0; i < tokens.length; i++) {
    const token = tokens[i]!;
    const [type] = token;
    if (type === TokenType.URL) yield { from: i, to: i + 1, text: '', url: said(token), isImport: false };
    else if (type === TokenType.Function) {
      const name = said(token).toLowerCase();
      functions.push(name);
      const inside = nextSolid(tokens, i + 1);
      if (name !== 'url' || tokens[inside]?.[0] !== TokenType.String) continue;
      const end = tokens.findIndex((one, at) => at > inside && one[0] === TokenType.CloseParen);
      if (end < 0) return;
      yield { from: i, to: end + 1, text: '', url: said(tokens[inside]), isImport: false };
      functions.pop();
      i = end;
    } else if (type === TokenType.OpenParen) functions.push('(');
    else if (type === TokenType.CloseParen) functions.pop();
    else if (type === TokenType.String && /(^|-)image-set$/.test(functions.at(-1) ?? ''))
      yield { from: i, to: i + 1, text: '', url: said(token), isImport: true };
    else if (type === TokenType.AtKeyword && said(token).toLowerCase() === 'import') {
      const at = nextSolid(tokens, i + 1);
      if (tokens[at]?.[0] === TokenType.String)
        yield { from: at, to: at + 1, text: '', url: said(tokens[at]), isImport: true };
    }
  }
}

const leadsOut = (url: string): boolean => url !== '' && !/^data:/i.test(url) && !url.startsWith('#');

/** Every address in a sheet, as written, but for those that hold what they stand for. */
export const urlsIn = (css: string): string[] =>
  /url\(|import|image-set/i.test(css) ? [...addresses(tokensOf(css))].map(({ url }) => url).filter(leadsOut) : [];

function urlPieces(tokens: readonly CSSToken[], resolve: (url: string) => string): Piece[] {
  return [...addresses(tokens)]
    .filter(({ url }) => leadsOut(url))
    .map(({ from, to, url, isImport }) => {
      const text = JSON.stringify(resolve(url));
      return { from, to, text: isImport ? text : `url(${text})` };
    });
}

/** `:hover` outside declarations and strings. */
function statePieces(tokens: readonly CSSToken[]): Piece[] {
  const pieces: Piece[] = [];
  for (let i = 0; i + 1 < tokens.length; i++) {
    if (tokens[i]![0] !== TokenType.Colon || tokens[i - 1]?.[0] === TokenType.Colon) continue;
    // The value of a custom property may be called like a state.
    if (tokens[i - 1]?.[0] === TokenType.Ident && written(tokens[i - 1]).startsWith('--')) continue;
    const piece = tokens[i + 1]![0] === TokenType.Function ? ownState(tokens, i) : pseudoClass(tokens, i);
    if (piece) pieces.push(piece);
  }
  return pieces;
}

/** `:hover`, as the attribute that stands for it; null for one that means the same in a redrawn document. */
function pseudoClass(tokens: readonly CSSToken[], at: number): Piece | null {
  const name = tokens[at + 1]![0] === TokenType.Ident ? said(tokens[at + 1]).toLowerCase() : '';
  const piece = (text: string): Piece => ({ from: at, to: at + 2, text });
  if (name === 'defined') return piece(`:not(${isCustom('undefined')})`);
  if (name === 'disabled') return piece(`:is(:disabled,${isCustom('disabled')})`);
  const isState = Object.hasOwn(stateAttributes, name);
  return isState ? piece(`[${stateAttributes[name as keyof typeof stateAttributes]}]`) : null;
}

/** `:state(open)` of a custom element. */
function ownState(tokens: readonly CSSToken[], at: number): Piece | null {
  const state = nextSolid(tokens, at + 2);
  const end = nextSolid(tokens, state + 1);
  const isOne = tokens[state]?.[0] === TokenType.Ident && tokens[end]?.[0] === TokenType.CloseParen;
  if (said(tokens[at + 1]).toLowerCase() !== 'state' || !isOne) return null;
  return { from: at, to: end + 1, text: isCustom(`:${said(tokens[state])}`) };
}

/** A selector of a rewritten sheet as it was recorded. */
export const withStates = (selector: string): string =>
  Object.entries(stateAttributes)
    .reduce((text, [name, attribute]) => text.replaceAll(`[${attribute}]`, `:${name}`), selector)
    .replace(/:is\(:disabled,\s*\[data-sg-custom~="disabled"\]\)/g, ':disabled')
    .replaceAll(`:not(${isCustom('undefined')})`, ':defined')
    .replace(/\[data-sg-custom~=":([^"]+)"\]/g, ':state($1)');

/** `(prefers-color-scheme: dark)`, also without a value. */
function mediaPieces(tokens: readonly CSSToken[], media: MediaFeatures): Piece[] {
  const actual: Record<string, string> = {
    'prefers-color-scheme': media.scheme,
    'prefers-reduced-motion': media.motion,
    'prefers-contrast': media.contrast,
    'forced-colors': media.forcedColours ? 'active' : 'none',
  };
  const pieces: Piece[] = [];
  for (let i = 0; i < tokens.length; i++) {
    if (tokens[i]![0] !== TokenType.OpenParen) continue;
    const name = nextSolid(tokens, i + 1);
    const feature = tokens[name]?.[0] === TokenType.Ident ? said(tokens[name]).toLowerCase() : '';
    if (!Object.hasOwn(actual, feature)) continue;
    let end = nextSolid(tokens, name + 1);
    // Without a value a feature asks whether there is any preference at all.
    let holds = actual[feature] !== 'no-preference';
    if (tokens[end]?.[0] === TokenType.Colon) {
      const value = nextSolid(tokens, end + 1);
      holds = said(tokens[value]).toLowerCase() === actual[feature];
      end = nextSolid(tokens, value + 1);
    }
    if (tokens[end]?.[0] === TokenType.CloseParen) pieces.push({ from: i, to: end + 1, text: holds ? always : never });
  }
  return pieces;
}

/** The values of `color-scheme`. */
function schemePieces(tokens: readonly CSSToken[], media: MediaFeatures): Piece[] {
  const pieces: Piece[] = [];
  for (let i = 0; i < tokens.length; i++) {
    if (tokens[i]![0] !== TokenType.Ident || said(tokens[i]).toLowerCase() !== 'color-scheme') continue;
    const colon = nextSolid(tokens, i + 1);
    if (tokens[colon]?.[0] !== TokenType.Colon) continue;
    let end = colon + 1;
    const ends: readonly string[] = [TokenType.Semicolon, TokenType.CloseCurly, TokenType.CloseParen, TokenType.EOF];
    while (end < tokens.length && !ends.includes(tokens[end]![0])) end++;
    const value = tokens
      .slice(colon + 1, end)
      .map(written)
      .join('');
    pieces.push({ from: colon + 1, to: end, text: pinScheme(value, media) });
  }
  return pieces;
}

function rewrite(tokens: readonly CSSToken[], pieces: readonly Piece[]): string {
  let text = '';
  let at = 0;
  for (const piece of [...pieces].sort((a, b) => a.from - b.from)) {
    if (piece.from < at) continue;
    while (at < piece.from) text += written(tokens[at++]);
    text += piece.text;
    at = piece.to;
  }
  while (at < tokens.length) text += written(tokens[at++]);
  return text;
}

/** `css` with recorded pseudo-classes as attributes, media features as constants and URLs passed through `resolve`. */
export function restyle(css: string, media: MediaFeatures, resolve: (url: string) => string): string {
  const tokens = tokensOf(css);
  return rewrite(tokens, [
    ...statePieces(tokens),
    ...mediaPieces(tokens, media),
    ...schemePieces(tokens, media),
    ...urlPieces(tokens, resolve),
  ]);
}

/** `css` with each of its addresses replaced by `resolve(address)`. */
export function rewriteUrls(css: string, resolve: (url: string) => string): string {
  const tokens = tokensOf(css);
  return rewrite(tokens, urlPieces(tokens, resolve));
}
