/** The command line. Nothing is run here: every command talks to the project's service. */
import { readFileSync } from 'node:fs';
import { Command } from 'commander';
import { toProblem } from '../core/problem/problem.ts';
import { addCauses } from './causes.ts';
import { addChallenge } from './challenge.ts';
import { addDecisions } from './decide.ts';
import { addDraft } from './draft.ts';
import { exitOf } from './exits.ts';
import { addInit } from './init.ts';
import { wrongText } from './print.ts';
import { addRun } from './run.ts';
import { addAccessibility } from './accessibility.ts';
import { addHistory } from './history.ts';
import { addPublish } from './publish.ts';
import { addReview } from './review.ts';
import { addServe } from './serve.ts';
import { addLanguageServer } from './languageServer.ts';
import { addList } from './list.ts';
import { addSteady } from './steady.ts';
import { addTidy } from './tidy.ts';
import { addWatch } from './watch.ts';
import { addWhy } from './why.ts';

const { version } = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as {
  version: string;
};

const program = new Command('sguardo')
  .description(
    'Renders every state of a UI component in a real browser, drives it, records it, and compares it with what ' +
      'you approved.',
  )
  .version(version)
  .showHelpAfterError('(use --help for usage)')
  .addHelpText(
    'after',
    '\nExamples:\n  sguardo init                set a project up\n  ' +
      'sguardo run                 run every look of this ' +
      'project\n  sguardo list                list them\n  sguardo approve --all       ' +
      'make what they look like the baselines\n  sguardo watch               ' +
      'run what depends on a file when it is saved' +
      '\n  sguardo serve               open the console',
  );
program.exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : 2));

// Whoever reads may have read enough, as `head` has.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit();
  throw error;
});

addInit(program);
addRun(program);
addList(program);
addDraft(program);
addWatch(program);
addSteady(program);
addCauses(program);
addWhy(program);
addAccessibility(program);
addChallenge(program);
addReview(program);
addDecisions(program);
addHistory(program);
addTidy(program);
addPublish(program);
addServe(program);
addLanguageServer(program, version);

try {
  await program.parseAsync();
} catch (error) {
  const wrong = toProblem(error);
  // A service that was started by another command tells that command, which tells the person.
  process.stderr.write(process.argv.includes('--attached') ? JSON.stringify(wrong) : `${wrongText(wrong)}\n`);
  process.exitCode = exitOf(wrong);
}
