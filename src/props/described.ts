/** What a component's source says of it beside types: doc comments, and the values that props fall back on. */
import type ts from 'typescript';
import type { Kind } from '../core/look/kind.ts';
import type { Described, DescribedProp } from '../core/props/described.ts';
import { folded, shortened } from '../core/text/folded.ts';
import { compiler } from './compiler.ts';
import { all } from './single.ts';

type Docs = Record<string, DescribedProp>;

/** Longer sources of values say more than fits into a table. */
const longest = 120;

/** The doc comment right before a node, without its tags: the compiler itself does not read those of scripts. */
function commentBefore(node: ts.Node): string {
  const text = node.getSourceFile().text;
  const ranges = compiler.getLeadingCommentRanges(text, node.pos) ?? [];
  const last = ranges.map(({ pos, end }) => text.slice(pos, end)).findLast((comment) => comment.startsWith('/**'));
  const lines = (last ?? '')
    .replace(/^\/\*\*|\*\/$/g, '')
    .split('\n')
    .map((line) => line.replace(/^\s*\* ?/, '').trimEnd());
  const tags = lines.findIndex((line) => /^\s*@\w/.test(line));
  return (tags < 0 ? lines : lines.slice(0, tags)).join('\n').trim();
}

function commentOf(symbol: ts.Symbol | undefined): string {
  for (const declaration of symbol?.declarations ?? []) {
    // The comment of a variable stands before its statement.
    const node = compiler.isVariableDeclaration(declaration) ? declaration.parent.parent : declaration;
    const comment = commentBefore(node);
    if (comment !== '') return comment;
  }
  return '';
}

function sourceOf(node: ts.Node | undefined): string | null {
  if (!node) return null;
  return shortened(folded(node.getText()), longest);
}

/** What names fall back on where an object is taken apart: `{ depth = 3.2 }`. */
const usualIn = (pattern: ts.BindingName | undefined): [string, string | null][] =>
  pattern && compiler.isObjectBindingPattern(pattern)
    ? pattern.elements.map(({ name, propertyName, initializer }) => [
        (propertyName ?? name).getText(),
        sourceOf(initializer),
      ])
    : [];

/** What an object has, by the sources of its values: `{ depth: 3.2 }`. */
const valuesIn = (object: ts.Node | undefined): [string, string | null][] =>
  object && compiler.isObjectLiteralExpression(object)
    ? object.properties.flatMap((one): [string, string | null][] =>
        compiler.isPropertyAssignment(one) ? [[one.name.getText(), sourceOf(one.initializer)]] : [],
      )
    : [];

const isFunction = (node: ts.Node): node is ts.FunctionLikeDeclaration =>
  compiler.isFunctionDeclaration(node) || compiler.isFunctionExpression(node) || compiler.isArrowFunction(node);

const isCallOf = (node: ts.Node, name: RegExp): node is ts.CallExpression =>
  compiler.isCallExpression(node) && name.test(node.expression.getText());

/** The first function in a declaration: the component itself, also where others are wrapped around it. */
function functionIn(node: ts.Node | undefined): ts.FunctionLikeDeclaration | undefined {
  if (!node) return undefined;
  return isFunction(node) ? node : compiler.forEachChild(node, functionIn);
}

/** Doc comments of the entries of a type. */
function docsOf(type: ts.Type | undefined): Docs {
  const entries = (type?.getProperties() ?? []).map((one) => [one.name, { about: commentOf(one), usual: null }]);
  return Object.fromEntries(entries) as Docs;
}

function withUsual(docs: Docs, usual: readonly [string, string | null][]): Docs {
  const found = { ...docs };
  for (const [name, value] of usual)
    if (value !== null) found[name] = { about: found[name]?.about ?? '', usual: value };
  return found;
}

/** A function's first parameter, or what a class has as `props`. */
function ofFunction(type: ts.Type, declaration: ts.Node | undefined, checker: ts.TypeChecker): Docs {
  const made = type.getConstructSignatures()[0]?.getReturnType();
  const instance = made?.getProperty('props') ?? made?.getProperty('$props');
  const first = instance ?? type.getCallSignatures()[0]?.getParameters()[0];
  const at = first?.valueDeclaration ?? declaration;
  const docs = docsOf(first && at ? checker.getTypeOfSymbolAtLocation(first, at) : undefined);
  const own = functionIn(declaration)?.parameters[0];
  const defaults = type.getProperty('defaultProps')?.valueDeclaration;
  const given =
    defaults && (compiler.isPropertyDeclaration(defaults) || compiler.isPropertyAssignment(defaults))
      ? defaults.initializer
      : undefined;
  return withUsual(docs, [...usualIn(own?.name), ...valuesIn(given)]);
}

/** Fields of a class: `lit = false`, `lit = input(false)`. */
function ofFields(type: ts.Type): Docs {
  const made = type.getConstructSignatures()[0]?.getReturnType();
  const docs: Docs = {};
  for (const symbol of made?.getProperties() ?? []) {
    const { valueDeclaration: field } = symbol;
    if (!field || /[\\/]node_modules[\\/]|[\\/]lib\.[\w.]+\.d\.ts$/.test(field.getSourceFile().fileName)) continue;
    const initial = compiler.isPropertyDeclaration(field) ? field.initializer : undefined;
    const signal = initial && isCallOf(initial, /^(input|model|signal)$/) ? initial.arguments[0] : undefined;
    const isSignal = initial && isCallOf(initial, /^(input|model|output|signal)\b/);
    docs[symbol.name] = { about: commentOf(symbol), usual: sourceOf(isSignal ? signal : initial) };
  }
  return docs;
}

/** Scripts of single files: what the types of props and their values say. */
function ofSingleFile(file: ts.SourceFile, kind: Kind, checker: ts.TypeChecker): Described {
  const calls = all(file, (node): node is ts.CallExpression => isCallOf(node, /^(defineProps|\$props|withDefaults)$/));
  const declarations = all(file, compiler.isVariableDeclaration);
  const taken = declarations.find(({ initializer }) => initializer && calls.includes(initializer as ts.CallExpression));
  const written = calls.flatMap(({ typeArguments }) => typeArguments ?? [])[0] ?? taken?.type;
  const docs = docsOf(written && checker.getTypeFromTypeNode(written));
  const runtime = calls.find((call) => isCallOf(call, /^defineProps$/))?.arguments[0];
  const declared =
    runtime && compiler.isObjectLiteralExpression(runtime)
      ? runtime.properties.map((one): [string, string | null] => {
          const options = compiler.isPropertyAssignment(one) ? one.initializer : undefined;
          return [one.name?.getText() ?? '', valuesIn(options).find(([name]) => name === 'default')?.[1] ?? null];
        })
      : [];
  const defaults = calls.find((call) => isCallOf(call, /^withDefaults$/))?.arguments[1];
  const exported = file.statements
    .filter(compiler.isVariableStatement)
    .flatMap(({ modifiers, declarationList }) =>
      kind === 'svelte' && modifiers?.some(({ kind: one }) => one === compiler.SyntaxKind.ExportKeyword)
        ? declarationList.declarations.map(({ name, initializer }): [string, string | null] => [
            name.getText(),
            sourceOf(initializer),
          ])
        : [],
    );
  const usual = [...usualIn(taken?.name), ...valuesIn(defaults), ...declared, ...exported];
  return { about: leadingComment(file), props: withUsual(docs, usual) };
}

/** The first doc comment before a statement of a script: what the component is for. */
const leadingComment = ({ statements }: ts.SourceFile): string =>
  statements.map(commentBefore).find((comment) => comment !== '') ?? '';

/** What a component's source says of it; `symbol` is what a script calls it, null for a file of its own language. */
export function describedIn(
  file: ts.SourceFile,
  symbol: ts.Symbol | null,
  type: ts.Type | null,
  kind: Kind,
  checker: ts.TypeChecker,
): Described {
  if (!symbol || !type) return ofSingleFile(file, kind, checker);
  const declaration = symbol.valueDeclaration ?? symbol.declarations?.[0];
  const isClass = kind === 'angular' || (kind === 'dom' && type.getConstructSignatures().length > 0);
  const props = isClass ? ofFields(type) : ofFunction(type, declaration, checker);
  return { about: commentOf(symbol), props };
}
