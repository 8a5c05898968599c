/** The three files of one baseline in the folder: picture, description and moment. */
import { readFileSync } from 'node:fs';
import { relative, sep } from 'node:path';
import type { CaptureKey, FolderBaseline } from '../core/baseline/baseline.ts';
import { type CanonicalMoment, elementsOf } from '../core/moment/canonical.ts';
import { markupLines } from '../core/moment/markup.ts';
import { fail, messageOf } from '../core/problem/problem.ts';
import { hashOf } from '../store/index.ts';
import { type Manifest, parseManifest } from './manifest.ts';
import { takenHash } from './taken.ts';

/** What captures are compared with. */
export type BaselineContent = { png: Buffer; markup: string[] };

/** Why bytes are no whole PNG, or null: signature at the start, IEND chunk at the end. */
function wrongPng(png: Buffer): string | null {
  if (png.length < 57 || png.readUInt32BE(0) !== 0x89504e47)
    return png.subarray(0, 40).includes('git-lfs')
      ? 'it is a pointer to a large file; fetch the file itself'
      : 'it does not begin like a PNG';
  return png.subarray(-8, -4).toString('latin1') === 'IEND' ? null : 'it ends in the middle';
}

/** The moment beside a description of format 2. @throws ProblemError `baseline-unreadable`, `baseline-torn` */
function readMoment(path: string, shown: string, { moment: wanted }: Manifest): CanonicalMoment {
  let moment: CanonicalMoment;
  try {
    moment = JSON.parse(readFileSync(path, 'utf8')) as CanonicalMoment;
    // It comes from a file that anybody may have written.
    for (const element of elementsOf(moment.root))
      if (typeof element.tag !== 'string') throw new Error('it is not a moment');
  } catch (error) {
    return fail('baseline-unreadable', { file: shown, error: messageOf(error) });
  }
  return hashOf(JSON.stringify(moment)) === wanted ? moment : fail('baseline-torn', { file: shown });
}

/** A PNG file, checked as far as that is possible without decoding it. @throws ProblemError `baseline-corrupt` */
function readPicture(path: string, shown: string): Buffer {
  let png: Buffer;
  try {
    png = readFileSync(path);
  } catch (error) {
    const missing = (error as { code?: string }).code === 'ENOENT';
    return fail('baseline-corrupt', { file: shown, error: missing ? 'there is no such file' : messageOf(error) });
  }
  const wrong = wrongPng(png);
  return wrong ? fail('baseline-corrupt', { file: shown, error: wrong }) : png;
}

/**
 * Reads a baseline by the path of its description; `keyKnown` is told which one it is as soon as that is known.
 * @throws ProblemError `baseline-unreadable`, `baseline-corrupt`, `baseline-torn`
 */
export function readBaseline(
  root: string,
  path: string,
  keyKnown: (key: CaptureKey) => void = () => {},
): { baseline: FolderBaseline; content: BaselineContent } {
  const named = (ending: string): [path: string, shown: string] => {
    const full = path.replace(/\.json$/, ending);
    return [full, relative(root, full).split(sep).join('/')];
  };
  let about: ReturnType<typeof parseManifest>;
  try {
    about = parseManifest(readFileSync(path, 'utf8'));
  } catch (error) {
    return fail('baseline-unreadable', { file: named('.json')[1], error: messageOf(error) });
  }
  const { component, look, environment, capture, fingerprint, approved = null, family = null } = about;
  const key = { component, look, environment, capture };
  keyKnown(key);
  const [picture, file] = named('.png');
  const png = readPicture(picture, file);
  const wanted = about.format === 2 ? about.picture : about.sha256;
  const packed = hashOf(png);
  if (wanted !== undefined && wanted !== packed) fail('baseline-torn', { file });
  const lines = about.format === 2 ? markupLines(readMoment(...named('.moment'), about)) : about.markup;
  const allowances = about.format === 2 ? (about.allowances ?? []) : [];
  const shows = about.format === 2 ? { moment: about.moment, assets: about.assets } : null;
  const hash = takenHash(png) ?? packed;
  const markup = hashOf(JSON.stringify(lines));
  return {
    baseline: { key, hash, markup, fingerprint, allowances, shows, approved, file, family },
    content: { png, markup: lines },
  };
}
