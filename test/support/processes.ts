/** Processes on this machine, to find the ones that a test has started itself. */
import { readdirSync, readFileSync } from 'node:fs';

/** Ids of the processes that a process has started, with their commands. */
export function childrenOf(parent: number): { pid: number; command: string }[] {
  const found: { pid: number; command: string }[] = [];
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    try {
      const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
      const about = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
      if (Number(about[1]) === parent && about[0] !== 'Z')
        found.push({ pid: Number(name), command: readFileSync(`/proc/${name}/cmdline`, 'utf8').replaceAll('\0', ' ') });
    } catch {
      // It has ended meanwhile.
    }
  }
  return found;
}

/** The processes that a process has started, with those that they have started. */
export const descendantsOf = (parent: number): { pid: number; command: string }[] =>
  childrenOf(parent).flatMap((child) => [child, ...descendantsOf(child.pid)]);

/** True while a process is there. */
export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}
