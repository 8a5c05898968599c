/** What runs in the process of stages: the project's Vite as a server, until its parent is gone. */
import { createRequire } from 'node:module';
import { join, posix, relative, sep } from 'node:path';
import { messageOf } from '../core/problem/problem.ts';
import { loadConfig } from './config.ts';
import { frameworkPackages } from './kinds.ts';
import { liveModules } from './liveModules.ts';
import { ownFolder } from './own.ts';
import { viteOf } from './vite.ts';
import { viteIn } from './viteRoot.ts';

/** What it is started with, as its only argument. */
export type LiveOptions = { root: string; config: string; console: string };

/** What it says when it listens, or cannot. */
export type LiveNews = { port: number } | { error: string };

/**
 * Modules of frameworks that adapters import. Vite looks for none in what comes from a package, and they would be there
 * twice: once as it has made them ready for the project, once as they are.
 */
const imported: Record<string, string[]> = {
  react: ['react', 'react/jsx-dev-runtime'],
  'react-dom': ['react-dom', 'react-dom/client'],
  vue: ['vue'],
  '@angular/core': ['@angular/core'],
  '@angular/platform-browser': ['@angular/platform-browser'],
};

/** Those of a package that the project has. */
function entriesOf(root: string, name: string): string[] {
  const { resolve } = createRequire(join(root, 'package.json'));
  return (imported[name] ?? []).filter((entry) => {
    try {
      return resolve(entry) !== '';
    } catch {
      return false;
    }
  });
}

/** A pattern of files as it is where the root of the project is called so. */
const seenFrom =
  (root: string) =>
  (pattern: string): string =>
    pattern.startsWith('!') ? `!${posix.join(root, pattern.slice(1))}` : posix.join(root, pattern);

async function serve({ root, config, console: origin }: LiveOptions): Promise<number> {
  const vite = await viteOf(root);
  const { looks } = await loadConfig(config);
  const place = await viteIn(root, { command: 'serve', mode: 'development' });
  const inRoot = relative(place.root, root).split(sep).join('/');
  const server = await vite.createServer({
    ...place,
    mode: 'development',
    logLevel: 'silent',
    clearScreen: false,
    base: '/',
    appType: 'custom',
    // Not where the project's own server keeps its packages.
    cacheDir: join(root, '.sguardo/vite'),
    plugins: [liveModules(root, () => loadConfig(config), origin)],
    // All that look files import from packages is made ready before the first of them is asked for.
    optimizeDeps: {
      entries: looks.map(seenFrom(inRoot)),
      include: frameworkPackages.flatMap((name) => entriesOf(root, name)),
    },
    resolve: { dedupe: [...frameworkPackages] },
    server: {
      host: '127.0.0.1',
      port: 0,
      open: false,
      // What other pages ask for they may not read.
      cors: false,
      fs: { allow: [vite.searchForWorkspaceRoot(root), ownFolder, join(ownFolder, '../node_modules')] },
    },
  });
  await server.listen();
  return (server.httpServer!.address() as { port: number }).port;
}

const say = (news: LiveNews, said = (): void => {}): void => void process.send?.(news, said);
serve(JSON.parse(process.argv[2]!) as LiveOptions).then(
  (port) => say({ port }),
  // Whoever comes next starts another one.
  (error: unknown) => say({ error: messageOf(error) }, () => process.exit(1)),
);
process.once('disconnect', () => process.exit());
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => {});
