/**
 * Which imports of a file types can depend on. What only the body of a function uses changes no type that a component
 * declares, and is most of what a project imports: it is left alone.
 */
import type ts from 'typescript';
import { compiler } from './compiler.ts';

const isBody = (node: ts.Node): boolean =>
  node.parent !== undefined &&
  compiler.isFunctionLike(node.parent) &&
  (node.parent as { body?: ts.Node }).body === node;

/** The names that stand outside of the bodies of functions. */
function namesOutside(file: ts.SourceFile): Set<string> {
  const names = new Set<string>();
  const visit = (node: ts.Node): void => {
    if (compiler.isImportDeclaration(node) || isBody(node)) return;
    if (compiler.isIdentifier(node)) names.add(node.text);
    compiler.forEachChild(node, visit);
  };
  compiler.forEachChild(file, visit);
  return names;
}

function namesOf({ name, namedBindings }: ts.ImportClause): string[] {
  const own = name ? [name.text] : [];
  if (!namedBindings) return own;
  if (compiler.isNamespaceImport(namedBindings)) return [...own, namedBindings.name.text];
  return [...own, ...namedBindings.elements.map((one) => one.name.text)];
}

/** True for the name of a module that has to be looked at. */
export function neededIn(file: ts.SourceFile): (specifier: ts.StringLiteralLike) => boolean {
  let names: Set<string> | null = null;
  return ({ parent }) => {
    // What is imported for what it does may declare something for all, and what is passed on is anybody's.
    if (!parent || !compiler.isImportDeclaration(parent) || !parent.importClause) return true;
    names ??= namesOutside(file);
    return namesOf(parent.importClause).some((name) => names!.has(name));
  };
}
