/** What the console knows, and what it can have done. The live feed keeps it fresh. */
import { useMutation, useMutationState, useQuery, useQueryClient } from '@tanstack/react-query';
import { connect } from '../client/client.ts';
import { connectSite } from '../client/site.ts';
import { componentOf } from '../core/look/look.ts';
import { type Problem, toProblem } from '../core/problem/problem.ts';
import type { ResultSummary, RunRequest } from '../core/run/run.ts';
import { site } from './site.ts';

/** What the console reads from, and has things done by; of a published site it only reads. */
export const service = site ? await connectSite(site) : connect('');

export const useProject = () => useQuery({ queryKey: ['project'], queryFn: () => service.project() });
export const useBoard = () => useQuery({ queryKey: ['board'], queryFn: () => service.board() });
export const useCauses = () => useQuery({ queryKey: ['causes'], queryFn: () => service.causes() });
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

const useLastRun = () => useQuery({ queryKey: ['last run'], queryFn: async () => (await service.runs(1))[0] ?? null });

/** Starts a run; what comes of it is told by the live feed, and what speaks against it by `useRunNews`. */
export function useStart(): (request: Partial<RunRequest>) => void {
  const { mutate } = useMutation({
    mutationKey: ['start'],
    meta: { about: 'The run' },
    mutationFn: (request: Partial<RunRequest>) => service.startRun(request),
  });
  // Nothing is run on a site.
  return site ? () => {} : mutate;
}

/** Drafts looks for the component of a file and runs them; why that cannot be done is told by `useRunNews`. */
export function useDraft(): (file: string) => void {
  const queries = useQueryClient();
  return useMutation({
    mutationKey: ['start'],
    meta: { about: 'The draft' },
    async mutationFn(file: string) {
      const { file: made } = await service.draft(file, null, true);
      void queries.invalidateQueries({ queryKey: ['components'] });
      return service.startRun({ patterns: [componentOf(made)] });
    },
  }).mutate;
}

/** What is told on every page, and what it is about. */
export type RunNews = { about: string; problems: Problem[]; notes: string[] };

/**
 * What went wrong with the last run as a whole or with files that it needed, or why none could be started; one that a
 * person has stopped is no trouble. And what else the run has to say.
 */
export function useRunNews(): RunNews {
  const { data: run } = useLastRun();
  const asked = useMutationState({
    filters: { mutationKey: ['start'] },
    // The mutation itself stays the same when it fails, and nothing would be drawn anew.
    select: ({ state: { error, submittedAt }, meta }) => ({ error, submittedAt, about: String(meta?.about) }),
  }).at(-1);
  if (asked?.error && (!run || asked.submittedAt > Date.parse(run.started)))
    return { about: asked.about, problems: [toProblem(asked.error)], notes: [] };
  const over = run?.status === 'finished' || run?.status === 'ended' ? run : null;
  return { about: 'The last run', problems: over?.problems ?? [], notes: over?.notes ?? [] };
}
