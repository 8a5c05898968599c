/** Accessible roles and names of elements, and how an element is described to a person. */
import { computeAccessibleDescription, computeAccessibleName, getRole, isInaccessible } from 'dom-accessibility-api';
import { namedByContent } from '../../core/moment/named.ts';
import { withBlanksOf } from '../../core/text/blanks.ts';
import { readable, shortened } from '../../core/text/folded.ts';
import { matches } from '../../core/value/equal.ts';
import type { Name } from '../../language/target.ts';
import { internalsOf } from '../record/internals.ts';
import { rootsNow, shadowOf } from '../record/roots.ts';
import { isElement } from './element.ts';
import { slottedIn } from './flat.ts';
import { stylesForNames, stylesWithoutMarks } from './generated.ts';
import { atThisInstant } from './memo.ts';

// Chromium computes styles of ::before and ::after, so names include their content.
const options = { computedStyleSupportsPseudoElements: true, getComputedStyle: stylesForNames };

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

/** True when a name is the wanted one, white space folded, or holds the wanted pattern. */
export const matchesName = (actual: string, wanted: Name): boolean =>
  typeof wanted === 'string' ? readable(actual) === readable(wanted) : matches(wanted, actual);

/** The role of an element (HTML-AAM 1.0), or null when it has none. */
export function roleOf(element: Element): string | null {
  const role = getRole(element) ?? more[element.localName] ?? null;
  if (element.hasAttribute('role')) return role;
  const said = internalsOf(element)?.role;
  if (said) return said;
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

/** The labels of a custom element that takes part in forms. */
function labelsOfCustom(internals: ElementInternals): Element[] {
  try {
    return [...internals.labels].filter(isElement);
  } catch {
    return [];
  }
}

/** The name of a custom element that says its role to the browser alone; empty where attributes name it. */
function customName(element: Element): string {
  const internals = internalsOf(element);
  if (!internals?.role || element.hasAttribute('role') || isNamed(element)) return '';
  const labels = labelsOfCustom(internals).map(textOf).join(' ');
  const content = namedByContent.has(internals.role) ? contentOf(element) : '';
  return readable(internals.ariaLabel || labels || content);
}

/** True for an element with a shadow root, or with one somewhere in it. */
const hasRoots = (element: Element): boolean =>
  rootsNow().length > 1 && [element, ...element.querySelectorAll('*')].some(shadowOf);

/** What says more of a name than its text does. */
const telling = '[aria-labelledby], [aria-owns], [title], svg, input, select, textarea';

/**
 * The name that an element has from what is shown in it through shadow roots and slots, of which the library knows
 * nothing; empty where it has it from elsewhere.
 */
function shownName(element: Element): string {
  if (isNamed(element) || !hasRoots(element) || !namedByContent.has(roleOf(element) ?? '')) return '';
  const isLabelled = ((element as HTMLButtonElement).labels?.length ?? 0) > 0;
  return isLabelled || element.querySelector(telling) ? '' : readable(shownText(element, true));
}

/** The accessible name (accname-1.2) with white space folded. */
export const nameOf = (element: Element): string =>
  names(element, (one) => customName(one) || shownName(one) || spaced(computedName(one), namedBy(one)));

/** The name without the letters of icon fonts: where nothing is left of it, the title is the name. */
function computedName(element: Element): string {
  const name = computeAccessibleName(element, options);
  return readable(name) || (name === '' ? '' : readable(element.getAttribute('title') ?? ''));
}

/**
 * True when a name is that of an element without the marks that its styles add, such as the star of what is required:
 * a person who says what a field is called leaves them out.
 */
export function isCalled(element: Element, wanted: string): boolean {
  const plain = { ...options, getComputedStyle: stylesWithoutMarks };
  return nameOf(element).includes(readable(wanted)) && matchesName(computeAccessibleName(element, plain), wanted);
}

const names = atThisInstant<Element, string>();
const hidden = atThisInstant<Element, boolean>();

/** The accessible description with white space folded. */
export const descriptionOf = (element: Element): string =>
  spaced(readable(computeAccessibleDescription(element, options)), [referred(element, 'aria-describedby')]);

/** The elements that an attribute refers to by their ids. */
function referred(element: Element, attribute: string): Element[] {
  const root = element.getRootNode() as Document | ShadowRoot;
  const ids = element.getAttribute(attribute)?.split(/\s+/).filter(Boolean) ?? [];
  return ids.flatMap((id) => root.getElementById?.(id) ?? []);
}

/** What an element may have its name from: each of these lists together. */
function namedBy(element: Element): Element[][] {
  const labels = [...((element as HTMLInputElement).labels ?? [])];
  const titles = [...element.children].filter(({ localName }) => /^(legend|caption|figcaption)$/.test(localName));
  return [referred(element, 'aria-labelledby'), labels, titles, [element]];
}

/**
 * A text with the blanks that are shown in it: the library drops them at the edges of what stands in a line, and makes
 * “Lengthin metres” of `Length<i> in metres</i>`.
 */
function spaced(text: string, sources: readonly Element[][]): string {
  for (const elements of sources) {
    // Where nothing stands in an element, nothing has edges.
    if (text === '' || !elements.some(({ firstElementChild }) => firstElementChild)) continue;
    const shown = elements.map(textOf).join(' ');
    const found = shown === text ? null : withBlanksOf(text, shown);
    if (found !== null) return found;
  }
  return text;
}

export const isHiddenFromPeople = (element: Element): boolean => hidden(element, isInaccessible);

/** Text as a person reads it: rendered text with white space folded. */
export const textOf = (element: Element): string =>
  readable((element as HTMLElement).innerText ?? element.textContent ?? '');

/** What is shown in a node: of a host its shadow root, of a slot what that shows. */
function shownIn(node: Element): readonly Node[] {
  const root = shadowOf(node);
  if (root) return [...root.childNodes];
  const slotted = node.localName === 'slot' ? (node as HTMLSlotElement).assignedNodes() : [];
  return slotted.length > 0 ? slotted : [...node.childNodes];
}

/**
 * The texts of what is shown in an element, those apart that are not in one line; with `isHeard` as assistive
 * technology hears them.
 */
function shownText(node: Node, isHeard = false): string {
  if (node.nodeType === Node.TEXT_NODE) return node.textContent ?? '';
  if (!isElement(node) || /^(style|script|template|noscript)$/.test(node.localName)) return '';
  const { display, visibility } = getComputedStyle(node);
  if (display === 'none' || visibility !== 'visible') return '';
  if (isHeard && node.getAttribute('aria-hidden') === 'true') return '';
  const said = isHeard ? node.getAttribute('aria-label') || node.getAttribute('alt') : null;
  const text =
    said ??
    shownIn(node)
      .map((one) => shownText(one, isHeard))
      .join('');
  return /^(inline|contents)$/.test(display) ? text : ` ${text} `;
}

/** The text of an element as it is shown, that of shadow roots and slots in it included, white space folded. */
export function contentOf(element: Element): string {
  return slottedIn(element).length > 0 || hasRoots(element) ? readable(shownText(element)) : textOf(element);
}

const shorten = (text: string, most = 60): string => shortened(text, most);

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
