/** Builds look files as live pages that need no service: files that any server can send, below any path. */
import { createHash } from 'node:crypto';
import type { Rolldown } from 'vite';
import type { Settings } from '../core/settings/config.ts';
import type { StageFiles } from '../core/site/site.ts';
import { siteWorker } from '../core/wire/liveWorker.ts';
import { findLookFiles } from './lookFiles.ts';
import { frameworkPackages } from './kinds.ts';
import { liveModules, moduleName } from './liveModules.ts';
import { viteOf } from './vite.ts';
import { viteIn } from './viteRoot.ts';

type Output = Rolldown.RolldownOutput['output'];

const workerName = 'worker.js';

/** The style sheets of a script and of all that it imports, in their order. */
function sheetsOf(output: Output, name: string, seen = new Set<string>()): string[] {
  const chunk = output.find((item) => item.fileName === name);
  if (chunk?.type !== 'chunk' || seen.has(name)) return [];
  seen.add(name);
  const own = (chunk as { viteMetadata?: { importedCss?: Set<string> } }).viteMetadata?.importedCss ?? [];
  return [...new Set([...chunk.imports.flatMap((one) => sheetsOf(output, one, seen)), ...own])];
}

const documentFor = (script: string, sheets: readonly string[]): string => `<!doctype html>
<html lang="en" data-worker="${workerName}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Stage</title>
<link rel="icon" href="data:,">
${sheets.map((sheet) => `<link rel="stylesheet" href="./${sheet}">`).join('\n')}
</head>
<body><div id="look"></div>
<script type="module" src="./${script}"></script></body>
</html>
`;

async function build(root: string, settings: Settings, files: readonly string[]): Promise<Output> {
  const vite = await viteOf(root);
  // Frameworks explain less and are smaller then, as in what a project itself delivers. This process does nothing else.
  process.env.NODE_ENV = 'production';
  const built = await vite.build({
    ...(await viteIn(root, { command: 'build', mode: 'production' })),
    mode: 'production',
    logLevel: 'silent',
    base: './',
    publicDir: false,
    plugins: [liveModules(root, async () => settings, '')],
    resolve: { dedupe: [...frameworkPackages] },
    build: {
      write: false,
      outDir: 'sguardo-stages',
      copyPublicDir: false,
      lib: false,
      ssr: false,
      manifest: false,
      sourcemap: false,
      modulePreload: { polyfill: false },
      rollupOptions: {
        input: Object.fromEntries(files.map((file, at) => [`look-${at}`, moduleName(file)])),
        output: { entryFileNames: 'assets/[name]-[hash].js' },
      },
    },
  });
  return (Array.isArray(built) ? built : [built]).flatMap((one) => (one as { output: Output }).output) as Output;
}

/** Those that can be built: all of them together, or each of them that can. */
async function buildEach(root: string, settings: Settings, files: readonly string[]) {
  try {
    return { parts: [{ files, output: await build(root, settings, files) }], unusable: [] };
  } catch {
    const parts: { files: readonly string[]; output: Output }[] = [];
    const unusable: string[] = [];
    for (const file of files) {
      const output = await build(root, settings, [file]).catch(() => null);
      if (output) parts.push({ files: [file], output });
      else unusable.push(file);
    }
    return { parts, unusable };
  }
}

/** Builds the stages of all look files of a project. Those that cannot be built are named. */
export async function buildStages(root: string, settings: Settings): Promise<StageFiles> {
  const all = await findLookFiles(root, settings);
  const { parts, unusable } = await buildEach(root, settings, all);
  const files = new Map<string, Buffer>([[workerName, Buffer.from(siteWorker)]]);
  const pages: Record<string, string> = {};
  for (const { files: own, output } of parts) {
    for (const item of output) files.set(item.fileName, Buffer.from(item.type === 'chunk' ? item.code : item.source));
    for (const [at, file] of own.entries()) {
      const chunk = output.find((item) => item.type === 'chunk' && item.isEntry && item.name === `look-${at}`);
      if (!chunk) continue;
      const page = documentFor(chunk.fileName, sheetsOf(output, chunk.fileName));
      const name = `${createHash('sha256').update(file).digest('hex').slice(0, 12)}.html`;
      files.set(name, Buffer.from(page));
      pages[file] = name;
    }
  }
  const encoded = [...files].map(([name, body]) => [name, body.toString('base64')] as const);
  return { files: Object.fromEntries(encoded), pages, unusable };
}
