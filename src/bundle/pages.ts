/** What a bundle answers to a page's requests: the document of a look file, its scripts, styles and other files. */
import { readFile } from 'node:fs/promises';
import { join, normalize, sep } from 'node:path';
import { pinnedCss } from '../core/pins.ts';
import type { Bundle, BundledFile } from './bundle.ts';
import { typeOf } from './types.ts';

/** The address path of the document in which a look file's looks run. */
export const documentPath = (bundle: Bundle, file: string): string => `/look/${bundle.id}/${bundle.entries.findIndex((entry) => entry.file === file)}`;

function documentOf(bundle: Bundle, index: number): BundledFile | null {
  const entry = bundle.entries[index];
  if (!entry) return null;
  const html = `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<link rel="icon" href="data:,">
<style>${pinnedCss}</style>
<script type="module" src="${entry.script}"></script>
</head>
<body><div id="look"></div></body>
</html>
`;
  return { type: 'text/html; charset=utf-8', body: Buffer.from(html) };
}

/** The file at an address path, or null. */
export async function fileOf(bundle: Bundle, path: string): Promise<BundledFile | null> {
  const document = /^\/look\/([0-9a-f]+)\/(\d+)$/.exec(path);
  if (document) return document[1] === bundle.id ? documentOf(bundle, Number(document[2])) : null;
  const bundled = bundle.files.get(path);
  if (bundled || !bundle.publicFolder) return bundled ?? null;
  const file = normalize(join(bundle.publicFolder, path));
  if (!file.startsWith(bundle.publicFolder + sep)) return null;
  try {
    return { type: typeOf(file), body: await readFile(file) };
  } catch {
    return null;
  }
}
