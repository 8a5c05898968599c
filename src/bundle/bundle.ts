/** Bundles look files with the project's Vite, in memory. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Kind } from '../core/look/kind.ts';
import { fail } from '../core/problem/problem.ts';
import type { Behind } from '../core/run/graph.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Built } from './build.ts';
import { baseEntry, basePrefix, entryPrefix, type Texts } from './entries.ts';
import { behindWithout } from './graph.ts';
import { kindOf } from './kinds.ts';
import type { UnusableFile } from './lookFiles.ts';
import { compiledAtOnce, ownPages } from './ownPages.ts';
import { chunksOf, stylesOf } from './styles.ts';
import { typeOf } from './types.ts';
import { buildUsable } from './usable.ts';

export type BundledFile = { type: string; body: Buffer };

/** A look file that was bundled. */
export type BundledLooks = {
  file: string;
  /** Address path of the script that starts it. */
  script: string;
  /**
   * Address paths of the scripts of our own side of the page, and of the frame: where they are the same, documents are
   * the same before the look file is evaluated.
   */
  base: string;
  /** Address paths of the style sheets of its document, in their order; null when that is not known. */
  styles: string[] | null;
  source: string;
};

/** Look files ready to be loaded by a page. */
export type Bundle = {
  /** Hash of everything in it. */
  id: string;
  root: string;
  /** By address path, such as `/assets/BerthCard-3f2a.js`. */
  files: Map<string, BundledFile>;
  /** JSON source maps of the scripts, by address path. */
  maps: Map<string, string>;
  /** Look files in it. */
  entries: BundledLooks[];
  /** Look files that could not be bundled. */
  unusable: UnusableFile[];
  /** The project's folder of files served as they are. */
  publicFolder: string | null;
  /** The files behind each of the look files, and those behind the Vite configuration. */
  behind: Behind;
  configuration: string[];
};

/** Names of the scripts that every look file starts with, and of all that they import. */
function baseChunksOf(output: Built['output']): Set<string> {
  const chunks = output.filter((item) => item.type === 'chunk');
  const found = new Set<string>();
  const visit = (name: string): void => {
    if (found.has(name)) return;
    found.add(name);
    for (const next of chunks.find(({ fileName }) => fileName === name)?.imports ?? []) visit(next);
  };
  for (const { fileName, facadeModuleId } of chunks) if (facadeModuleId?.startsWith(`\0${basePrefix}`)) visit(fileName);
  return found;
}

/**
 * Bundles look files. Those that cannot be understood are left out and told in `unusable`; the others come through.
 * `instead` has texts that files are taken to hold, by their full paths.
 * @throws ProblemError `looks-missing` when there is no file at all; `config-threw`, `frame-failed` when what they
 * share is unusable
 */
export async function buildLooks(
  root: string,
  settings: Settings,
  files: readonly string[],
  instead: Texts = {},
): Promise<Bundle> {
  if (files.length === 0) return fail('looks-missing', { folder: root, pattern: settings.looks.join(', ') });
  const around = settings.frame === null ? null : { file: settings.frame, kind: kindOf(root, settings.frame) };
  const { built, usable, unusable } = await buildUsable(root, files, around, instead);
  const bundle: Bundle = {
    id: '',
    root,
    files: new Map(),
    maps: new Map(),
    entries: [],
    unusable,
    publicFolder: built.publicFolder,
    behind: behindWithout(settings.baselines, built.behind),
    configuration: built.configuration,
  };
  const hash = createHash('sha256').update(JSON.stringify(unusable));
  const frameOf = (kind: Kind): string[] => (around?.kind === kind ? [join(root, around.file)] : []);
  const baseOf = (kind: Kind): string => chunksOf(built.output, [`\0${baseEntry(kind)}`, ...frameOf(kind)]).join(' ');
  const bases = baseChunksOf(built.output);
  for (const item of built.output) {
    const path = `/${item.fileName}`;
    const isBase = bases.has(item.fileName);
    const body = Buffer.from(item.type === 'chunk' ? (isBase ? compiledAtOnce : '') + item.code : item.source);
    if (item.fileName.endsWith('.map')) bundle.maps.set(path.slice(0, -4), body.toString('utf8'));
    else bundle.files.set(path, { type: typeOf(path), body });
    hash.update(path).update(body);
    if (item.type !== 'chunk') continue;
    if (item.isEntry && item.facadeModuleId?.includes(entryPrefix)) {
      const index = Number(item.facadeModuleId.slice(item.facadeModuleId.indexOf(entryPrefix) + entryPrefix.length));
      const { file, kind } = usable[index]!;
      bundle.entries.push({
        file,
        script: path,
        base: baseOf(kind),
        styles: stylesOf(built.output, [...frameOf(kind), join(root, file)]),
        source: instead[join(root, file)] ?? readFileSync(join(root, file), 'utf8'),
      });
    }
  }
  for (const [path, body] of (await ownPages()).files) bundle.files.set(path, { type: typeOf(path), body });
  const whole = [...bases].map((name) => `/${name}`);
  if (built.prepared) {
    const { address, code, map } = built.prepared;
    bundle.files.set(address, { type: typeOf(address), body: Buffer.from(compiledAtOnce + code) });
    bundle.maps.set(address, map);
    whole.push(address);
  }
  for (const path of whole) {
    const map = bundle.maps.get(path);
    // One line more stands before it.
    if (map) bundle.maps.set(path, map.replace('"mappings":"', '"mappings":";'));
  }
  bundle.entries.sort((a, b) => (a.file < b.file ? -1 : 1));
  bundle.id = hash.digest('hex').slice(0, 16);
  return bundle;
}
