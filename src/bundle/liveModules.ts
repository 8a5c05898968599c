/** What a stage loads from the project's Vite: its document, the module that starts it, and its worker. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Connect, Plugin, ViteDevServer } from 'vite';
import { messageOf } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import { livePath } from '../core/wire/live.ts';
import { liveWorker } from '../core/wire/liveWorker.ts';
import { beginningWith } from './filters.ts';
import { kindOf } from './kinds.ts';
import { documentFor, documentSaying } from './liveDocument.ts';
import { findLookFiles } from './lookFiles.ts';
import { languageAlias, own } from './own.ts';
import { readPropTypes } from './propTypes.ts';

const prefix = 'virtual:sguardo-live/';
const typesPrefix = 'virtual:sguardo-types/';

const encode = (file: string): string => Buffer.from(file).toString('base64url');
const decode = (id: string): string => Buffer.from(id, 'base64url').toString();

/** The module of a look file's stage, for a build of it. */
export const moduleName = (file: string): string => prefix + encode(file);

/** The module that puts a look file on the stage, again whenever something behind it has changed. */
function moduleFor(root: string, file: string, settings: Settings): string {
  const kind = kindOf(root, file);
  const path = join(root, file);
  const around = settings.frame !== null && kindOf(root, settings.frame) === kind ? settings.frame : null;
  const name = JSON.stringify;
  return `import { live } from ${name(own('page/live/live'))};
import { adapter } from ${name(own(`page/adapters/${kind}`))};
import * as file from ${name(path)};
${around ? `import * as frame from ${name(join(root, around))};` : 'const frame = null;'}
const page = import.meta.hot?.data.page ?? live();
if (import.meta.hot) {
  const { data } = import.meta.hot;
  data.page = page;
  data.began ??= location.href;
  import.meta.hot.accept();
  // A look may have gone to an address of its own, under which nothing would be found.
  import.meta.hot.on('vite:beforeFullReload', () => history.replaceState(null, '', data.began));
}
page.show({ file: ${name(file)}, looks: file.default, frame, adapter, mark: ${name(settings.markAttribute)} });
// TypeScript takes its time: the look is there before it has read anything.
import(${name(typesPrefix + encode(file))}).then(({ types }) => page.know(types));
`;
}

/** The types of the props of a look file's component. */
async function typesFor(root: string, file: string): Promise<string> {
  const path = join(root, file);
  const read = await readPropTypes({ root, files: [{ path, kind: kindOf(root, file) }] });
  return `export const types = ${JSON.stringify(read[path]?.types ?? null)};`;
}

/** Serves stages beside the project's files. `consoleOrigin` is the only page that may show one in a frame. */
export function liveModules(root: string, readSettings: () => Promise<Settings>, consoleOrigin: string): Plugin {
  async function answer(server: ViteDevServer, request: Connect.IncomingMessage): Promise<[string, string] | null> {
    const url = new URL(request.url ?? '/', 'http://stage');
    if (url.pathname === '/__sguardo/worker.js') return ['text/javascript', liveWorker];
    if (url.pathname !== livePath) return null;
    const file = url.searchParams.get('file') ?? '';
    const isThere = (await findLookFiles(root, await readSettings())).includes(file) && existsSync(join(root, file));
    if (!isThere)
      return ['text/html', documentSaying(`There is no look file ${file}. It may have been renamed or removed.`)];
    const page = documentFor(file, `/@id/${moduleName(file)}`);
    return ['text/html', await server.transformIndexHtml(request.url!, page)];
  }
  return {
    name: 'sguardo:live',
    enforce: 'pre',
    config(config) {
      // Where the project's own server listens is not where stages are served.
      delete config.server?.https;
      delete config.server?.hmr;
      delete config.server?.origin;
      // Looks reach no network, and neither do stages.
      delete config.server?.proxy;
      return { resolve: { alias: languageAlias() } };
    },
    configureServer(server) {
      server.middlewares.use((request, response, next) => {
        // Not every Vite looks at it by itself: a name that leads here may be anybody's.
        if (!/^(127\.0\.0\.1|localhost)(:\d+)?$/.test(request.headers.host ?? '')) {
          response.statusCode = 421;
          response.end('The stage is asked for at its own address only.');
          return;
        }
        const wrong = (error: unknown): [string, string] => ['text/html', documentSaying(messageOf(error))];
        answer(server, request)
          .catch(wrong)
          .then((found) => {
            if (!found) return next();
            response.setHeader('content-type', `${found[0]}; charset=utf-8`);
            response.setHeader('cache-control', 'no-store');
            response.setHeader('service-worker-allowed', '/');
            response.setHeader('content-security-policy', `frame-ancestors 'self' ${consoleOrigin}`);
            response.end(found[1]);
          });
      });
    },
    resolveId: {
      filter: { id: beginningWith(prefix, typesPrefix) },
      handler: (id) => (id.startsWith(prefix) || id.startsWith(typesPrefix) ? `\0${id}` : null),
    },
    load: {
      filter: { id: beginningWith(`\0${prefix}`, `\0${typesPrefix}`) },
      async handler(id) {
        const fileIn = (start: string): string => decode(id.slice(start.length + 1).split('?')[0]!);
        if (id.startsWith(`\0${typesPrefix}`)) return typesFor(root, fileIn(typesPrefix));
        return id.startsWith(`\0${prefix}`) ? moduleFor(root, fileIn(prefix), await readSettings()) : null;
      },
    },
  };
}
