/** Look files as they would be without some edits, built beside all runs. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Hunk, withoutHunks } from '../core/cause/hunks.ts';
import type { Settings } from '../core/settings/config.ts';
import { type Bundle, bundleInstead } from '../work/index.ts';
import type { RunTools } from './runTools.ts';

/** Bundles a look file without some hunks. @throws ProblemError as `bundleLooks` */
export type BundlesWithout = (settings: Settings, file: string, undone: readonly Hunk[]) => Promise<Bundle>;

/** So many are kept: looks of one file are often asked about one after the other, and come back to the same edits. */
const most = 4;

/** The text of each file that has some of the hunks, without these; by full path. */
function textsWithout(root: string, undone: readonly Hunk[]): Record<string, string> {
  const files = [...new Set(undone.map(({ file }) => file))];
  return Object.fromEntries(
    files.map((file) => {
      const path = join(root, file);
      const own = undone.filter((hunk) => hunk.file === file);
      return [path, withoutHunks(readFileSync(path, 'utf8'), own)];
    }),
  );
}

export function bundlesWithout({ root, bundler }: Pick<RunTools, 'root' | 'bundler'>): BundlesWithout {
  /** By what they were built from; the one that was used last comes last. */
  const kept = new Map<string, Bundle>();
  return async (settings, file, undone) => {
    const survey = await bundler.survey(settings);
    // With every edit in its place it is what runs have built.
    if (undone.length === 0) return (await bundler.bundle(settings, [file], survey)).bundle;
    const texts = textsWithout(root, undone);
    const from = survey.hashOf(file);
    const key = createHash('sha256')
      .update(JSON.stringify([file, from, texts]))
      .digest('hex');
    const bundle = kept.get(key) ?? (await bundleInstead(root, settings, [file], texts));
    kept.delete(key);
    // Where it is not known what it is built from, nothing tells whether that is still the same.
    if (from !== null) kept.set(key, bundle);
    for (const oldest of [...kept.keys()].slice(0, -most)) kept.delete(oldest);
    return bundle;
  };
}
