/** The page as the rules of accessibility look at it: its elements once, with what each of them is. */
import { readable } from '../../core/text/folded.ts';
import { nameOf, roleOf, textOf } from '../act/names.ts';
import { rootsNow } from '../record/roots.ts';

export type Seen = {
  element: Element;
  tag: string;
  /** Its role (HTML-AAM, or as it was given); null when it has none. */
  role: string | null;
  /** The role that its author gave it, as far as there is one. */
  given: string | null;
  /** It is painted, as far as style says. */
  isPainted: boolean;
  /** Assistive technology is told of it. */
  isTold: boolean;
  parent: Seen | null;
};

export type Scene = {
  all: Seen[];
  /** Those that assistive technology is told of. */
  told: Seen[];
  of(element: Element | null): Seen | null;
};

const parentOf = (element: Element): Element | null => {
  if (element.assignedSlot) return element.assignedSlot;
  const root = element.parentNode;
  return element.parentElement ?? (root instanceof ShadowRoot ? root.host : null);
};

/** Looks at everything that is on the page now. */
export function sceneNow(): Scene {
  const known = new Map<Element, Seen>();
  const look = (element: Element): Seen => {
    const before = known.get(element);
    if (before) return before;
    const above = parentOf(element);
    const isWithin = above !== null && above !== document.body && above !== document.documentElement;
    const parent = isWithin ? look(above) : null;
    // Areas of image maps have no box of their own.
    const isShown = /^(area|map)$/.test(element.localName) || element.checkVisibility({ visibilityProperty: true });
    const isPainted = (parent?.isPainted ?? true) && isShown;
    const isKept = (parent?.isTold ?? true) || (parent !== null && !parent.isPainted && !isAriaHidden(parent));
    const seen: Seen = {
      element,
      tag: element.localName,
      role: roleOf(element),
      given: element.getAttribute('role')?.trim().toLowerCase().split(/\s+/)[0] || null,
      isPainted,
      isTold: isPainted && isKept && element.getAttribute('aria-hidden') !== 'true',
      parent,
    };
    known.set(element, seen);
    return seen;
  };
  const all: Seen[] = [];
  for (const root of rootsNow()) {
    const elements = root === document ? document.body.querySelectorAll('*') : root.querySelectorAll('*');
    for (const element of elements) if (!isOwn(element)) all.push(look(element));
  }
  return { all, told: all.filter(({ isTold }) => isTold), of: (element) => (element && known.get(element)) ?? null };
}

/** True when it or something around it is hidden from assistive technology by its author. */
const isAriaHidden = ({ element, parent }: Seen): boolean =>
  element.getAttribute('aria-hidden') === 'true' || (parent !== null && isAriaHidden(parent));

/** What the page has from us. */
const isOwn = (element: Element): boolean =>
  (element.id === 'look' && element.parentElement === document.body) ||
  /^(script|style|link|template)$/.test(element.localName);

/** True for an element that holds nothing but text, which it is called by unless it says otherwise. */
const isPlainText = (element: Element): boolean =>
  element.firstElementChild === null && !element.hasAttribute('aria-labelledby') && !element.hasAttribute('aria-label');

/** The name of what is called by its content, as buttons are: computing it takes a while, and most hold just text. */
export const calledBy = (element: Element): string =>
  (isPlainText(element) && readable(element.textContent ?? '')) || nameOf(element);

/** True for what has a name that assistive technology can read out. */
export const isNamed = (element: Element): boolean => nameOf(element) !== '';

/** The first element around one for which something holds. */
export function around({ parent }: Seen, is: (seen: Seen) => boolean): Seen | null {
  for (let at = parent; at; at = at.parent) if (is(at)) return at;
  return null;
}

/** True for an element that takes the focus unless something speaks against it. */
function takesFocus({ element, tag }: Seen): boolean {
  const tabindex = element.getAttribute('tabindex');
  if (tabindex !== null && /^-?\d+$/.test(tabindex.trim())) return true;
  if (tag === 'a' || tag === 'area') return element.hasAttribute('href');
  if (tag === 'input') return (element as HTMLInputElement).type !== 'hidden';
  if (tag === 'summary') return element.parentElement?.localName === 'details';
  if (tag === 'audio' || tag === 'video') return element.hasAttribute('controls');
  if (/^(button|select|textarea|iframe)$/.test(tag)) return true;
  return element.hasAttribute('contenteditable') && (element as HTMLElement).isContentEditable;
}

/** True for what the keyboard can go to, as its markup says. */
export const canHaveFocus = (seen: Seen): boolean =>
  takesFocus(seen) && seen.isPainted && !seen.element.matches(':disabled') && !seen.element.closest('[inert]');

/** True for what is reached with Tab. */
export const isInTabOrder = (seen: Seen): boolean => {
  const tabindex = Number(seen.element.getAttribute('tabindex') ?? 0);
  return canHaveFocus(seen) && !(tabindex < 0);
};

/** The text that a person reads in an element; what assistive technology is told elsewhere is not in it. */
export const seenText = (element: Element): string => textOf(element);
