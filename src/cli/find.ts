/** Finds the running service of a project, or starts one for as long as a command needs it. */
import { type ChildProcess, spawn, type SpawnOptions } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { findConfig } from '../client/project.ts';
import { type Client, connect } from '../client/client.ts';
import { problem, type Problem, ProblemError } from '../core/problem/problem.ts';

export type Found = { client: Client; url: string; root: string; own: boolean; release(): Promise<void> };

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** The service that a project's note speaks of, if it answers and is that project's. */
export async function runningService(root: string): Promise<{ url: string; pid: number; client: Client } | null> {
  try {
    const { pid, url } = JSON.parse(readFileSync(join(root, '.sguardo/service.json'), 'utf8')) as {
      pid: number;
      url: string;
    };
    if (!isAlive(pid)) return null;
    const client = connect(url, process.pid);
    return (await client.project()).root === root ? { url, pid, client } : null;
  } catch {
    return null;
  }
}

/** How long a service may take to start, in milliseconds: a minute on a very busy machine. */
export const startLimit = 60_000;

/**
 * Somebody else's service answers within this time, in milliseconds: many commands at once that each tried again and
 * again would keep it from starting.
 */
const patience = 1500;

/**
 * A client of the project's service. One that was started here ends with `release()`, or with this process, unless
 * others follow runs in it by then.
 * @throws ProblemError `config-missing`, `service-start`, or what the service said when it could not start
 */
export async function findService(folder: string): Promise<Found> {
  const config = findConfig(folder);
  const root = dirname(config);
  const running = await runningService(root);
  if (running) return { client: running.client, url: running.url, root, own: false, release: async () => {} };
  let child = attachedService(root);
  let again = 0;
  for (
    const until = Date.now() + startLimit;
    Date.now() < until;
    await new Promise((resolve) => setTimeout(resolve, 40))
  ) {
    const started = await runningService(root);
    if (started) {
      const own = started.pid === child.process.pid ? child.process : null;
      return {
        client: started.client,
        url: started.url,
        root,
        own: own !== null,
        release: async () => (own ? leave(own, started.client) : undefined),
      };
    }
    if (isRunning(child.process)) continue;
    // Somebody else's may be starting, which is found here soon, or ending, and ours takes its place.
    if (toldBy(child.said()).code !== 'service-there') break;
    again ||= Date.now() + patience;
    if (Date.now() < again) continue;
    again = 0;
    child = attachedService(root);
  }
  if (isRunning(child.process)) {
    child.process.kill('SIGKILL');
    throw new ProblemError(problem('service-start', { error: `it was not ready after ${startLimit / 1000} s` }));
  }
  throw new ProblemError(toldBy(child.said()));
}

const isRunning = ({ exitCode, signalCode }: ChildProcess): boolean => exitCode === null && signalCode === null;

/** Uses the service of the project around the folder that the command was given in, and lets go of it. */
export async function withService<T>(use: (found: Found) => Promise<T>): Promise<T> {
  const found = await findService(process.cwd());
  try {
    return await use(found);
  } finally {
    await found.release();
  }
}

/** Starts a service that ends when this process does. */
function attachedService(root: string): { process: ChildProcess; said(): string } {
  // In a process group of its own: Ctrl+C in the terminal is for this command, which stops its run in good order.
  const options: SpawnOptions = { cwd: root, stdio: ['pipe', 'ignore', 'pipe'], detached: true };
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1]!, 'serve', '--attached'], options);
  let said = '';
  child.stderr!.on('data', (chunk: Buffer) => {
    said += chunk.toString('utf8');
  });
  return { process: child, said: () => said };
}

/** What a service that could not start has said. */
function toldBy(said: string): Problem {
  // Before it others may have written, such as a bundler that warns.
  const last = said.trim().split('\n').at(-1)!;
  try {
    return JSON.parse(last) as Problem;
  } catch {
    return problem('service-start', { error: last || 'it printed nothing' });
  }
}

/** How long a service may take to end, in milliseconds. */
const endLimit = 8000;

/** How often it is asked meanwhile whether a run of others goes on, in milliseconds. */
const askAgain = 200;

/** Leaves a service that was started here: it ends at once, or by itself when the others that use it are done. */
async function leave(child: ChildProcess, client: Client): Promise<void> {
  const ended = new Promise<'ended'>((resolve) => child.once('exit', () => resolve('ended')));
  const within = async <T>(limit: number, otherwise: () => T): Promise<T | 'ended'> => {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<T>((resolve) => (timer = setTimeout(() => resolve(otherwise()), limit)));
    const first = await Promise.race([ended, late]);
    clearTimeout(timer);
    return first;
  };
  /** What the service does; nothing is heard of one that has hung up or hangs. */
  const doing = (): Promise<'ended' | 'runs' | 'rests' | 'silent'> =>
    Promise.race([
      ended,
      client.project().then(
        ({ run }) => (run ? ('runs' as const) : ('rests' as const)),
        () => 'silent' as const,
      ),
      within(endLimit, () => 'silent' as const),
    ]);
  child.stdin!.end();
  let seen = child.exitCode === null && child.signalCode === null ? await doing() : 'ended';
  for (const until = Date.now() + endLimit; seen !== 'ended' && seen !== 'runs' && Date.now() < until; ) {
    if ((await within(askAgain, () => 'late')) === 'ended') seen = 'ended';
    else seen = await doing();
  }
  if (seen === 'silent') child.kill('SIGKILL');
  child.stderr!.destroy();
  child.unref();
}
