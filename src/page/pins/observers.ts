/** Observers of sizes and of what can be seen hear of changes with a frame: time must not move on before. */
import { awaitFrame } from '../time/frame.ts';
import type { Pin } from './pin.ts';

/** Those that observe something now. */
let active = new Set<object>();
/** A module observes something, rather than a look. */
let isWatching = false;

/** True when somebody would hear of a change of the layout. */
export const isObserved = (): boolean => active.size > 0;

type Observing = { observe(...args: unknown[]): void; disconnect(): void };

function watch(prototype: Observing): void {
  const { observe, disconnect } = prototype;
  prototype.observe = function (...args) {
    active.add(this);
    isWatching = true;
    awaitFrame();
    observe.apply(this, args);
  };
  prototype.disconnect = function () {
    active.delete(this);
    disconnect.call(this);
  };
}

export const observersPin: Pin = {
  install() {
    watch(ResizeObserver.prototype as Observing);
    watch(IntersectionObserver.prototype as Observing);
    const { observe } = MutationObserver.prototype;
    MutationObserver.prototype.observe = function (target, options) {
      isWatching = true;
      observe.call(this, target, options);
    };
  },
  settle() {
    isWatching = false;
  },
  isMarked: () => isWatching,
  begin() {
    active = new Set();
  },
  end() {
    isWatching = false;
    return [];
  },
};
