/** A service on loopback, as tests use it: through its client. */
import { join } from 'node:path';
import { afterwards } from './afterwards.ts';
import { write } from './project.ts';
import { type Client, connect } from '../../src/client/client.ts';
import type { Problem } from '../../src/core/problem/problem.ts';
import type { ResultSummary, RunRequest, RunSummary } from '../../src/core/run/run.ts';
import { type Service, startService } from '../../src/service/service.ts';

export type Served = {
  /** Where its project lies. */
  folder: string;
  service: Service;
  client: Client;
  /** Runs looks and waits for the end; results by look name (of the first environment and repetition). */
  run(
    request?: Partial<RunRequest>,
  ): Promise<{ run: RunSummary; results: ResultSummary[]; look(name: string): ResultSummary }>;
};

/** Starts the service of a project on a free port; it ends with the file's tests. */
export async function serve(folder: string): Promise<Served> {
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  afterwards(() => service.close());
  const client = connect(service.url);
  return {
    folder,
    service,
    client,
    async run(request = {}) {
      // How much is audited depends on how long looks take.
      const run = await finished(client, (await client.startRun({ audit: 0, ...request })).id);
      const results = await client.runResults(run.id);
      const look = (name: string): ResultSummary => {
        const found = results.find((result) => result.look === name);
        if (!found)
          throw new Error(
            `No result for “${name}”; there is: ${results.map((result) => result.look).join(', ')}. ` +
              `${run.problems[0]?.message ?? ''}`,
          );
        return found;
      };
      return { run, results, look };
    },
  };
}

/** Writes a look file into a project, runs it, and tells what went wrong with one of its looks, or null. */
export async function problemIn(served: Served, file: string, look: string, text: string): Promise<Problem | null> {
  write(served.folder, { [`src/${file}.look.tsx`]: text });
  return (await served.run({ patterns: [file] })).look(look).problem;
}

/** Waits until a run is over: asks ever more seldom, since asking is work for a service that runs looks. */
export async function finished(client: Client, id: number): Promise<RunSummary> {
  for (let wait = 20; ; wait = Math.min(wait * 1.2, 100)) {
    const run = await client.run(id);
    if (run.status !== 'queued' && run.status !== 'running') return run;
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}
