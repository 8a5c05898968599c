/** What the console knows, and what it can have done. The live feed keeps it fresh. */
import { useMutation, useMutationState, useQuery } from '@tanstack/react-query';
import { connect } from '../client/client.ts';
import { httpSource, type Source } from '../client/source.ts';
import { type Problem, toProblem } from '../core/problem/problem.ts';
import type { ResultSummary, RunRequest } from '../core/run/run.ts';

/** For what has to be done: running, deciding. */
export const service = connect('');
/** For everything that is only read. */
export const source: Source = httpSource(service);

export const useProject = () => useQuery({ queryKey: ['project'], queryFn: () => source.project() });
export const useBoard = () => useQuery({ queryKey: ['board'], queryFn: () => source.board() });
export const useCauses = () => useQuery({ queryKey: ['causes'], queryFn: () => service.causes() });
export const useResult = (id: number) => useQuery({ queryKey: ['result', id], queryFn: () => source.result(id) });
export const useTimeline = (id: number) =>
  useQuery({ queryKey: ['timeline', id], queryFn: () => source.timeline(id), staleTime: Number.POSITIVE_INFINITY });
export const useHistory = (result: ResultSummary | undefined) =>
  useQuery({
    queryKey: ['history', result?.component, result?.look, result?.environment],
    queryFn: () =>
      source.history({ component: result!.component, look: result!.look, environment: result!.environment }),
    enabled: result !== undefined,
  });

/** How far a decision about many captures is; of none while none is carried out. */
export type Deciding = { done: number; all: number };

export const notDeciding: Deciding = { done: 0, all: 0 };

/** Told by the live feed. */
export const useDeciding = () =>
  useQuery({
    queryKey: ['deciding'],
    queryFn: () => notDeciding,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The components that there are. The whole project is read for it, so not more often than somebody asks. */
export const useComponents = () =>
  useQuery({
    queryKey: ['components'],
    queryFn: () => service.components(),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The looks that are live. */
export const useSittings = () => useQuery({ queryKey: ['sittings'], queryFn: () => service.sittings() });

const useLastRun = () => useQuery({ queryKey: ['last run'], queryFn: async () => (await source.runs(1))[0] ?? null });

/** Starts a run; what comes of it is told by the live feed, and what speaks against it by `useRunProblem`. */
export const useStart = () =>
  useMutation({ mutationKey: ['start'], mutationFn: (request: Partial<RunRequest>) => service.startRun(request) })
    .mutate;

/**
 * What went wrong with the last run as a whole or with files that it needed, or why it could not be started; one that a
 * person has stopped is no trouble. And what else the run has to say.
 */
export function useRunNews(): { problems: Problem[]; notes: string[] } {
  const { data: run } = useLastRun();
  const asked = useMutationState({ filters: { mutationKey: ['start'] }, select: ({ state }) => state }).at(-1);
  if (asked?.error && (!run || asked.submittedAt > Date.parse(run.started)))
    return { problems: [toProblem(asked.error)], notes: [] };
  const isOver = run?.status === 'finished' || run?.status === 'ended';
  return isOver ? { problems: run.problems, notes: run.notes } : { problems: [], notes: [] };
}
