/**
 * What has happened to the document since a look began: what was taken out of it, which texts it showed, and what was
 * touched since a script's first action.
 */
import { native } from '../host/natives.ts';
import { onRoot } from './roots.ts';

/** More than so many are not remembered. */
const most = 5000;

const observed: MutationObserverInit = {
  childList: true,
  attributes: true,
  attributeOldValue: true,
  characterData: true,
  characterDataOldValue: true,
  subtree: true,
};

type Touched = { attributes: Set<Node>; contents: Set<Node>; added: Set<Node>; any: boolean };

const untouched = (): Touched => ({ attributes: new Set(), contents: new Set(), added: new Set(), any: false });

let removed: Node[] = [];
let texts = new Set<string>();
let roles = new WeakMap<Element, Set<string>>();
let touched: Touched | null = null;

/** What an attribute said before counts as a text, and of roles it is known whose they were. */
function takeFormer(target: Node, name: string | null, value: string): void {
  if (texts.size < most) texts.add(value);
  if (name !== 'role' || !(target instanceof Element)) return;
  const own = roles.get(target) ?? new Set();
  roles.set(target, own.add(value));
}

function take(records: readonly MutationRecord[]): void {
  for (const { type, target, removedNodes, addedNodes, attributeName, oldValue } of records) {
    if (oldValue !== null) takeFormer(target, attributeName, oldValue);
    for (const node of removedNodes) if (removed.length < most) removed[removed.length] = node;
    if (!touched) continue;
    touched.any = true;
    (type === 'attributes' ? touched.attributes : touched.contents).add(target);
    for (const node of addedNodes) touched.added.add(node);
  }
}

let observer: MutationObserver | null = null;
let endRoots = (): void => {};

/** What people have entered changes no node. */
const entered = (event: Event): void => void (event.target instanceof Node && touched?.contents.add(event.target));
const kinds = ['input', 'change'];

/** A look begins. */
export function beginHistory(): void {
  removed = [];
  texts = new Set();
  roles = new WeakMap();
  touched = null;
  const own = new native.MutationObserver(take);
  own.observe(document, observed);
  endRoots = onRoot((root) => own.observe(root, observed));
  observer = own;
  for (const kind of kinds) native.addEventListener.call(window, kind, entered, { capture: true });
}

/** A look has ended. */
export function endHistory(): void {
  observer?.disconnect();
  observer = null;
  endRoots();
  for (const kind of kinds) native.removeEventListener.call(window, kind, entered, { capture: true });
  removed = [];
}

const flush = (): void => take(observer?.takeRecords() ?? []);

/** From now on it is followed what is touched. */
export function followTouched(): void {
  flush();
  touched = untouched();
}

/** Nodes that have been taken out of the document since the look began. */
export function removedNodes(): readonly Node[] {
  flush();
  return removed;
}

/** Texts that the document showed before others took their places. */
export function formerTexts(): ReadonlySet<string> {
  flush();
  return texts;
}

/** Roles that an element had before it said otherwise. */
export function formerRoles(element: Element): ReadonlySet<string> {
  flush();
  return roles.get(element) ?? new Set();
}

/** True when nothing at all has been touched since it is followed. */
export function isUntouched(): boolean {
  flush();
  return touched?.any !== true;
}

/** True when neither an element, nor anything in it, nor attributes around it have been touched since then. */
export function isAsItWas(element: Element): boolean {
  flush();
  if (!touched) return true;
  for (let node: Node | null = element; node; node = node.parentNode ?? (node as ShadowRoot).host ?? null)
    if (touched.attributes.has(node) || touched.added.has(node)) return false;
  for (const node of [...touched.attributes, ...touched.contents, ...touched.added])
    if (element.contains(node)) return false;
  return true;
}
