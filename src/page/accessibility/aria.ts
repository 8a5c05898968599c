/** Roles, states and references (WAI-ARIA 1.2, ARIA in HTML). */
import {
  abstractRoles,
  allowedRoles,
  ariaRoles,
  attributeValues,
  formerlyGlobal,
  globalAttributes,
  isAllowedValue,
  isFurtherRole,
  unnameable,
  valuesInWords,
  wholes,
} from '../../core/accessibility/aria.ts';
import { elementRoles } from '../../core/accessibility/elements.ts';
import { article, atStart } from '../../core/text/article.ts';
import { nearest } from '../../core/text/nearest.ts';
import { nameOf } from '../act/names.ts';
import type { Check, Tell } from './check.ts';
import { around, canHaveFocus, type Scene, type Seen } from './scene.ts';

/** Which row of `allowedRoles` an element has; null for any role. */
function rowOf({ element, tag }: Seen): string | null {
  if (tag === 'a') return element.hasAttribute('href') ? 'a[href]' : null;
  if (/^h[1-6]$/.test(tag)) return 'h';
  if (tag === 'ol' || tag === 'menu') return 'ul';
  if (tag !== 'input') return Object.hasOwn(allowedRoles, tag) ? tag : null;
  const { type } = element as HTMLInputElement;
  if (/^(text|email|tel|url|search)$/.test(type)) return 'input:text';
  if (/^(button|submit|reset|image)$/.test(type)) return 'input:button';
  return /^(checkbox|radio|range|number)$/.test(type) ? `input:${type}` : 'input:other';
}

/** Roles that elements have anyway; a list without bullets may say that it is one. */
const ownRoles: Readonly<Record<string, string>> = { ...elementRoles, a: 'link' };

const roles: Check = ({ told }, tell) => {
  for (const seen of told) {
    const { element, tag, given } = seen;
    if (given === null) continue;
    const all = element.getAttribute('role')!.trim().toLowerCase().split(/\s+/);
    if (all.some((one) => abstractRoles.has(one))) tell('role-is-concrete', element, `Its role is ${given}.`);
    else if (!all.some((one) => Object.hasOwn(ariaRoles, one) || isFurtherRole(one))) {
      const near = nearest(given, Object.keys(ariaRoles));
      tell('role-exists', element, `Its role is “${given}”.${near ? ` Did you mean ${near}?` : ''}`);
    } else if (Object.hasOwn(ariaRoles, given)) {
      const row = rowOf(seen);
      if (row !== null && !allowedRoles[row]!.has(given))
        tell('role-fits-element', element, `<${tag}> has the role ${given}.`);
      else if (ownRoles[tag] === given && (tag !== 'a' || element.hasAttribute('href')))
        tell('role-says-more', element, `<${tag}> has the role ${given} by itself.`);
    }
  }
};

/** States that elements have by themselves. */
function hasByItself({ element, tag }: Seen, attribute: string): boolean {
  if (/^h[1-6]$/.test(tag) && attribute === 'level') return true;
  if (tag === 'input') {
    const { type } = element as HTMLInputElement;
    return attribute === 'checked'
      ? /^(checkbox|radio)$/.test(type)
      : attribute === 'valuenow' && /^(range|number)$/.test(type);
  }
  if (tag === 'option') return attribute === 'selected' || attribute === 'checked';
  return tag === 'meter' || tag === 'progress' || (tag === 'select' && attribute === 'expanded');
}

const hasValue = (element: Element, attribute: string): boolean =>
  (element.getAttribute(`aria-${attribute}`)?.trim() ?? '') !== '';

const states: Check = ({ told }, tell) => {
  for (const seen of told) {
    const { element, given, role } = seen;
    const about = given === null ? undefined : ariaRoles[given];
    for (const attribute of about?.required ?? [])
      if (!hasValue(element, attribute) && !hasByItself(seen, attribute))
        tell('role-has-its-states', element, `${atStart(given!)} needs aria-${attribute}.`);
    if (given === 'separator' && canHaveFocus(seen) && !hasValue(element, 'valuenow'))
      tell('role-has-its-states', element, 'A separator that can have the focus needs aria-valuenow.');
    for (const { name, value } of element.attributes) {
      if (!name.startsWith('aria-')) continue;
      const attribute = name.slice(5);
      if (!Object.hasOwn(attributeValues, attribute)) {
        const near = nearest(attribute, Object.keys(attributeValues));
        tell('attribute-exists', element, `There is no ${name}.${near ? ` Did you mean aria-${near}?` : ''}`);
      } else if (!isAllowedValue(attribute, value))
        tell('attribute-has-a-value', element, `${name} is “${value}”; it can be ${valuesInWords(attribute)}.`);
      else if (value.trim() !== '') fits(seen, role ?? 'generic', attribute, tell);
    }
  }
};

/** Elements that are treated as a role of their own, of which ARIA in HTML says more than the table here. */
const unsaid = new Set([
  'summary',
  'video',
  'audio',
  'iframe',
  'canvas',
  'object',
  'embed',
  'area',
  'svg',
  'input',
  'body',
]);

function fits({ element, tag, given }: Seen, role: string, attribute: string, tell: Tell): void {
  if (attribute === 'label' || attribute === 'labelledby') {
    const isNameless = given === null ? role === 'generic' || unnameable.has(role) : unnameable.has(given);
    const isPlain = given !== null || /^(div|span|p|em|strong|code|sub|sup|i|b|small)$/.test(tag);
    if (isNameless && isPlain && !canHaveFocus({ element, tag, isPainted: true } as Seen))
      tell(
        'nameless-has-no-name',
        element,
        `aria-${attribute} is on <${tag}>${given ? ` with the role ${given}` : ''}.`,
      );
    return;
  }
  const about = ariaRoles[role];
  if (globalAttributes.has(attribute) || !about || about.supported.includes(attribute) || unsaid.has(tag)) return;
  // A custom element may have its role from within.
  if (tag.includes('-') && given === null) return;
  const what =
    role === 'generic'
      ? `aria-${attribute} is on <${tag}>, which has no role.`
      : `${atStart(role)} has no aria-${attribute}.`;
  tell('attribute-fits-role', element, what, !formerlyGlobal.has(attribute));
}

/** The parts of a widget: what is in it, and what it owns from elsewhere; groups without meaning are passed through. */
function partsOf(seen: Seen, scene: Scene): Seen[] {
  const owned = (seen.element.getAttribute('aria-owns') ?? '').split(/\s+/).filter(Boolean);
  const root = seen.element.getRootNode() as Document | ShadowRoot;
  const elements = [...seen.element.children, ...owned.flatMap((id) => root.getElementById(id) ?? [])];
  return elements.flatMap((element): Seen[] => {
    const part = scene.of(element);
    if (!part) return [];
    if (part.isTold && part.role && !['generic', 'none', 'presentation', 'rowgroup', 'group'].includes(part.role))
      return [part];
    return partsOf(part, scene);
  });
}

/** Widgets of whose content only the parts are told: whatever else is in them is passed over. */
const exclusive = new Set(['listbox', 'menu', 'menubar', 'tablist', 'tree']);

/** Controls beside the parts of such a widget. Some browsers tell of them all the same. */
function strays(parts: readonly Seen[], { given }: Seen, owns: readonly string[], tell: Tell): void {
  const stray = parts.find((part) => !owns.includes(part.role!) && isControl(part));
  if (!stray) return;
  const what = `It is in ${article(given!)}, which holds ${owns.join(' or ')} only, and may be passed over.`;
  tell('children-are-there', stray.element, what, false);
}

const families: Check = (scene, tell) => {
  for (const seen of scene.told) {
    const { element, given } = seen;
    const about = given === null ? undefined : ariaRoles[given];
    if (!given || !about) continue;
    if (about.owns.length > 0 && element.getAttribute('aria-busy') !== 'true') {
      const parts = partsOf(seen, scene);
      if (parts.length > 0 && !parts.some(({ role }) => about.owns.includes(role!)))
        tell(
          'children-are-there',
          element,
          `${atStart(given)} needs ${about.owns.join(' or ')} in it, and has ${parts[0]!.role}.`,
        );
      else if (exclusive.has(given)) strays(parts, seen, about.owns, tell);
    }
    if (about.inside.length > 0 && !isInside(seen, about.inside, scene))
      tell('parent-is-there', element, `${atStart(given)} has to be in ${about.inside.join(' or ')}.`);
  }
};

function isInside(seen: Seen, roles: readonly string[], scene: Scene): boolean {
  const isMeant = ({ role }: Seen): boolean => role !== null && roles.includes(role);
  if (around(seen, isMeant)) return true;
  const owner = scene.all.find(
    ({ element }) =>
      seen.element.id !== '' && element.getAttribute('aria-owns')?.split(/\s+/).includes(seen.element.id),
  );
  return owner !== undefined && isMeant(owner);
}

/** Attributes that name other elements by their ids. */
const referring = Object.keys(attributeValues).filter((name) => ['id', 'ids'].includes(String(attributeValues[name])));

/** True for what is closed: what it opens need not be there. */
const isClosed = (element: Element): boolean =>
  ['aria-expanded', 'aria-selected'].some((state) => element.getAttribute(state) === 'false') ||
  (element.hasAttribute('aria-haspopup') && !element.hasAttribute('aria-expanded'));

const references: Check = ({ all, told }, tell) => {
  const referred = new Map<string, Element>();
  for (const { element } of told) {
    const root = element.getRootNode() as Document | ShadowRoot;
    if (!element.hasAttributes()) continue;
    for (const attribute of referring) {
      if (!element.hasAttribute(`aria-${attribute}`)) continue;
      const ids = (element.getAttribute(`aria-${attribute}`) ?? '').split(/\s+/).filter(Boolean);
      for (const id of ids) referred.set(id, element);
      const missing = ids.filter((id) => !root.getElementById?.(id));
      if (/^(controls|owns)$/.test(attribute) && isClosed(element)) continue;
      const mayBeAway = /^(controls|owns|activedescendant|errormessage|details|flowto)$/.test(attribute);
      if (ids.length > 0 && missing.length === ids.length)
        tell(
          'reference-leads-somewhere',
          element,
          `aria-${attribute} names ${missing.join(', ')}, which is not there.`,
          !mayBeAway,
        );
    }
    if (element instanceof HTMLLabelElement && element.htmlFor) referred.set(element.htmlFor, element);
  }
  labels(told, referred, tell);
  const seen = new Map<string, Element>();
  for (const { element } of all) {
    const { id } = element;
    if (!id) continue;
    const key = id;
    const first = seen.get(key);
    if (first && first.getRootNode() === element.getRootNode() && referred.has(id))
      tell('id-is-unique', element, `“${id}” is the id of another element, too, and something refers to it.`);
    else if (!first) seen.set(key, element);
  }
};

function labels(told: readonly Seen[], referred: ReadonlyMap<string, Element>, tell: Tell): void {
  const keys = new Set<string>();
  for (const { element } of told) {
    if (element instanceof HTMLLabelElement && !element.control && !referred.has(element.id)) {
      const what = element.htmlFor ? `for names ${element.htmlFor}, which is no field.` : 'There is no field in it.';
      // Custom fields may listen to it.
      tell(
        'label-leads-somewhere',
        element,
        what,
        element.htmlFor !== '' && !element.querySelector('[role], *|*:defined'),
      );
    }
    const key = element.getAttribute('accesskey')?.trim().toLowerCase();
    if (!key) continue;
    if (keys.has(key)) tell('accesskey-is-unique', element, `“${key}” is the key of another element, too.`);
    keys.add(key);
  }
}

/** What can be pressed or filled in. */
const isControl = (seen: Seen): boolean =>
  /^(button|select|textarea)$/.test(seen.tag) ||
  (seen.tag === 'a' && seen.element.hasAttribute('href')) ||
  (seen.tag === 'input' && (seen.element as HTMLInputElement).type !== 'hidden') ||
  (seen.given !== null && wholes.has(seen.given) && canHaveFocus(seen));

/** True for an empty element that only sends the focus on, at the edges of a dialog. */
export function isGuard(element: Element): boolean {
  const { width, height } = element.getBoundingClientRect();
  const isEmpty = element.childNodes.length === 0 && /^(div|span)$/.test(element.localName);
  return isEmpty && (width <= 1 || height <= 1 || getComputedStyle(element).opacity === '0');
}

/** What lies over a page and keeps the focus, while it is there. */
export const layers = 'dialog, [role=dialog], [role=alertdialog], [role=menu], [role=listbox], [aria-modal=true]';

/** The layer that has the focus; null while none has it. */
export const layerNow = (): Element | null => document.activeElement?.closest(layers) ?? null;

/** True for what is hidden for a layer: its script keeps the focus there, and Tab shows whether it does. */
function isBehindLayer(hidden: Element): boolean {
  const layer = layerNow();
  return layer !== null && !hidden.contains(layer);
}

const focus: Check = ({ all }, tell) => {
  for (const seen of all) {
    const { element, given } = seen;
    const focusable = canHaveFocus(seen);
    const isReached = focusable && element.getAttribute('tabindex') !== '-1';
    const hidden = element.closest('[aria-hidden="true"]');
    if (isReached && hidden && !isGuard(element) && !isBehindLayer(hidden))
      tell('hidden-is-not-focusable', element, 'It can have the focus, and aria-hidden hides it.');
    if (!seen.isTold) continue;
    if (focusable && (given === 'none' || given === 'presentation'))
      tell('presentation-is-inert', element, `It can have the focus, and has the role ${given}.`);
    if (!isControl(seen)) continue;
    const outer = around(
      seen,
      (one) => isControl(one) && one.role !== null && (wholes.has(one.role) || one.role === 'link'),
    );
    if (outer && isReached)
      tell(
        'controls-are-not-nested',
        element,
        `It is in ${nameOf(outer.element) || outer.role}, ${article(outer.role!)}.`,
      );
  }
};

export const ariaChecks: Check[] = [roles, states, families, references, focus];
