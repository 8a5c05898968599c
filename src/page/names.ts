/** Accessible roles and names of elements, and how an element is described to a person. */
import { computeAccessibleName, getRole, isInaccessible } from 'dom-accessibility-api';

// Chromium computes styles of ::before and ::after, so names include their content.
const options = { computedStyleSupportsPseudoElements: true };

export const roleOf = (element: Element): string | null => getRole(element);

/** The accessible name (accname-1.2) with white space folded. */
export const nameOf = (element: Element): string => computeAccessibleName(element, options).replace(/\s+/g, ' ').trim();

export const isHiddenFromPeople = (element: Element): boolean => isInaccessible(element);

/** Text as a person reads it: rendered text with white space folded. */
export const textOf = (element: Element): string => ((element as HTMLElement).innerText ?? element.textContent ?? '').replace(/\s+/g, ' ').trim();

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
