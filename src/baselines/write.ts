/** Writes approved captures into the folder of baselines. */
import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import { fail } from '../core/problem/problem.ts';
import { hashOf } from '../store/index.ts';
import { type Change, carryOutTogether, recover } from './journal.ts';
import { type Manifest, type ManifestParts, parseManifest } from './manifest.ts';
import { baselinePath, formerPath } from './paths.ts';
import { addShared, type SharedFile } from './shared.ts';
import { takenHash } from './taken.ts';

/** One approved capture with everything that the folder keeps of it. */
export type Approved = {
  key: CaptureKey;
  /** The group of machines that it is for; null for the project's usual one. */
  family: string | null;
  parts: ManifestParts;
  png: Uint8Array;
  /** JSON of the canonical moment. */
  moment: () => string;
  shared: SharedFile[];
  approved: NonNullable<Manifest['approved']>;
};

/** Where a project keeps the baselines of one group of machines. */
export type Shelf = { root: string; folder: string; family: string | null };

/** True when the folder has this very picture for a capture, in the present format and place. */
export function holdsBaseline({ root, folder, family }: Shelf, key: CaptureKey, picture: string): boolean {
  const path = join(root, folder, baselinePath(key, family));
  try {
    const about = parseManifest(readFileSync(`${path}.json`, 'utf8'));
    const png = readFileSync(`${path}.png`);
    const hash = hashOf(png);
    const isThis = (takenHash(png) ?? hash) === picture;
    return about.format === 2 && about.picture === hash && isThis && existsSync(`${path}.moment`);
  } catch {
    return false;
  }
}

/** Lines of a moment stand one below the other, so that a change of one element is a change of its lines. */
const spread = (json: string): string => `${JSON.stringify(JSON.parse(json), null, 1).replace(/^ +/gm, '')}\n`;

function changeFor(home: string, one: Approved, change: Change): void {
  const { key, family, parts, png, moment, shared, approved } = one;
  const path = baselinePath(key, family);
  const { fingerprint, width, height, moment: hash, sheets, drawings = [], assets, allowances = [] } = parts;
  const manifest: Manifest = {
    format: 2,
    ...key,
    width,
    height,
    picture: hashOf(png),
    moment: hash,
    sheets,
    ...(drawings.length > 0 && { drawings }),
    assets,
    ...(allowances.length > 0 && { allowances }),
    fingerprint,
    ...(family !== null && { family }),
    approved,
  };
  change.writes.set(`${path}.png`, () => png);
  change.writes.set(`${path}.moment`, () => spread(moment()));
  change.writes.set(`${path}.json`, () => `${JSON.stringify(manifest, null, 2)}\n`);
  addShared(home, shared, change);
  const former = formerPath(key);
  if (former === path || family !== null) return;
  for (const ending of ['.json', '.png'])
    if (existsSync(join(home, former + ending))) change.removals.push(former + ending);
}

/**
 * Writes approved captures, all or none. `decided` is called once it is sure that they will be written.
 * @throws ProblemError `baselines-not-folder`, `disk-full`, `disk-read-only`, `disk-failed`
 */
export function writeBaselines(root: string, folder: string, list: readonly Approved[], decided: () => void): void {
  const home = join(root, folder);
  if (statSync(home, { throwIfNoEntry: false })?.isFile()) fail('baselines-not-folder', { folder });
  recover(home);
  const change: Change = { writes: new Map(), removals: [] };
  for (const one of list) changeFor(home, one, change);
  carryOutTogether(home, change, decided);
}

/** Removes files from the folder of baselines, all or none; they are relative to it. */
export function removeFiles(root: string, folder: string, files: readonly string[]): void {
  carryOutTogether(join(root, folder), { writes: new Map(), removals: [...files] }, () => {});
}
