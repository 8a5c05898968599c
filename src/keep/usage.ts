/** How the looks of a file use their component, as its source has it: for people to copy. */
import type ts from 'typescript';
import type { FileUsage, Usage } from '../core/handbook/usage.ts';
import { compiler } from '../props/compiler.ts';
import { entryOf, nameOf, objectIn } from './object.ts';
import { callOfLooks, definitionIn, parse, statesIn, Unclear, valueIn } from './looks.ts';

type Given = Record<string, string>;

/** The source of each value of an object; what is spread into it cannot be told. */
function sourcesIn(object: ts.ObjectLiteralExpression | null): Given {
  const entries = (object?.properties ?? []).flatMap((one): [string, string][] => {
    const name = nameOf(one);
    if (name === null) return [];
    if (compiler.isPropertyAssignment(one)) return [[name, one.initializer.getText()]];
    if (compiler.isShorthandPropertyAssignment(one)) return [[name, name]];
    return compiler.isMethodDeclaration(one) ? [[name, `() => {}`]] : [];
  });
  return Object.fromEntries(entries);
}

const propsOf = (object: ts.ObjectLiteralExpression): Given => sourcesIn(objectIn(valueIn(entryOf(object, 'props'))));

/** The module that a name is imported from; for a tag the first one that is imported for what it does. */
function moduleOf({ statements }: ts.SourceFile, called: ts.Expression | undefined): string | null {
  for (const one of statements) {
    if (!compiler.isImportDeclaration(one) || !compiler.isStringLiteral(one.moduleSpecifier)) continue;
    const { importClause, moduleSpecifier } = one;
    if (!importClause) {
      if (called && compiler.isStringLiteralLike(called)) return moduleSpecifier.text;
      continue;
    }
    const { name, namedBindings } = importClause;
    const inBraces = namedBindings && compiler.isNamedImports(namedBindings) ? [...namedBindings.elements] : [];
    const names = [name, ...inBraces.map((element) => element.name)].map((each) => each?.text);
    if (called && names.includes(called.getText())) return moduleSpecifier.text;
  }
  return null;
}

/** How a look file uses its component. Looks that are not written out in it are left out. */
export function usagesIn(name: string, source: string): FileUsage {
  try {
    const parsed = parse(name, source);
    const [called] = callOfLooks(parsed).arguments;
    const definition = definitionIn(parsed);
    const shared = propsOf(definition);
    const usages: Record<string, Usage> = {};
    for (const entry of statesIn(parsed).properties) {
      const look = nameOf(entry);
      const state = objectIn(valueIn(entry));
      if (look === null || !state) continue;
      const script = entryOf(state, 'script')?.getText() ?? null;
      usages[look] = { props: { ...shared, ...propsOf(state) }, script };
    }
    const text = called && compiler.isStringLiteralLike(called) ? called.text : (called?.getText() ?? null);
    return { component: text, from: moduleOf(parsed.file, called), usages };
  } catch (error) {
    if (error instanceof Unclear) return { component: null, from: null, usages: {} };
    throw error;
  }
}
