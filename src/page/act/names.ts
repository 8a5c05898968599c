/** Accessible roles and names of elements, and how an element is described to a person. */
import { computeAccessibleDescription, computeAccessibleName, getRole, isInaccessible } from 'dom-accessibility-api';
import { matches } from '../../core/value/equal.ts';
import type { Name } from '../../language/target.ts';
import { shadowOf } from '../record/roots.ts';
import { atThisInstant } from './memo.ts';

// Chromium computes styles of ::before and ::after, so names include their content.
const options = { computedStyleSupportsPseudoElements: true };

/** Roles of HTML-AAM 1.0 that the library leaves out. */
const more: Record<string, string> = {
  blockquote: 'blockquote',
  caption: 'caption',
  code: 'code',
  del: 'deletion',
  em: 'emphasis',
  ins: 'insertion',
  meter: 'meter',
  p: 'paragraph',
  s: 'deletion',
  search: 'search',
  strong: 'strong',
  sub: 'subscript',
  sup: 'superscript',
  time: 'time',
};

const isNamed = (element: Element): boolean =>
  ['aria-label', 'aria-labelledby', 'title'].some((name) => element.getAttribute(name));

/** White space folded, as names are compared. */
export const fold = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** True when a name is the wanted one, white space folded, or holds the wanted pattern. */
export const matchesName = (actual: string, wanted: Name): boolean =>
  typeof wanted === 'string' ? fold(actual) === fold(wanted) : matches(wanted, actual);

/** The role of an element (HTML-AAM 1.0), or null when it has none. */
export function roleOf(element: Element): string | null {
  const role = getRole(element) ?? more[element.localName] ?? null;
  if (element.hasAttribute('role')) return role;
  switch (element.localName) {
    case 'header':
    case 'footer':
      // Those of a part of the page are no landmarks.
      return element.closest('article,aside,main,nav,section') ? null : role;
    case 'form':
    case 'section':
      return isNamed(element) ? role : null;
    case 'th':
      return /^row/i.test(element.getAttribute('scope') ?? '') ? 'rowheader' : role;
    default:
      return role;
  }
}

/** The accessible name (accname-1.2) with white space folded. */
export const nameOf = (element: Element): string => names(element, (one) => fold(computeAccessibleName(one, options)));

const names = atThisInstant<Element, string>();
const hidden = atThisInstant<Element, boolean>();

/** The accessible description with white space folded. */
export const descriptionOf = (element: Element): string => fold(computeAccessibleDescription(element));

export const isHiddenFromPeople = (element: Element): boolean => hidden(element, isInaccessible);

/** Text as a person reads it: rendered text with white space folded. */
export const textOf = (element: Element): string =>
  fold((element as HTMLElement).innerText ?? element.textContent ?? '');

/** The text of an element, that of shadow roots in it included. */
export function contentOf(element: Element): string {
  const inside = [element, ...element.querySelectorAll('*')].flatMap((one) => shadowOf(one) ?? []);
  const texts = inside.flatMap((root) => [...root.children].map(contentOf));
  return fold([textOf(element), ...texts].join(' '));
}

const shorten = (text: string, most = 60): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

/** `button “Release berth”`, or `<div class="scrim">` for what has no role and name. */
export function describe(element: Element): string {
  const role = roleOf(element);
  const name = role ? nameOf(element) : '';
  if (role && name) return `${role} “${shorten(name)}”`;
  const id = element.id ? ` id="${element.id}"` : '';
  const style = element.getAttribute('class');
  const tag = `<${element.localName}${id}${style ? ` class="${shorten(style, 40)}"` : ''}>`;
  const text = shorten(textOf(element), 40);
  return text ? `${tag} “${text}”` : tag;
}
