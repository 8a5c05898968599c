/**
 * The page as it is shown (DOM, flat tree): what a slot shows lies where the slot is, and not where it stands in the
 * document.
 */
import { frameAround, isElement } from './element.ts';

/** What a node lies in as it is rendered: its slot, its parent, the host of its shadow root, or the frame around it. */
export const flatParent = (node: Node): Node | null =>
  (node as Element).assignedSlot ?? node.parentNode ?? (node as ShadowRoot).host ?? frameAround(node);

/** True when `inner` is `outer` or is rendered inside it. */
export function within(inner: Node | null, outer: Element): boolean {
  for (let node: Node | null = inner; node; node = flatParent(node)) if (node === outer) return true;
  return false;
}

/** Everything that an element lies in, from the inside out, the element itself first. */
export function* around(element: Element): Generator<Element> {
  for (let node: Node | null = element; node; node = flatParent(node)) if (isElement(node)) yield node;
}

const isInShadow = (element: Element): boolean => element.getRootNode().nodeType === Node.DOCUMENT_FRAGMENT_NODE;

/**
 * Nodes of another tree that slots in an element show in it. A slot among them shows nodes of yet another tree.
 */
export function slottedIn(element: Element): Node[] {
  if (!isInShadow(element)) return [];
  const slots = [...(element.localName === 'slot' ? [element] : []), ...element.querySelectorAll('slot')];
  return slots.flatMap((slot) => (slot as HTMLSlotElement).assignedNodes());
}
