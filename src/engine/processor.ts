/** How much of the processor the processes of a browser have had. */
import { readFileSync } from 'node:fs';

/** Milliseconds for which the main thread of a process has run, and for which it has waited for its turn. */
export type ProcessorTime = { used: number; waited: number };

/**
 * What the system says of a process (Linux, `Documentation/scheduler/sched-stats.rst`); null when it says nothing, and
 * for a process that has ended.
 */
export function processorTime(pid: number): ProcessorTime | null {
  try {
    const [used, waited] = readFileSync(`/proc/${pid}/schedstat`, 'utf8').split(' ').map(Number);
    return { used: used! / 1e6, waited: waited! / 1e6 };
  } catch {
    return null;
  }
}
