/** What goes wrong beside the steps: errors that nobody caught, attempts to leave the page. */
import { addressOf } from '../../core/address/address.ts';
import { problem, type Problem } from '../../core/problem/problem.ts';
import { errorInWords } from '../../core/value/show.ts';
import { native } from '../host/natives.ts';
import { stackHere, stackOf } from '../host/stack.ts';
import { recordingNow } from './recording.ts';

/** An error in the timeline, at the time it happened. The first one decides the look. */
export function raise(kind: 'error' | 'navigation', wrong: Problem, stack: string | null): void {
  const recording = recordingNow();
  if (!recording) return;
  if (recording.isOver) {
    recording.witness(`After the last capture: ${wrong.message}`);
    return;
  }
  recording.uncaught ??= { problem: wrong, stack };
  recording.end(recording.begin(kind, wrong.message, stack ?? undefined), 'failed', wrong);
}

const listen = <E extends Event>(target: EventTarget, type: string, listener: (event: E) => void): void =>
  native.addEventListener.call(target, type, listener as EventListener);

function watchErrors(): void {
  listen<ErrorEvent>(window, 'error', (event) => {
    // Files that could not be loaded are told on the network lane.
    if (event.target !== window) return;
    // Browsers report this one through the same event, and it harms nobody.
    if (event.message?.startsWith('ResizeObserver loop')) return;
    // React 18 calls components from an event of its own, which reports what a boundary catches too; what none
    // catches is thrown again.
    if (stackHere()?.includes('invokeGuardedCallbackDev')) return;
    const error: unknown = event.error ?? event.message;
    raise('error', problem('page-error', { error: errorInWords(error) }), stackOf(error));
  });
  listen<PromiseRejectionEvent>(window, 'unhandledrejection', ({ reason }) => {
    raise('error', problem('page-error', { error: errorInWords(reason) }), stackOf(reason));
  });
}

function watchNavigation(): void {
  if (navigation)
    listen<NavigateEvent>(navigation, 'navigate', (event) => {
      if (event.destination.sameDocument || event.hashChange || event.downloadRequest !== null || !event.cancelable)
        return;
      event.preventDefault();
      raise('navigation', problem('navigated-away', { url: event.destination.url }), stackHere());
    });
  window.close = () => raise('navigation', problem('closed-itself'), stackHere());
  window.open = (url) => {
    recordingNow()?.witness(
      `window.open(“${String(url ?? '')}”) was not followed. To test it, give the component a function of its ` +
        'own to call, and a spy() for it.',
    );
    return null;
  };
  const keepHere = (event: MouseEvent): void => {
    const link = event.composedPath().find((node) => node instanceof HTMLAnchorElement);
    if (!link?.href || event.defaultPrevented || event.button === 2) return;
    const isElsewhere = event.ctrlKey || event.metaKey || event.shiftKey || event.button === 1;
    if (!isElsewhere && (!link.target || link.target === '_self')) return;
    event.preventDefault();
    recordingNow()?.witness(`A link to ${link.href} would have opened a new window; it was not followed.`);
  };
  for (const type of ['click', 'auxclick']) listen(window, type, keepHere);
}

/** Files that the browser loads by itself, on the network lane; requests of scripts are told when they are answered. */
function watchFiles(): void {
  const observer = new PerformanceObserver((list) => {
    const recording = recordingNow();
    if (!recording) return;
    for (const entry of list.getEntries() as PerformanceResourceTiming[]) {
      if (entry.initiatorType === 'fetch' || entry.initiatorType === 'xmlhttprequest') continue;
      const took = Math.round(entry.duration * 10) / 10;
      const url = addressOf(entry.name);
      const path = url?.origin === location.origin ? url.pathname : entry.name;
      const title = `GET ${path.slice(0, 200)} → ${entry.responseStatus || 'cached'}`;
      const level = entry.responseStatus >= 400 ? 'error' : 'info';
      recording.mark({ lane: 'network', at: Math.max(0, recording.now() - took), took, title, level });
    }
  });
  observer.observe({ type: 'resource', buffered: false });
}

/** Called once, before anything of the project runs. */
export function watchTrouble(): void {
  watchErrors();
  watchNavigation();
  watchFiles();
}
