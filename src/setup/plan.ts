/** What setting up a project comes to: what was found, what will be written, and what is still to be done. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ComponentInfo } from '../core/api/api.ts';
import { draftOf } from '../core/draft/draft.ts';
import { styleOf } from '../core/draft/style.ts';
import type { Kind } from '../core/look/kind.ts';
import { counted } from '../core/text/counted.ts';
import { componentsOf, componentsIn, draftPlace } from '../bundle/components.ts';
import { type Findings, findIn } from './find.ts';
import { configFor, frameFor } from './frame.ts';
import { sourceAt } from './source.ts';

export type NewFile = { path: string; text: string };

export type Plan = {
  root: string;
  /** What was found, a thing a line. */
  found: [what: string, is: string][];
  files: NewFile[];
  /** Files that would be written if they were not there already. */
  there: string[];
  /** The file of the first look; null where no component could have one. */
  look: string | null;
  /** Packages that have to be installed first. */
  missing: string[];
  /** It does not depend on Sguardo itself, so that compilers do not know its types. */
  lacksTypes: boolean;
};

/** What Vite needs to build components of a kind. */
const plugins: Partial<Record<Kind, { name: string; imported: string; call: string }>> = {
  vue: { name: '@vitejs/plugin-vue', imported: 'vue', call: 'vue()' },
  svelte: { name: '@sveltejs/vite-plugin-svelte', imported: '{ svelte }', call: 'svelte()' },
  angular: {
    name: '@analogjs/vite-plugin-angular',
    imported: 'angular',
    call: "angular({ tsconfig: 'tsconfig.json' })",
  },
};

/** A Vite configuration for a project that has none, and cannot do without. */
function viteFor({ root, kind, viteConfig, isTyped }: Findings): NewFile[] {
  const plugin = plugins[kind];
  if (viteConfig !== null || !plugin) return [];
  const { name, imported } = plugin;
  // Angular's own set-up has a configuration of the compiler for the app, which the plugin takes by itself.
  const call = kind === 'angular' && existsSync(join(root, 'tsconfig.app.json')) ? 'angular()' : plugin.call;
  const text =
    `import ${imported} from '${name}';\nimport { defineConfig } from 'vite';\n\n` +
    `export default defineConfig({ plugins: [${call}] });\n`;
  return [{ path: `vite.config.${isTyped ? 'ts' : 'mjs'}`, text }];
}

function missingFor({ kind, viteConfig, dependencies }: Findings): string[] {
  const plugin = plugins[kind];
  const needed = viteConfig === null && plugin ? [plugin.name, 'vite'] : [];
  return needed.filter((name) => !(name in dependencies));
}

const pathsOf = (all: readonly string[]): string => all.map((path) => path.replace(/^\.\//, '')).join(', ');

function found(findings: Findings): Plan['found'] {
  const { kind, frameworks, viteConfig, entry, around, mark, isInGit, isDark } = findings;
  const wrapped = [
    ...around.wrappers.filter(({ name }) => name !== '').map(({ name }) => `<${name}>`),
    ...around.wrappers.flatMap(({ before, behind }) => [...before, ...behind]),
    ...around.messages,
    ...around.calls.map((call) => (kind === 'vue' ? `app.${call}` : call)),
  ];
  const provided = around.providers ? [...wrapped, around.providers] : wrapped;
  return [
    ['framework', frameworks.join(', ') || (kind === 'dom' ? 'none: elements and functions' : kind)],
    ['Vite', viteConfig ?? 'no configuration'],
    ['entry', entry ?? 'none'],
    ['styles', pathsOf(around.styles) || 'none that the whole app has'],
    ...(around.modules.length > 0 ? [['set up by', pathsOf(around.modules)] as [string, string]] : []),
    ['around the app', provided.join(', ') || 'nothing'],
    ['marks', mark ? `${mark.attribute} (${counted(mark.count, 'time')})` : 'none'],
    ['dark styles', isDark ? 'yes: looks are run by day and by night' : 'no'],
    ['git', isInGit ? 'yes: baselines are committed with the code' : 'no'],
  ];
}

/** Components that are the whole app, or only stand around others, make no good first look. */
const isWhole = ({ component }: ComponentInfo): boolean =>
  /^(App|Root|Main|Index|Layout|Router|Routes)$|Provider|Layout|Router|Context/.test(component);

/** What asks a server fails until its look answers that. */
function asksServer(root: string, { file }: ComponentInfo): boolean {
  const source = sourceAt(root, file) ?? '';
  return /\b(fetch|axios|XMLHttpRequest|WebSocket|EventSource|httpResource|HttpClient|use\w*(Query|SWR|Fetch))\b/.test(
    source,
  );
}

/** So many components are looked at to find a good one. */
const mostLookedAt = 12;

/** The first look: of a component that is used, and whose props can be made up. */
async function firstLook({ root }: Findings): Promise<NewFile | null> {
  const all = (await componentsIn(root, [])).filter(({ hasLooks }) => !hasLooks);
  const rank = (one: ComponentInfo): number => (isWhole(one) ? 2 : asksServer(root, one) ? 1 : 0);
  const ranks = all.map(rank);
  const ranked = [0, 1, 2].flatMap((at) => all.filter((_, i) => ranks[i] === at)).slice(0, mostLookedAt);
  const drafts: (NewFile & { doubts: number })[] = [];
  for (const { file } of ranked) {
    const [component] = await componentsOf(root, file);
    const place = draftPlace(root, file);
    if (!component || place.isThere) continue;
    const text = draftOf(component, styleOf(place.source, place.isTyped));
    drafts.push({ path: place.path, text, doubts: text.split('as never').length - 1 });
    if (drafts.at(-1)!.doubts === 0) break;
  }
  const [best] = drafts.sort((a, b) => a.doubts - b.doubts);
  return best ?? null;
}

/** A page that no component makes: its entry is run in a document of its own. */
function pageLook({ root, kind, page, entry, isTyped, style }: Findings): NewFile | null {
  if (kind !== 'dom' || entry === null) return null;
  const html = page ? readFileSync(join(root, page), 'utf8') : '';
  const body = /<body[^>]*>([\s\S]*)<\/body>/.exec(html)?.[1] ?? '<div id="app"></div>';
  const markup = body.replace(/<script[\s\S]*?<\/script>/g, '').trim();
  const { quote, semicolon, indent } = style;
  const name = entry
    .split('/')
    .at(-1)!
    .replace(/\.\w+$/, '');
  const folder = entry.includes('/') ? `${entry.slice(0, entry.lastIndexOf('/'))}/` : '';
  const text = `import { looks } from ${quote}sguardo/dom${quote}${semicolon}

/** The whole page, which its script fills in. */
function page() {
${indent}const element = document.createElement(${quote}div${quote})${semicolon}
${indent}element.innerHTML = \`${markup.replace(/[\\`]|\$\{/g, '\\$&')}\`${semicolon}
${indent}queueMicrotask(() => import(${quote}./${name}${quote}))${semicolon}
${indent}return element${semicolon}
}

export default looks(page, {
${indent}// Its script is run once in a document.
${indent}isolate: true,
${indent}states: {
${indent}${indent}default: {},
${indent}},
})${semicolon}
`;
  return { path: `${folder}page.look.${isTyped ? 'ts' : 'js'}`, text };
}

/** Looks around, and writes nothing. */
export async function planFor(root: string): Promise<Plan> {
  const findings = await findIn(root);
  const look = (await firstLook(findings)) ?? pageLook(findings);
  const wanted = [...viteFor(findings), configFor(findings), frameFor(findings), ...(look ? [look] : [])];
  const isThere = ({ path }: NewFile): boolean => existsSync(join(root, path));
  return {
    root,
    found: found(findings),
    files: wanted.filter((file) => !isThere(file)).map(({ path, text }) => ({ path, text })),
    there: wanted.filter(isThere).map(({ path }) => path),
    look: look?.path ?? null,
    missing: missingFor(findings),
    lacksTypes: !('sguardo' in findings.dependencies),
  };
}
