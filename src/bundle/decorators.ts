/** Decorators that nobody has compiled: no browser reads them, nor says what it is that it cannot read. */
import { readFileSync } from 'node:fs';
import type { Plugin } from 'vite';
import { isOfProject, ofProject } from './filters.ts';

type Decorator = { expression: { type: string; name?: string; callee?: { name?: string } } };
type Member = { decorators?: Decorator[] };
type Node = Member & { type: string; declaration?: Node | null; body?: { body?: Member[] } };

/** The first decorator of a class at the top of a module, or null. */
function decoratorIn(body: readonly Node[]): Decorator | null {
  for (const statement of body) {
    const declared = statement.declaration ?? statement;
    const members = declared.type === 'ClassDeclaration' ? (declared.body?.body ?? []) : [];
    const found = [...(declared.decorators ?? []), ...members.flatMap((member) => member.decorators ?? [])][0];
    if (found) return found;
  }
  return null;
}

/** Where a decorator stands in the source of a file, which its compiled form does not tell. */
function placeOf(file: string, name: string): { file: string; line: number; column: number } | undefined {
  const before = readFileSync(file, 'utf8').split(new RegExp(`@${name}\\b`), 2);
  if (before.length < 2) return undefined;
  const lines = before[0]!.split('\n');
  return { file, line: lines.length, column: lines.at(-1)!.length };
}

const isAngular = (name: string): boolean => /^(Component|Directive|Pipe|Injectable|NgModule)$/.test(name);

const compileThem = 'let TypeScript compile it, with experimentalDecorators in tsconfig.json, or a plugin of Vite';
const takeThem =
  'Angular’s compiler has not taken this file: let the include of the tsconfig that its plugin reads ' +
  '(tsconfig.app.json, unless vite.config names another) match it';

/** Statements of a module; none of one that cannot be read, of which the bundler itself will tell. */
function parsed(parse: () => { body: unknown[] }): Node[] {
  try {
    return parse().body as Node[];
  } catch {
    return [];
  }
}

/** What a decorator looks like, and now and then something else. */
const decorator = /(^|[\n;{]|export\s)\s*@[\w$]/;

/** Refuses modules of the project whose decorators would reach the browser. */
export const refuseDecorators = (): Plugin => ({
  name: 'sguardo:decorators',
  enforce: 'post',
  transform: {
    order: 'post',
    filter: { id: ofProject, code: decorator },
    handler(code, id) {
      const file = id.split(/[?#]/, 1)[0]!;
      if (!isOfProject(id) || !/\.[cm]?[jt]sx?$/.test(file) || !decorator.test(code)) return;
      const found = decoratorIn(parsed(() => this.parse(code, { lang: 'tsx' })));
      if (!found) return;
      const name = found.expression.callee?.name ?? found.expression.name ?? '';
      const what = `No browser reads the decorator @${name}: ${isAngular(name) ? takeThem : compileThem}.`;
      const loc = placeOf(file, name);
      this.error({ message: what, id: file, ...(loc && { loc }) });
    },
  },
});
