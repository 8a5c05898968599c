/** A live look as the console has it: what it stands at, and what it can be told. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import { type Orders, type SittingState, usualOrders } from '../../core/sitting/sitting.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Pointed } from '../../core/wire/live.ts';
import { service } from '../data.ts';
import { breaksIn, livePath, toggled } from './path.ts';

export type Sitting = {
  state: SittingState;
  breaks: number[];
  /** What the last thing that was asked for could not be. */
  problem: Problem | null;
  /** The element that somebody has pointed at. */
  pointed: Pointed | null;
  /** True while what is clicked is told of, and not clicked. */
  isPointing: boolean;
  setPointing(isOn: boolean): void;
  pointAt(x: number, y: number): void;
  forgetPointed(): void;
  toggleBreak(step: number): void;
  go(more?: Partial<Orders>): void;
  /** The steps of the run that it follows; none when it follows none. */
  followed: Step[];
  /** Runs it again up to a step: lines that were tried are gone. */
  restart(to: number): void;
  setTime(runs: boolean): void;
  setRecording(isOn: boolean): void;
  /** Chooses from the list that the page has opened; nothing with null. */
  choose(index: number | null): void;
  /** Resolves with why a line could not be tried at all; null when it was. */
  tryLine(text: string): Promise<Problem | null>;
  end(): void;
  /** Leaves for another one of the same look, from its beginning. */
  again(): void;
};

export const useSittingState = (id: number) =>
  useQuery({ queryKey: ['sitting', id], queryFn: () => service.sitting(id), retry: false });

/** The steps of the run that a live look follows. */
const useFollowed = (result: number | null): Step[] =>
  useQuery({
    queryKey: ['timeline', result],
    queryFn: () => service.timeline(result!),
    enabled: result !== null,
    staleTime: Number.POSITIVE_INFINITY,
  }).data?.steps ?? [];

export function useSitting(state: SittingState): Sitting {
  const { id, file, look, environment, stop, result } = state;
  const followed = useFollowed(result);
  const [query, setQuery] = useSearchParams();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [isPointing, setPointing] = useState(query.get('point') === 'yes');
  const [pointed, setPointed] = useState<Pointed | null>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const breaks = breaksIn(query);
  const know = (next: SittingState): void => void queries.setQueryData(['sitting', id], next);
  const carryOut = async (work: () => Promise<unknown>): Promise<void> => {
    setProblem(null);
    await work().catch((error: unknown) => setProblem(toProblem(error)));
  };
  const orders = (more: Partial<Orders>): Orders => ({ ...usualOrders, failure: true, breaks, ...more });
  return {
    state,
    followed,
    breaks,
    problem,
    pointed,
    isPointing,
    setPointing,
    pointAt(x, y) {
      setPointing(false);
      void carryOut(async () => setPointed(await service.point(id, x, y)));
    },
    forgetPointed: () => setPointed(null),
    toggleBreak(step) {
      const next = toggled(breaks, step);
      setQuery(next.length > 0 ? { breaks: next.join(',') } : {}, { replace: true });
    },
    go: (more = {}) => void carryOut(async () => know(await service.go(id, orders(more)))),
    restart: (to) => void carryOut(async () => know(await service.restart(id, orders({ to, straight: true })))),
    setTime: (runs) => void carryOut(async () => know(await service.letTime(id, runs))),
    setRecording: (isOn) => void carryOut(async () => know(await service.record(id, isOn))),
    choose: (index) => void carryOut(async () => know(await service.choose(id, index))),
    tryLine: (text) => service.tryLine(id, text).then(() => null, toProblem),
    end: () => void carryOut(async () => know(await service.endSitting(id))),
    again: () =>
      void carryOut(async () => {
        const to = stop?.number ?? null;
        const next = await service.beginSitting({
          file,
          look,
          environment,
          result,
          orders: orders({ to, straight: to !== null }),
        });
        void navigate(livePath(next.id, breaks), { replace: true });
      }),
  };
}
