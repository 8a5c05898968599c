/** What can be registered with a document, and never be taken back: elements, properties of style sheets, fonts. */
import type { Pin } from './pin.ts';

let isChanged = false;

type Method = (this: unknown, ...args: unknown[]) => unknown;

function watch(holder: object, name: string): void {
  const registry = holder as Record<string, Method>;
  const original = registry[name]!;
  registry[name] = function (...args) {
    isChanged = true;
    return original.apply(this, args);
  };
}

export const registries: Pin = {
  install() {
    watch(CustomElementRegistry.prototype, 'define');
    watch(CSS, 'registerProperty');
    watch(Object.getPrototypeOf(document.fonts) as object, 'add');
  },
  settle() {
    isChanged = false;
  },
  isMarked: () => isChanged,
};
