/** `sguardo tidy`: shows baselines whose look is gone, and removes them when told to. */
import type { Command } from 'commander';
import pc from 'picocolors';
import { findService } from './find.ts';
import { counted } from '../core/text/counted.ts';

export function addTidy(program: Command): void {
  program
    .command('tidy')
    .description('list baselines whose look is gone; --remove deletes them')
    .option('--remove', 'delete the files listed')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText('after', '\nExamples:\n  sguardo tidy             show them\n  sguardo tidy --remove    delete them')
    .action((options: { remove?: boolean; json?: boolean }) => tidy(options));
}

async function tidy({ remove = false, json = false }: { remove?: boolean; json?: boolean }): Promise<void> {
  const found = await findService(process.cwd());
  try {
    const tidied = await found.client.tidy(remove);
    const { files, removed } = tidied;
    const say = (text: string): void => void process.stdout.write(`${text}\n`);
    if (json) return say(JSON.stringify(tidied, null, 2));
    for (const file of files) say(`${removed ? pc.red('−') : '·'} ${file}`);
    if (files.length === 0) say('Nothing to tidy: every baseline belongs to a look.');
    else if (removed) say(`${counted(files.length, 'baseline')} removed.`);
    else
      say(
        `${counted(files.length, 'baseline belongs to a look that is', 'baselines belong to looks that are')} gone. ` +
          `To delete: ${pc.bold('sguardo tidy --remove')}`,
      );
  } finally {
    await found.release();
  }
}
