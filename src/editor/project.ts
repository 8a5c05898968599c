/** A project as its editor knows it: what its looks come to, followed as they are run. */
import type { Client } from '../client/client.ts';
import { type LookName, lookKey } from '../core/look/look.ts';
import { type ResultSummary, type RunRequest, standing } from '../core/run/run.ts';
import { shownBy } from './seen.ts';

/** What a service is to an editor. */
export type Service = { client: Client; url: string; root: string; release(): Promise<void> };

export type EditorProject = {
  root: string;
  client: Client;
  /** The results of a look, one for each environment. */
  resultsOf(look: LookName): ResultSummary[];
  all(): ResultSummary[];
  /** When a run ended, in milliseconds since 1970; null while that is not known. */
  endOf(run: number): number | null;
  shown: ReturnType<typeof shownBy>;
  linkOf(result: ResultSummary): string;
  /** Runs looks, and resolves when they have been run. */
  run(request: Partial<RunRequest>): Promise<void>;
  close(): Promise<void>;
};

/** Results come in many at a time: they are shown when it has been quiet for so long, in milliseconds. */
const quiet = 60;

const keyOf = ({ component, look, environment }: ResultSummary): string =>
  `${lookKey(component, look)}\n${environment}`;

/**
 * Follows a project: looks run when files that they depend on are saved. `changed` is called when something is new,
 * `lost` when the service is gone.
 */
export async function openProject(
  { client, url, root, release }: Service,
  changed: () => void,
  lost: () => void,
): Promise<EditorProject> {
  const results = new Map<string, ResultSummary>();
  const ends = new Map<number, number>();
  const abort = new AbortController();
  let timer: NodeJS.Timeout | null = null;
  const tell = (): void => {
    timer ??= setTimeout(() => {
      timer = null;
      changed();
    }, quiet);
  };
  // What has been approved since is nothing to be told of any more.
  const put = (result: ResultSummary): void =>
    void results.set(keyOf(result), { ...result, verdict: standing(result) });
  const fetchAll = async (): Promise<void> => {
    const [latest, runs] = await Promise.all([client.looks(), client.runs()]);
    results.clear();
    for (const result of latest) put(result);
    for (const { id, finished } of runs) if (finished) ends.set(id, Date.parse(finished));
    tell();
  };
  const follow = async (): Promise<void> => {
    for await (const event of client.events(abort.signal, undefined, {}, true)) {
      if (event.kind === 'look-finished') {
        put(event.result);
        tell();
      } else if (event.kind === 'run-finished' || event.kind === 'decided' || event.kind === 'gap') await fetchAll();
    }
  };
  await fetchAll();
  const { markAttribute } = await client.project();
  const gone = (): void => void (abort.signal.aborted || lost());
  follow().then(gone, gone);
  return {
    root,
    client,
    all: () => [...results.values()],
    resultsOf: ({ component, look }) =>
      [...results.values()].filter((one) => one.component === component && one.look === look),
    endOf: (run) => ends.get(run) ?? null,
    shown: shownBy(client, markAttribute),
    linkOf: ({ id, failedStep }) => `${url}/bench/${id}${failedStep === null ? '' : `?step=${failedStep}`}`,
    async run(request) {
      const { id } = await client.startRun(request);
      for (;;) {
        const { status } = await client.run(id);
        if (status !== 'queued' && status !== 'running') return fetchAll();
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    },
    async close() {
      abort.abort();
      if (timer) clearTimeout(timer);
      await release();
    },
  };
}
