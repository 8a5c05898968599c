/** Finds the elements that a target describes, now. */
import { fail } from '../../core/problem/problem.ts';
import { readable } from '../../core/text/folded.ts';
import { isTarget, type Name, type Narrowing, type Query, type Target } from '../../language/target.ts';
import { append } from '../host/natives.ts';
import { markAttribute } from '../host/settings.ts';
import { documentIn } from '../record/frames.ts';
import { internalsOf } from '../record/internals.ts';
import { shadowOf } from '../record/roots.ts';
import { ariaOf } from './aria.ts';
import { partsOf, selectedIn, selectorFor } from './candidates.ts';
import { isEditedInPlace, isElement } from './element.ts';
import { slottedIn, within } from './flat.ts';
import { contentOf, isCalled, isHiddenFromPeople, matchesName, nameOf, roleOf } from './names.ts';
import { cannotBeNamed } from './namesakes.ts';
import { isIn } from './states.ts';

/** Every element below a root in document order, through shadow roots and frames, its own included, and in slots. */
export function* elementsIn(root: Element | ShadowRoot | Document): Generator<Element> {
  const own = isElement(root) ? (shadowOf(root) ?? documentIn(root)) : null;
  if (own) yield* elementsIn(own);
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_ELEMENT);
  for (let node = walker.nextNode() as Element | null; node; node = walker.nextNode() as Element | null) {
    yield node;
    const inside = shadowOf(node) ?? documentIn(node);
    if (inside) yield* elementsIn(inside);
  }
  for (const node of isElement(root) ? slottedIn(root) : [])
    if (isElement(node)) {
      yield node;
      yield* elementsIn(node);
    }
}

const fieldTags = new Set(['input', 'textarea', 'select']);
const fieldRoles = new Set([
  'textbox',
  'searchbox',
  'combobox',
  'spinbutton',
  'slider',
  'switch',
  'checkbox',
  'radio',
  'listbox',
]);

export const isField = (element: Element): boolean =>
  (fieldTags.has(element.localName) && (element as HTMLInputElement).type !== 'hidden') ||
  fieldRoles.has(element.getAttribute('role') ?? internalsOf(element)?.role ?? '') ||
  isEditedInPlace(element);

/** Elements that show a picture: those that HTML gives a text alternative, and what has the role. */
export const isPicture = (element: Element): boolean =>
  element.matches('img, area, input[type="image"], svg') || roleOf(element) === 'img';

/** What a picture says in place of itself: its accessible name, or the text of its `<title>`. */
export const alternativeOf = (element: Element): string =>
  nameOf(element) || readable(element.querySelector(':scope > title')?.textContent ?? '');

/** The title of an element, or of an SVG shape. */
export const titleOf = (element: Element): string | null =>
  element.getAttribute('title') ?? element.querySelector(':scope > title')?.textContent ?? null;

/** The text that stands in an empty field. */
export const placeholderOf = (element: Element): string | null =>
  element.getAttribute('placeholder') ?? ariaOf(element, 'placeholder');

const isText = (text: string | null, wanted: Name): boolean => text !== null && matchesName(readable(text), wanted);

/** The text that stands in an element itself, and not in others in it. */
export const ownText = (element: Element): string =>
  [...element.childNodes].map((node) => (node.nodeType === Node.TEXT_NODE ? node.textContent : ' ')).join('');

/** What the page is called, which stands nowhere on it. */
const titleElement = (): Element | null => document.head?.querySelector('title') ?? null;

/**
 * True for an element whose text is the wanted one while none of its children's is, the innermost; or which has it
 * beside other elements.
 */
function isInnermost(element: Element, text: Name): boolean {
  if (element.localName === 'script' || element.localName === 'style' || element === titleElement()) return false;
  if (isText(element.textContent, text)) return ![...element.children].some((child) => isText(child.textContent, text));
  const isBeside = typeof text === 'string' && element.firstElementChild !== null;
  return isBeside && isText(ownText(element), text);
}

function byText(scope: Element | Document, text: Name): Element[] {
  const found: Element[] = [];
  for (const element of elementsIn(scope)) if (isInnermost(element, text)) append(found, element);
  return found;
}

type Part = Element | Document | ShadowRoot;

/** True for what is in a frame, which may have shadow roots that nobody has heard of. */
const isFramed = (part: Part): boolean => part.ownerDocument !== document && part !== document;

/** What was found in each part of a scope, in the order in which it stands in the page. */
function joined(scope: Element | Document, found: readonly (readonly Element[])[]): Element[] {
  const all = found.flat();
  if (found.filter(({ length }) => length > 0).length < 2) return all;
  const wanted = new Set(all);
  return [...elementsIn(scope)].filter((element) => wanted.has(element));
}

/** A selector means as much in shadow roots and frames as in the page, in each of them by itself. */
function byCss(scope: Element | Document, selector: string): Element[] {
  const inPart = (part: Part): Element[] =>
    isFramed(part)
      ? [...elementsIn(part)].filter((element) => element.matches(selector))
      : [...part.querySelectorAll(selector)];
  try {
    return joined(scope, partsOf(scope).map(inPart));
  } catch {
    return fail('bad-step', {
      what: `“${selector}” is not a CSS selector.`,
      remedy: 'Correct it, or name the element as a person would: the.button(…), the.field(…), the.text(…).',
    });
  }
}

/** Tells whether an element has a name. */
type Naming = (element: Element, wanted: Name) => boolean;

/** It has that very name. */
const byName: Naming = (element, wanted) => matchesName(nameOf(element), wanted);

/** It has that name but for marks that styles add. */
const byPlainName: Naming = (element, wanted) => typeof wanted === 'string' && isCalled(element, wanted);

/** Whether an element has the name that is asked for, if one is. */
export const isNamed = (element: Element, { name, state }: Query & { by: 'role' }, has = byName): boolean => {
  if (name === undefined) return true;
  const isPart = state.exact === false && typeof name === 'string';
  return isPart ? nameOf(element).toLowerCase().includes(readable(name).toLowerCase()) : has(element, name);
};

/** Whether an element is meant, for every query that goes from one element to the next. */
function isMeant(element: Element, asked: Exclude<Query, { by: 'css' | 'text' }>, has = byName): boolean {
  switch (asked.by) {
    case 'marked':
      return element.getAttribute(markAttribute()) === asked.mark;
    case 'field':
      return isField(element) && has(element, asked.name);
    case 'placeholder':
      return isText(placeholderOf(element), asked.name);
    case 'picture':
      return isPicture(element) && !isHiddenFromPeople(element) && matchesName(alternativeOf(element), asked.name);
    case 'titled':
      return isText(titleOf(element), asked.name);
    case 'role':
      return (
        roleOf(element) === asked.role &&
        isNamed(element, asked, has) &&
        !isHiddenFromPeople(element) &&
        isIn(element, asked.state)
      );
  }
}

/** Roles whose names come from other things than their content. */
const namedOtherwise = new Set(['img', 'form', 'region', 'alert', 'status', 'dialog', 'group', 'table', 'list']);

/** Elements of one part of the page that a query means. */
function meantIn(part: Part, asked: Exclude<Query, { by: 'css' | 'text' }>): Element[] {
  const framed = isFramed(part);
  const all = framed ? [...elementsIn(part)] : selectedIn(part, selectorFor(asked));
  const isByName = asked.by === 'role' && asked.name !== undefined && asked.state.exact !== false;
  const cannot = !isByName || framed || namedOtherwise.has(asked.role) ? () => false : cannotBeNamed(part, asked.name!);
  const left = all.filter((element) => !cannot(element));
  const found = left.filter((element) => isMeant(element, asked));
  const hasName = asked.by === 'field' || (asked.by === 'role' && asked.name !== undefined);
  return found.length > 0 || !hasName ? found : left.filter((element) => isMeant(element, asked, byPlainName));
}

/** What a query means among the elements that slots show in a scope. */
const slotted = (scope: Element | Document, asked: Exclude<Query, { by: 'text' }>): Element[] =>
  (isElement(scope) ? slottedIn(scope) : []).filter(isElement).flatMap((element) => {
    const isOne = asked.by === 'css' ? element.matches(asked.selector) : isMeant(element, asked);
    return [...(isOne ? [element] : []), ...query(element, asked)];
  });

function query(scope: Element | Document, asked: Query): Element[] {
  if (asked.by === 'text') return byText(scope, asked.name);
  return [...own(scope, asked), ...slotted(scope, asked)];
}

function own(scope: Element | Document, asked: Exclude<Query, { by: 'text' }>): Element[] {
  if (asked.by === 'css') return byCss(scope, asked.selector);
  return joined(
    scope,
    partsOf(scope).map((part) => meantIn(part, asked)),
  );
}

/** True when a target lies inside an element, or a text is part of what it says. */
function holds(element: Element, what: Target | Name): boolean {
  if (isTarget(what)) return foundIn([element], what).length > 0;
  const content = contentOf(element);
  return typeof what === 'string' ? content.includes(readable(what)) : matchesName(content, what);
}

function narrow(found: Element[], one: Narrowing): Element[] {
  if (one.keep === 'nth') return found.at(one.n) ? [found.at(one.n)!] : [];
  return found.filter((element) => holds(element, one.what) === (one.keep === 'having'));
}

/** What an element is given as an attribute, and may hand on to one inside it. */
const handedOn: readonly Query['by'][] = ['placeholder', 'titled', 'marked'];

/** Without components that keep what they have handed on to an element of their own: that one is meant. */
const innermost = (found: Element[]): Element[] =>
  found.length < 2
    ? found
    : found.filter(
        (one) => !one.localName.includes('-') || !found.some((other) => other !== one && within(other, one)),
      );

function foundIn(roots: readonly (Element | Document)[], target: Target): Element[] {
  const scopes = target.scope ? foundIn(roots, target.scope) : roots;
  const found = [...new Set(scopes.flatMap((scope) => query(scope, target.query)))].filter(
    (element) => !/^(html|body)$/.test(element.localName),
  );
  return target.narrowed.reduce(narrow, handedOn.includes(target.query.by) ? innermost(found) : found);
}

/** All elements that match, in document order, without repetition. */
export const findAll = (target: Target): Element[] => foundIn([document], target);
