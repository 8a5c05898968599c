/** Finds the component that a look file describes, and the types of its props. One function a kind of component. */
import type ts from 'typescript';
import { compiler } from './compiler.ts';
import type { Kind } from '../core/look/kind.ts';
import type { Prop, PropType, PropTypes } from '../core/props/type.ts';
import { type Converting, converted, propOf } from './convert.ts';
import { fileBehind } from './project.ts';
import { type DeclaredProps, svelteProps, vueProps } from './single.ts';

/** The component that is handed to `looks(…)`. */
function componentIn(file: ts.SourceFile): ts.Expression | null {
  const names = new Set<string>();
  for (const one of file.statements) {
    if (!compiler.isImportDeclaration(one) || !/^sguardo(\/|$)/.test((one.moduleSpecifier as ts.StringLiteral).text))
      continue;
    const given = one.importClause?.namedBindings;
    if (given && compiler.isNamedImports(given))
      for (const { name, propertyName } of given.elements)
        if ((propertyName ?? name).text === 'looks') names.add(name.text);
  }
  const search = (node: ts.Node): ts.Expression | null => {
    if (compiler.isCallExpression(node) && compiler.isIdentifier(node.expression) && names.has(node.expression.text))
      return node.arguments[0] ?? null;
    return compiler.forEachChild(node, search) ?? null;
  };
  return names.size === 0 ? null : search(file);
}

/** The file of its own language that a component comes from; null for one that is written in a script. */
function singleFile(component: ts.Expression, checker: ts.TypeChecker): ts.SourceFile | null {
  let symbol = checker.getSymbolAtLocation(component);
  if (symbol && symbol.flags & compiler.SymbolFlags.Alias) symbol = checker.getAliasedSymbol(symbol);
  const file = symbol?.declarations?.[0]?.getSourceFile();
  return file && fileBehind(file.fileName) !== file.fileName ? file : null;
}

const typeOfNode = (node: ts.TypeNode | ts.Expression, checker: ts.TypeChecker): ts.Type =>
  compiler.isTypeNode(node) ? checker.getTypeFromTypeNode(node) : checker.getTypeAtLocation(node);

const objectOf = (entries: Record<string, Prop>): PropTypes => ({ is: 'object', name: '', entries, others: null });

const anything: PropType = { is: 'anything' };

function declaredProps(declared: DeclaredProps, within: Converting): PropTypes | null {
  if (!declared) return null;
  const { checker } = within;
  const whole = declared.whole && converted(typeOfNode(declared.whole, checker), within);
  const each = Object.fromEntries(
    declared.each.map(({ name, type, isOptional }) => [
      name,
      { type: type ? converted(typeOfNode(type, checker), within) : anything, isOptional, isOwn: true },
    ]),
  );
  if (!whole) return objectOf(each);
  if (whole.is !== 'object') return declared.each.length > 0 ? null : whole;
  return { ...whole, entries: { ...whole.entries, ...each } };
}

/** Everything optional: of a function in JavaScript that says nothing of its props only their names are known. */
function loosened(types: PropTypes): PropTypes {
  if (types.is !== 'object') return types;
  const entries = Object.entries(types.entries).map(([name, prop]) => [name, { ...prop, isOptional: true }] as const);
  return { ...types, entries: Object.fromEntries(entries) };
}

const isUnsaid = (parameter: ts.ParameterDeclaration): boolean =>
  parameter.type === undefined && compiler.getJSDocParameterTags(parameter).length === 0;

/** Those that a class or function gives by itself need not be given. */
function withDefaults(types: PropTypes, type: ts.Type, { checker }: Converting): PropTypes {
  const given = type.getProperty('defaultProps');
  if (!given || types.is !== 'object') return types;
  const names = checker
    .getTypeOfSymbol(given)
    .getProperties()
    .map(({ name }) => name);
  const entries = { ...types.entries };
  for (const name of names) if (entries[name]) entries[name] = { ...entries[name], isOptional: true };
  return { ...types, entries };
}

/** What a function takes first, or an instance of a class has as `props`. */
function functionProps(type: ts.Type, at: ts.Node, within: Converting): PropTypes | null {
  const { checker } = within;
  const made = type.getConstructSignatures()[0]?.getReturnType().getProperty('props');
  if (made) return withDefaults(converted(checker.getTypeOfSymbolAtLocation(made, at), within), type, within);
  const signature = type.getCallSignatures()[0];
  if (!signature) return null;
  const [first] = signature.getParameters();
  if (!first) return objectOf({});
  const types = converted(checker.getTypeOfSymbolAtLocation(first, at), within);
  const declaration = first.valueDeclaration;
  const isLoose =
    declaration &&
    compiler.isParameter(declaration) &&
    isUnsaid(declaration) &&
    /\.[cm]?jsx?$/.test(declaration.getSourceFile().fileName);
  return withDefaults(isLoose ? loosened(types) : types, type, within);
}

/** What Vue itself gives every component. */
const isVuesOwn = (name: string): boolean => /^(key|ref|ref_.*|class|style|onVnode.*)$/.test(name);

function vueComponent(type: ts.Type, at: ts.Node, within: Converting): PropTypes | null {
  const props = type.getConstructSignatures()[0]?.getReturnType().getProperty('$props');
  if (!props) return functionProps(type, at, within);
  const types = converted(within.checker.getTypeOfSymbolAtLocation(props, at), within);
  if (types.is !== 'object') return types;
  return { ...types, entries: Object.fromEntries(Object.entries(types.entries).filter(([name]) => !isVuesOwn(name))) };
}

const decoratorOf = (declaration: ts.Declaration | undefined, name: string): ts.CallExpression | null => {
  const decorators =
    declaration && compiler.canHaveDecorators(declaration) ? (compiler.getDecorators(declaration) ?? []) : [];
  for (const { expression } of decorators)
    if (compiler.isCallExpression(expression) && expression.expression.getText() === name) return expression;
  return null;
};

/** Inputs of an Angular component: signals, and fields that are marked as inputs. */
function angularProps(type: ts.Type, at: ts.Node, within: Converting): PropTypes | null {
  const { checker } = within;
  const instance = type.getConstructSignatures()[0]?.getReturnType();
  if (!instance) return null;
  const entries: Record<string, Prop> = {};
  for (const symbol of instance.getProperties()) {
    const declaration = symbol.valueDeclaration;
    const own = checker.getTypeOfSymbolAtLocation(symbol, at);
    const marked = decoratorOf(declaration, 'Input');
    const signal = /^(Input|Model)Signal(WithTransform)?$/.exec((own.aliasSymbol ?? own.symbol)?.name ?? '');
    if (!marked && !signal) continue;
    const written = signal ? (own.aliasTypeArguments ?? (own as ts.TypeReference).typeArguments)?.at(-1) : own;
    const source = declaration?.getText() ?? '';
    const isRequired = marked ? /required:\s*true/.test(marked.getText()) : /\b(input|model)\.required\b/.test(source);
    const alias = /\balias:\s*['"]([^'"]+)/.exec(marked?.getText() ?? source)?.[1];
    const prop = propOf(symbol, written ?? own, within);
    entries[alias ?? symbol.name] = {
      ...prop,
      type: written ? prop.type : anything,
      isOptional: !isRequired,
    };
  }
  return objectOf(entries);
}

/** What the project itself says that its elements have; nothing of it must be given. */
function elementProps(type: ts.Type, at: ts.Node, within: Converting): PropTypes {
  const entries: Record<string, Prop> = {};
  for (const symbol of type.getProperties()) {
    const declaration = symbol.valueDeclaration ?? symbol.declarations?.[0];
    if (!declaration || symbol.name.startsWith('#')) continue;
    const hidden =
      compiler.ModifierFlags.Private |
      compiler.ModifierFlags.Protected |
      compiler.ModifierFlags.Static |
      compiler.ModifierFlags.Readonly;
    const isField =
      compiler.isPropertyDeclaration(declaration) ||
      compiler.isPropertySignature(declaration) ||
      compiler.isAccessor(declaration);
    if (!isField || compiler.getCombinedModifierFlags(declaration) & hidden) continue;
    const prop = propOf(symbol, within.checker.getTypeOfSymbolAtLocation(symbol, at), within);
    if (prop.isOwn) entries[symbol.name] = { ...prop, isOptional: true };
  }
  return objectOf(entries);
}

/** The element that goes by a tag, as `HTMLElementTagNameMap` has it. */
function taggedProps(tag: string, at: ts.Node, within: Converting): PropTypes | null {
  const { checker } = within;
  const [map] = checker
    .getSymbolsInScope(at, compiler.SymbolFlags.Interface)
    .filter(({ name }) => name === 'HTMLElementTagNameMap');
  const found = map && checker.getDeclaredTypeOfSymbol(map).getProperty(tag);
  return found ? elementProps(checker.getTypeOfSymbolAtLocation(found, at), at, within) : null;
}

function domProps(type: ts.Type, at: ts.Node, within: Converting): PropTypes | null {
  if (type.isStringLiteral()) return taggedProps(type.value, at, within);
  const instance = type.getConstructSignatures()[0]?.getReturnType();
  return instance ? elementProps(instance, at, within) : functionProps(type, at, within);
}

/** The types of the props of a file of its own language; null where it says nothing of them. */
export function singleProps(file: ts.SourceFile, kind: Kind, within: Converting): PropTypes | null {
  within.files.add(file.fileName);
  return declaredProps(kind === 'vue' ? vueProps(file) : svelteProps(file), within);
}

/** The types of the props of what a script calls its component; `at` is where it does so. */
export function typedProps(type: ts.Type, at: ts.Node, kind: Kind, within: Converting): PropTypes | null {
  if (type.flags & compiler.TypeFlags.Any) return null;
  if (kind === 'vue') return vueComponent(type, at, within);
  if (kind === 'angular') return angularProps(type, at, within);
  return kind === 'dom' ? domProps(type, at, within) : functionProps(type, at, within);
}

/**
 * The types of the props of the component that a look file describes; null where nothing is known of them. Files in
 * which they are declared are added to `files`.
 */
export function propsIn(
  file: ts.SourceFile,
  kind: Kind,
  checker: ts.TypeChecker,
  files: Set<string>,
): PropTypes | null {
  const component = componentIn(file);
  if (!component) return null;
  const within: Converting = { checker, files };
  const single = singleFile(component, checker);
  const declared = single && singleProps(single, kind, within);
  // Vue components may say what they take in the ways of older versions, too.
  if (declared || (single && kind !== 'vue')) return declared;
  return typedProps(checker.getTypeAtLocation(component), component, kind, within);
}
