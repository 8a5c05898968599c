/** Builds what can be built of look files, and finds those that cannot be. */
import { basename, join } from 'node:path';
import { fail, ProblemError } from '../core/problem/problem.ts';
import { type Built, build } from './build.ts';
import type { Source, Sources, Texts } from './entries.ts';
import { because, causesOf, explainBuild, fileBlamed } from './failure.ts';
import { fullPath } from './graph.ts';
import { kindOf } from './kinds.ts';
import { twinsAmong, type UnusableFile } from './lookFiles.ts';
import { readPropTypes } from './propTypes.ts';
import { viteOf } from './vite.ts';
import { viteIn } from './viteRoot.ts';

/**
 * What all look files share is looked at first when they could not be built together.
 * @throws ProblemError `config-threw`, `frame-failed`
 */
async function checkShared(root: string, { frame, props, instead }: Omit<Sources, 'files'>): Promise<void> {
  const vite = await viteOf(root);
  const place = await viteIn(root, { command: 'build', mode: 'development' });
  try {
    await vite.resolveConfig({ ...place, logLevel: 'silent' }, 'build', 'development');
  } catch (error) {
    const file = basename(place.configFile ?? 'vite.config.ts');
    fail('config-threw', { file, error: causesOf(error).join(because) });
  }
  if (!frame) return;
  try {
    await build(root, { files: [frame], frame: null, props, instead });
  } catch (error) {
    throw new ProblemError(explainBuild(root, frame.file, error, 'frame-failed'));
  }
}

const nothing: Built = {
  output: [] as unknown as Built['output'],
  publicFolder: null,
  behind: { closures: {}, styles: {} },
  configuration: [],
  prepared: null,
};

/** What was built of what can be built, and why the rest cannot. */
export type Usable = { built: Built; usable: readonly Source[]; unusable: UnusableFile[] };

/** Builds the files, or halves of them until those that cannot be built stand alone. */
async function halve(root: string, { files, ...around }: Sources): Promise<UnusableFile[]> {
  try {
    await build(root, { files, ...around });
    return [];
  } catch (error) {
    const [{ file }] = files as [Source];
    if (files.length === 1) return [{ file, problem: explainBuild(root, file, error) }];
    const half = Math.ceil(files.length / 2);
    return [
      ...(await halve(root, { files: files.slice(0, half), ...around })),
      ...(await halve(root, { files: files.slice(half), ...around })),
    ];
  }
}

/**
 * The look files that a module is behind which keeps them from being built: they are built with something else in its
 * place, and in that of whatever turns out to be broken besides. Empty when the errors do not say which module it is.
 */
async function behindBroken(root: string, sources: Sources, first: unknown): Promise<UnusableFile[]> {
  const errors = new Map<string, unknown>();
  for (let error = first; ; ) {
    const path = fileBlamed(root, error);
    if (path === null || errors.has(path)) return [];
    errors.set(path, error);
    try {
      const { closures } = (await build(root, sources, new Set(errors.keys()))).behind;
      return sources.files.flatMap(({ file }) => {
        const found = closures[file]?.map((one) => fullPath(root, one)).find((one) => errors.has(one));
        return found === undefined ? [] : [{ file, problem: explainBuild(root, file, errors.get(found)) }];
      });
    } catch (another) {
      error = another;
    }
  }
}

/**
 * Builds what can be built of files that could not be built together, which failed with `first`. Throws what is thrown
 * when they can be built one by one, and together cannot.
 */
async function buildRest(root: string, sources: Sources, first: unknown): Promise<Usable> {
  const unusable: UnusableFile[] = [];
  let left = sources;
  for (let error = first; left.files.length > 0; ) {
    const behind = await behindBroken(root, left, error);
    const wrong = behind.length > 0 ? behind : await halve(root, left);
    unusable.push(...wrong);
    left = { ...left, files: left.files.filter(({ file }) => !wrong.some((one) => one.file === file)) };
    if (left.files.length === 0) break;
    try {
      return { built: await build(root, left), usable: left.files, unusable };
    } catch (another) {
      if (wrong.length === 0) throw another;
      error = another;
    }
  }
  return { built: nothing, usable: [], unusable };
}

/** Builds the files that can be built. @throws ProblemError `config-threw`, `frame-failed` */
export async function buildUsable(
  root: string,
  files: readonly string[],
  frame: Source | null,
  instead: Texts,
): Promise<Usable> {
  const twins = twinsAmong(files);
  const single = files
    .filter((file) => !twins.some((one) => one.file === file))
    .map((file) => ({ file, kind: kindOf(root, file) }));
  if (single.length === 0) return { built: nothing, usable: [], unusable: twins };
  const props = readPropTypes({ root, files: single.map(({ file, kind }) => ({ path: join(root, file), kind })) });
  const around = { frame, props, instead };
  try {
    return { built: await build(root, { files: single, ...around }), usable: single, unusable: twins };
  } catch (error) {
    await checkShared(root, around);
    const [only, ...others] = single;
    const alone = (): Usable => ({
      built: nothing,
      usable: [],
      unusable: [{ file: only!.file, problem: explainBuild(root, only!.file, error) }],
    });
    const rest = others.length === 0 ? alone() : await buildRest(root, { files: single, ...around }, error);
    return { ...rest, unusable: [...twins, ...rest.unusable] };
  }
}
