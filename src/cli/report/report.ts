/** `--report kind=path,…`: what a run came to, written to files for other programs and people. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { basename, dirname, resolve } from 'node:path';
import { InvalidArgumentError, Option } from 'commander';
import type { CauseList } from '../../core/cause/cluster.ts';
import type { CoverageReport } from '../../core/coverage/report.ts';
import { lineOfLook } from '../../core/look/source.ts';
import { onDisk } from '../../core/problem/disk.ts';
import { earlOf } from '../../core/report/earl.ts';
import { harOf } from '../../core/report/har.ts';
import { htmlOf } from '../../core/report/html.ts';
import { junitOf } from '../../core/report/junit.ts';
import { markdownOf } from '../../core/report/markdown.ts';
import { isWrong, type Recorded, type ReportData } from '../../core/report/report.ts';
import { sarifOf } from '../../core/report/sarif.ts';
import type { ResultSummary, RunSummary } from '../../core/run/run.ts';
import type { Found } from '../find.ts';
import { benchUrl } from '../print.ts';
import { writeCoverage } from './coverage.ts';

/** What is written, in words. */
const kinds = {
  junit: 'JUnit XML',
  sarif: 'SARIF 2.1.0',
  earl: 'accessibility as EARL, JSON-LD',
  har: 'requests as an HTTP archive',
  markdown: 'short enough for a comment',
  html: 'one self-contained file',
  lcov: 'coverage as LCOV',
  coverage: 'coverage as a folder of HTML',
  'coverage-json': 'coverage as Istanbul’s coverage.json',
  'coverage-summary': 'coverage in numbers, JSON',
} as const;

export type ReportKind = keyof typeof kinds;
export type WantedReport = { kind: ReportKind; path: string };

const isKind = (text: string): text is ReportKind => Object.hasOwn(kinds, text);
const isOfCoverage = (kind: ReportKind): boolean => kind === 'lcov' || kind.startsWith('coverage');

const known = Object.keys(kinds).join(', ');

/** Reads `junit=out/junit.xml,html=out/report.html`. @throws InvalidArgumentError */
export function readReports(text: string, before: readonly WantedReport[]): WantedReport[] {
  const wanted = text.split(',').map((one): WantedReport => {
    const [kind = '', ...rest] = one.trim().split('=');
    const path = rest.join('=').trim();
    if (!isKind(kind)) throw new InvalidArgumentError(`There is no report “${kind}”. Reports are: ${known}.`);
    if (path === '') throw new InvalidArgumentError(`Say where it goes, as in ${kind}=out/${kind}.`);
    return { kind, path };
  });
  return [...before, ...wanted];
}

export const reportOption = (): Option =>
  new Option('--report <kind=path,…>', `write what came of it: ${known} (several at once, and can be repeated)`)
    .argParser(readReports)
    .default([], 'none');

/** True when a report was asked for that needs what looks run to be counted. */
export const wantsCoverage = (wanted: readonly WantedReport[]): boolean =>
  wanted.some(({ kind }) => isOfCoverage(kind));

/** What reports are made of. */
export type Outcome = {
  found: Found;
  run: RunSummary;
  results: ResultSummary[];
  coverage: CoverageReport | null;
  isStrict: boolean;
  /** Links lead to a site rather than to a service. */
  isSite: boolean;
};

async function recordedOf({ client }: Found, results: readonly ResultSummary[]): Promise<Recorded[]> {
  const all: Recorded[] = [];
  for (const result of results) all.push({ result, timeline: await client.timeline(result.id) });
  return all;
}

/** Pictures of results as addresses of their own data. */
async function picturesOf({ client }: Found, results: readonly ResultSummary[]): Promise<Map<string, string>> {
  const hashes = new Set(
    results.flatMap(({ captures }) =>
      captures.flatMap(({ hash, baseline, difference }) => [hash, baseline, difference].filter((one) => one !== null)),
    ),
  );
  const found = new Map<string, string>();
  for (const hash of hashes) {
    const reply = await fetch(client.pictureUrl(hash));
    if (reply.ok) found.set(hash, `data:image/png;base64,${Buffer.from(await reply.arrayBuffer()).toString('base64')}`);
  }
  return found;
}

async function textOf(kind: ReportKind, data: ReportData, outcome: Outcome): Promise<string> {
  const { found, results, coverage, isStrict } = outcome;
  const wrong = results.filter((result) => isWrong(result, isStrict));
  switch (kind) {
    case 'junit':
      return junitOf(data);
    case 'sarif':
      return `${JSON.stringify(sarifOf(data, (await found.client.accessibility(data.run.id)).findings), null, 2)}\n`;
    case 'earl':
      return `${JSON.stringify(earlOf(data, (await found.client.accessibility(data.run.id)).findings), null, 2)}\n`;
    case 'har':
      return `${JSON.stringify(harOf(data, await recordedOf(found, results)), null, 2)}\n`;
    case 'markdown': {
      const causes: CauseList | null = data.run.tally.changed > 0 ? await found.client.causes() : null;
      return markdownOf(data, { causes, coverage });
    }
    case 'html': {
      const pictures = await picturesOf(found, wrong);
      const recorded = await recordedOf(found, wrong);
      return htmlOf(data, { coverage, recorded, dataOf: (hash) => pictures.get(hash) ?? null });
    }
    default:
      throw new Error(kind);
  }
}

/**
 * Where looks are written in the files of some results. The source of a file comes with the timeline of any of its
 * looks.
 */
async function linesOf(found: Found, results: readonly ResultSummary[]): Promise<ReportData['lineOf']> {
  const sources = new Map<string, string>();
  for (const { file, id } of results) {
    if (sources.has(file)) continue;
    const { source } = await found.client.timeline(id);
    if (source !== null) sources.set(file, source);
  }
  return ({ file, look }) => (sources.has(file) ? lineOfLook(sources.get(file)!, look) : null);
}

/** Writes reports; folders on the way are made. @throws ProblemError `disk-full`, `disk-read-only`, `disk-failed` */
export async function writeReports(wanted: readonly WantedReport[], outcome: Outcome): Promise<string[]> {
  if (wanted.length === 0) return [];
  const { found, run, results, isStrict } = outcome;
  const project = await found.client.project();
  // It tells findings of looks that pass, too.
  const isSarif = wanted.some(({ kind }) => kind === 'sarif');
  const data: ReportData = {
    project: project.name || basename(found.root),
    version: project.version,
    run,
    results,
    isStrict,
    linkOf: (result) => benchUrl(found.url, result),
    lineOf: await linesOf(
      found,
      results.filter((one) => isSarif || isWrong(one, isStrict)),
    ),
    pictureOf: (hash) => (outcome.isSite ? null : found.client.pictureUrl(hash)),
  };
  for (const { kind, path } of wanted) {
    const full = resolve(path);
    if (isOfCoverage(kind)) {
      if (outcome.coverage) await writeCoverage(kind, full, await found.client.coverageMap(run.id), found.root);
      continue;
    }
    const text = await textOf(kind, data, outcome);
    onDisk(full, () => {
      mkdirSync(dirname(full), { recursive: true });
      writeFileSync(full, text);
    });
  }
  return wanted.filter(({ kind }) => outcome.coverage || !isOfCoverage(kind)).map(({ path }) => path);
}
