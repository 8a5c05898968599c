/** What the words of the handbook lead to: Markdown as CommonMark has it, with GitHub's tables and tasks. */
import { lexer, type TokensList, walkTokens } from 'marked';
import { addressOf, decodePath } from '../address/address.ts';

/** The words of a text in Markdown, piece by piece. */
export const piecesOf = (text: string): TokensList => lexer(text, { gfm: true });

const isElsewhere = (address: string): boolean => /^([a-z][a-z0-9+.-]*:|\/\/)/i.test(address);

/**
 * The path, from the project's root, of what an address in the words of `file` leads to; null for one that leads out
 * of the project.
 */
export function pathOf(address: string, file: string): string | null {
  if (isElsewhere(address)) return null;
  const folders = file.split('/').slice(0, -1);
  const base = ['http://project', ...folders.map(encodeURIComponent), ''].join('/');
  const path = addressOf(address, base)?.pathname.slice(1) ?? null;
  // A name such as `100%.png` may stand in an address as it is.
  return path && (decodePath(path) ?? path);
}

/** The paths of the project's own pictures that the words of `file` show. */
export function picturesIn(text: string, file: string): string[] {
  const paths: string[] = [];
  walkTokens(piecesOf(text), (piece) => {
    const path = piece.type === 'image' ? pathOf(piece.href, file) : null;
    if (path) paths.push(path);
  });
  return paths;
}
