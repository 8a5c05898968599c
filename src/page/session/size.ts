/**
 * Pictures that reach beyond the viewport: Chromium makes the page another size for an instant while it takes one, and
 * tells it so. Nobody has changed the window, so the page does not hear of it.
 */
import { append, native } from '../host/natives.ts';
import { documentOf, framesOfPage } from '../record/frames.ts';
import { rootsNow } from '../record/roots.ts';
import { nextFrame } from '../time/frame.ts';

/** Pictures that are being taken. */
let taking = 0;

const sizeNow = (): string => `${innerWidth} ${innerHeight} ${devicePixelRatio}`;

/** On a busy machine the page hears so many frames late of the size that it has again, and of where the pointer is. */
const fewestFrames = 2;
const mostFrames = 30;

/** Takes a picture; what the page is told of its size meanwhile is kept from it, however late it is. */
export async function unnoticed<T>(take: () => Promise<T>): Promise<T> {
  const before = sizeNow();
  const letHear = hushInside();
  taking++;
  try {
    return await take();
  } finally {
    for (let frames = 0; frames < fewestFrames || (sizeNow() !== before && frames < mostFrames); frames++)
      await nextFrame();
    letHear();
    taking--;
  }
}

/** Each takes the size of what it listens to for the one that was heard of. */
const knowing: (() => void)[] = [];

/** A look begins: what went back to its size after the one before is nothing that it has to hear of. */
export function sizeKnown(): void {
  for (const know of knowing) know();
}

/** Keeps `resize` from listeners where no size has changed since they heard of one. */
function hushResize(target: EventTarget, sizeOf: () => string): void {
  let heard = sizeOf();
  const hush = (event: Event): void => {
    // What a component or a script dispatches is heard.
    if (!event.isTrusted || event.target !== target) return;
    const size = sizeOf();
    if (taking > 0 || size === heard) event.stopImmediatePropagation();
    else heard = size;
  };
  native.addEventListener.call(target, 'resize', hush, { capture: true });
  append(knowing, () => {
    heard = sizeOf();
  });
}

const extent = ({ borderBoxSize, contentRect: { width, height } }: ResizeObserverEntry): string =>
  JSON.stringify([width, height, borderBoxSize.map(({ inlineSize, blockSize }) => [inlineSize, blockSize])]);

/** Keeps sizes from observers that elements have only while a picture is taken, and that they had before it. */
function hushObservers(): void {
  const heard = new WeakMap<object, WeakMap<Element, string>>();
  window.ResizeObserver = class ResizeObserver extends window.ResizeObserver {
    constructor(callback: ResizeObserverCallback) {
      // What is no function is refused by the browser, in its own words.
      if (typeof callback !== 'function') super(callback);
      else
        super((entries, observer) => {
          if (taking > 0) return;
          const own = heard.get(observer);
          const changed = entries.filter((entry) => own?.get(entry.target) !== extent(entry));
          for (const entry of changed) own?.set(entry.target, extent(entry));
          if (changed.length > 0) callback.call(observer, changed, observer);
        });
      heard.set(this, new WeakMap());
    }

    // Whoever begins to observe an element is told its size, whatever that was before.
    override observe(element: Element, options?: ResizeObserverOptions): void {
      heard.get(this)?.delete(element);
      super.observe(element, options);
    }
  };
}

/** What tells where the pointer is: in a page of another size it is elsewhere, or nowhere, and nobody has moved it. */
const told = ['mouse', 'pointer'].flatMap((device) =>
  ['over', 'out', 'enter', 'leave', 'move'].map((what) => device + what),
);

const hushPointer = (event: Event): void => {
  if (taking > 0 && event.isTrusted) event.stopImmediatePropagation();
};

/** Coming and leaving is told inside shadow trees and frames only: nothing outside could keep it from anybody. */
function hushInside(): () => void {
  const inside = [...rootsNow(), ...framesOfPage().map(documentOf)].filter((one) => one !== null && one !== document);
  const all = (add: 'addEventListener' | 'removeEventListener'): void => {
    for (const root of inside) for (const what of told) native[add].call(root!, what, hushPointer, { capture: true });
  };
  all('addEventListener');
  return () => all('removeEventListener');
}

/** Called once, before anything of the project runs. */
export function watchSize(): void {
  hushResize(window, sizeNow);
  const view = window.visualViewport;
  if (view) hushResize(view, () => `${view.width} ${view.height} ${view.scale}`);
  hushObservers();
  for (const what of told) native.addEventListener.call(window, what, hushPointer, { capture: true });
}
