/** The typed HTTP client of the service, for the command line and the console. */
import type { Decided, DecisionRequest, LookHistory, ProjectInfo } from '../core/api.ts';
import { problem, ProblemError, type Problem } from '../core/problem.ts';
import type { ResultSummary, RunEvent, RunRequest, RunSummary } from '../core/run.ts';
import type { Timeline } from '../core/timeline.ts';

export type Client = {
  project(): Promise<ProjectInfo>;
  looks(): Promise<ResultSummary[]>;
  history(look: { component: string; look: string; environment: string }): Promise<LookHistory>;
  runs(limit?: number): Promise<RunSummary[]>;
  run(id: number): Promise<RunSummary>;
  startRun(request: Partial<RunRequest>): Promise<RunSummary>;
  stopRun(id: number): Promise<RunSummary>;
  runResults(id: number): Promise<ResultSummary[]>;
  result(id: number): Promise<ResultSummary>;
  timeline(id: number): Promise<Timeline>;
  changes(): Promise<ResultSummary[]>;
  decide(request: DecisionRequest): Promise<Decided>;
  /** The address of a picture. */
  pictureUrl(hash: string): string;
  /** Events as they happen; `ready` is called when listening has begun. Ends when the signal says so, throws when the connection is lost. */
  events(signal: AbortSignal, ready?: () => void): AsyncGenerator<RunEvent>;
};

/** A client of the service at an origin (`''` for the page's own). Every method throws `ProblemError`. */
export function connect(origin: string): Client {
  const call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    let reply: Response;
    try {
      reply = await fetch(origin + path, {
        method,
        ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      });
    } catch (error) {
      throw unreachable(error);
    }
    const text = await reply.text();
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      throw new ProblemError(problem('service-missing', { error: `something else answers at ${origin || 'this address'}` }));
    }
    if (!reply.ok) throw new ProblemError(value as Problem);
    return value as T;
  };
  const get = <T>(path: string): Promise<T> => call('GET', path);
  return {
    project: () => get('/api/project'),
    looks: () => get('/api/looks'),
    history: (look) => get(`/api/looks/history?${new URLSearchParams(look)}`),
    runs: (limit = 50) => get(`/api/runs?limit=${limit}`),
    run: (id) => get(`/api/runs/${id}`),
    startRun: (request) => call('POST', '/api/runs', request),
    stopRun: (id) => call('POST', `/api/runs/${id}/stop`),
    runResults: (id) => get(`/api/runs/${id}/results`),
    result: (id) => get(`/api/results/${id}`),
    timeline: (id) => get(`/api/results/${id}/timeline`),
    changes: () => get('/api/changes'),
    decide: (request) => call('POST', '/api/decisions', request),
    pictureUrl: (hash) => `${origin}/api/blobs/${hash}`,
    events: (signal, ready) => readEvents(`${origin}/api/events`, signal, ready),
  };
}

/** What the network's codes mean to a person. */
const causes: Record<string, string> = {
  ECONNREFUSED: 'nobody listens at its address',
  ECONNRESET: 'it ended meanwhile',
  UND_ERR_SOCKET: 'it ended meanwhile',
};

function unreachable(error: unknown): ProblemError {
  const cause = (error as { cause?: { code?: string; message?: string } }).cause;
  return new ProblemError(problem('service-missing', { error: causes[cause?.code ?? ''] ?? cause?.message ?? (error as Error).message }));
}

async function* readEvents(url: string, signal: AbortSignal, ready?: () => void): AsyncGenerator<RunEvent> {
  try {
    const reply = await fetch(url, { signal });
    const reader = reply.body!.pipeThrough(new TextDecoderStream()).getReader();
    ready?.();
    let rest = '';
    for (;;) {
      const { done, value } = await reader.read();
      if (done) throw new Error('the service has ended');
      rest += value;
      const messages = rest.split('\n\n');
      rest = messages.pop()!;
      for (const message of messages) if (message.startsWith('data: ')) yield JSON.parse(message.slice(6)) as RunEvent;
    }
  } catch (error) {
    if (signal.aborted) return;
    throw unreachable(error);
  }
}
