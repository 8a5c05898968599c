/**
 * Templates that Angular's compiler cannot read. A plugin that checks no types passes their components on uncompiled,
 * without a word, and no browser can run them.
 */
import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Plugin } from 'vite';
import { isOfProject, ofProject } from './filters.ts';

type Compiler = {
  parseTemplate(
    text: string,
    address: string,
  ): { errors: { msg: string; span: { start: { line: number; col: number } } }[] | null };
};

/** A template, and where it begins in its file: a line and a column, counted from 0. */
type Template = { file: string; text: string; line: number; column: number };

const decorated = /__decorate\(\[\s*Component\(/;

/** The templates that a source names or holds, but for those that are put together by it. */
export function templatesIn(file: string, source: string): Template[] {
  const found: Template[] = [];
  for (const { 1: quote, 2: text, index, 0: all } of source.matchAll(
    /\btemplate\s*:\s*(["'`])((?:\\.|(?!\1)[^\\])*)\1/g,
  )) {
    if (quote === '`' && text!.includes('${')) continue;
    const before = source.slice(0, index + all.indexOf(quote!) + 1).split('\n');
    found.push({ file, text: text!, line: before.length - 1, column: before.at(-1)!.length });
  }
  for (const [, , address] of source.matchAll(/\btemplateUrl\s*:\s*(["'`])([^"'`]+)\1/g)) {
    const path = resolve(dirname(file), address!);
    if (existsSync(path)) found.push({ file: path, text: readFileSync(path, 'utf8'), line: 0, column: 0 });
  }
  return found;
}

/** The project's own compiler; null where it has none. */
async function compilerOf(root: string): Promise<Compiler | null> {
  try {
    const path = createRequire(join(root, 'package.json')).resolve('@angular/compiler');
    return (await import(pathToFileURL(path).href)) as Compiler;
  } catch {
    return null;
  }
}

/** Refuses components that were not compiled because of what their templates say. */
export const refuseTemplates = (root: string): Plugin => ({
  name: 'sguardo:templates',
  enforce: 'post',
  transform: {
    order: 'post',
    filter: { id: ofProject, code: decorated },
    async handler(code, id) {
      const file = id.split(/[?#]/, 1)[0]!;
      if (!isOfProject(id) || !decorated.test(code)) return;
      const compiler = await compilerOf(root);
      if (!compiler) return;
      for (const { file: own, text, line, column } of templatesIn(file, readFileSync(file, 'utf8'))) {
        const [error] = compiler.parseTemplate(text, own).errors ?? [];
        if (!error) continue;
        const { start } = error.span;
        const loc = {
          file: own,
          line: line + start.line + 1,
          column: start.line === 0 ? column + start.col : start.col,
        };
        this.error({ message: `The template cannot be read: ${error.msg}`, id: own, loc });
      }
    },
  },
});
