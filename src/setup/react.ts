/** What a React app puts around its components: in its entry, and in the component that the entry shows. */
import { dirname, posix } from 'node:path';
import type ts from 'typescript';
import { compiler } from '../props/compiler.ts';
import { showsMessages } from './messages.ts';
import { importsNeeded, type Needed } from './needed.ts';
import { sourceAt } from './source.ts';
import { walk } from './walk.ts';

/** An element around the app as it stands there, and what stands before and behind the app in it. */
export type Wrapper = { open: string; name: string; before: string[]; behind: string[] };

/**
 * What checks and never shows, or shows something else in place of an error: a look is as well off without it. The
 * elements of the document itself are there.
 */
const isLeftOut = (name: string): boolean =>
  /^(React\.)?(StrictMode|Fragment|Profiler)$|ErrorBoundary$|^(html|body)$/.test(name);

/** What a router chooses a page from takes nothing else. */
const isPages = (name: string): boolean => /^(Routes|Switch)$/.test(name);

/** Elements that give something to all in them, and are no part of a page. */
const isProvider = (name: string): boolean => /(Providers?|Router|Theme|Config|Context)$/.test(name);

/** Elements that are part of a page, whatever they stand around. */
const isPart = (name: string): boolean =>
  /^[a-z]|(Layout|Shell|Page|Main|Container|Box|Stack|Flex|Grid|Content|Body)$/.test(name);

/** Elements beside an app that set up its styles, or show its messages. */
const isBeside = (name: string): boolean => showsMessages(name) || /reset|baseline|global|styles/i.test(name);

/** What is there for an app's makers. */
const isTool = (name: string): boolean => /devtools/i.test(name);

type Markup = ts.JsxElement | ts.JsxSelfClosingElement | ts.JsxFragment;

const isMarkup = (node: ts.Node): node is Markup =>
  compiler.isJsxElement(node) || compiler.isJsxSelfClosingElement(node) || compiler.isJsxFragment(node);

/** Around the app: an element, or a fragment, and what else stands in it. */
type Layer = { opening: ts.JsxOpeningElement | null; before: Markup[]; behind: Markup[] };

const nameOf = (one: Markup, file: ts.SourceFile): string =>
  compiler.isJsxFragment(one)
    ? 'Fragment'
    : (compiler.isJsxElement(one) ? one.openingElement : one).tagName.getText(file);

/**
 * Of elements beside each other the one that the app is in: the only one, or the only one with others in it, or one
 * that is called so, or the only one that is no help to the others. Null for what is the app itself: several parts of a
 * page.
 */
function innerOf(all: readonly Markup[], file: ts.SourceFile): Markup | null {
  if (all.length === 1) return all[0]!;
  const open = all.filter((one) => !compiler.isJsxSelfClosingElement(one));
  if (open.length > 0) return open.length === 1 ? open[0]! : null;
  const called = all.find((one) => /^(\w*App|RouterProvider|Routes|Outlet|Main|Root|Page)$/.test(nameOf(one, file)));
  const own = all.filter((one) => !isBeside(nameOf(one, file)));
  return called ?? (own.length === 1 ? own[0]! : null);
}

/** It holds a text and nothing else: what the app shows, not what is around it. */
const isWritten = ({ children }: ts.JsxElement | ts.JsxFragment): boolean =>
  children.length > 0 && children.every(compiler.isJsxText);

/** The elements around the innermost one, and that one where it is a component by itself. */
function layersOf(root: Markup, file: ts.SourceFile): { layers: Layer[]; app: Markup | null } {
  const layers: Layer[] = [];
  let at: Markup | null = root;
  while (at && !compiler.isJsxSelfClosingElement(at) && !isWritten(at) && !isPages(nameOf(at, file))) {
    const inside: Markup[] = at.children.filter(isMarkup).filter((one) => !isTool(nameOf(one, file)));
    const inner = innerOf(inside, file);
    const place = inner ? inside.indexOf(inner) : -1;
    const [before, behind] = inner ? [inside.slice(0, place), inside.slice(place + 1)] : [[], []];
    const last = layers.at(-1);
    if (compiler.isJsxElement(at) && !isLeftOut(nameOf(at, file)))
      layers.push({ opening: at.openingElement, before, behind });
    else if (last) {
      // What stands beside the app in a fragment stands beside it in what is around that.
      last.before.push(...before);
      last.behind.unshift(...behind);
    } else if (before.length + behind.length > 0) layers.push({ opening: null, before, behind });
    at = inner;
  }
  return { layers, app: at && compiler.isJsxSelfClosingElement(at) ? at : null };
}

const isRender = (node: ts.Node, file: ts.SourceFile): node is ts.CallExpression =>
  compiler.isCallExpression(node) && /(^|\.)render$/.test(node.expression.getText(file));

const bare = (node: ts.Node | undefined): ts.Node | undefined =>
  node && compiler.isParenthesizedExpression(node) ? node.expression : node;

const isExported = (one: ts.FunctionDeclaration): boolean =>
  one.modifiers?.some(({ kind }) => kind === compiler.SyntaxKind.DefaultKeyword) === true;

const isFunction = (node: ts.Node): node is ts.FunctionDeclaration | ts.ArrowFunction =>
  compiler.isFunctionDeclaration(node) || compiler.isArrowFunction(node);

/** Where the root of an app has its pages: in a router's outlet, in what it is given, or in one that it is told of. */
const holdsPages = (text: string): boolean => /<Outlet\b|\{children\}|<Component\b/.test(text);

/** What the default export of a module shows, where its pages are rendered in it. */
function shownByRoot(file: ts.SourceFile): ts.Node | undefined {
  const root = componentIn(file, null);
  if (!root || !isFunction(root)) return undefined;
  const { body } = root;
  const last = body && compiler.isBlock(body) ? body.statements.findLast(compiler.isReturnStatement)?.expression : body;
  return holdsPages(last?.getText(file) ?? '') ? bare(last) : undefined;
}

/** What an entry has rendered. */
function shownByEntry(file: ts.SourceFile): ts.Node | undefined {
  let shown: ts.Node | undefined;
  walk(file, (node) => {
    if (isRender(node, file)) shown = bare(node.arguments[0]);
  });
  return shown;
}

/** What a component shows that does nothing else: what is around its pages needs nothing that it was given or found. */
function shownBy(component: ts.Node | undefined): ts.Node | undefined {
  if (!component || !isFunction(component)) return undefined;
  const { body, parameters } = component;
  if (parameters.length > 0) return undefined;
  if (!body || !compiler.isBlock(body)) return bare(body);
  const [only, ...others] = body.statements;
  return only && compiler.isReturnStatement(only) && others.length === 0 ? bare(only.expression) : undefined;
}

/** A component of a file by its name, or its default export. */
function componentIn(file: ts.SourceFile, name: string | null): ts.Node | undefined {
  let wanted = name;
  for (const one of file.statements)
    if (wanted === null && compiler.isExportAssignment(one)) wanted = one.expression.getText(file);
  for (const one of file.statements) {
    if (compiler.isFunctionDeclaration(one) && (wanted === null ? isExported(one) : one.name?.text === wanted))
      return one;
    if (!compiler.isVariableStatement(one)) continue;
    const found = one.declarationList.declarations.find((declared) => declared.name.getText(file) === wanted);
    if (found) return found.initializer;
  }
  return undefined;
}

const endings = ['', '.tsx', '.jsx', '.ts', '.js', '/index.tsx', '/index.jsx'];

type Module = { file: ts.SourceFile; folder: string };

/** The module of a component that another one imports, and what it is called there; null for one of a package. */
function moduleOf(root: string, { file, folder }: Module, name: string): (Module & { name: string | null }) | null {
  for (const one of file.statements.filter(compiler.isImportDeclaration)) {
    const { name: own, namedBindings } = one.importClause ?? {};
    const named =
      namedBindings && compiler.isNamedImports(namedBindings)
        ? namedBindings.elements.find((element) => element.name.text === name)
        : undefined;
    const { text } = one.moduleSpecifier as ts.StringLiteral;
    if ((own?.text !== name && !named) || !text.startsWith('.')) continue;
    for (const ending of endings) {
      const path = posix.join(folder, text) + ending;
      const source = /\.[jt]sx?$/.test(path) ? sourceAt(root, path) : null;
      if (source === null) continue;
      const called = named ? (named.propertyName ?? named.name).text : null;
      const read = compiler.createSourceFile(path.replace(/\.js$/, '.jsx'), source, compiler.ScriptTarget.ESNext, true);
      return { file: read, folder: dirname(path), name: called };
    }
  }
  return null;
}

/** The providers in the component that an entry shows, as far as there is nothing else around its pages. */
function providersIn(root: string, entry: Module, app: string): (Module & { layers: Layer[] }) | null {
  const module = moduleOf(root, entry, app) ?? { ...entry, name: app };
  const shown = shownBy(componentIn(module.file, module.name));
  if (!shown || !isMarkup(shown)) return null;
  return { ...module, layers: layersUpTo((name) => !isProvider(name), shown, module.file) };
}

/** The layers of markup up to the first of which more is shown, and what is for all pages beside them. */
function layersUpTo(isEnd: (name: string) => boolean, shown: Markup, file: ts.SourceFile): Layer[] {
  const { layers } = layersOf(shown, file);
  const end = layers.findIndex(({ opening }) => opening !== null && isEnd(opening.tagName.getText(file)));
  const beside = (all: readonly Markup[]): Markup[] => all.filter((one) => isBeside(nameOf(one, file)));
  return layers
    .slice(0, end < 0 ? layers.length : end)
    .map(({ opening, before, behind }) => ({ opening, before: beside(before), behind: beside(behind) }));
}

/** True for an element that is given something which only the function around it has. */
function isGivenOwn(opening: ts.JsxOpeningElement, file: ts.SourceFile): boolean {
  const around = compiler.findAncestor(opening, isFunction);
  const own = new Set<string>();
  walk(around ?? opening, (node) => {
    if ((compiler.isBindingElement(node) || compiler.isVariableDeclaration(node)) && compiler.isIdentifier(node.name))
      own.add(node.name.text);
  });
  let isGiven = false;
  walk(opening.attributes, (node) => {
    const isName = compiler.isJsxAttribute(node.parent) && node.parent.name === node;
    if (compiler.isIdentifier(node) && !isName && own.has(node.getText(file))) isGiven = true;
  });
  return isGiven;
}

function written({ file, folder }: Module, layers: readonly Layer[]): { wrappers: Wrapper[]; needed: Needed } {
  const texts = (all: readonly Markup[]): string[] => all.map((one) => one.getText(file));
  const wrappers = layers.map(({ opening, before, behind }) => ({
    open: opening?.getText(file) ?? '<>',
    name: opening?.tagName.getText(file) ?? '',
    before: texts(before),
    behind: texts(behind),
  }));
  const nodes = layers.flatMap(({ opening, before, behind }) => [...(opening ? [opening] : []), ...before, ...behind]);
  return { wrappers, needed: importsNeeded(file, folder, nodes) };
}

const together = (one: readonly string[], other: readonly string[]): string[] => [...new Set([...one, ...other])];

/** What is around the components of the app that an entry shows, with what that needs. */
export function aroundApp(root: string, entry: Module): { wrappers: Wrapper[]; needed: Needed } {
  const outermost = shownByRoot(entry.file);
  if (outermost && isMarkup(outermost)) {
    const layers = layersUpTo(isPart, outermost, entry.file);
    return written(
      entry,
      layers.filter(({ opening }) => !opening || !isGivenOwn(opening, entry.file)),
    );
  }
  const shown = shownByEntry(entry.file);
  if (!shown || !isMarkup(shown)) return { wrappers: [], needed: { imports: [], statements: [] } };
  const { layers, app } = layersOf(shown, entry.file);
  const own = written(entry, layers);
  const inside = app && providersIn(root, entry, nameOf(app, entry.file));
  if (!inside) return own;
  const more = written(inside, inside.layers);
  return {
    wrappers: [...own.wrappers, ...more.wrappers],
    needed: {
      imports: together(own.needed.imports, more.needed.imports),
      statements: together(own.needed.statements, more.needed.statements),
    },
  };
}
