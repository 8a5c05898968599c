/**
 * What the project's plugins make of the modules of packages, kept from one build to the next and from one service to
 * the next: whole libraries come as source of their framework, and compiling them takes longer than all the rest.
 */
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { deserialize, serialize } from 'node:v8';

/** What a plugin gives of a module: its code, and what comes with that. */
type Made = string | { code?: unknown; map?: unknown; [other: string]: unknown };

type Transform = (this: object, code: string, id: string, ...rest: unknown[]) => unknown;

/**
 * What was made, by the plugin and the id of the module, with the hash of the code that it was made of; and what all of
 * it depends on.
 */
type Kept = { key: string; made: Map<string, { of: string; made: Made }> };

/** How it is written down: another one is not read. */
const format = '2';

/** So many characters are kept at most. */
const most = 100_000_000;

/** Less than this, in milliseconds, is no trouble to do again. */
const quick = 0.3;

/** What a plugin asks for beyond its module: whoever does is asked again each time. */
const reaching = new Set(['addWatchFile', 'emitFile', 'setAssetSource', 'getFileName', 'load']);

let kept: Kept = { key: '', made: new Map() };
let size = 0;
let hasNew = false;

const digest = (...parts: string[]): string => {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(`${part.length} `).update(part);
  return hash.digest('base64url');
};

const fileIn = (root: string): string => join(root, '.sguardo', 'compiled');

const readText = (path: string): string => {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
};

/** Files at the top of a project that say how it is compiled, and its lock file wherever it lies. */
function settingsOf(root: string): string[] {
  const isSetting = (name: string): boolean =>
    /(^\.\w+rc|\.(json|[cm]?[jt]s|ya?ml|lock|lockb))$/.test(name) && !name.startsWith('sguardo.');
  const own = readdirSync(root).filter(isSetting);
  const found = own.sort().map((name) => join(root, name));
  for (let folder = dirname(root); folder !== dirname(folder); folder = dirname(folder))
    for (const name of ['package-lock.json', 'pnpm-lock.yaml', 'yarn.lock', 'bun.lock'])
      if (existsSync(join(folder, name))) found.push(join(folder, name));
  return found;
}

/** Begins a build: what was made with other settings, or of other packages, is forgotten. */
export function beginCompiling(root: string, version: string, files: readonly string[]): void {
  const all = [...settingsOf(root), ...files];
  const key = digest(format, version, ...all.flatMap((path) => [path, readText(path)]));
  if (kept.key === key) return;
  kept = { key, made: new Map() };
  try {
    const before = deserialize(readFileSync(fileIn(root))) as Kept;
    if (before.key === key && before.made instanceof Map) kept = before;
  } catch {
    // There is none, or it cannot be read: it is made again.
  }
  size = [...kept.made.values()].reduce((sum, { made }) => sum + lengthOf(made), 0);
  hasNew = false;
}

/** Writes down what is new, where a service keeps its records. */
export function keepCompiled(root: string): void {
  if (!hasNew || !existsSync(dirname(fileIn(root)))) return;
  hasNew = false;
  const beside = `${fileIn(root)}.${process.pid}`;
  try {
    writeFileSync(beside, serialize(kept));
    renameSync(beside, fileIn(root));
  } catch {
    // It only saves time.
  }
}

const lengthOf = (made: Made): number => (typeof made === 'string' ? made.length : JSON.stringify(made).length);

const isOfPackage = (id: string): boolean =>
  /[\\/]node_modules[\\/]/.test(id) && !/[?#\0]|\.(css|scss|sass|less|styl|json)$/.test(id);

/** A copy that can be kept, or null for what refers to parts of its own, which its plugin would know nothing of. */
function copyOf(made: unknown, id: string): Made | null {
  const text = typeof made === 'string' ? made : (made as { code?: unknown } | null)?.code;
  if (typeof text !== 'string' || text.includes(`${basename(id)}?`)) return null;
  try {
    return JSON.parse(JSON.stringify(made)) as Made;
  } catch {
    return null;
  }
}

/** A context that tells when a plugin looks beyond its module. */
const watched = (context: object, reached: () => void): object =>
  new Proxy(context, {
    get(target, key) {
      if (reaching.has(String(key))) reached();
      const value: unknown = Reflect.get(target, key, target);
      return typeof value === 'function' ? value.bind(target) : value;
    },
  });

/** A plugin's transform, which is not asked again for a module of a package that is as it was. */
export function compilingOnce(plugin: string, transform: Transform): Transform {
  return async function (code, id, ...rest) {
    if (!isOfPackage(id)) return transform.call(this, code, id, ...rest);
    const place = `${plugin}\n${id}`;
    const before = kept.made.get(place);
    // Most modules are no trouble to any plugin: what they hold need not be known.
    if (before && before.of === digest(code)) return before.made;
    const { key } = kept;
    let isAlone = true;
    const began = performance.now();
    const made = await transform.call(
      watched(this, () => {
        isAlone = false;
      }),
      code,
      id,
      ...rest,
    );
    if (!isAlone || made === null || made === undefined || performance.now() - began < quick) return made;
    const copy = copyOf(made, id);
    if (copy === null || kept.key !== key || size > most) return made;
    kept.made.set(place, { of: digest(code), made: copy });
    size += lengthOf(copy) - (before ? lengthOf(before.made) : 0);
    hasNew = true;
    return made;
  };
}
