/** Finds the elements that a target describes, now. */
import { append } from '../host/natives.ts';
import { distance } from 'fastest-levenshtein';
import { fail } from '../../core/problem/problem.ts';
import { matches } from '../../core/value/equal.ts';
import { shadowOf } from '../record/roots.ts';
import { describe, isHiddenFromPeople, nameOf, roleOf, textOf } from './names.ts';
import type { Name, Query, Target } from '../../language/target.ts';

const fold = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** True when a name is the wanted one, white space folded, or holds the wanted pattern. */
export const matchesName = (actual: string, wanted: Name): boolean =>
  typeof wanted === 'string' ? actual === fold(wanted) : matches(wanted, actual);

/** Every element below a root in document order, through shadow roots. */
export function* elementsIn(root: Element | ShadowRoot | Document): Generator<Element> {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_ELEMENT);
  for (let node = walker.nextNode() as Element | null; node; node = walker.nextNode() as Element | null) {
    yield node;
    const shadow = shadowOf(node);
    if (shadow) yield* elementsIn(shadow);
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

const isField = (element: Element): boolean =>
  (fieldTags.has(element.localName) && (element as HTMLInputElement).type !== 'hidden') ||
  fieldRoles.has(element.getAttribute('role') ?? '') ||
  (element as HTMLElement).isContentEditable === true;

/** Elements whose own text is the wanted one while none of their children's is: the innermost ones. */
function byText(scope: Element | Document, text: Name): Element[] {
  const found: Element[] = [];
  for (const element of elementsIn(scope)) {
    if (
      element.localName === 'script' ||
      element.localName === 'style' ||
      !matchesName(fold(element.textContent ?? ''), text)
    )
      continue;
    const inner = [...element.children].some((child) => matchesName(fold(child.textContent ?? ''), text));
    if (!inner) append(found, element);
  }
  return found;
}

function byCss(scope: Element | Document, selector: string): Element[] {
  try {
    return [...scope.querySelectorAll(selector)];
  } catch {
    return fail('bad-step', {
      what: `“${selector}” is not a CSS selector.`,
      remedy: 'Correct it, or name the element as a person would: the.button(…), the.field(…), the.text(…).',
    });
  }
}

function query(scope: Element | Document, asked: Query): Element[] {
  switch (asked.by) {
    case 'css':
      return byCss(scope, asked.selector);
    case 'mark':
      return [...elementsIn(scope)].filter((element) => element.getAttribute('data-mark') === asked.mark);
    case 'text':
      return byText(scope, asked.text);
    case 'field':
      return [...elementsIn(scope)].filter((element) => isField(element) && matchesName(nameOf(element), asked.name));
    case 'role':
      return [...elementsIn(scope)].filter(
        (element) =>
          roleOf(element) === asked.role &&
          !isHiddenFromPeople(element) &&
          (asked.name === undefined || matchesName(nameOf(element), asked.name)),
      );
  }
}

/** All elements that match, in document order, without repetition. */
export function findAll(target: Target): Element[] {
  const scopes: (Element | Document)[] = target.scope ? findAll(target.scope) : [document];
  const found = [...new Set(scopes.flatMap((scope) => query(scope, target.query)))].filter(
    (element) => element !== document.documentElement && element !== document.body,
  );
  if (target.index === null) return found;
  const one = found[target.index];
  return one ? [one] : [];
}

/** What a person might have meant: elements like the wanted one that are there, the likeliest first. */
export function insteadOf(target: Target, most = 6): string[] {
  const asked = target.query;
  if (target.scope && findAll(target.scope).length === 0)
    return [`${target.scope} is not there either`, ...insteadOf(target.scope, most)];
  if (target.index !== null) {
    const all = findAll({ ...target, index: null });
    if (all.length > 0) return [`only ${all.length} of them: ${all.slice(0, most).map(describe).join(', ')}`];
  }
  const scopes: (Element | Document)[] = target.scope ? findAll(target.scope) : [document];
  const all = scopes.flatMap((scope) => [...elementsIn(scope)]);
  const like = (elements: Element[], wanted: Name | undefined, label: (element: Element) => string): string[] => {
    const named = elements.map((element) => ({ text: describe(element), name: label(element) }));
    if (typeof wanted === 'string')
      named.sort((a, b) => distance(a.name.slice(0, 80), wanted) - distance(b.name.slice(0, 80), wanted));
    const texts = [...new Set(named.map(({ text }) => text))];
    return texts.length > most ? [...texts.slice(0, most), `and ${texts.length - most} more`] : texts;
  };
  switch (asked.by) {
    case 'role': {
      const same = all.filter((element) => roleOf(element) === asked.role);
      const hidden = same.filter(isHiddenFromPeople);
      const shown = same.filter((element) => !hidden.includes(element));
      if (shown.length > 0) return like(shown, asked.name, nameOf);
      if (hidden.length > 0)
        return [`hidden from assistive technology: ${like(hidden, asked.name, nameOf).join(', ')}`];
      const roles = [...new Set(all.filter((element) => !isHiddenFromPeople(element)).map(roleOf))].filter(
        (role) => role && role !== 'document' && role !== 'generic',
      );
      return [`no ${asked.role} at all${roles.length > 0 ? `; there is: ${roles.join(', ')}` : ''}`];
    }
    case 'field': {
      const fields = all.filter(isField);
      return fields.length > 0 ? like(fields, asked.name, nameOf) : ['no form field at all'];
    }
    case 'text':
      return like(
        all.filter(
          (element) => element.children.length === 0 && textOf(element) !== '' && element.closest('head') === null,
        ),
        asked.text,
        textOf,
      );
    case 'mark': {
      const marks = all
        .filter((element) => element.hasAttribute('data-mark'))
        .map((element) => `“${element.getAttribute('data-mark')}”`);
      return marks.length > 0 ? [`marked: ${marks.slice(0, most).join(', ')}`] : ['nothing is marked with data-mark'];
    }
    case 'css':
      return [];
  }
}
