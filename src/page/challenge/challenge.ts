/** Makes one thing of the page wrong while a look runs, and keeps it wrong, whatever the component does. */
import { sayingOf } from '../../core/challenge/identity.ts';
import type { Mutation } from '../../core/challenge/mutation.ts';
import { native } from '../host/natives.ts';
import { onRoot, rootsNow, shadowOf } from '../record/roots.ts';

type Placed = Extract<Mutation, { at: object }>;

let mutation: Mutation | null = null;
/** What has been made wrong. */
let wrong = new WeakSet<Node>();
const sheetsOff: CSSStyleSheet[] = [];
let observers: { stop(): void }[] = [];

const unseen = new Set(['script', 'style', 'link', 'meta', 'template', 'title', 'noscript']);

const textNodes = (element: Element): Text[] =>
  [...element.childNodes].filter((node): node is Text => node.nodeType === Node.TEXT_NODE);

const sayingNow = (element: Element): string => {
  const text = textNodes(element)
    .map(({ data }) => data)
    .join(' ');
  return sayingOf(element.localName, (name) => element.getAttribute(name), text);
};

/** The element that a mutation is about, as the document is now; null while there is none. */
function sought({ at }: Placed): Element | null {
  let found: Element | null = null;
  let passed = 0;
  const visit = (parent: ParentNode): void => {
    for (const element of parent.children) {
      if (found) return;
      if (unseen.has(element.localName)) continue;
      // What was made wrong says something else now, and counts all the same.
      if ((wrong.has(element) || sayingNow(element) === at.says) && passed++ === at.nth) {
        found = element;
        return;
      }
      const shadow = shadowOf(element);
      if (shadow) visit(shadow);
      visit(element);
    }
  };
  visit(document.body);
  return found;
}

function spoilText(element: Element, instead: string): void {
  const [first, ...rest] = textNodes(element).filter(({ data }) => data.trim() !== '');
  if (!first) return;
  first.data = instead;
  for (const text of rest) text.data = '';
}

function spoilAttribute(element: Element, { name, instead }: Extract<Mutation, { kind: 'attribute' }>): void {
  if (instead === null) element.removeAttribute(name);
  else if (element.getAttribute(name) !== instead) element.setAttribute(name, instead);
}

function spoilOrder(element: Element): void {
  const first = element.firstElementChild;
  const last = [...element.children].findLast(({ localName }) => localName === first?.localName);
  if (first && last && first !== last) element.insertBefore(last, first);
}

function spoilStyles(): void {
  for (const root of rootsNow())
    for (const sheet of [...root.styleSheets, ...root.adoptedStyleSheets])
      if (!sheet.disabled) {
        sheet.disabled = true;
        sheetsOff.push(sheet);
      }
}

/** True while an element is as its mutation has made it. */
function isStill(element: Element, mutated: Placed): boolean {
  if (!wrong.has(element)) return false;
  if (mutated.kind === 'hidden') return (element as HTMLElement).style.display === 'none';
  return sayingNow(element) !== mutated.at.says || mutated.kind === 'order';
}

function spoilElement(element: Element, mutated: Placed): void {
  if (isStill(element, mutated)) return;
  wrong.add(element);
  const { kind } = mutated;
  if (kind === 'text') spoilText(element, mutated.instead);
  else if (kind === 'attribute') spoilAttribute(element, mutated);
  else if (kind === 'hidden') (element as HTMLElement).style.setProperty('display', 'none', 'important');
  else if (kind === 'order') spoilOrder(element);
}

function spoil(): void {
  if (!mutation || mutation.kind === 'handlers' || mutation.kind === 'answer') return;
  if (mutation.kind === 'styles') {
    spoilStyles();
    return;
  }
  const element = sought(mutation);
  if (element) spoilElement(element, mutation);
}

/** What people do to an element. */
const deeds = (
  'click dblclick auxclick contextmenu pointerdown pointerup pointermove pointerover pointerenter mousedown mouseup ' +
  'mousemove mouseover mouseenter touchstart touchend touchmove keydown keyup keypress beforeinput input change ' +
  'focus focusin blur focusout submit reset drag dragstart dragend dragenter dragover dragleave drop wheel ' +
  'paste copy cut'
).split(' ');

/** Keeps from an element's handlers, and from those around it, whatever is done to it. */
function withhold(event: Event): void {
  if (mutation?.kind !== 'handlers') return;
  const element = sought(mutation);
  if (!element || !event.composedPath().includes(element)) return;
  event.stopImmediatePropagation();
  // Without its handler a form would be sent, and a link followed.
  const isLink = event.type === 'click' && element.closest('a[href]');
  if (event.type === 'submit' || isLink) event.preventDefault();
}

const everything: MutationObserverInit = { childList: true, attributes: true, characterData: true, subtree: true };

/** A look begins that is challenged, or with null one that is not. */
export function beginChallenge(given: Mutation | null): void {
  mutation = given;
  if (!given || given.kind === 'answer') return;
  wrong = new WeakSet();
  if (given.kind === 'handlers') {
    for (const deed of deeds) native.addEventListener.call(window, deed, withhold, true);
    const stop = (): void => {
      for (const deed of deeds) native.removeEventListener.call(window, deed, withhold, true);
    };
    observers = [{ stop }];
    return;
  }
  const observer = new native.MutationObserver(spoil);
  observer.observe(document, everything);
  const forget = onRoot((root) => observer.observe(root, everything));
  observers = [{ stop: () => observer.disconnect() }, { stop: forget }];
  spoil();
}

/** The look has ended: what is on the page is taken down as it is, and sheets that stay count again. */
export function endChallenge(): void {
  mutation = null;
  for (const observer of observers.splice(0)) observer.stop();
  for (const sheet of sheetsOff.splice(0)) sheet.disabled = false;
}

/** True for a request that is to fail: its method and path, as the network lane has them. */
export const isToFail = (request: string): boolean => mutation?.kind === 'answer' && mutation.request === request;
