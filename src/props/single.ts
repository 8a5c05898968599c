/** Components that are files of their own language: what TypeScript is to see of them. */
import type ts from 'typescript';
import { compiler } from './compiler.ts';

/** Files of a framework's own that hold scripts. */
export const isSingleFile = (path: string): boolean => /\.(vue|svelte)$/.test(path);

const block = /<script\b([^>]*)>([\s\S]*?)<\/script>/g;

/**
 * The scripts of such a file as one module. What a file exports by itself stands at its end when no script says so: the
 * component is known by it.
 */
export function scriptsOf(source: string): string {
  const scripts = [...source.replace(/<!--[\s\S]*?-->/g, '').matchAll(block)].map(([, , code]) => code!);
  const all = scripts.join('\n');
  return `${all}\n${/\bexport\s+default\b/.test(all) ? '' : 'export default {} as object;\n'}`;
}

const named = (call: ts.Node, name: string): call is ts.CallExpression =>
  compiler.isCallExpression(call) && compiler.isIdentifier(call.expression) && call.expression.text === name;

/** The first node below another of which a guard is true. */
function find<N extends ts.Node>(below: ts.Node, is: (node: ts.Node) => node is N): N | undefined {
  return compiler.forEachChild(below, (node) => (is(node) ? node : find(node, is)));
}

/** Every node below another of which a guard is true. */
export function all<N extends ts.Node>(below: ts.Node, is: (node: ts.Node) => node is N): N[] {
  const found: N[] = [];
  const visit = (node: ts.Node): void => {
    if (is(node)) found.push(node);
    compiler.forEachChild(node, visit);
  };
  visit(below);
  return found;
}

/** A prop that a script declares by itself. */
export type Declared = { name: string; type: ts.TypeNode | ts.Expression | null; isOptional: boolean };

/** What a single file says of its props: a type of all of them, or each by itself; null when it says nothing. */
export type DeclaredProps = { whole: ts.TypeNode | ts.Expression | null; each: Declared[] } | null;

const textOf = (node: ts.Node | undefined): string | null =>
  node && compiler.isStringLiteralLike(node) ? node.text : null;

const hasEntry = (node: ts.Node | undefined, name: string, value?: ts.SyntaxKind): boolean =>
  node !== undefined &&
  compiler.isObjectLiteralExpression(node) &&
  node.properties.some(
    (one) =>
      compiler.isPropertyAssignment(one) &&
      one.name.getText() === name &&
      (value === undefined || one.initializer.kind === value),
  );

/** Vue: `defineProps<…>()` or `defineProps({…})`, and `defineModel`. */
export function vueProps(source: ts.SourceFile): DeclaredProps {
  const call = find(source, (node) => named(node, 'defineProps'));
  const models = all(source, (node) => named(node, 'defineModel')).map(({ typeArguments, arguments: given }) => {
    const name = textOf(given[0]);
    const options = given[name === null ? 0 : 1];
    const isOptional = !hasEntry(options, 'required', compiler.SyntaxKind.TrueKeyword);
    return { name: name ?? 'modelValue', type: typeArguments?.[0] ?? null, isOptional };
  });
  if (!call && models.length === 0) return null;
  return { whole: call?.typeArguments?.[0] ?? call ?? null, each: models };
}

/** Svelte: what `$props()` is taken apart into, or `export let`. */
export function svelteProps(source: ts.SourceFile): DeclaredProps {
  const taken = find(
    source,
    (node): node is ts.VariableDeclaration =>
      compiler.isVariableDeclaration(node) && node.initializer !== undefined && named(node.initializer, '$props'),
  );
  if (taken?.type) return { whole: taken.type, each: [] };
  if (taken && compiler.isObjectBindingPattern(taken.name))
    return {
      whole: null,
      each: taken.name.elements
        .filter(({ dotDotDotToken }) => !dotDotDotToken)
        .map(({ name, propertyName }) => ({ name: (propertyName ?? name).getText(), type: null, isOptional: true })),
    };
  const exported = source.statements.filter(
    (one): one is ts.VariableStatement =>
      compiler.isVariableStatement(one) &&
      (one.declarationList.flags & compiler.NodeFlags.Const) === 0 &&
      (one.modifiers ?? []).some(({ kind }) => kind === compiler.SyntaxKind.ExportKeyword),
  );
  const each = exported
    .flatMap(({ declarationList }) => [...declarationList.declarations])
    .map(({ name, type, initializer }) => ({
      name: name.getText(),
      type: type ?? null,
      isOptional: initializer !== undefined || type === undefined,
    }));
  return each.length > 0 ? { whole: null, each } : null;
}
