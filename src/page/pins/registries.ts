/**
 * What can be registered with a document, and never be taken back: elements, properties of style sheets, worklets,
 * fonts.
 */
import type { Pin } from './pin.ts';

let isChanged = false;
let taught = false;

/** True once scripts have told the document of properties, painters or fonts that no style sheet tells of. */
export const isTaught = (): boolean => taught;

type Method = (this: unknown, ...args: unknown[]) => unknown;

function watch(holder: object, name: string, isTeaching: boolean): void {
  const registry = holder as Record<string, Method>;
  const original = registry[name]!;
  registry[name] = function (...args) {
    isChanged = true;
    taught ||= isTeaching;
    return original.apply(this, args);
  };
}

export const registries: Pin = {
  install() {
    watch(CustomElementRegistry.prototype, 'define', false);
    watch(CSS, 'registerProperty', true);
    watch(Worklet.prototype, 'addModule', true);
    watch(Object.getPrototypeOf(document.fonts) as object, 'add', true);
  },
  settle() {
    isChanged = false;
  },
  isMarked: () => isChanged,
};
