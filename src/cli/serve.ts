/** `sguardo serve`: the service and its console, in the foreground. */
import { dirname } from 'node:path';
import { type Command, Option } from 'commander';
import pc from 'picocolors';
import { findConfig } from '../client/project.ts';
import { ProblemError } from '../core/problem/problem.ts';
import type { Service } from '../service/service.ts';
import { runningService, startLimit } from './find.ts';
import { portNumber } from './numbers.ts';
import { say } from './say.ts';

export function addServe(program: Command): void {
  program
    .command('serve')
    .description('run the service and its console in the foreground, on loopback')
    .option('-p, --port <number>', 'the port (default: 4680, or a free one)', portNumber)
    .option('--verbose', 'log every request')
    .addOption(new Option('--attached', 'end with the process that started it').hideHelp())
    .addHelpText('after', '\nExamples:\n  sguardo serve\n  sguardo serve --port 5000')
    .action(serve);
}

async function serve(options: { port?: number; verbose?: boolean; attached?: boolean }): Promise<void> {
  const service = await startOrTell(findConfig(process.cwd()), options);
  if (!service) return;
  const end = (): void => {
    service.close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  // What nobody expected ends at most its own request or look: the service goes on.
  process.on('uncaughtException', service.log);
  process.on('unhandledRejection', service.log);
  process.once('SIGTERM', end);
  if (options.attached) {
    const leave = (): void => void service.unneeded().then(end);
    process.stdin.resume().once('end', leave).once('close', leave);
  } else {
    process.once('SIGINT', end);
    say(`${pc.bold('Sguardo')} ${pc.underline(service.url)}  ${pc.dim(`${service.root}, press Ctrl+C to stop`)}`);
  }
}

/** Starts the service, or says where the project's service is. Another one may be about to start, or to end. */
async function startOrTell(
  config: string,
  { port, verbose, attached }: { port?: number; verbose?: boolean; attached?: boolean },
): Promise<Service | null> {
  // The service is large; only the command that needs it loads it.
  (await import('../service/warmUp.ts')).warmUp(config);
  const { startService } = await import('../service/service.ts');
  for (const until = Date.now() + startLimit; ; await new Promise((resolve) => setTimeout(resolve, 40))) {
    try {
      return await startService({ config, port, logger: verbose ? { level: 'info' } : undefined });
    } catch (error) {
      if (attached || !(error instanceof ProblemError) || error.problem.code !== 'service-there' || Date.now() > until)
        throw error;
      const running = await runningService(dirname(config));
      if (!running) continue;
      say(`This project's service is already running: ${pc.underline(running.url)} (process ${running.pid})`);
      return null;
    }
  }
}
