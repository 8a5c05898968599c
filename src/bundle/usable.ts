/** Builds what can be built of look files, and finds those that cannot be. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fail, ProblemError } from '../core/problem/problem.ts';
import { type Built, build } from './build.ts';
import type { Source, Sources, Texts } from './entries.ts';
import { because, causesOf, explainBuild } from './failure.ts';
import { kindOf } from './kinds.ts';
import { twinsAmong, type UnusableFile } from './lookFiles.ts';
import { readPropTypes } from './propTypes.ts';
import { viteOf } from './vite.ts';

/** Configurations of Vite, in the order in which it looks for them. */
const viteConfigs = ['js', 'mjs', 'ts', 'cjs', 'mts', 'cts'].map((end) => `vite.config.${end}`);

/**
 * What all look files share is looked at first when they could not be built together.
 * @throws ProblemError `config-threw`, `frame-failed`
 */
async function checkShared(root: string, { frame, props, instead }: Omit<Sources, 'files'>): Promise<void> {
  const vite = await viteOf(root);
  try {
    await vite.resolveConfig({ root, logLevel: 'silent' }, 'build', 'development');
  } catch (error) {
    const file = viteConfigs.find((name) => existsSync(join(root, name))) ?? 'vite.config.ts';
    fail('config-threw', { file, error: causesOf(error).join(because) });
  }
  if (!frame) return;
  try {
    await build(root, { files: [frame], frame: null, props, instead });
  } catch (error) {
    throw new ProblemError(explainBuild(root, frame.file, error, 'frame-failed'));
  }
}

/** Builds the files, or halves of them until those that cannot be built stand alone. */
async function findUnusable(root: string, { files, ...around }: Sources): Promise<UnusableFile[]> {
  try {
    await build(root, { files, ...around });
    return [];
  } catch (error) {
    const [{ file }] = files as [Source];
    if (files.length === 1) return [{ file, problem: explainBuild(root, file, error) }];
    const half = Math.ceil(files.length / 2);
    return [
      ...(await findUnusable(root, { files: files.slice(0, half), ...around })),
      ...(await findUnusable(root, { files: files.slice(half), ...around })),
    ];
  }
}

const nothing: Built = {
  output: [] as unknown as Built['output'],
  publicFolder: null,
  behind: { closures: {}, styles: {} },
  configuration: [],
};

/** What was built of what can be built, and why the rest cannot. */
export type Usable = { built: Built; usable: readonly Source[]; unusable: UnusableFile[] };

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
    const wrong =
      others.length === 0
        ? [{ file: only!.file, problem: explainBuild(root, only!.file, error) }]
        : await findUnusable(root, { files: single, ...around });
    const usable = single.filter(({ file }) => !wrong.some((one) => one.file === file));
    const built = usable.length > 0 ? await build(root, { files: usable, ...around }) : nothing;
    return { built, usable, unusable: [...twins, ...wrong] };
  }
}
