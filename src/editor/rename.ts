/** Renaming a look in its file: its key, and the looks that start where it ends. */
import type { TextEdit } from 'vscode-languageserver';
import { linesOf } from './lines.ts';
import { looksIn, type WrittenLook } from './lookFile.ts';
import { quoted } from './quoted.ts';

/** The look whose name stands at a place; null where there is none. */
export const nameAt = (text: string, offset: number): WrittenLook | null =>
  looksIn(text).find(({ key }) => offset >= key[0] && offset <= key[1]) ?? null;

/** A name as somebody types it, who may have put it in quotes. */
export const typedName = (text: string): string => text.trim().replace(/^(['"`])(.*)\1$/, '$2');

/** What changes in a file when one of its looks is called something else. */
export function renameEdits(text: string, { name, key }: WrittenLook, to: string): TextEdit[] {
  const lines = linesOf(text);
  const isPlain = /^[A-Za-z_$][\w$]*$/.test(to);
  const own = { range: lines.range(key), newText: isPlain ? to : quoted(to) };
  const after = [...text.matchAll(/\bafter:\s*(['"])((?:(?!\1).)*)\1/g)].filter(([, , one]) => one === name);
  return [
    own,
    ...after.map((found) => {
      const end = found.index + found[0].length;
      return { range: lines.range([end - name.length - 2, end]), newText: quoted(to) };
    }),
  ];
}
