/** What `sguardo run --coverage` tells. */
import pc from 'picocolors';
import {
  coverageKinds,
  type CoverageReport,
  type FileCoverage,
  percentOf,
  percentText,
  shortfallText,
} from '../core/coverage/report.ts';
import { counted } from '../core/text/counted.ts';

/** At most this many sources are listed: those with the least covered lines. */
const mostFiles = 10;

const missingIn = (file: FileCoverage): number =>
  coverageKinds.reduce((sum, kind) => sum + file[kind].all - file[kind].covered, 0);

const columns = (parts: Pick<FileCoverage, 'lines' | 'branches' | 'functions'>): string =>
  coverageKinds.map((kind) => percentText(parts[kind]).padStart(6)).join('   ');

/** How much was run, where least was, and thresholds that were not reached; these only unless `isPartial`. */
export function coverageText(report: CoverageReport, url: string, isPartial: boolean): string {
  const { files, total, looks, uncounted, shortfalls, notes } = report;
  const least = files
    .filter((file) => missingIn(file) > 0)
    .sort((a, b) => percentOf(a.lines) - percentOf(b.lines) || missingIn(b) - missingIn(a));
  const shown = least.slice(0, mostFiles);
  const width = Math.max(24, ...shown.map(({ path }) => path.length));
  const lines = [
    `${pc.bold('coverage'.padEnd(width + 2))}${pc.dim(' lines   branches   functions')}`,
    `  ${`${counted(files.length, 'source')}, ${counted(looks, 'look')}`.padEnd(width)}${columns(total)}`,
    ...shown.map((file) => `  ${pc.dim(file.path.padEnd(width))}${columns(file)}`),
    ...(least.length > mostFiles ? [pc.dim(`  … and ${least.length - mostFiles} more`)] : []),
    ...(uncounted > 0
      ? [`${pc.yellow('note')} ${counted(uncounted, 'result')} of this run could not be counted.`]
      : []),
    ...notes.map((note) => `${pc.yellow('note')} ${note}`),
    ...(isPartial && shortfalls.length > 0
      ? [`${pc.yellow('note')} Only some looks were run, so the thresholds are not checked.`]
      : shortfalls.map((one) => `${pc.red('✗')} ${shortfallText(one)}`)),
    `Line by line: ${pc.underline(`${url}/coverage`)}`,
  ];
  return lines.join('\n');
}
