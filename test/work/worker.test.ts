/** A worker whose lane loses its page: what was lost is tried once more, and only once. */
import { describe, expect, it } from 'vitest';
import type { Bundle } from '../../src/bundle/index.ts';
import { problem } from '../../src/core/problem/problem.ts';
import type { FileReport } from '../../src/core/wire/wire.ts';
import type { Job } from '../../src/work/job.ts';
import { type Port, work } from '../../src/work/worker.ts';

const bundle = {} as Bundle;
const job = { id: 1, file: 'src/Buoy.look.tsx', repetition: 1 } as Job;
const crashed: FileReport = { problem: problem('page-crashed'), stack: null };
const fine: FileReport = { looks: [], isPlain: true, styles: [] };

/** Opens one file in a lane that gives these reports in turn; what the port is told of it, and how often it tried. */
async function opening(...reports: FileReport[]): Promise<{ told: FileReport[]; tries: number }> {
  const told: FileReport[] = [];
  let tries = 0;
  const port = {
    next: async () => (told.length === 0 ? { kind: 'open', job } : null),
    opened: (_job: Job, report: FileReport) => void told.push(report),
  } as Partial<Port> as Port;
  const run = () => Promise.reject(new Error('No look is to be run.'));
  await work(port, bundle, { open: async () => reports[tries++]!, run, leave() {}, ran: [] });
  return { told, tries };
}

describe('a file whose page is lost while it is opened', () => {
  it('is opened once more', async () => {
    expect(await opening(crashed, fine)).toEqual({ told: [fine], tries: 2 });
  });

  it('is told as what it is when that does not help', async () => {
    expect(await opening(crashed, crashed, fine)).toEqual({ told: [crashed], tries: 2 });
  });
});

it('a file that cannot be used is not opened again', async () => {
  const wrong: FileReport = { problem: problem('page-left'), stack: null };
  expect(await opening(wrong, fine)).toEqual({ told: [wrong], tries: 1 });
});
