/** A look file's source: where its looks are written down. Whatever is not plain to see there is left alone. */
import type ts from 'typescript';
import { type Style, styleOf } from '../core/draft/style.ts';
import { compiler } from '../props/compiler.ts';
import { bare, entryOf, mayBeReplaced, objectIn } from './object.ts';

/** Why something cannot be written without touching more than that. */
export class Unclear extends Error {}

/** @throws Unclear */
export const unclear = (why: string): never => {
  throw new Unclear(why);
};

/** A look file as it stands, and how it is written. */
export type Parsed = { file: ts.SourceFile; source: string; style: Style };

/** What a name stands for where the file itself says so. */
function constant({ file }: Parsed, node: ts.Expression | undefined): ts.Expression | undefined {
  const found = node && bare(node);
  if (!found || !compiler.isIdentifier(found)) return found;
  for (const statement of file.statements)
    if (compiler.isVariableStatement(statement))
      for (const { name, initializer } of statement.declarationList.declarations)
        if (compiler.isIdentifier(name) && name.text === found.text) return initializer && bare(initializer);
  return found;
}

/** The call of `looks` that the file exports. @throws Unclear */
export function callOfLooks({ file }: Parsed): ts.CallExpression {
  const names = new Set(['looks']);
  for (const one of file.statements)
    if (compiler.isImportDeclaration(one) && /^sguardo(\/|$)/.test((one.moduleSpecifier as ts.StringLiteral).text)) {
      const given = one.importClause?.namedBindings;
      if (given && compiler.isNamedImports(given))
        for (const { name, propertyName } of given.elements) if (propertyName?.text === 'looks') names.add(name.text);
    }
  let found: ts.CallExpression | null = null;
  const visit = (node: ts.Node): void => {
    if (compiler.isCallExpression(node) && compiler.isIdentifier(node.expression) && names.has(node.expression.text))
      found ??= node;
    compiler.forEachChild(node, visit);
  };
  visit(file);
  return found ?? unclear('The file calls no looks(…).');
}

/** What an entry is set to. */
export const valueIn = (entry: ts.ObjectLiteralElementLike | undefined): ts.Expression | undefined =>
  entry && compiler.isPropertyAssignment(entry) ? entry.initializer : undefined;

/** What `looks` is given. @throws Unclear when it is not written out */
export function definitionIn(parsed: Parsed): ts.ObjectLiteralExpression {
  const [, given] = callOfLooks(parsed).arguments;
  return objectIn(constant(parsed, given)) ?? unclear('What looks(…) is given is not written out there.');
}

/** The states of the file's looks. @throws Unclear when they are not written out */
export function statesIn(parsed: Parsed): ts.ObjectLiteralExpression {
  const states = objectIn(constant(parsed, valueIn(entryOf(definitionIn(parsed), 'states'))));
  return states ?? unclear('The states are not written out: they come from elsewhere.');
}

/** One of the states. @throws Unclear when it is not written out */
export function stateOf(states: ts.ObjectLiteralExpression, look: string): ts.ObjectLiteralExpression {
  const entry = entryOf(states, look);
  if (!entry) return unclear(`“${look}” is not written out among the states: it is made of others.`);
  if (mayBeReplaced(states, entry)) unclear(`What stands after “${look}” may take its place.`);
  return objectIn(valueIn(entry)) ?? unclear(`“${look}” is not written out: it comes from elsewhere.`);
}

/** Reads a look file. @throws Unclear for code that cannot be read */
export function parse(name: string, source: string): Parsed {
  const file = compiler.createSourceFile(name, source, compiler.ScriptTarget.ESNext, true);
  const wrong = (file as unknown as { parseDiagnostics: unknown[] }).parseDiagnostics;
  if (wrong.length > 0) unclear('The file cannot be read: fix its code first.');
  return { file, source, style: styleOf(source, true) };
}
