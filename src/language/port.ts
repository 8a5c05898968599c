/** The one way from what a look file says to the page that carries it out. */
import { fail } from '../core/problem/problem.ts';
import type { Answer, AnswerInit } from './answer.ts';
import type { ClockMove } from './clock.ts';
import type { Action, Check } from './command.ts';
import type { Spy } from './spy.ts';
import type { CaptureOptions } from './script.ts';
import type { WorldChange } from './world.ts';

/** What the page does for a script. Every promise settles when the step has ended, or never when its look has. */
export type Port = {
  act(action: Action): Promise<void>;
  check(check: Check): Promise<void>;
  answer(route: string, init: AnswerInit): Promise<Answer>;
  /** A check of something was begun; what is returned is called when one is asked for. */
  begun(subject: unknown): () => void;
  /** Changes the world around the component. */
  world(change: WorldChange): Promise<void>;
  /** Forgets the calls that a spy or an answer has had. */
  reset(subject: Spy | Answer): Promise<void>;
  part(name: string, body: () => Promise<void>): Promise<void>;
  /** Holds keys while `body` runs. */
  hold(keys: string, body: () => Promise<void>): Promise<void>;
  capture(name: string, options: CaptureOptions): Promise<void>;
  /** Stops until whoever attends the look lets it go on. */
  pause(): Promise<void>;
  /** Moves the look's own time. */
  clock(move: ClockMove): Promise<void>;
  /** A spy was called. */
  called(name: string, args: readonly unknown[]): void;
};

let port: Port | null = null;

/** Says who carries out what scripts ask for. The page calls this once, before any look file is evaluated. */
export function connectPort(to: Port): void {
  port = to;
}

/** The port. @throws ProblemError `bad-step` where there is no page: look files are not programs of their own */
export const portOf = (what: string): Port =>
  port ??
  fail('bad-step', {
    what: `${what} was called outside a look.`,
    remedy: 'Call it inside the async script() of a look, and run that with: sguardo run',
  });

/** The port, or null where there is no page. */
export const portIfAny = (): Port | null => port;
