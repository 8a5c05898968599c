/** The command line as a person uses it: a process in a project's folder. */
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterwards } from './afterwards.ts';
import { repository } from './project.ts';
import { isAlive } from './processes.ts';

export type Said = { code: number | null; out: string; err: string };

export const program = join(repository, 'bin/sguardo.js');
export const env = { ...process.env, CI: '', NO_COLOR: '1', FORCE_COLOR: undefined };

/** Waits for a process to end, and gives back all that it said. */
export function said(child: ChildProcess): Promise<Said> {
  let out = '';
  let err = '';
  child.stdout?.on('data', (chunk: Buffer) => {
    out += chunk.toString();
  });
  child.stderr?.on('data', (chunk: Buffer) => {
    err += chunk.toString();
  });
  return new Promise((resolve) => child.once('close', (code) => resolve({ code, out, err })));
}

/** Runs a command to its end, with other variables around it. */
export const sguardoIn = (folder: string, around: Record<string, string>, ...args: string[]): Promise<Said> =>
  said(
    spawn(process.execPath, [program, ...args], {
      cwd: folder,
      env: { ...env, ...around },
      stdio: ['ignore', 'pipe', 'pipe'],
    }),
  );

/** Runs a command to its end. */
export const sguardo = (folder: string, ...args: string[]): Promise<Said> => sguardoIn(folder, {}, ...args);

/**
 * Runs a command until it has said something, and then presses Ctrl+C in its terminal: all of its process group hears
 * of it.
 */
export function interrupted(folder: string, when: RegExp, ...args: string[]): Promise<Said> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [program, ...args], {
      cwd: folder,
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
      detached: true,
    });
    let out = '';
    let pressed = false;
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString();
      if (pressed || !when.test(out)) return;
      pressed = true;
      process.kill(-child.pid!, 'SIGINT');
    });
    child.once('close', (code) => resolve({ code, out, err: '' }));
  });
}

/** Starts `sguardo serve` and waits until it says where it is; it is ended with the file's tests. */
export async function serveByCommand(
  folder: string,
  ...args: string[]
): Promise<{ child: ChildProcess; url: string; said(): string }> {
  const child = spawn(process.execPath, [program, 'serve', ...args], {
    cwd: folder,
    env,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  afterwards(() => void (child.exitCode === null && child.signalCode === null && child.kill('SIGKILL')));
  let said = '';
  child.stdout.on('data', (chunk: Buffer) => {
    said += chunk.toString();
  });
  child.stderr.on('data', (chunk: Buffer) => {
    said += chunk.toString();
  });
  while (!said.includes('http://') && child.exitCode === null) await new Promise((resolve) => setTimeout(resolve, 30));
  return { child, url: /http:\/\/[\d.:]+/.exec(said)?.[0] ?? '', said: () => said };
}

/** Waits until a process that was started here has ended. */
export async function ended(child: ChildProcess): Promise<number | null> {
  if (child.exitCode !== null || child.signalCode !== null) return child.exitCode;
  return new Promise((resolve) => child.once('exit', resolve));
}

/** The note that a running service leaves in its project. */
export const serviceNote = (folder: string): { pid: number; url: string } =>
  JSON.parse(readFileSync(join(folder, '.sguardo/service.json'), 'utf8')) as { pid: number; url: string };

/** Waits until a process is gone. */
export async function gone(pid: number): Promise<void> {
  while (isAlive(pid)) await new Promise((resolve) => setTimeout(resolve, 30));
}
