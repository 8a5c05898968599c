/** Listeners on what outlives a look: the window, the document, its root and its body. */
import { native } from '../host/natives.ts';
import type { Pin } from './pin.ts';

type Listening = {
  target: EventTarget;
  type: string;
  listener: EventListenerOrEventListenerObject;
  options?: boolean | AddEventListenerOptions;
};

let listening: Listening[] = [];
let tracking = false;
/** What modules listen to, rather than a look. */
let lastingly: Listening[] = [];

/** `onclick` and its kind, as they were before the first look. */
let handlers: { holder: Record<string, unknown>; name: string; value: unknown }[] = [];

const lasting = (target: EventTarget): boolean =>
  target === window || target === document || target === document.documentElement || target === document.body;

function handlersNow(): typeof handlers {
  const found: typeof handlers = [];
  for (const holder of [window, document, document.documentElement, document.body] as unknown as Record<
    string,
    unknown
  >[])
    for (const name in holder) if (name.startsWith('on')) found.push({ holder, name, value: holder[name] });
  return found;
}

export const listeners: Pin = {
  install() {
    const add = native.addEventListener;
    EventTarget.prototype.addEventListener = function (this: EventTarget | undefined, type, listener, options) {
      const target = this ?? window;
      if (listener && lasting(target)) {
        if (tracking) listening.push({ target, type, listener, options });
        else lastingly.push({ target, type, listener, options });
      }
      add.call(target, type, listener, options);
    };
    const remove = native.removeEventListener;
    EventTarget.prototype.removeEventListener = function (this: EventTarget | undefined, type, listener, options) {
      const target = this ?? window;
      const isIt = (one: Listening): boolean => one.target === target && one.type === type && one.listener === listener;
      if (!tracking && lasting(target)) lastingly = lastingly.filter((one) => !isIt(one));
      remove.call(target, type, listener, options);
    };
  },
  settle() {
    handlers = handlersNow();
    lastingly = [];
  },
  isMarked: () => lastingly.length > 0 || handlers.some(({ holder, name, value }) => holder[name] !== value),
  begin() {
    tracking = true;
  },
  end() {
    tracking = false;
    for (const { target, type, listener, options } of listening)
      native.removeEventListener.call(target, type, listener, options);
    listening = [];
    for (const { holder, name, value } of handlers) if (holder[name] !== value) holder[name] = value;
    return [];
  },
};
