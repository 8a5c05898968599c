/** `sguardo language-server`: what Sguardo knows of look files, for editors. */
import type { Command } from 'commander';
import { findConfig } from '../client/project.ts';
import { toProblem } from '../core/problem/problem.ts';
import { findService } from './find.ts';

export function addLanguageServer(program: Command, version: string): void {
  program
    .command('language-server')
    .description('speak the Language Server Protocol over standard input and output; an editor starts it')
    .addOption(program.createOption('--stdio', 'what editors say by habit; it always does').hideHelp())
    .addHelpText(
      'after',
      `
While it runs, looks are run again whenever a file is saved that they depend on.
How to set it up in three editors: docs/editors.md`,
    )
    .action(async () => {
      // What nobody expected ends at most what was asked: editors keep what is said here in a log.
      process.on('unhandledRejection', (error) =>
        process.stderr.write(`${error instanceof Error ? error.stack : error}\n`),
      );
      const { serveEditor } = await import('../editor/server.ts');
      await serveEditor({
        input: process.stdin,
        output: process.stdout,
        version,
        async find(folder) {
          try {
            findConfig(folder);
          } catch (error) {
            if (toProblem(error).code === 'config-missing') return null;
            throw error;
          }
          return findService(folder);
        },
      });
      process.exit(0);
    });
}
