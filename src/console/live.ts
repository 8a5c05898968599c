/** The live feed: puts what happens into what the console knows. */
import { type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Cursor } from '../client/client.ts';
import type { ProjectInfo } from '../core/api/api.ts';
import { noProgress } from '../core/run/progress.ts';
import { type BoardLook, withResults } from '../core/run/board.ts';
import type { RunEvent, RunSummary } from '../core/run/run.ts';
import { askAgain } from './askAgain.ts';
import { type Deciding, notDeciding, service } from './data.ts';

/** Where a run stands among those that go on and wait. */
function withRun(project: ProjectInfo, event: RunEvent & { run: RunSummary }): ProjectInfo {
  const { kind, run } = event;
  const queued = project.queued.filter(({ id }) => id !== run.id);
  if (kind === 'run-queued') return { ...project, queued: [...queued, run] };
  if (kind === 'run-progress') return { ...project, queued, run, progress: event.progress };
  if (kind !== 'run-finished') return { ...project, queued, run, progress: noProgress };
  const isOurs = project.run?.id === run.id;
  return { ...project, queued, run: isOurs ? null : project.run, engine: run.engine ?? project.engine };
}

/** Takes in events that came together. */
function takeIn(queries: QueryClient, events: readonly RunEvent[]): void {
  const results = events.flatMap((event) => (event.kind === 'look-finished' ? [event.result] : []));
  if (results.length > 0) queries.setQueryData<BoardLook[]>(['board'], (looks) => looks && withResults(looks, results));
  for (const event of events) takeInOne(queries, event);
}

function takeInOne(queries: QueryClient, event: RunEvent): void {
  const refresh = (...keys: string[]): void => {
    for (const key of keys) askAgain(queries, [key]);
  };
  switch (event.kind) {
    case 'run-queued':
    case 'run-started':
    case 'run-progress':
    case 'run-finished':
      queries.setQueryData<ProjectInfo>(['project'], (project) => project && withRun(project, event as never));
      if (event.kind !== 'run-queued') queries.setQueryData<RunSummary>(['last run'], event.run);
      if (event.kind === 'run-finished')
        refresh('board', 'project', 'causes', 'history', 'last run', 'coverage', 'accessibility', 'handbook');
      break;
    case 'decided':
      queries.setQueryData<Deciding>(['deciding'], notDeciding);
      refresh('board', 'project', 'causes', 'result', 'history');
      break;
    case 'deciding':
      queries.setQueryData<Deciding>(['deciding'], { done: event.done, all: event.all });
      break;
    case 'commented':
      refresh('causes');
      break;
    case 'sitting':
      askAgain(queries, ['sitting', event.id]);
      refresh('sittings');
      break;
    case 'gap':
      askAgain(queries);
      break;
  }
}

/** Whether the service answers, and how many looks of which run have been heard of. */
export type LiveState = { connected: boolean; run: number | null; done: number };

function count(state: LiveState, event: RunEvent): LiveState {
  if (event.kind === 'run-started') return { connected: true, run: event.run.id, done: 0 };
  // A result counts for its own run.
  if (event.kind === 'look-finished' && event.run === state.run) return { ...state, done: state.done + 1 };
  return state;
}

/** Resolves when the page can be seen. */
const shown = (): Promise<void> =>
  new Promise((resolve) => {
    if (!document.hidden) resolve();
    else document.addEventListener('visibilitychange', () => resolve(), { once: true });
  });

/** How long events are gathered before they are drawn, in milliseconds: a run may bring hundreds a second. */
const gathering = 120;

/** Hands on events in bunches: the first one at once, and what comes soon after it together. */
function gathered(hand: (events: RunEvent[]) => void): (event: RunEvent) => void {
  let waiting: RunEvent[] = [];
  let last = -gathering;
  const flush = (): void => {
    const events = waiting;
    waiting = [];
    last = performance.now();
    hand(events);
  };
  return (event) => {
    waiting.push(event);
    if (waiting.length === 1) setTimeout(flush, Math.max(0, last + gathering - performance.now()));
  };
}

/** How long a lost service is left alone before it is tried again, in milliseconds. */
const pause = 1500;

/**
 * Listens to the live feed, again and again when it is lost, from where it was left. A page that nobody sees does not
 * listen: browsers grant all pages of a host only six connections together.
 */
export function useLive(): LiveState {
  const queries = useQueryClient();
  const [state, setState] = useState<LiveState>({ connected: true, run: null, done: 0 });
  useEffect(() => {
    let over = false;
    let abort = new AbortController();
    const cursor: Cursor = {};
    const ready = (): void => {
      setState((now) => ({ ...now, connected: true }));
      // Until an event has come nothing says where the feed was left. What is asked now is answered while it is heard.
      if (cursor.last === undefined) void queries.invalidateQueries();
    };
    const hear = gathered((events) => {
      if (over) return;
      takeIn(queries, events);
      setState((now) => events.reduce(count, now));
    });
    const listen = async (): Promise<void> => {
      while (!over) {
        await shown();
        abort = new AbortController();
        try {
          for await (const event of service.events(abort.signal, ready, cursor, true)) hear(event);
        } catch {
          setState((now) => ({ ...now, connected: false }));
        }
        if (!over && !document.hidden) await new Promise((resolve) => setTimeout(resolve, pause));
      }
    };
    const leave = (): void => abort.abort();
    const follow = (): void => {
      if (document.hidden) leave();
    };
    document.addEventListener('visibilitychange', follow);
    window.addEventListener('pagehide', leave);
    void listen();
    return () => {
      over = true;
      leave();
      document.removeEventListener('visibilitychange', follow);
      window.removeEventListener('pagehide', leave);
    };
  }, [queries]);
  return state;
}
