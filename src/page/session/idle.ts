/** Waiting until a page and its workers have nothing left to do at this instant. */
import { post } from '../host/host.ts';
import { native } from '../host/natives.ts';
import { isImporting } from '../lazy.ts';
import { haveWorkers, workersHeard, workersIdle } from '../workers/workers.ts';

const postTask = scheduler.postTask.bind(scheduler);

/**
 * How often a timer of so many milliseconds comes round on a page that keeps busy, before that is said not to become
 * idle: on a machine that leaves the page little of its time it comes round more slowly, too.
 */
const turnLength = 10;
const usualTurns = 200;
let mostTurns = usualTurns;

/** After so many of them the host is told that the page is watched. */
const turnsTold = 10;

/** Tells the host that the page is watched: no limit is meant for that. */
export const watches = (): void => post({ kind: 'watches' });

/**
 * Resolves with true when nothing else is left to do on the page: messages by which a framework puts its work off may
 * overtake one another, but none is overtaken by a task in the background. On a page that is never idle, with false:
 * after a while at first, and ever sooner.
 */
const pageIdle = (): Promise<boolean> =>
  new Promise((resolve) => {
    let turns = 0;
    const timer = native.setInterval(() => {
      if (++turns % turnsTold === 0) watches();
      if (turns < mostTurns) return;
      native.clearInterval(timer);
      mostTurns = Math.max(1, Math.floor(mostTurns / 4));
      resolve(false);
    }, turnLength);
    void postTask(
      () => {
        native.clearInterval(timer);
        mostTurns = usualTurns;
        resolve(true);
      },
      { priority: 'background' },
    );
  });

/** How often page and workers may keep each other busy before they are said not to become idle. */
const mostTalk = 100;

/** Resolves with true when nothing else is left to do on the page and in its workers; with false when that never is. */
export async function idle(): Promise<boolean> {
  for (let turns = 0; turns < mostTalk; turns++) {
    const isIdle = await pageIdle();
    if (!haveWorkers()) return isIdle;
    const before = workersHeard();
    if (!(await workersIdle())) return false;
    if (workersHeard() === before) return isIdle;
  }
  return false;
}

/** Real time, in milliseconds. */
export const after = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => native.setTimeout(resolve, milliseconds));

/**
 * Lets come what modules import lazily while they are evaluated, and what that imports in turn: whether a look began
 * before or after would otherwise depend on the machine.
 */
export async function importsCome(): Promise<void> {
  while (isImporting()) {
    await after(turnLength);
    await idle();
  }
}
