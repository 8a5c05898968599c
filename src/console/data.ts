/** What the console knows: queries of the service, kept fresh by its live feed. */
import { type QueryClient, useMutation, useMutationState, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { connect } from '../client/client.ts';
import type { ProjectInfo } from '../core/api/api.ts';
import { type Problem, toProblem } from '../core/problem/problem.ts';
import type { ResultSummary, RunEvent, RunRequest, RunSummary } from '../core/run/run.ts';

export const service = connect('');

export const useProject = () => useQuery({ queryKey: ['project'], queryFn: () => service.project() });
export const useLooks = () => useQuery({ queryKey: ['looks'], queryFn: () => service.looks() });
export const useChanges = () => useQuery({ queryKey: ['changes'], queryFn: () => service.changes() });
export const useResult = (id: number) => useQuery({ queryKey: ['result', id], queryFn: () => service.result(id) });
export const useTimeline = (id: number) =>
  useQuery({ queryKey: ['timeline', id], queryFn: () => service.timeline(id), staleTime: Number.POSITIVE_INFINITY });
export const useHistory = (result: ResultSummary | undefined) =>
  useQuery({
    queryKey: ['history', result?.component, result?.look, result?.environment],
    queryFn: () =>
      service.history({ component: result!.component, look: result!.look, environment: result!.environment }),
    enabled: result !== undefined,
  });

const useLastRun = () => useQuery({ queryKey: ['last run'], queryFn: async () => (await service.runs(1))[0] ?? null });

/** Starts a run; what comes of it is told by the live feed, and what speaks against it by `useRunProblem`. */
export const useStart = () =>
  useMutation({ mutationKey: ['start'], mutationFn: (request: Partial<RunRequest>) => service.startRun(request) })
    .mutate;

/** What went wrong with the last run as a whole, or why it could not be started; one that a person has stopped is no trouble. */
export function useRunProblem(): Problem | null {
  const { data: run } = useLastRun();
  const asked = useMutationState({ filters: { mutationKey: ['start'] }, select: ({ state }) => state }).at(-1);
  if (asked?.error && (!run || asked.submittedAt > Date.parse(run.started))) return toProblem(asked.error);
  return run && run.status !== 'running' && run.status !== 'stopped' ? (run.problems[0] ?? null) : null;
}

const sameLook = (a: ResultSummary, b: ResultSummary): boolean =>
  a.component === b.component && a.look === b.look && a.environment === b.environment;

function takeIn(queries: QueryClient, event: RunEvent): void {
  switch (event.kind) {
    case 'look-finished':
      queries.setQueryData<ResultSummary[]>(['looks'], (looks) => {
        if (!looks) return looks;
        const at = looks.findIndex((one) => sameLook(one, event.result));
        return at < 0 ? [...looks, event.result] : looks.with(at, event.result);
      });
      break;
    case 'run-started':
    case 'run-progress':
      queries.setQueryData<RunSummary>(['last run'], event.run);
      queries.setQueryData<ProjectInfo>(['project'], (project) => project && { ...project, run: event.run });
      break;
    case 'run-finished':
      queries.setQueryData<RunSummary>(['last run'], event.run);
      queries.setQueryData<ProjectInfo>(
        ['project'],
        (project) => project && { ...project, run: null, engine: event.run.engine },
      );
      void queries.invalidateQueries({ queryKey: ['looks'] });
      void queries.invalidateQueries({ queryKey: ['changes'] });
      void queries.invalidateQueries({ queryKey: ['history'] });
      break;
    case 'decided':
      for (const queryKey of [['looks'], ['changes'], ['result'], ['history']])
        void queries.invalidateQueries({ queryKey });
      break;
  }
}

/** How many looks the run that goes on has finished, as the feed tells it. */
export type LiveState = { connected: boolean; done: number; last: RunEvent | null };

/** Resolves when the page can be seen. */
const shown = (): Promise<void> =>
  new Promise((resolve) => {
    if (!document.hidden) resolve();
    else document.addEventListener('visibilitychange', () => resolve(), { once: true });
  });

/**
 * Listens to the live feed, again and again when it is lost, and puts what it says into the queries. A page that
 * nobody sees does not listen: browsers grant all pages of a host only six connections together.
 */
export function useLive(): LiveState {
  const queries = useQueryClient();
  const [state, setState] = useState<LiveState>({ connected: true, done: 0, last: null });
  useEffect(() => {
    let over = false;
    let abort = new AbortController();
    const listen = async (): Promise<void> => {
      while (!over) {
        await shown();
        abort = new AbortController();
        try {
          const events = service.events(abort.signal, () => {
            setState((now) => ({ ...now, connected: true }));
            void queries.invalidateQueries();
          });
          for await (const event of events) {
            takeIn(queries, event);
            setState((now) => ({
              connected: true,
              last: event,
              done: event.kind === 'run-started' ? 0 : event.kind === 'look-finished' ? now.done + 1 : now.done,
            }));
          }
        } catch {
          setState((now) => ({ ...now, connected: false }));
        }
        if (!over && !document.hidden) await new Promise((resolve) => setTimeout(resolve, 1500));
      }
    };
    const pause = (): void => abort.abort();
    const follow = (): void => {
      if (document.hidden) pause();
    };
    document.addEventListener('visibilitychange', follow);
    window.addEventListener('pagehide', pause);
    void listen();
    return () => {
      over = true;
      pause();
      document.removeEventListener('visibilitychange', follow);
      window.removeEventListener('pagehide', pause);
    };
  }, [queries]);
  return state;
}
