/** Waiting until the page is still: nothing loads, nothing moves, nothing changes any more. */
import { finishAnimations } from './animations.ts';
import { isWaiting, native, timersDueSoon } from './pinned.ts';

/** Resolves at the next animation frame, or soon after when none comes. */
export const nextFrame = (): Promise<void> =>
  new Promise((resolve) => {
    const timer = native.setTimeout(resolve, 100);
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
    queue.push(resolve);
    channel.port2.postMessage(null);
  });

const postTask = scheduler.postTask.bind(scheduler);

/**
 * Resolves when nothing else is left to do: messages by which a framework puts its work off may overtake one another,
 * but none is overtaken by a task in the background. On a page that is never idle, soon after all the same.
 */
const idle = (): Promise<void> =>
  new Promise((resolve) => {
    const timer = native.setTimeout(resolve, 100);
    void postTask(
      () => {
        native.clearTimeout(timer);
        resolve();
      },
      { priority: 'background' },
    );
  });

const pendingImages = (): HTMLImageElement[] => [...document.images].filter((image) => !image.complete && image.loading !== 'lazy');

let mutations = 0;
new MutationObserver(() => mutations++).observe(document, { childList: true, attributes: true, characterData: true, subtree: true });

/** Requests that are under way, and a number that grows whenever one begins or settles. */
export type Traffic = { pending: boolean; events: number };

/**
 * Resolves when fonts and images are loaded, no finite animation runs, no request is under way, no timer is about to
 * fire, and for one frame
 * neither the document has changed nor a request has settled (what it brings is shown a moment later); or when
 * the patience ends, since a page that never rests must still be shown. True when the page came to rest.
 */
export async function untilStill(patience: number, traffic: () => Traffic): Promise<boolean> {
  const until = native.now() + patience;
  for (;;) {
    const before = mutations;
    const { events } = traffic();
    // Those that are set meanwhile do not count: a page that sets one after the other would never rest.
    const due = timersDueSoon();
    if (document.fonts.status === 'loading') await Promise.race([document.fonts.ready, new Promise((resolve) => native.setTimeout(resolve, patience))]);
    const images = pendingImages();
    if (images.length > 0)
      await Promise.race([Promise.all(images.map((image) => image.decode().catch(() => {}))), new Promise((resolve) => native.setTimeout(resolve, patience))]);
    const moved = finishAnimations();
    await nextFrame();
    await idle();
    const still =
      !moved &&
      mutations === before &&
      !due.some(isWaiting) &&
      !traffic().pending &&
      traffic().events === events &&
      pendingImages().length === 0 &&
      document.fonts.status === 'loaded';
    if (still) return true;
    if (native.now() > until) return false;
  }
}
