/**
 * Style sheets as trees of rules and declarations, by the grammar of CSS Syntax Level 3 with nesting: as far as they
 * can be compared and written down again.
 */
import { type CSSToken, tokenize, TokenType } from '@csstools/css-tokenizer';

export type Declaration = { kind: 'declaration'; property: string; value: string };
/** A rule with a block: a style rule, or one such as `@media (…)`. */
export type Rule = { kind: 'rule'; prelude: string; items: Item[] };
/** A rule without a block, such as `@import "…"`. */
export type Statement = { kind: 'statement'; text: string };
export type Item = Declaration | Rule | Statement;

type Reader = { tokens: CSSToken[]; at: number };

/** Tokens as one line, without comments. */
function lineOf(tokens: readonly CSSToken[]): string {
  let line = '';
  for (const [type, text] of tokens) {
    if (type === TokenType.Comment || type === TokenType.Whitespace) {
      if (!line.endsWith(' ')) line += ' ';
    } else line += text;
  }
  return line.trim();
}

const closing: Record<string, TokenType> = {
  [TokenType.Function]: TokenType.CloseParen,
  [TokenType.OpenParen]: TokenType.CloseParen,
  [TokenType.OpenSquare]: TokenType.CloseSquare,
};

/** A statement up to its `;`, the `{` of its block, or the end of the block around it, which is left. */
function readHead(reader: Reader, isCustom: boolean): { head: CSSToken[]; hasBlock: boolean } {
  const { tokens } = reader;
  const head: CSSToken[] = [];
  const open: TokenType[] = [];
  for (; reader.at < tokens.length; reader.at++) {
    const token = tokens[reader.at]!;
    const [type] = token;
    if (type === TokenType.EOF) break;
    if (open.length === 0) {
      if (type === TokenType.Semicolon) {
        reader.at++;
        return { head, hasBlock: false };
      }
      if (type === TokenType.CloseCurly) break;
      if (type === TokenType.OpenCurly && !isCustom) {
        reader.at++;
        return { head, hasBlock: true };
      }
    }
    if (type === TokenType.OpenCurly) open.push(TokenType.CloseCurly);
    else if (closing[type]) open.push(closing[type]);
    else if (type === open.at(-1)) open.pop();
    head.push(token);
  }
  return { head, hasBlock: false };
}

/** True where `--name:` stands: whatever comes next is its value, blocks as well. */
function beginsCustomProperty({ tokens, at }: Reader): boolean {
  const [type, text] = tokens[at]!;
  if (type !== TokenType.Ident || !text.startsWith('--')) return false;
  const next = tokens.slice(at + 1, at + 4).find(([one]) => one !== TokenType.Whitespace && one !== TokenType.Comment);
  return next?.[0] === TokenType.Colon;
}

function declarationOf(head: readonly CSSToken[]): Item {
  const colon = head.findIndex(([type]) => type === TokenType.Colon);
  const property = lineOf(head.slice(0, Math.max(colon, 0)));
  if (colon < 0 || property === '' || property.startsWith('@')) return { kind: 'statement', text: lineOf(head) };
  return {
    kind: 'declaration',
    property: property.startsWith('--') ? property : property.toLowerCase(),
    value: lineOf(head.slice(colon + 1)),
  };
}

/** Deeper than any sheet nests. */
const deepest = 50;

function readItems(reader: Reader, depth: number): Item[] {
  const items: Item[] = [];
  const { tokens } = reader;
  while (reader.at < tokens.length) {
    const [type] = tokens[reader.at]!;
    if (type === TokenType.EOF) break;
    if (type === TokenType.CloseCurly) {
      if (depth > 0) break;
      reader.at++;
      continue;
    }
    const isBlank = type === TokenType.Whitespace || type === TokenType.Comment || type === TokenType.Semicolon;
    if (isBlank || type === TokenType.CDO || type === TokenType.CDC) {
      reader.at++;
      continue;
    }
    const { head, hasBlock } = readHead(reader, beginsCustomProperty(reader));
    if (!hasBlock) items.push(declarationOf(head));
    else {
      items.push({ kind: 'rule', prelude: lineOf(head), items: depth < deepest ? readItems(reader, depth + 1) : [] });
      if (tokens[reader.at]?.[0] === TokenType.CloseCurly) reader.at++;
    }
  }
  return items;
}

/** The rules of a style sheet. Total: what is no CSS comes out as statements. */
export const parseSheet = (css: string): Item[] => readItems({ tokens: tokenize({ css }), at: 0 }, 0);

/** The declarations of a `style` attribute. */
export const parseStyle = (style: string): Declaration[] =>
  parseSheet(style).filter((item): item is Declaration => item.kind === 'declaration');

/** Rules as text. */
export const writeItems = (items: readonly Item[]): string => items.map(writeItem).join('\n');

export function writeItem(item: Item): string {
  if (item.kind === 'declaration') return `${item.property}: ${item.value};`;
  if (item.kind === 'statement') return `${item.text};`;
  return `${item.prelude} {\n${writeItems(item.items)}\n}`;
}
