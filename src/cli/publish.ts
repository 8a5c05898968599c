/** `sguardo publish`: what the looks come to, as a folder of files that any server can send. */
import { join, relative } from 'node:path';
import type { Command } from 'commander';
import pc from 'picocolors';
import { fail } from '../core/problem/problem.ts';
import { standing } from '../core/run/run.ts';
import { noVerdicts } from '../core/site/site.ts';
import { counted } from '../core/text/counted.ts';
import { sizeText } from '../core/text/size.ts';
import { publish, type PublishOptions } from '../publish/publish.ts';
import { findService, type Found } from './find.ts';
import { progressLine } from './follow.ts';
import { type ReportKind, writeReports } from './report/report.ts';
import { numberOf } from './numbers.ts';
import { say, sayJson } from './say.ts';

type Options = { run?: number; json?: boolean };

export function addPublish(program: Command): void {
  program
    .command('publish')
    .description('write what the looks come to as a site: files that any server can send, below any path')
    .argument('<folder>', 'where the site is; what was published there before stays')
    .option('-r, --run <id>', 'one run, instead of what every look comes to now', numberOf('run'))
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
The board, the bench with every moment, the review (to be read), findings, coverage and the handbook with live looks.
A site needs no service and no network. Files are kept by what they hold: commits share those that are the same.

Examples:
  sguardo publish public/looks            into a folder, beside earlier commits
  sguardo publish public/looks --run 12   one run
  sguardo run --site https://looks.example/   failures in the log link to a site

Exit codes: 0 published · 2 bad command or folder, or nothing to publish · 3 no service, browser or disk space`,
    )
    .action(async (folder: string, options: Options) => {
      await publishTo(folder, options);
    });
}

/** Reports that lie beside the pages of a site, and lead to them. */
const reportsOf =
  (found: Found): PublishOptions['writeReports'] =>
  async (folder, run, results) => {
    // As the pages show them: what was approved since has passed.
    const shown = results.map((result) => ({ ...result, verdict: standing(result) }));
    const tally = noVerdicts();
    for (const { verdict } of shown) tally[verdict]++;
    const coverage = await found.client.coverage(run.id).catch(() => null);
    const names: Partial<Record<ReportKind, string>> = {
      markdown: 'summary.md',
      junit: 'junit.xml',
      sarif: 'findings.sarif',
      earl: 'findings.earl.json',
      ...(coverage && { lcov: 'coverage.lcov', 'coverage-summary': 'coverage.json' }),
    };
    const wanted = Object.entries(names).map(([kind, name]) => ({
      kind: kind as ReportKind,
      path: join(folder, name),
    }));
    const linked = { ...found, url: '../index.html#' };
    await writeReports(wanted, {
      found: linked,
      run: { ...run, tally },
      results: shown,
      coverage,
      isStrict: false,
      isSite: true,
    });
    return Object.values(names);
  };

async function publishTo(folder: string, { run = undefined, json = false }: Options): Promise<void> {
  if (folder.trim() === '') fail('site-folder', { folder: '“”', why: 'it has no name.' });
  const found = await findService(process.cwd());
  const line = progressLine(process.stdout.isTTY === true && !json);
  try {
    const { client, url, root } = found;
    const tell = (done: number, all: number): void => line.show(`Publishing ${done} of ${all} results`);
    const published = await publish({
      url,
      root,
      client,
      folder,
      run: run ?? null,
      tell,
      writeReports: reportsOf(found),
    });
    line.clear();
    const { entry, shown, written, notes } = published;
    if (json) {
      sayJson({ ...entry, folder: published.folder, shown, written, notes });
      return;
    }
    for (const note of notes) say(`${pc.yellow('note')} ${note}`);
    const near = relative(process.cwd(), published.folder) || '.';
    const place = near.startsWith('..') ? published.folder : near;
    const how = pc.dim('to be opened from a file server, such as the one of your editor');
    const sizes = `${sizeText(shown)} of pictures and moments, ${sizeText(written)} of it new`;
    say(
      `Published ${pc.bold(entry.name)}: ${counted(entry.looks, 'look')}, ${sizes}\n` +
        `${place}/${entry.name}/index.html  ${how}`,
    );
  } finally {
    line.clear();
    await found.release();
  }
}
