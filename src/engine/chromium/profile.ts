/** The folders in which browsers keep their things while they run. Nothing in them is of use afterwards. */
import { existsSync } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';

/** Folders carry who made them, since a process that was killed cannot take its own away. */
const prefix = `sguardo-browser-${hostname().replaceAll(/[^\w.]/g, '_')}-`;

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** Folders of browsers that this process has started. */
const inUse = new Set<string>();

/** Removes what browsers have left behind that are gone: those of this process, and of others that are gone, too. */
async function sweep(): Promise<void> {
  for (const name of await readdir(tmpdir()).catch(() => [])) {
    const pid = name.startsWith(prefix) ? Number(name.slice(prefix.length).split('-')[0]) : 0;
    const folder = join(tmpdir(), name);
    if (pid > 0 && (pid === process.pid ? !inUse.has(folder) : !isRunning(pid))) await removeProfile(folder);
  }
}

/** An empty folder for a browser that this process starts. */
export async function freshProfile(): Promise<string> {
  await sweep();
  const folder = await mkdtemp(join(tmpdir(), `${prefix}${process.pid}-`));
  inUse.add(folder);
  return folder;
}

/** So often a folder is removed that is there again. */
const mostRemovals = 5;

/**
 * Removes a folder whose browser has ended. Its last processes may still be writing there, on a busy machine for
 * seconds: the wait before each try is 100 ms longer, 12 s in all. What they take away meanwhile may end `rm` early.
 */
export async function removeProfile(folder: string): Promise<void> {
  for (let tries = 0; tries < mostRemovals && existsSync(folder); tries++)
    await rm(folder, { recursive: true, force: true, maxRetries: 15, retryDelay: 100 }).catch(() => {});
  inUse.delete(folder);
}
