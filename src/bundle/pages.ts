/** What a bundle answers to a page's requests: the document of a look file, its scripts, styles and other files. */
import { readFile, realpath, stat } from 'node:fs/promises';
import { join, normalize, sep } from 'node:path';
import { pinnedCss } from '../core/wire/pins.ts';
import type { Bundle, BundledFile } from './bundle.ts';
import { typeOf } from './types.ts';

/** The address path of the document in which a look file's looks run. */
export const documentPath = (bundle: Bundle, file: string): string =>
  `/look/${bundle.id}/${bundle.entries.findIndex((entry) => entry.file === file)}`;

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

/** A file larger than this is none that a look shows. */
const mostBytes = 100 * 1024 * 1024;

/**
 * A file of the project's public folder. No hidden one, and none that a link leads to outside the project: what a
 * look can reach, a component that somebody has installed can reach, too.
 */
async function publicFile({ root, publicFolder }: Bundle, path: string): Promise<BundledFile | null> {
  if (!publicFolder || path.includes('\0')) return null;
  const file = normalize(join(publicFolder, path));
  if (!file.startsWith(publicFolder + sep) || file.slice(publicFolder.length).includes(`${sep}.`)) return null;
  try {
    const [real, home, project] = await Promise.all([realpath(file), realpath(publicFolder), realpath(root)]);
    if (!real.startsWith(project + sep) && !real.startsWith(home + sep)) return null;
    // A link may lead to a hidden file of the project as well.
    const inside = real.startsWith(home + sep) ? real.slice(home.length) : real.slice(project.length);
    if (inside.includes(`${sep}.`)) return null;
    const about = await stat(real);
    if (!about.isFile() || about.size > mostBytes) return null;
    return { type: typeOf(file), body: await readFile(real) };
  } catch {
    return null;
  }
}

/** The file at an address path, or null. Never throws. */
export async function fileOf(bundle: Bundle, path: string): Promise<BundledFile | null> {
  const document = /^\/look\/([0-9a-f]+)\/(\d+)$/.exec(path);
  if (document) return document[1] === bundle.id ? documentOf(bundle, Number(document[2])) : null;
  return bundle.files.get(path) ?? publicFile(bundle, path);
}
