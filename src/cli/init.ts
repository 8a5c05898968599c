/** `sguardo init`: sets a project up, after showing what was found and what would be written. */
import { existsSync, writeFileSync } from 'node:fs';
import { basename, join, relative, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import type { Command } from 'commander';
import pc from 'picocolors';
import { configNames } from '../client/project.ts';
import { onDisk } from '../core/problem/disk.ts';
import { fail } from '../core/problem/problem.ts';
import type { NewFile, Plan } from '../setup/plan.ts';
import { run } from './run.ts';
import { say } from './say.ts';

type Options = { yes?: boolean; dryRun?: boolean; package?: string };

export function addInit(program: Command): void {
  program
    .command('init')
    .description('set a project up: configuration, frame and a first look, shown before they are written')
    .option('-y, --yes', 'write the files without asking')
    .option('--dry-run', 'show what would be written, and write nothing')
    .option('--package <folder>', 'which package of a monorepo')
    .addHelpText(
      'after',
      `
What is there already is never changed.

Examples:
  sguardo init                        shows what it would write, and asks
  sguardo init --dry-run              shows it, and writes nothing
  sguardo init --yes                  for scripts
  sguardo init --package apps/office  one package of a monorepo

Exit codes: 0 set up, or only shown · 1 the first look failed · 2 bad command, or nothing to set up · 3 no service,
browser or disk space`,
    )
    .action(async (options: Options) => {
      process.exitCode = await init(options);
    });
}

/** A new file, as a difference to nothing. */
function tellFile({ path, text }: NewFile): void {
  const lines = text.replace(/\n$/, '').split('\n');
  say(pc.bold(`+++ ${path}`));
  for (const line of lines) say(pc.green(`+ ${line}`.trimEnd()));
  say('');
}

function tell({ root, found, files, there }: Plan): void {
  say(pc.bold('Found'));
  say(`  ${'project'.padEnd(16)}${relative(process.cwd(), root) || basename(root)}`);
  for (const [what, is] of found) say(`  ${what.padEnd(16)}${is}`);
  say('');
  for (const path of there) say(pc.dim(`${path} is there already, and stays as it is.`));
  if (there.length > 0) say('');
  for (const file of files) tellFile(file);
}

/** @throws ProblemError `setup-unasked` where nobody can be asked */
async function isWanted({ yes }: Options, count: number): Promise<boolean> {
  if (yes) return true;
  if (!process.stdin.isTTY) return fail('setup-unasked');
  const terminal = createInterface({ input: process.stdin, output: process.stdout });
  try {
    const answer = await terminal.question(
      count === 1 ? 'Write this file? [y/N] ' : `Write these ${count} files? [y/N] `,
    );
    return /^y(es)?$/i.test(answer.trim());
  } finally {
    terminal.close();
  }
}

function write(root: string, { path, text }: NewFile): void {
  const full = join(root, path);
  // One that has come meanwhile stays.
  onDisk(full, () => writeFileSync(full, text, { flag: 'wx' }));
  say(`${pc.green('✓')} ${path}`);
}

/** The folder that is meant. @throws ProblemError `setup-where`, `setup-which`, `setup-there` */
async function folderFor({ package: named }: Options): Promise<string> {
  const { packageFor } = await import('../setup/package.ts');
  const root = packageFor(named === undefined ? process.cwd() : resolve(named));
  const config = configNames.find((name) => existsSync(join(root, name)));
  return config === undefined ? root : fail('setup-there', { file: join(root, config) });
}

async function init(options: Options): Promise<number> {
  const root = await folderFor(options);
  // TypeScript comes with it, which no other command waits for.
  const { planFor } = await import('../setup/plan.ts');
  const plan = await planFor(root);
  tell(plan);
  if (options.dryRun) return 0;
  if (!(await isWanted(options, plan.files.length))) {
    say('Nothing was written.');
    return 0;
  }
  for (const file of plan.files) write(root, file);
  say('');
  const { missing, lacksTypes } = plan;
  if (missing.length > 0) {
    say(`Install first: ${pc.bold(`npm install --save-dev ${missing.join(' ')}`)}`);
    say(`Then:          ${pc.bold('sguardo run')}`);
    return 0;
  }
  const code = await firstRun(plan);
  if (lacksTypes) say(`  npm install --save-dev sguardo   so that editors know its types`);
  return code;
}

/** Runs the first look, and says how to go on. */
async function firstRun({ root, look }: Plan): Promise<number> {
  if (look === null) {
    say('No component was found. Export one, and then: sguardo draft <file>');
    return 0;
  }
  process.chdir(root);
  const code = await run([look], { env: [], repeat: 1, tag: [], withoutTag: [], report: [] });
  say(`
Next
  sguardo serve           the console: http://127.0.0.1:4680
  sguardo draft           components that have no looks yet
  sguardo approve --all   when they look as they should`);
  return code;
}
