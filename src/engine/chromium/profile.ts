/** The folders in which browsers keep their things while they run. Nothing in them is of use afterwards. */
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

/** Removes what processes of this machine have left behind that are gone. */
async function sweep(): Promise<void> {
  for (const name of await readdir(tmpdir()).catch(() => [])) {
    const [pid] = name.startsWith(prefix) ? name.slice(prefix.length).split('-') : [];
    if (Number(pid) > 0 && !isRunning(Number(pid))) await removeProfile(join(tmpdir(), name));
  }
}

/** An empty folder for a browser that this process starts. */
export async function freshProfile(): Promise<string> {
  await sweep();
  return mkdtemp(join(tmpdir(), `${prefix}${process.pid}-`));
}

/**
 * Removes a folder whose browser has ended. Its last processes may still be writing there, on a busy machine for
 * seconds: the wait before each try is 100 ms longer, 12 s in all.
 */
export const removeProfile = (folder: string): Promise<void> =>
  rm(folder, { recursive: true, force: true, maxRetries: 15, retryDelay: 100 }).catch(() => {});
