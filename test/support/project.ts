/**
 * Projects for tests: folders with a configuration and look files, inside this repository so that packages are found.
 */
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import type { CanonicalMoment } from '../../src/core/moment/canonical.ts';
import { markupLines } from '../../src/core/moment/markup.ts';
import { afterwards } from './afterwards.ts';
import { gateOrigins } from './gate.ts';

const home = resolve(import.meta.dirname, '../.projects');
export const repository = resolve(import.meta.dirname, '../..');

/** A fresh folder, which is removed when the file's tests are over. */
export function freshFolder(): string {
  mkdirSync(home, { recursive: true });
  const folder = mkdtempSync(join(home, 'p-'));
  afterwards(() => rmSync(folder, { recursive: true, force: true, maxRetries: 5 }));
  return folder;
}

/** Writes files into a folder; their names are paths below it. */
export function write(folder: string, files: Record<string, string>): void {
  for (const [name, text] of Object.entries(files)) {
    const path = join(folder, name);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, text);
  }
}

/**
 * The text of a configuration file: one lane, as few looks need more, documents that are shared although nothing is
 * approved yet, and a way to every gate made so far.
 */
export const configuration = (entries: object = {}): string =>
  `export default ${JSON.stringify({ network: gateOrigins, lanes: 1, isolate: 'file', ...entries })};`;

/** A project of these files; without a configuration among them it gets one that lets looks reach gates. */
export function project(files: Record<string, string>): string {
  const folder = freshFolder();
  write(folder, { 'sguardo.config.ts': configuration({ patience: 1500 }), ...files });
  return folder;
}

/** A copy of a folder of this repository, such as `demo/harbour`. */
export function copyOf(path: string): string {
  const folder = freshFolder();
  const from = join(repository, path);
  cpSync(from, folder, {
    recursive: true,
    filter: (file) => !/node_modules|\.sguardo|baselines/.test(file.slice(from.length)),
  });
  return folder;
}

/** The markup that the folder of baselines keeps of a capture. */
export const markupIn = (root: string, path: string): string[] =>
  markupLines(JSON.parse(readFileSync(join(root, 'baselines/day', `${path}.moment`), 'utf8')) as CanonicalMoment);

/** A look file of one component: `body` is what it renders, `states` the text of its states. */
export const lookFile = (
  body: string,
  states: string,
): string => `import { looks, the, click, ensure, capture, spy } from 'sguardo';
function Buoy(props: { name?: string; colour?: string }) { ${body} }
export default looks(Buoy, { states: { ${states} } });
`;

/** A picture of one colour. */
export const swatch = (colour: string, width = 20, height = 10): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">` +
  `<rect width="${width}" height="${height}" fill="${colour}"/></svg>`;

const plainElements = '/** @jsxRuntime classic @jsx element */';

/**
 * The same without a framework, whose elements are plain ones: it is built, and its documents begin, in a fraction of
 * the time. For tests of what comes after the page; `before` is what the file imports besides.
 */
export const plainFile = (
  body: string,
  states: string,
  before = '',
): string => `${plainElements} ${before}import { looks, the, click, ensure, capture, spy } from 'sguardo/dom';
function Buoy(props: { name?: string; colour?: string }) { ${body} }
export default looks(Buoy, { states: { ${states} } });
function element(tag: string, attributes: object | null, ...children: unknown[]) {
  const made = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes ?? {}))
    if (name.startsWith('__')) continue;
    else if (name === 'style')
      for (const [key, amount] of Object.entries(value))
        made.style[key] = typeof amount === 'number' ? amount + 'px' : amount;
    else made.setAttribute(name === 'className' ? 'class' : name, value === true ? '' : value);
  made.append(...children.flat().filter((child) => child !== undefined && child !== null) as Node[]);
  return made;
}
`;
