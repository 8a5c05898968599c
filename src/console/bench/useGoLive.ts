/** Going live from where one is on the bench. */
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { usualOrders } from '../../core/sitting/sitting.ts';
import type { Step, Timeline } from '../../core/timeline/timeline.ts';
import { service } from '../data.ts';
import { livePath, pointingPath } from '../sitting/path.ts';
import type { Position } from './travel.ts';

/** True for a step inside another one. */
const isIn = (steps: readonly Step[], { parent }: Step, outer: number): boolean =>
  parent !== null && (parent === outer || isIn(steps, steps[parent]!, outer));

/** The number of the step before which the page is as it is at a position. */
export function stepAt({ steps }: Timeline, { step, side }: Pick<Position, 'step' | 'side'>): number {
  if (side === 'before') return step;
  return steps.find((one) => one.index > step && !isIn(steps, one, step))?.index ?? steps.length;
}

export function useGoLive(
  { id, file, look, environment }: ResultSummary,
  timeline: Timeline,
  position: Position,
  breaks: number[],
): { goLive(): void; point(): void; problem: Problem | null } {
  const [problem, setProblem] = useState<Problem | null>(null);
  const navigate = useNavigate();
  const orders = { ...usualOrders, to: stepAt(timeline, position), straight: true, failure: true, breaks };
  const begin = async (isPointing: boolean): Promise<void> => {
    try {
      const { id: live } = await service.beginSitting({ file, look, environment, result: id, orders });
      void navigate(isPointing ? pointingPath(live) : livePath(live, breaks));
    } catch (error) {
      setProblem(toProblem(error));
    }
  };
  return { goLive: () => void begin(false), point: () => void begin(true), problem };
}
