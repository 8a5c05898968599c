/** Gathers the files that recorded moments show: sheets, what sheets refer to, images. */
import { createHash } from 'node:crypto';
import { urlsIn } from '../core/restyle.ts';
import type { Moment, Patch } from '../core/moment.ts';
import { type Bundle, type BundledFile, fileOf } from '../bundle/index.ts';

export type Assets = {
  /** Address → hash. */
  hashes: Record<string, string>;
  /** Hash → file. */
  files: Map<string, BundledFile>;
};

export const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

function fromDataUrl(url: string): BundledFile | null {
  const found = /^data:([^;,]*)(;base64)?,(.*)$/s.exec(url);
  if (!found) return null;
  return { type: found[1] || 'application/octet-stream', body: found[2] ? Buffer.from(found[3]!, 'base64') : Buffer.from(decodeURIComponent(found[3]!)) };
}

/** Resolves the addresses that a look's moments refer to. What is not the project's own is left out, and drawn as missing. */
export async function gatherAssets(
  bundle: Bundle,
  origin: string,
  wanted: ReadonlyMap<string, string | undefined>,
  moments: readonly (Moment | Patch)[],
  known: Map<string, BundledFile>,
): Promise<Assets> {
  const assets: Assets = { hashes: {}, files: new Map() };
  const visit = async (url: string, data?: string): Promise<void> => {
    if (url in assets.hashes || url.startsWith('data:')) return;
    const cached = known.get(url);
    const parsed = new URL(url);
    const file = cached ?? (data ? fromDataUrl(data) : parsed.origin === origin ? await fileOf(bundle, decodeURIComponent(parsed.pathname)) : null);
    if (!file) return;
    known.set(url, file);
    const hash = hashOf(file.body);
    assets.hashes[url] = hash;
    assets.files.set(hash, file);
    if (file.type.startsWith('text/css')) for (const inner of urlsIn(file.body.toString('utf8'))) await visit(new URL(inner, url).href);
  };
  for (const [url, data] of wanted) await visit(url, data);
  for (const moment of moments) {
    for (const sheet of Object.values(moment.sheets ?? {})) {
      if (sheet && 'css' in sheet) for (const inner of urlsIn(sheet.css)) await visit(new URL(inner, sheet.base).href);
    }
  }
  return assets;
}
