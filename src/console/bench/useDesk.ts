/** Where one is on the bench, and how one moves: by keys, clicks and the address. */
import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { BoardLook, Variant } from '../../core/run/board.ts';
import type { Problem } from '../../core/problem/problem.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { failingStep, type Step, type Timeline } from '../../core/timeline/timeline.ts';
import { useBoard, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { breaksIn, toggled } from '../sitting/path.ts';
import { site } from '../site.ts';
import { stagePath } from '../stage/path.ts';
import { useGoLive } from './useGoLive.ts';
import { atMoment, atStep, atTime, firstPosition, moveBy, type Position } from './travel.ts';

export type Desk = {
  position: Position;
  step: Step | undefined;
  /** The step at which the look went wrong. */
  failed: Step | null;
  toStep(index: number, side?: Position['side']): void;
  toTime(time: number): void;
  /** The looks before and after this one on the board. */
  previous: Variant | undefined;
  next: Variant | undefined;
  /** A newer result of this look, if there is one. */
  newer: Variant | undefined;
  open(result: Variant | undefined): void;
  /** Goes to the look as a live page. */
  toStage(): void;
  /** Runs the look again up to here, and hands it over. */
  goLive(): void;
  /** The same, to point at an element. */
  point(): void;
  /** Why that was not possible. */
  problem: Problem | null;
  /** Numbers of the steps before which a live look stops. */
  breaks: number[];
  toggleBreak(): void;
};

/** The address of a result. It is opened at the step where it went wrong. */
export const benchPath = ({ id }: { id: number }): string => `/bench/${id}`;

/** The looks around a result: of its component and environment, in the order of the board. */
function useNeighbours(result: ResultSummary): Pick<Desk, 'previous' | 'next' | 'newer'> {
  const looks = useBoard().data;
  return useMemo(() => {
    const { component, environment, look, id } = result;
    const same = (looks ?? []).filter((one) => one.component === component);
    const inThis = (one: BoardLook | undefined): Variant | undefined =>
      one?.variants.find((variant) => variant.environment === environment);
    const at = same.findIndex((one) => one.look === look);
    const newest = inThis(same[at]);
    return {
      previous: inThis(same[at - 1]),
      next: inThis(same[at + 1]),
      newer: newest && newest.id > id ? newest : undefined,
    };
  }, [looks, result]);
}

export function useDesk(result: ResultSummary, timeline: Timeline): Desk {
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const start = useStart();
  const asked = query.get('step');
  const [position, setPosition] = useState<Position>(() =>
    firstPosition(timeline, asked === null ? null : Number(asked)),
  );
  const failed = failingStep(timeline.steps);
  const neighbours = useNeighbours(result);
  // The address is changed with the position, not in an effect after it: that may come when somebody has already gone
  // on to another look.
  const breaks = breaksIn(query);
  const put = (step: number, stops: readonly number[]): void =>
    setQuery({ step: String(step), ...(stops.length > 0 && { breaks: stops.join(',') }) }, { replace: true });
  const go = (next: Position): void => {
    setPosition(next);
    if (next.step !== position.step) put(next.step, breaks);
  };
  const toggleBreak = (): void => put(position.step, toggled(breaks, position.step));
  const { goLive, point, problem } = useGoLive(result, timeline, position, breaks);
  const open = (one: Variant | undefined): void => void (one && navigate(benchPath(one)));
  const toStage = (): void => void navigate(stagePath(result.file, result.look, result.environment));
  const otherSide = position.side === 'before' ? 'after' : 'before';
  const { component, look, environment } = result;
  useKeys({
    ArrowRight: () => go(moveBy(timeline, position, 1)),
    ArrowLeft: () => go(moveBy(timeline, position, -1)),
    'Shift+ArrowRight': () => go(atMoment(timeline, position.moment + 1)),
    'Shift+ArrowLeft': () => go(atMoment(timeline, position.moment - 1)),
    Home: () => go(atStep(timeline, 0, 'before')),
    End: () => go(atStep(timeline, timeline.steps.length - 1)),
    b: () => go(atStep(timeline, position.step, otherSide)),
    f: () => failed && go(atStep(timeline, failed.index)),
    n: () => open(neighbours.next),
    p: () => open(neighbours.previous),
    r: () => start({ looks: [{ component, look }], environments: [environment], fresh: true }),
    ...(site ? {} : { s: toStage, l: goLive, e: point, x: toggleBreak }),
    Escape: () => void navigate('/'),
  });
  return {
    ...neighbours,
    position,
    step: timeline.steps[position.step],
    failed,
    toStep: (index, side) => go(atStep(timeline, index, side)),
    toTime: (time) => go(atTime(timeline, time)),
    open,
    toStage,
    goLive,
    point,
    problem,
    breaks,
    toggleBreak,
  };
}
