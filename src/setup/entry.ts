/** What an app's entry puts around its components: styles, providers, plugins. */
import { dirname, posix } from 'node:path';
import type ts from 'typescript';
import type { Kind } from '../core/look/kind.ts';
import { compiler } from '../props/compiler.ts';
import { importsNeeded, type Needed } from './needed.ts';
import * as react from './react.ts';
import { sourceAt } from './source.ts';
import * as svelte from './svelte.ts';
import * as vue from './vue.ts';
import { walk } from './walk.ts';

export type Around = {
  /** Style sheets that the whole app has, as a file at the root imports them. */
  styles: string[];
  /** Modules that the whole app has for what they do, such as the one that sets up its languages. */
  modules: string[];
  /**
   * What wraps the app, the outermost first, as it stands in the entry: `<Theme value={dark}>`, and what stands before
   * and behind the app in it: `<Reset />`.
   */
  wrappers: react.Wrapper[];
  /** Of Vue and Svelte: what shows the app's messages, wherever it stands: `<Toaster richColors />`. */
  messages: string[];
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
  messages: [],
  calls: [],
  providers: null,
  needed: none,
  inside: none,
  blocks: [],
};

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
  const { script, folder, calls, messages, needed } = outermost;
  const wrappers = outermost.wrappers.map((one) => ({ ...one, before: [], behind: [] }));
  const own = effectsOf(script, folder);
  const styles = [...before.styles, ...own.styles];
  return { ...nothing, styles, modules: [...before.modules, ...own.modules], calls, wrappers, messages, needed };
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
    messages: outermost.messages,
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
  return { ...base, ...react.aroundApp(root, { file, folder }) };
}
