/** `sguardo serve`: the service and its console, in the foreground. */
import { dirname } from 'node:path';
import { type Command, InvalidArgumentError, Option } from 'commander';
import pc from 'picocolors';
import { findConfig } from '../client/project.ts';
import { startService } from '../service/service.ts';
import { runningService } from './find.ts';

const portNumber = (text: string): number => {
  const n = Number(text);
  if (!Number.isInteger(n) || n < 1 || n > 65_535) throw new InvalidArgumentError('It is a whole number from 1 to 65535.');
  return n;
};

export function addServe(program: Command): void {
  program
    .command('serve')
    .description('run the service and its console in the foreground, on loopback')
    .option('-p, --port <number>', 'the port; without it the usual one, or any free one', portNumber)
    .option('--verbose', 'log every request')
    .addOption(new Option('--attached', 'end with the process that started it').hideHelp())
    .addHelpText('after', '\nExamples:\n  sguardo serve\n  sguardo serve --port 5000')
    .action(serve);
}

async function serve(options: { port?: number; verbose?: boolean; attached?: boolean }): Promise<void> {
  const config = findConfig(process.cwd());
  const running = await runningService(dirname(config));
  if (running) {
    process.stdout.write(`The service of this project is running already: ${pc.underline(running.url)} (process ${running.pid})\n`);
    return;
  }
  const service = await startService({ config, port: options.port, logger: options.verbose ? { level: 'info' } : false });
  if (!options.attached) process.stdout.write(`${pc.bold('Sguardo')} ${pc.underline(service.url)}  ${pc.dim(`${service.root}, end it with Ctrl+C`)}\n`);
  const end = (): void => {
    service.close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.once('SIGTERM', end);
  process.once('SIGINT', end);
  if (options.attached) process.stdin.resume().once('end', end).once('close', end);
}
