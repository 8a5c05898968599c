/** Every root of the page: the document and the shadow roots in it, open or closed. */
import { append, native } from '../host/natives.ts';

const shadows = new WeakMap<Element, ShadowRoot>();
const known = new Set<ShadowRoot>();
const listeners = new Set<(root: ShadowRoot) => void>();

/** Takes a root in. */
function take(host: Element, root: ShadowRoot): void {
  if (known.has(root)) return;
  known.add(root);
  shadows.set(host, root);
  for (const listener of listeners) listener(root);
}

/** Called once, before anything of the project runs: closed roots can be seen at no later time. */
export function watchRoots(): void {
  const attach = Element.prototype.attachShadow;
  Element.prototype.attachShadow = function (init) {
    const root = attach.call(this, init);
    take(this, root);
    return root;
  };
}

/** The shadow root of an element, open or closed, or null. */
export function shadowOf(element: Element): ShadowRoot | null {
  const root = element.shadowRoot ?? shadows.get(element) ?? null;
  // A root that a parser has made is met here first.
  if (root) take(element, root);
  return root;
}

/** The document and every shadow root that is in it. */
export function rootsNow(): (Document | ShadowRoot)[] {
  const roots: (Document | ShadowRoot)[] = [document];
  for (const root of known) if (root.isConnected) append(roots, root);
  return roots;
}

/** Calls `listener` for every shadow root there is and will be. Returns a function that ends that. */
export function onRoot(listener: (root: ShadowRoot) => void): () => void {
  for (const root of known) if (root.isConnected) listener(root);
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** A look has ended: roots that are not in the document any more are forgotten until they are met again. */
export function forgetRoots(): void {
  for (const root of known) if (!root.isConnected) known.delete(root);
}

let mutations = 0;
const counting = new native.MutationObserver((records) => {
  mutations += records.length;
});
const all: MutationObserverInit = { childList: true, attributes: true, characterData: true, subtree: true };
counting.observe(document, all);
onRoot((root) => counting.observe(root, all));

/** Grows with every change of the document or a shadow root. */
export function mutationCount(): number {
  mutations += counting.takeRecords().length;
  return mutations;
}
