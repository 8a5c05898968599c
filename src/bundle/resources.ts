/**
 * Files that are read for a module although the bundler tells of none: pictures and fonts of style sheets, classes that
 * CSS modules are composed of, and what a component of Angular names instead of importing it.
 */
import { readFileSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';

const isFile = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isFile() === true;

/** True for a file of styles by its name. */
export const isSheet = (path: string): boolean => /\.(css|less|sass|scss|styl|stylus|pcss|postcss|sss)$/.test(path);

/** The texts in quotes of some code. */
const quoted = (code: string): string[] => [...code.matchAll(/(["'`])([^"'`]+)\1/g)].map(([, , text]) => text!);

/** What a sheet refers to besides other sheets: `url(./wave.svg)`, `composes: deep from './sea.module.css'`. */
export function referredIn(file: string): string[] {
  const text = readFileSync(file, 'utf8');
  const urls = [...text.matchAll(/\burl\(\s*(["']?)([^"')\s]+)\1\s*\)/g)].map(([, , address]) => address!);
  const composed = [...text.matchAll(/\bfrom\s+(["'])([^"']+)\1/g)].map(([, , address]) => address!);
  const own = urls
    .map((address) => address.replace(/[?#].*/, ''))
    .filter((address) => /^[^/:]+(\/|$|\.)/.test(address));
  return [...own, ...composed].map((address) => resolve(dirname(file), address)).filter(isFile);
}

/** The sheet that another one means, as CSS, Sass and Less look for it; null for one of a package. */
function sheetBeside(file: string, address: string): string | null {
  const path = resolve(dirname(file), address);
  const partial = join(dirname(path), `_${basename(path)}`);
  const endings = ['', '.scss', '.sass', '.css', '.less'];
  const candidates = [path, partial, join(path, '_index'), join(path, 'index')];
  return candidates.flatMap((one) => endings.map((ending) => one + ending)).find(isFile) ?? null;
}

/** A sheet and all those that it imports, with what they refer to, by their full paths. */
function sheetsFrom(file: string, found: Set<string>): void {
  if (found.has(file) || !isFile(file)) return;
  found.add(file);
  for (const other of referredIn(file)) found.add(other);
  for (const [, said] of readFileSync(file, 'utf8').matchAll(/@(?:use|forward|import)\s+([^;{]+)/g))
    for (const address of quoted(said!)) {
      const sheet = sheetBeside(file, address);
      if (sheet) sheetsFrom(sheet, found);
    }
}

/** The full paths of what a component of Angular names in its decorator, and of all that this is made of. */
export function namedIn(file: string): string[] {
  const found = new Set<string>();
  const source = readFileSync(file, 'utf8');
  for (const [, kind, said] of source.matchAll(/\b(templateUrl|styleUrls?)\s*:\s*(\[[^\]]*\]|["'`][^"'`]*["'`])/g))
    for (const address of quoted(said!)) {
      const path = resolve(dirname(file), address);
      if (kind !== 'templateUrl') sheetsFrom(path, found);
      else if (isFile(path)) found.add(path);
    }
  return [...found];
}
