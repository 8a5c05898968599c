/** Coverage for other tools, written by Istanbul's own libraries. */
import { mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import type { IstanbulFile } from '../../core/coverage/istanbul.ts';
import { onDisk } from '../../core/problem/disk.ts';

/** Istanbul's name of a report, and the file that it writes; null for one that is a folder. */
const reports = {
  lcov: { name: 'lcovonly', file: 'lcov.info' },
  coverage: { name: 'html', file: null },
  'coverage-json': { name: 'json', file: 'coverage-final.json' },
  'coverage-summary': { name: 'json-summary', file: 'coverage-summary.json' },
} as const;

/** Writes one report to a path: a folder for `coverage`, a file for the others. @throws ProblemError as `onDisk` */
export async function writeCoverage(
  kind: string,
  path: string,
  map: Record<string, IstanbulFile>,
  root: string,
): Promise<void> {
  const { name, file } = reports[kind as keyof typeof reports];
  const [{ default: coverage }, { default: report }, { default: library }] = await Promise.all([
    import('istanbul-lib-coverage'),
    import('istanbul-lib-report'),
    import('istanbul-reports'),
  ]);
  const coverageMap = coverage.createCoverageMap(map as never);
  onDisk(path, () => {
    const folder = file === null ? path : dirname(path);
    mkdirSync(folder, { recursive: true });
    // What is there under the library's own name stays as it is.
    const dir = file === null ? folder : join(folder, `.${basename(path)}.new`);
    const context = report.createContext({ dir, coverageMap, defaultSummarizer: 'pkg' });
    library.create(name, { projectRoot: root } as never).execute(context);
    if (file === null) return;
    renameSync(join(dir, file), path);
    for (const left of readdirSync(dir)) rmSync(join(dir, left), { recursive: true, force: true });
    rmSync(dir, { recursive: true, force: true });
  });
}
