/** Everything that a picture was made from: its moment with sheets and files, of a baseline or of a capture. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { Pictured } from '../core/cause/explain.ts';
import { type CanonicalMoment, drawingsOf, sheetsOf } from '../core/moment/canonical.ts';
import { flatten, type Scene } from '../core/moment/flat.ts';
import { hashOf, type Store } from '../store/index.ts';
import { type ManifestParts, parseManifest } from './manifest.ts';
import { baselinePath, sharedFolder } from './paths.ts';

export type Material = Scene & Pictured & { fingerprint: string };

type Parts = Pick<ManifestParts, 'moment' | 'assets' | 'fingerprint'>;

const typeOf = (name: string): string => {
  if (name.endsWith('.css')) return 'text/css';
  if (name.endsWith('.svg')) return 'image/svg+xml';
  return /\.(woff2?|ttf|otf)$/.test(name) ? 'font/woff2' : name.endsWith('.txt') ? 'text/plain' : 'image/png';
};

/** Takes what a baseline of the folder shares with others into the records, where it is drawn from. */
function takeInShared({ blobs }: Store, home: string, wanted: readonly string[]): void {
  const missing = new Set(wanted.filter((hash) => !blobs.has(hash)));
  const folder = join(home, sharedFolder);
  if (missing.size === 0 || !existsSync(folder)) return;
  for (const name of readdirSync(folder)) {
    if (!missing.has(name.slice(0, 64))) continue;
    const bytes = readFileSync(join(folder, name));
    // Somebody may have changed the file.
    if (hashOf(bytes) === name.slice(0, 64)) blobs.put(bytes, typeOf(name));
  }
}

/**
 * What the folder says of a baseline by its description, once its moment and files are in the records; null where it
 * does not say.
 */
function fromFolder(store: Store, home: string, description: string): Parts | null {
  const path = description.slice(0, -'.json'.length);
  try {
    const about = parseManifest(readFileSync(description, 'utf8'));
    if (about.format !== 2) return null;
    const moment = JSON.stringify(JSON.parse(readFileSync(`${path}.moment`, 'utf8')));
    if (hashOf(moment) !== about.moment) return null;
    store.blobs.put(Buffer.from(moment), 'application/json');
    takeInShared(store, home, [...about.sheets, ...(about.drawings ?? []), ...Object.values(about.assets)]);
    return about;
  } catch {
    // What cannot be read was told when the folder was.
    return null;
  }
}

const read = <T>({ blobs }: Store, hash: string): T | null => {
  const blob = blobs.get(hash);
  return blob && (JSON.parse(blob.bytes.toString('utf8')) as T);
};

/** The material of a picture, by its manifest; null where the moment was not kept. */
function materialOf(store: Store, picture: string, { moment: hash, assets, fingerprint }: Parts): Material | null {
  const moment = read<CanonicalMoment>(store, hash);
  const png = store.blobs.get(picture)?.bytes;
  if (!moment || !png) return null;
  const texts = new Map(
    [...sheetsOf(moment), ...drawingsOf(moment)].flatMap((text) => {
      const blob = store.blobs.get(text);
      return blob ? [[text, blob.bytes.toString('utf8')] as const] : [];
    }),
  );
  return { ...flatten(moment, texts, assets), hash: picture, png, fingerprint };
}

/**
 * What the baseline of a capture was made from; null where there is none, or its moment was not kept. `folder` is that
 * of the baselines, relative to the project; null where they are not kept as files.
 */
export function baselineMaterial(store: Store, root: string, folder: string | null, key: CaptureKey): Material | null {
  const decision = store.decisions.baseline(key);
  if (!decision) return null;
  const kept = decision.manifest === null ? null : read<Parts>(store, decision.manifest);
  const file = decision.file ?? (folder === null ? null : join(folder, `${baselinePath(key)}.json`));
  const home = folder === null ? null : join(root, folder);
  const parts = kept ?? (file === null || home === null ? null : fromFolder(store, home, join(root, file)));
  return parts && materialOf(store, decision.hash, parts);
}

/** What a capture was made from; null for one that an older Sguardo has taken. */
export function captureMaterial(store: Store, manifest: string | null): Material | null {
  const parts = manifest === null ? null : read<Parts & { picture: string }>(store, manifest);
  return parts && materialOf(store, parts.picture, parts);
}
