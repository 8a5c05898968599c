/** What an app's entry puts around its components: styles, providers, plugins. */
import { dirname, posix } from 'node:path';
import type ts from 'typescript';
import type { Kind } from '../core/look/kind.ts';
import { compiler } from '../props/compiler.ts';
import { importsNeeded, type Needed } from './needed.ts';
import { sourceAt } from './source.ts';
import * as svelte from './svelte.ts';
import * as vue from './vue.ts';

export type Around = {
  /** Style sheets that the whole app has, as a file at the root imports them. */
  styles: string[];
  /** Modules that the whole app has for what they do, such as the one that sets up its languages. */
  modules: string[];
  /**
   * What wraps the app, the outermost first, as it stands in the entry: `<Theme value={dark}>`, and what stands before
   * and behind the app in it: `<Reset />`.
   */
  wrappers: { open: string; name: string; before: string[]; behind: string[] }[];
  /** What is done with the app before it is mounted, as it stands there: `use(router)`; of Svelte `setFees(3)`. */
  calls: string[];
  /** What the framework is told to provide: `appConfig.providers`. */
  providers: string | null;
  /** What the calls and the providers need, and the wrappers where they stand in the same file. */
  needed: Needed;
  /** What the wrappers of Vue need, which stand in its outermost component. */
  inside: Needed;
  /** Blocks of styles that Vue's outermost component has for all: `<style>…</style>`. */
  blocks: string[];
};

const none: Needed = { imports: [], statements: [] };

const nothing: Around = {
  styles: [],
  modules: [],
  wrappers: [],
  calls: [],
  providers: null,
  needed: none,
  inside: none,
  blocks: [],
};

/** What there is to see of elements: those that only check, and never show, are left out. */
const left = new Set(['StrictMode', 'React.StrictMode', 'Fragment', 'React.Fragment', 'Profiler']);

type Walk = (node: ts.Node, visit: (node: ts.Node) => void) => void;
const walk: Walk = (node, visit) => {
  visit(node);
  compiler.forEachChild(node, (child) => walk(child, visit));
};

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
 * that is called so. Null for what is the app itself: several parts of a page.
 */
function innerOf(all: readonly Markup[], file: ts.SourceFile): Markup | null {
  if (all.length === 1) return all[0]!;
  const open = all.filter((one) => !compiler.isJsxSelfClosingElement(one));
  if (open.length > 0) return open.length === 1 ? open[0]! : null;
  return all.find((one) => /^(\w*App|RouterProvider|Routes|Outlet|Main|Root|Page)$/.test(nameOf(one, file))) ?? null;
}

/** It holds a text and nothing else: what the app shows, not what is around it. */
const isWritten = ({ children }: ts.JsxElement | ts.JsxFragment): boolean =>
  children.length > 0 && children.every(compiler.isJsxText);

/** The elements around the innermost one. */
function layersOf(root: Markup, file: ts.SourceFile): Layer[] {
  const found: Layer[] = [];
  for (let at: Markup | null = root; at && !compiler.isJsxSelfClosingElement(at) && !isWritten(at); ) {
    const inside: Markup[] = at.children.filter(isMarkup);
    const inner = innerOf(inside, file);
    const place = inner ? inside.indexOf(inner) : -1;
    const [before, behind] = inner ? [inside.slice(0, place), inside.slice(place + 1)] : [[], []];
    const last = found.at(-1);
    if (compiler.isJsxElement(at) && !left.has(nameOf(at, file)))
      found.push({ opening: at.openingElement, before, behind });
    else if (last) {
      // What stands beside the app in a fragment stands beside it in what is around that.
      last.before.push(...before);
      last.behind.unshift(...behind);
    } else if (before.length + behind.length > 0) found.push({ opening: null, before, behind });
    at = inner;
  }
  return found;
}

const isRender = (node: ts.Node, file: ts.SourceFile): node is ts.CallExpression =>
  compiler.isCallExpression(node) && /(^|\.)render$/.test(node.expression.getText(file));

const bare = (node: ts.Node | undefined): ts.Node | undefined =>
  node && compiler.isParenthesizedExpression(node) ? node.expression : node;

const isExported = (one: ts.FunctionDeclaration): boolean =>
  one.modifiers?.some(({ kind }) => kind === compiler.SyntaxKind.DefaultKeyword) === true;

/** What the default export of a module shows, where a router renders it as the root of its pages. */
function shownByRoot(file: ts.SourceFile): ts.Node | undefined {
  const root = file.statements.find((one) => compiler.isFunctionDeclaration(one) && isExported(one));
  const body = (root as ts.FunctionDeclaration | undefined)?.body;
  const last = body?.statements.findLast(compiler.isReturnStatement);
  return /<Outlet\b/.test(last?.getText(file) ?? '') ? bare(last?.expression) : undefined;
}

function aroundReact(file: ts.SourceFile): Layer[] {
  let shown = shownByRoot(file);
  walk(file, (node) => {
    if (isRender(node, file)) shown = bare(node.arguments[0]);
  });
  return shown && isMarkup(shown) ? layersOf(shown, file) : [];
}

/** What is called on a Vue app between its making and its mounting. */
function callsOfVue(file: ts.SourceFile): ts.CallExpression[] {
  const found: ts.CallExpression[] = [];
  walk(file, (node) => {
    if (!compiler.isCallExpression(node) || !compiler.isPropertyAccessExpression(node.expression)) return;
    if (!/^(use|provide|component|directive)$/.test(node.expression.name.text)) return;
    const subject = node.expression.expression.getText(file);
    if (/^(app|createApp\()/.test(subject)) found.push(node);
  });
  // Of a chain the outermost call comes first.
  return found.reverse();
}

const callOf = (call: ts.CallExpression, file: ts.SourceFile): string => {
  const name = (call.expression as ts.PropertyAccessExpression).name.text;
  return `${name}(${call.arguments.map((one) => one.getText(file)).join(', ')})`;
};

function providersOf(file: ts.SourceFile): ts.Expression | null {
  let found: ts.Expression | null = null;
  walk(file, (node) => {
    if (compiler.isCallExpression(node) && node.expression.getText(file) === 'bootstrapApplication')
      found = node.arguments[1] ?? null;
  });
  return found;
}

/** A sheet, of the project or of a package; some packages offer theirs by a name without an ending. */
const isStyle = /\.(css|scss|sass|less|styl)$|^(?!\.)[^.]*\/(styles?|fonts?|theme)$|^@fontsource/;

/** Modules that watch an app for its makers, or keep it for when there is no network, or have it wait for zones. */
const isOutside = /sentry|datadog|analytics|telemetry|web-?vitals|service-?worker|register-?sw|pwa|^zone\.js/i;

/** What shows an app, or makes one: an entry without it leaves that to a module which it imports. */
const makesApp = /\b(render|hydrate\w*|mount|createApp|bootstrapApplication)\s*\(/;

/** What a module of a folder imports for its effect, as a file at the root imports it. */
function effectsOf(file: ts.SourceFile, folder: string): Pick<Around, 'styles' | 'modules'> {
  const paths = file.statements.flatMap((one) => {
    if (!compiler.isImportDeclaration(one) || one.importClause) return [];
    const path = (one.moduleSpecifier as ts.StringLiteral).text;
    return [path.startsWith('.') ? `./${posix.join(folder, path)}` : path];
  });
  return {
    styles: paths.filter((path) => isStyle.test(path)),
    modules: paths.filter((path) => !isStyle.test(path) && !isOutside.test(path)),
  };
}

/** The component that an entry mounts, from the root; null when it imports none. */
function mountedBy(entry: ts.SourceFile, folder: string, ending: '.svelte' | '.vue'): string | null {
  for (const one of entry.statements) {
    if (!compiler.isImportDeclaration(one)) continue;
    const { text } = one.moduleSpecifier as ts.StringLiteral;
    if (text.startsWith('.') && text.endsWith(ending)) return posix.join(folder, text);
  }
  return null;
}

/** What the component that a Svelte app begins with puts around the others. */
function aroundSvelte(before: Pick<Around, 'styles' | 'modules'>, outermost: svelte.Outermost | null): Around {
  if (!outermost) return { ...nothing, ...before };
  const { script, folder, calls, needed } = outermost;
  const wrappers = outermost.wrappers.map((one) => ({ ...one, before: [], behind: [] }));
  const own = effectsOf(script, folder);
  const styles = [...before.styles, ...own.styles];
  return { ...nothing, styles, modules: [...before.modules, ...own.modules], calls, wrappers, needed };
}

/** What a Vue app has before it is mounted, and what its outermost component puts around the others. */
function aroundVue(before: Around, entry: ts.SourceFile, folder: string, outermost: vue.Outermost | null): Around {
  const calls = callsOfVue(entry);
  const nodes = calls.flatMap((call) => [...call.arguments]);
  const about = { calls: calls.map((call) => callOf(call, entry)), needed: importsNeeded(entry, folder, nodes) };
  if (!outermost) return { ...before, ...about };
  const own = effectsOf(outermost.script, outermost.folder);
  return {
    ...before,
    ...about,
    styles: [...before.styles, ...own.styles],
    modules: [...before.modules, ...own.modules],
    wrappers: outermost.wrappers.map((one) => ({ ...one, before: [], behind: [] })),
    inside: outermost.needed,
    blocks: outermost.styles,
  };
}

/** Reads an entry; what it cannot be told of it is left out. */
export function aroundIn(root: string, entry: string | null, kind: Kind): Around {
  if (entry === null) return nothing;
  if (entry.endsWith('.svelte')) return aroundSvelte(nothing, svelte.outermostIn(root, entry));
  const source = sourceAt(root, entry);
  if (source === null) return nothing;
  // Entries in JavaScript may have markup in them, whatever they are called.
  const name = /\.js$/.test(entry) ? `${entry}x` : entry;
  const file = compiler.createSourceFile(name, source, compiler.ScriptTarget.ESNext, true);
  const folder = dirname(entry);
  const effects = effectsOf(file, folder);
  // Elements are imported for their effect, too: a look imports those of the project itself.
  const isForAll = (path: string): boolean => (kind === 'dom' ? !path.startsWith('.') : makesApp.test(source));
  const base = { ...nothing, ...effects, modules: effects.modules.filter(isForAll) };
  if (kind === 'svelte') {
    const mounted = mountedBy(file, folder, '.svelte');
    return aroundSvelte(base, mounted === null ? null : svelte.outermostIn(root, mounted));
  }
  if (kind === 'vue') {
    const mounted = mountedBy(file, folder, '.vue');
    return aroundVue(base, file, folder, mounted === null ? null : vue.outermostIn(root, mounted));
  }
  if (kind === 'angular') {
    const given = providersOf(file);
    const providers = given && (compiler.isIdentifier(given) ? `${given.text}.providers` : null);
    return { ...base, providers, needed: providers ? importsNeeded(file, folder, [given!]) : nothing.needed };
  }
  if (kind !== 'react') return base;
  const layers = aroundReact(file);
  const texts = (all: readonly Markup[]): string[] => all.map((one) => one.getText(file));
  const wrappers = layers.map(({ opening, before, behind }) => ({
    open: opening?.getText(file) ?? '<>',
    name: opening?.tagName.getText(file) ?? '',
    before: texts(before),
    behind: texts(behind),
  }));
  const nodes = layers.flatMap(({ opening, before, behind }) => [...(opening ? [opening] : []), ...before, ...behind]);
  return { ...base, wrappers, needed: importsNeeded(file, folder, nodes) };
}
