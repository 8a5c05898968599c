/** Waiting until the page is still: nothing loads, nothing moves, nothing changes any more. */
import { append, native } from '../host/natives.ts';
import { traffic } from '../network/requests.ts';
import { finishAnimations } from '../pins/animations.ts';
import { isWaiting, timersDueSoon } from '../pins/timers.ts';
import { mutationCount, rootsNow } from '../record/roots.ts';

/** Resolves at the next animation frame, or after `limit` milliseconds when none comes. */
export const nextFrame = (limit = 100): Promise<void> =>
  new Promise((resolve) => {
    const timer = native.setTimeout(resolve, limit);
    native.requestAnimationFrame(() => {
      native.clearTimeout(timer);
      resolve();
    });
  });

const channel = new MessageChannel();
const queue: (() => void)[] = [];
channel.port1.onmessage = () => queue.shift()?.();

/** Resolves after everything that is already due has run: the next task. */
export const nextTask = (): Promise<void> =>
  new Promise((resolve) => {
    append(queue, resolve);
    channel.port2.postMessage(null);
  });

const postTask = scheduler.postTask.bind(scheduler);

/**
 * Resolves with true when nothing else is left to do: messages by which a framework puts its work off may overtake one
 * another, but none is overtaken by a task in the background. On a page that is never idle, soon after with false.
 */
const idle = (): Promise<boolean> =>
  new Promise((resolve) => {
    const timer = native.setTimeout(() => resolve(false), 100);
    void postTask(
      () => {
        native.clearTimeout(timer);
        resolve(true);
      },
      { priority: 'background' },
    );
  });

/** Images that are still on their way, in shadow roots, too. */
const pendingImages = (): HTMLImageElement[] =>
  rootsNow().flatMap((root) =>
    [...root.querySelectorAll('img')].filter((image) => !image.complete && image.loading !== 'lazy'),
  );

const after = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => native.setTimeout(resolve, milliseconds));

/** What was seen most often is what keeps the page going. */
function commonest(seen: readonly string[]): string {
  const count = (one: string): number => seen.filter((other) => other === one).length;
  return seen.reduce((best, one) => (count(one) > count(best) ? one : best));
}

/** How often a page is looked at before it is said not to rest. */
const fewestRounds = 10;

/** What keeps a page from coming to rest, in words. */
type Unrest = string | null;

async function oneRound(patience: number): Promise<Unrest> {
  const before = mutationCount();
  const { events } = traffic();
  // Those that are set meanwhile do not count: a page that sets one after the other would never rest.
  const due = timersDueSoon();
  if (document.fonts.status === 'loading') await Promise.race([document.fonts.ready, after(patience)]);
  const images = pendingImages();
  if (images.length > 0)
    await Promise.race([Promise.all(images.map((image) => image.decode().catch(() => {}))), after(patience)]);
  const moved = finishAnimations();
  // What ends or begins with a frame is seen only when one has come, however long a busy machine takes for it.
  await nextFrame(2000);
  const isIdle = await idle();
  if (moved) return 'animations started again as soon as they had ended';
  if (mutationCount() !== before) return 'the document kept changing';
  if (traffic().pending) return 'a request was still under way';
  if (traffic().events !== events) return 'it kept making requests';
  if (due.some(isWaiting)) return 'a timer was about to fire';
  if (pendingImages().length > 0) return 'an image was still loading';
  if (document.fonts.status !== 'loaded') return 'a font was still loading';
  return isIdle ? null : 'it never stopped working, although nothing that it shows changed';
}

/**
 * Resolves with null when fonts and images are loaded, no finite animation runs, no request is under way, no timer is
 * about to fire, and for one frame neither the document has changed nor a request has settled (what it brings is
 * shown a moment later); or when the patience ends, since a page that never rests must still be shown, with what kept
 * it going. `isOver` ends the wait at once.
 */
export async function untilStill(patience: number, isOver: () => boolean = () => false): Promise<Unrest> {
  const until = native.now() + patience;
  const seen: string[] = [];
  for (;;) {
    const unrest = await oneRound(patience);
    if (unrest === null || isOver()) return unrest;
    append(seen, unrest);
    // On a busy machine patience may end before the page had a chance.
    if (native.now() > until && seen.length >= fewestRounds) return commonest(seen);
  }
}
