/** Finds the running service of a project, or starts one for as long as a command needs it. */
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { findConfig } from '../client/project.ts';
import { type Client, connect } from '../client/client.ts';
import { problem, type Problem, ProblemError } from '../core/problem.ts';

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
    const { pid, url } = JSON.parse(readFileSync(join(root, '.sguardo/service.json'), 'utf8')) as { pid: number; url: string };
    if (!isAlive(pid)) return null;
    const client = connect(url);
    return (await client.project()).root === root ? { url, pid, client } : null;
  } catch {
    return null;
  }
}

/** How long a service may take to start, in milliseconds. */
const startLimit = 30_000;

/**
 * A client of the project's service. One that was started here ends with `release()`, or with this process.
 * @throws ProblemError `config-missing`, `service-start`, or what the service said when it could not start
 */
export async function findService(folder: string): Promise<Found> {
  const config = findConfig(folder);
  const root = dirname(config);
  const running = await runningService(root);
  if (running) return { client: running.client, url: running.url, root, own: false, release: async () => {} };
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1]!, 'serve', '--attached'], { cwd: root, stdio: ['pipe', 'ignore', 'pipe'] });
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => {
    said += chunk.toString('utf8');
  });
  const until = Date.now() + startLimit;
  while (Date.now() < until && child.exitCode === null) {
    const started = await runningService(root);
    if (started) return { client: started.client, url: started.url, root, own: true, release: () => end(child) };
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  await end(child);
  throw new ProblemError(toldBy(said));
}

/** What a service that could not start has said. */
function toldBy(said: string): Problem {
  try {
    return JSON.parse(said) as Problem;
  } catch {
    return problem('service-start', { error: said.trim().split('\n').at(-1) || 'it said nothing' });
  }
}

async function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  const timer = setTimeout(() => child.kill('SIGKILL'), 8000);
  await gone;
  clearTimeout(timer);
}
