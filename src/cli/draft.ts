/** `sguardo draft`: writes a first look file for a component, or tells which components have none. */
import { relative, resolve } from 'node:path';
import type { Command } from 'commander';
import pc from 'picocolors';
import type { Client } from '../client/client.ts';
import type { ComponentInfo, Draft } from '../core/api/api.ts';
import { toProblem, type Problem } from '../core/problem/problem.ts';
import { counted } from '../core/text/counted.ts';
import { exitOf } from './exits.ts';
import { withService } from './find.ts';
import { wrongText } from './print.ts';
import { say, sayJson } from './say.ts';

type Options = { dryRun?: boolean; json?: boolean };

export function addDraft(program: Command): void {
  program
    .command('draft')
    .description('write a first look file for a component, made of the types of its props')
    .argument('[file...]', 'files of components; file#Name where one exports several')
    .option('--dry-run', 'print the look files, and write nothing')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Without a file, the components that have no looks are listed, the most imported ones first.
A look file that is there already is never changed.

Examples:
  sguardo draft                           which components have no looks
  sguardo draft src/BerthCard.tsx         writes src/BerthCard.look.tsx
  sguardo draft src/fields.tsx#Depth      of several components that one
  sguardo draft src/*.vue --dry-run       prints what it would write

Exit codes: 0 written or listed · 2 bad command or file · 3 no service or disk space`,
    )
    .action(async (files: string[], options: Options) => {
      process.exitCode = await (files.length === 0 ? list(options) : draftAll(files, options));
    });
}

const line = ({ file, component, imports }: ComponentInfo): string =>
  `  ${component.padEnd(24)} ${pc.dim(`${file} · imported by ${counted(imports, 'file')}`)}`;

const list = ({ json }: Options): Promise<number> =>
  withService(async ({ client }) => {
    const components = await client.components();
    if (json) sayJson({ format: 'sguardo-components/1', components });
    else {
      const bare = components.filter(({ hasLooks }) => !hasLooks);
      for (const one of bare) say(line(one));
      if (bare.length > 0) say('');
      const word = bare.length === 1 ? 'has' : 'have';
      say(`${bare.length} of ${counted(components.length, 'component')} ${word} no looks`);
    }
    return 0;
  });

/** Of `src/fields.tsx#Depth` the file from the root, and the name. */
function asked(argument: string, root: string): { file: string; name: string | null } {
  const at = argument.lastIndexOf('#');
  const file = at < 0 ? argument : argument.slice(0, at);
  return { file: relative(root, resolve(file)), name: at < 0 ? null : argument.slice(at + 1) };
}

type Outcome = { draft: Draft } | { problem: Problem };

const draftOne = (client: Client, file: string, name: string | null, write: boolean): Promise<Outcome> =>
  client.draft(file, name, write).then(
    (draft) => ({ draft }),
    (error: unknown) => ({ problem: toProblem(error) }),
  );

const draftAll = (files: readonly string[], { dryRun, json }: Options): Promise<number> =>
  withService(async ({ client, root }) => {
    const outcomes: Outcome[] = [];
    for (const argument of files) {
      const { file, name } = asked(argument, root);
      const outcome = await draftOne(client, file, name, !dryRun);
      outcomes.push(outcome);
      if (json) continue;
      if ('problem' in outcome) process.stderr.write(`${wrongText(outcome.problem)}\n`);
      else if (dryRun) say(`${pc.dim(`// ${outcome.draft.file}`)}\n${outcome.draft.text}`);
      else say(`${pc.green('✓')} ${outcome.draft.file} ${pc.dim(`for ${outcome.draft.component}`)}`);
    }
    if (json) sayJson({ format: 'sguardo-drafts/1', drafts: outcomes });
    const written = outcomes.flatMap((one) => ('draft' in one && one.draft.isWritten ? [one.draft.component] : []));
    if (written.length > 0 && !json) say(`\nNext: ${pc.bold(`sguardo run ${written.join(' ')}`)}`);
    return Math.max(0, ...outcomes.map((one) => ('problem' in one ? exitOf(one.problem) : 0)));
  });
