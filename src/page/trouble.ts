/** What goes wrong beside the steps: console messages, errors that nobody caught, attempts to leave the page. */
import { problem, type Problem } from '../core/problem.ts';
import { recordingNow } from './record.ts';
import { show } from './show.ts';

/** An error in the timeline, at the time it happened. The first one decides the look. */
function raise(kind: 'error' | 'navigation', wrong: Problem, stack: string | null): void {
  const recording = recordingNow();
  if (!recording) return;
  recording.uncaught ??= { problem: wrong, stack };
  recording.end(recording.begin(kind, wrong.message, stack ?? undefined), 'failed', wrong);
}

function watchConsole(): void {
  const levels = { log: 'info', info: 'info', debug: 'info', warn: 'warning', error: 'error' } as const;
  for (const [method, level] of Object.entries(levels) as [keyof typeof levels, 'info' | 'warning' | 'error'][]) {
    const real = console[method].bind(console);
    console[method] = (...args: unknown[]) => {
      const text = args.map((arg) => (typeof arg === 'string' ? arg : show(arg))).join(' ');
      recordingNow()?.mark({
        lane: 'console',
        at: recordingNow()!.now(),
        took: null,
        title: text.slice(0, 300),
        level,
        detail: text.length > 300 ? text.slice(0, 10_000) : undefined,
      });
      real(...args);
    };
  }
}

function watchErrors(): void {
  const text = (error: unknown): string => (error instanceof Error ? `${error.name}: ${error.message}` : show(error));
  window.addEventListener('error', (event) => {
    // Browsers report this one through the same event, and it harms nobody.
    if (event.message?.startsWith('ResizeObserver loop')) return;
    // React 18 calls components from an event of its own, which reports what a boundary catches too; what none catches is thrown again.
    if (new Error().stack?.includes('invokeGuardedCallbackDev')) return;
    raise('error', problem('page-error', { error: text(event.error ?? event.message) }), event.error instanceof Error ? (event.error.stack ?? null) : null);
  });
  window.addEventListener('unhandledrejection', (event) => {
    raise('error', problem('page-error', { error: text(event.reason) }), event.reason instanceof Error ? (event.reason.stack ?? null) : null);
  });
}

function watchNavigation(): void {
  navigation?.addEventListener('navigate', (event) => {
    if (event.destination.sameDocument || event.hashChange || event.downloadRequest !== null || !event.cancelable) return;
    event.preventDefault();
    raise('navigation', problem('navigated-away', { url: event.destination.url }), new Error().stack ?? null);
  });
  window.close = () => raise('navigation', problem('closed-itself'), new Error().stack ?? null);
  window.open = (url) => {
    recordingNow()?.notes.push(
      `window.open(“${String(url ?? '')}”) was not followed. To test it, give the component a function of its own to call, and a spy() for it.`,
    );
    return null;
  };
  window.addEventListener('click', (event) => {
    const link = event.composedPath().find((node) => node instanceof HTMLAnchorElement);
    if (!link || event.defaultPrevented || !link.target || link.target === '_self') return;
    event.preventDefault();
    recordingNow()?.notes.push(`A link to ${link.href} would have opened a new window; it was not followed.`);
  });
}

/** Called once, before anything of the project runs. */
export function watchTrouble(): void {
  watchConsole();
  watchErrors();
  watchNavigation();
  const network = new PerformanceObserver((list) => {
    const recording = recordingNow();
    if (!recording) return;
    for (const entry of list.getEntries() as PerformanceResourceTiming[]) {
      // Requests of scripts are told when they are answered.
      if (entry.initiatorType === 'fetch' || entry.initiatorType === 'xmlhttprequest') continue;
      const took = Math.round(entry.duration * 10) / 10;
      const url = new URL(entry.name);
      const path = url.origin === location.origin ? url.pathname : entry.name;
      const failed = entry.responseStatus >= 400;
      recording.mark({
        lane: 'network',
        at: Math.max(0, recording.now() - took),
        took,
        title: `GET ${path.slice(0, 200)} → ${entry.responseStatus || 'cached'}`,
        level: failed ? 'error' : 'info',
      });
    }
  });
  network.observe({ type: 'resource', buffered: false });
}
