/** ECMA-262, B.2.2: they tell an accessor's functions without making a descriptor. */
type Lookup = {
  __lookupGetter__(this: object, key: PropertyKey): unknown;
  __lookupSetter__(this: object, key: PropertyKey): unknown;
};

/**
 * What the page's own work is done with. Taken before anything of the project is evaluated, so that a component that
 * replaces a function of the platform does not change what Sguardo does.
 */
export const native = {
  now: performance.now.bind(performance),
  setTimeout: window.setTimeout.bind(window),
  clearTimeout: window.clearTimeout.bind(window),
  setInterval: window.setInterval.bind(window),
  clearInterval: window.clearInterval.bind(window),
  requestAnimationFrame: window.requestAnimationFrame.bind(window),
  cancelAnimationFrame: window.cancelAnimationFrame.bind(window),
  fetch: window.fetch.bind(window),
  timeStamp: console.timeStamp.bind(console),
  addEventListener: EventTarget.prototype.addEventListener,
  removeEventListener: EventTarget.prototype.removeEventListener,
  MutationObserver: window.MutationObserver,
  CSSStyleSheet: window.CSSStyleSheet,
  Date,
  getOwnPropertyDescriptor: Object.getOwnPropertyDescriptor,
  defineProperty: Object.defineProperty,
  ownKeys: Reflect.ownKeys,
  is: Object.is,
  getterOf: (Object.prototype as Lookup).__lookupGetter__,
  setterOf: (Object.prototype as Lookup).__lookupSetter__,
  stringify: JSON.stringify,
};

/** Adds to the end of a list, also when a component has replaced `push`. */
export function append<T>(list: T[], item: T): void {
  list[list.length] = item;
}
