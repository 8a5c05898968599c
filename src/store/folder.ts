/** The baselines as open files in the project: a PNG and a JSON for each capture. The format is described in docs/formats/baselines.md. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { fileName, shortHash } from '../core/look.ts';
import { problem, type Problem } from '../core/problem.ts';
import type { CaptureKey } from './decisions.ts';

/** What the JSON beside a baseline's picture says. */
export type BaselineFile = CaptureKey & {
  format: 1;
  width: number;
  height: number;
  sha256: string;
  fingerprint: string;
  approved: { by: string; at: string; why: string | null; run: number | null };
  markup: string[];
};

export type FolderBaseline = { about: BaselineFile; png: Buffer; hash: string /** The picture, relative to the project. */; file: string };

export type FolderContents = {
  baselines: FolderBaseline[];
  /** Files that could not be used; `key` where it is known which capture they belong to. */
  unreadable: { file: string; key: CaptureKey | null; problem: Problem }[];
};

/** A part of a component's path as a folder's name; one that loses something on the way gets a hash, so that no two share one. */
function folderName(part: string): string {
  const plain = part.replace(/[^\w.-]|^\.+$/g, '_');
  return plain === part ? plain : `${plain}-${shortHash(part)}`;
}

/** Path of a capture's baseline below the folder, without its ending. */
export const baselinePath = ({ component, look, environment, capture }: CaptureKey): string =>
  join(environment, ...component.split('/').map(folderName), `${fileName(look)}${capture === 'end' ? '' : `.${fileName(capture)}`}`);

const sha256 = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

function* jsonFiles(folder: string): Generator<string> {
  if (!existsSync(folder)) return;
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* jsonFiles(path);
    else if (entry.name.endsWith('.json')) yield path;
  }
}

const isKey = (value: Partial<BaselineFile>): value is BaselineFile =>
  [value.component, value.look, value.environment, value.capture, value.fingerprint].every((part) => typeof part === 'string') && Array.isArray(value.markup);

/** Why bytes are no whole PNG, or null: signature at the start, IEND chunk at the end. */
function wrongPng(png: Buffer): string | null {
  if (png.length < 57 || png.readUInt32BE(0) !== 0x89504e47)
    return png.subarray(0, 40).includes('git-lfs') ? 'it is a pointer to a large file; fetch the file itself' : 'it does not begin like a PNG';
  return png.subarray(-8, -4).toString('latin1') === 'IEND' ? null : 'it ends in the middle';
}

/** Reads every baseline of a folder. */
export function readFolder(root: string, folder: string): FolderContents {
  const contents: FolderContents = { baselines: [], unreadable: [] };
  for (const path of jsonFiles(join(root, folder))) {
    const file = relative(root, path).split(sep).join('/');
    let about: Partial<BaselineFile>;
    try {
      about = JSON.parse(readFileSync(path, 'utf8')) as Partial<BaselineFile>;
    } catch (error) {
      contents.unreadable.push({ file, key: null, problem: problem('baseline-unreadable', { file, error: (error as Error).message }) });
      continue;
    }
    if (!isKey(about)) {
      contents.unreadable.push({
        file,
        key: null,
        problem: problem('baseline-unreadable', { file, error: 'component, look, environment, capture, fingerprint or markup is missing' }),
      });
      continue;
    }
    const picture = path.replace(/\.json$/, '.png');
    const shown = file.replace(/\.json$/, '.png');
    const png = existsSync(picture) ? readFileSync(picture) : null;
    const wrong = png ? wrongPng(png) : 'there is no such file';
    if (!png || wrong) contents.unreadable.push({ file: shown, key: about, problem: problem('baseline-corrupt', { file: shown, error: wrong ?? '' }) });
    else contents.baselines.push({ about, png, hash: sha256(png), file: shown });
  }
  return contents;
}

/** Writes a file so that it is there whole or not at all. */
function replaceFile(path: string, bytes: Buffer | string): void {
  mkdirSync(dirname(path), { recursive: true });
  const temporary = `${path}.${process.pid}.tmp`;
  writeFileSync(temporary, bytes);
  renameSync(temporary, path);
}

/** True when the folder has this very picture for a capture, with a description that can be read. */
export function holdsBaseline(root: string, folder: string, key: CaptureKey, hash: string): boolean {
  const path = join(root, folder, baselinePath(key));
  try {
    return isKey(JSON.parse(readFileSync(`${path}.json`, 'utf8')) as Partial<BaselineFile>) && sha256(readFileSync(`${path}.png`)) === hash;
  } catch {
    return false;
  }
}

/** Writes one baseline; the picture first, so that a JSON never speaks of a picture that is not there. */
export function writeBaseline(root: string, folder: string, about: BaselineFile, png: Buffer): void {
  const path = join(root, folder, baselinePath(about));
  replaceFile(`${path}.png`, png);
  replaceFile(`${path}.json`, `${JSON.stringify(about, null, 2)}\n`);
}
