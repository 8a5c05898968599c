/** Gathers the files that recorded moments show: sheets, what sheets refer to, images. */
import { createHash } from 'node:crypto';
import { type Bundle, type BundledFile, fileOf } from '../bundle/index.ts';
import { addressOf, dataUrlOf, decodePath } from '../core/address/address.ts';
import { isText, type Moment, type Patch } from '../core/moment/moment.ts';
import { urlsIn } from '../core/moment/restyle.ts';

export type Assets = {
  /** Address → hash. */
  hashes: Record<string, string>;
  /** Hash → file. */
  files: Map<string, BundledFile>;
};

/** SHA-256 in hexadecimal. */
export const hashOf = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex');

/** What a file holds, found out once for as long as the file stays in memory: large sheets take a while. */
const contents = new WeakMap<BundledFile, { hash: string; urls: readonly string[] }>();

/** Hash of a file, and the addresses in it if it is a style sheet. */
function contentsOf(file: BundledFile): { hash: string; urls: readonly string[] } {
  const before = contents.get(file);
  if (before) return before;
  const urls = file.type.startsWith('text/css') ? [...urlsIn(file.body.toString('utf8'))] : [];
  const found = { hash: hashOf(file.body), urls };
  contents.set(file, found);
  return found;
}

/** Addresses in texts of style sheets that were looked for last. */
const searched = new Map<string, readonly string[]>();
const mostSearched = 200;

function urlsInSheet(css: string): readonly string[] {
  const before = searched.get(css);
  if (before) return before;
  if (searched.size >= mostSearched) searched.clear();
  const urls = [...urlsIn(css)];
  searched.set(css, urls);
  return urls;
}

/** The file that a `data:` URL holds, or null for one that cannot be decoded. */
function fromDataUrl(url: string): BundledFile | null {
  const data = dataUrlOf(url);
  if (!data) return null;
  if (data.base64) return { type: data.type, body: Buffer.from(data.body, 'base64') };
  const decoded = decodePath(data.body);
  return decoded === null ? null : { type: data.type, body: Buffer.from(decoded) };
}

/** Addresses in the sheets and style attributes of moments, each with what it is relative to. */
function* urlsOf(moments: readonly (Moment | Patch)[], page: string): Generator<{ url: string; base: string }> {
  for (const { sheets, nodes } of moments) {
    for (const sheet of Object.values(sheets ?? {}))
      if (sheet && 'css' in sheet) for (const url of urlsInSheet(sheet.css)) yield { url, base: sheet.base };
    for (const node of Object.values(nodes ?? {}))
      if (node && !isText(node) && node.attrs?.style?.includes('url('))
        for (const url of urlsIn(node.attrs.style)) yield { url, base: page };
  }
}

/** What a page has named, with the data of what only it has; and what its look has answered, by address. */
type Given = {
  wanted: ReadonlyMap<string, string | undefined>;
  answered: ReadonlyMap<string, BundledFile>;
};

/**
 * Resolves the addresses that a look's moments refer to. What is neither the project's own nor answered is left out,
 * and drawn as missing.
 */
export async function gatherAssets(
  bundle: Bundle,
  origin: string,
  { wanted, answered }: Given,
  moments: readonly (Moment | Patch)[],
  known: Map<string, BundledFile>,
): Promise<Assets> {
  const assets: Assets = { hashes: {}, files: new Map() };
  const seen = new Set<string>();
  const fileAt = async (url: string, data?: string): Promise<BundledFile | null> => {
    // What only the page has is another file at every look.
    if (data) return fromDataUrl(data);
    const cached = answered.get(url) ?? known.get(url);
    if (cached) return cached;
    const address = addressOf(url);
    const path = address?.origin === origin ? decodePath(address.pathname) : null;
    const file = path === null ? null : await fileOf(bundle, path);
    if (file) known.set(url, file);
    return file;
  };
  const visit = async (url: string, base?: string, data?: string): Promise<void> => {
    const full = addressOf(url, base)?.href;
    if (full === undefined || seen.has(full) || full.startsWith('data:')) return;
    seen.add(full);
    const file = await fileAt(full, data);
    if (!file) return;
    const { hash, urls } = contentsOf(file);
    assets.hashes[full] = hash;
    assets.files.set(hash, file);
    for (const inner of urls) await visit(inner, full);
  };
  for (const [url, data] of wanted) await visit(url, undefined, data);
  for (const { url, base } of urlsOf(moments, `${origin}/`)) await visit(url, base);
  return assets;
}

/** Bundled files carry a hash of their content in their names, and what is only in memory is compared by content. */
const isNamedByContent = (address: string, origin: string): boolean =>
  address.startsWith(`${origin}/assets/`) || !address.startsWith(`${origin}/`);

/** True when the files at these addresses are what they were when they had these hashes. */
export async function holdAssets(
  bundle: Bundle,
  origin: string,
  assets: Readonly<Record<string, string>>,
  known: Map<string, BundledFile>,
  answered: ReadonlyMap<string, BundledFile> = new Map(),
): Promise<boolean> {
  for (const [address, hash] of Object.entries(assets)) {
    const given = answered.get(address);
    if (given && hashOf(given.body) !== hash) return false;
    if (given || isNamedByContent(address, origin)) continue;
    const path = decodePath(addressOf(address)?.pathname ?? '');
    const file = known.get(address) ?? (path === null ? null : await fileOf(bundle, path));
    if (!file || hashOf(file.body) !== hash) return false;
    known.set(address, file);
  }
  return true;
}
