/** `sguardo tidy`: shows baselines whose look is gone and what none shares any more, and removes them when told to. */
import type { Command } from 'commander';
import pc from 'picocolors';
import { withService } from './find.ts';
import { counted } from '../core/text/counted.ts';
import { say, sayJson } from './say.ts';

export function addTidy(program: Command): void {
  program
    .command('tidy')
    .description('list baselines whose look is gone, and files that none shares any more; --remove deletes them')
    .option('--remove', 'delete the files listed')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText('after', '\nExamples:\n  sguardo tidy             show them\n  sguardo tidy --remove    delete them')
    .action((options: { remove?: boolean; json?: boolean }) => tidy(options));
}

async function tidy({ remove = false, json = false }: { remove?: boolean; json?: boolean }): Promise<void> {
  return withService(async (service) => {
    const tidied = await service.client.tidy(remove);
    const { files, unshared, removed } = tidied;
    if (json) return sayJson(tidied);
    for (const file of [...files, ...unshared]) say(`${removed ? pc.red('−') : '·'} ${file}`);
    if (files.length + unshared.length === 0)
      return say('Nothing to tidy: every baseline belongs to a look, and every shared file to a baseline.');
    if (removed)
      return say(`Removed: ${counted(files.length, 'baseline')}, ${counted(unshared.length, 'shared file')}.`);
    const gone = counted(files.length, 'baseline belongs to a look that is', 'baselines belong to looks that are');
    const unneeded = counted(unshared.length, 'shared file belongs', 'shared files belong');
    const found = [
      ...(files.length > 0 ? [`${gone} gone.`] : []),
      ...(unshared.length > 0 ? [`${unneeded} to no baseline any more.`] : []),
    ];
    say(`${found.join(' ')} To delete: ${pc.bold('sguardo tidy --remove')}`);
  });
}
