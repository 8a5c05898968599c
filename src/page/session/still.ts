/** Waiting until the page is still: nothing loads, nothing moves, nothing changes any more. */
import { hoverShown, isHoverShown, timesPointed } from '../act/pointer.ts';
import { append, native } from '../host/natives.ts';
import { networkOrigins } from '../host/settings.ts';
import { framesNow } from '../network/frames.ts';
import { anyHeldBack, fileEvents, filesOnTheWay, isHeldBack, learnFiles, traffic } from '../network/requests.ts';
import { isObserved } from '../pins/observers.ts';
import { mutationCount, rootsNow } from '../record/roots.ts';
import { isFramed, nextFrame } from '../time/frame.ts';
import { holdMotion } from '../time/motion.ts';
import { endless, motionTold, moveOn, moveOnToRest, runDue, timeNow } from '../time/time.ts';
import { after, idle, watches } from './idle.ts';

/** Images that are still on their way, in shadow roots, too. */
const pendingImages = (): HTMLImageElement[] =>
  rootsNow().flatMap((root) =>
    [...root.querySelectorAll('img')].filter(
      (image) => !image.complete && image.loading !== 'lazy' && !isHeldBack(image.currentSrc || image.src),
    ),
  );

/** What was seen most often is what keeps the page going. */
function commonest(seen: readonly string[]): string {
  const count = (one: string): number => seen.filter((other) => other === one).length;
  return seen.reduce((best, one) => (count(one) > count(best) ? one : best));
}

/** How long fonts, images and requests may really take, in milliseconds, on a machine that is not too busy. */
const realPatience = 2000;

/** The same for what nothing but a busy machine can keep from coming: replies and files of Sguardo's own. */
const ownPatience = 20_000;

/** How long what is on its way may take: only the real network never answers. */
const patienceForReplies = (): number => (networkOrigins().length > 0 ? realPatience : ownPatience);

/**
 * Begins to be patient: what comes back tells whether patience has ended. It begins anew whenever something that was on
 * its way has come, until even a busy machine would be done.
 */
function patient(): () => boolean {
  const began = native.now();
  let since = began;
  let { events } = traffic();
  return () => {
    const now = native.now();
    const heard = traffic().events;
    if (heard !== events) [events, since] = [heard, now];
    return now > since + patienceForReplies() || now > began + ownPatience;
  };
}

/** How often a page is looked at before it is said not to rest. */
const fewestRounds = 10;

/** What keeps a page from coming to rest, in words. */
type Unrest = string | null;

const fileLoading = 'a file was still loading';
const frameLoading = 'a frame was still loading';
const requestPending = 'a request was still under way';
const imageLoading = 'an image was still loading';
const fontLoading = 'a font was still loading';

/** What comes from outside the page, as fast as the machine lets it. */
const isOnTheWay = (unrest: string): boolean =>
  [fileLoading, frameLoading, requestPending, imageLoading, fontLoading].includes(unrest);

/** What really takes time: files, pictures, observers, tasks. The look's own time stands meanwhile. */
async function oneRound(): Promise<Unrest> {
  const before = mutationCount();
  const { events } = traffic();
  const patience = patienceForReplies();
  if (document.fonts.status === 'loading') await Promise.race([document.fonts.ready, after(patience)]);
  const images = pendingImages();
  if (images.length > 0)
    await Promise.race([
      Promise.all(images.map((image) => image.decode().catch(() => {}))),
      anyHeldBack(),
      after(patience),
    ]);
  holdMotion();
  // What ends or begins with a frame is seen only when one has come, however long a busy machine takes for it.
  await Promise.all([nextFrame(), learnFiles()]);
  let isIdle = await idle();
  if (await runDue()) isIdle = await idle();
  if (mutationCount() !== before) return 'the document kept changing';
  if (filesOnTheWay()) return fileLoading;
  if (framesNow().onTheWay) return frameLoading;
  if (traffic().pending) return requestPending;
  if (traffic().events !== events) return 'it kept making requests';
  if (pendingImages().length > 0) return imageLoading;
  if (document.fonts.status !== 'loaded') return fontLoading;
  if (!isCalm()) return 'files kept coming';
  return isIdle ? null : 'it never stopped working, although nothing that it shows changed';
}

/** Waits until nothing is left to do at this instant; null, or what kept the page going until patience ended. */
export async function untilQuiet(isOver: () => boolean): Promise<Unrest> {
  const began = native.now();
  const isOut = patient();
  const seen: string[] = [];
  // Since when the page has been busy with itself, and how often it was looked at since then: what comes late on a busy
  // machine gives it something to do each time.
  let alone = began;
  let rounds = 0;
  for (;;) {
    const unrest = await oneRound();
    if (unrest === null || isOver()) return unrest;
    append(seen, unrest);
    const now = native.now();
    if (isOnTheWay(unrest)) [alone, rounds] = [now, 0];
    else {
      watches();
      rounds++;
    }
    // On a busy machine patience may end before the page had a chance.
    const isSpent = isOut() && seen.length >= fewestRounds;
    if (isSpent && (isOnTheWay(unrest) || now > began + ownPatience)) return commonest(seen);
    if (rounds >= fewestRounds && now > alone + realPatience) return commonest(seen);
  }
}

/** How often the pointer had come over something by the time that all that came of it had happened. */
let followed = 0;

/** Lets what is left to do at this instant be done before time moves on: tasks, and what a frame tells observers. */
export async function caughtUp(): Promise<boolean> {
  const pointed = timesPointed();
  const isIdle = await idle();
  followed = pointed;
  if (!isObserved() || isFramed()) return isIdle;
  await nextFrame();
  return idle();
}

/** True when the page has been told what lies under the pointer, and all that comes of it has happened. */
const isHoverSettled = (): boolean => isHoverShown() && followed === timesPointed();

/** Waits until the page has been told what lies under the pointer, and what comes of it without any time. */
export async function hoverSettled(look: number): Promise<void> {
  if (isHoverSettled()) return;
  await hoverShown(look);
  await caughtUp();
}

/**
 * Lets everything happen that an action brings about without any time: what the page has left to do, and replies to
 * requests that nobody holds back. Whether one had come yet would otherwise depend on the machine.
 */
export async function cameOfIt(isOver: () => boolean): Promise<void> {
  const isOut = patient();
  for (;;) {
    const { events } = traffic();
    await caughtUp();
    await learnFiles();
    if (await runDue()) await caughtUp();
    // What a reply has brought is shown only after it has come.
    const { pending, events: now } = traffic();
    if ((!pending && now === events) || isOver() || isOut()) return;
  }
}

/** What came of moving time on in one go: whether there was anything to move on to, and whether it showed. */
type Go = { any: boolean; showed: boolean };

/** Lets what waits until a time happen, a short while of it at once, as long as no request is under way. */
async function moveOnInOneGo(until: number): Promise<Go> {
  const before = mutationCount();
  let any = false;
  for (let turns = 0; turns < 30 && (await moveOnToRest(until)); turns++) {
    any = true;
    await caughtUp();
    if (traffic().pending || !isHoverShown()) break;
  }
  // What a canvas shows changes no node.
  const hasCanvas = (): boolean => rootsNow().some((root) => root.querySelector('canvas') !== null);
  return { any, showed: mutationCount() !== before || hasCanvas() };
}

/** So often the pointer may come to something else at one instant: what flees from it may be under it for ever. */
const mostPointed = 4;

/** What kept a page from coming to rest: in real time, and in the look's own, where it has its share all the same. */
export type Stillness = { unrest: Unrest; endless: string | null };

/**
 * Moves time on until the page is at rest: fonts and images are loaded, no finite animation runs, no request is under
 * way, and nothing waits that will happen by itself within `settle` milliseconds, but for what has no end. A page that
 * never rests must still be shown: it is told what kept it going. `isOver` ends the wait; `look` is the number of the
 * look whose pointer is on the page.
 */
export async function untilStill(settle: number, isOver: () => boolean, look?: number): Promise<Stillness> {
  const horizon = timeNow() + settle;
  let showed = false;
  let pointed = 0;
  for (;;) {
    const unrest = await untilQuiet(isOver);
    if (unrest !== null || isOver()) return { unrest, endless: null };
    // What came to lie under the pointer hears of it before time moves on, and not whenever the browser finds out.
    if (look !== undefined && !isHoverSettled() && pointed++ < mostPointed) {
      await hoverSettled(look);
      continue;
    }
    pointed = 0;
    const go = await moveOnInOneGo(horizon);
    // Frames that only watch whether something has moved are nobody's concern.
    if (!go.any) return { unrest, endless: settle > 0 ? endless(showed) : null };
    ({ showed } = go);
  }
}

/** A script that has come must still be run, and what it brings shown: for so many frames. */
const calmFrames = 3;
let lastFiles = 0;
let calm = 0;

/** True when no file has come for some frames. */
function isCalm(): boolean {
  const events = fileEvents();
  calm = events === lastFiles ? calm + 1 : 0;
  lastFiles = events;
  return events === 0 || calm >= calmFrames;
}

/** What has come of a wait: something happened at this instant, time has moved on, or nothing waits any more. */
export type Wait = 'stood' | 'loading' | 'moved' | 'nothing';

/**
 * Lets something happen while something is waited for: first what is left to do at this instant, then, when there is
 * nothing or `mayStand` is false, what comes next until a time.
 */
export async function waitOn(until: number, mayStand: boolean, look: number): Promise<Wait> {
  const before = mutationCount();
  const { events } = traffic();
  await runDue();
  await caughtUp();
  if (mutationCount() !== before && !isFramed()) await nextFrame();
  await learnFiles();
  if (traffic().pending) {
    await nextFrame();
    return 'loading';
  }
  if (mayStand && (mutationCount() !== before || traffic().events !== events)) return 'stood';
  if (!isCalm()) {
    await nextFrame();
    return 'loading';
  }
  if (!(await moveOn(until))) return 'nothing';
  await caughtUp();
  if (await motionTold()) await caughtUp();
  await hoverSettled(look);
  return 'moved';
}
