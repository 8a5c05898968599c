/** Targets by which a person would mean an element, the best first. */
import { roles } from '../../language/roles.ts';
import { inCode, type Target, targetOf } from '../../language/target.ts';
import { markAttribute } from '../host/settings.ts';
import { alternativeOf, findAll, isField, isPicture, placeholderOf, titleOf } from './find.ts';
import { isHiddenFromPeople, nameOf, roleOf, textOf } from './names.ts';

/** Targets for what is around an element and has a name, the nearest first. */
function* placesOf(element: Element): Generator<Target> {
  for (let around = element.parentElement; around; around = around.parentElement) {
    const role = roleOf(around);
    const name = role && role !== 'generic' && !isHiddenFromPeople(around) ? nameOf(around) : '';
    if (role && name) yield targetOf({ by: 'role', role, name, state: {} });
  }
}

const isAlone = (target: Target, element: Element): boolean => {
  const found = findAll(target);
  return found.length === 1 && found[0] === element;
};

/** The target in the nearest place with a name in which it means one element alone, or null. */
export function inPlace(target: Target, element: Element): Target | null {
  for (const place of placesOf(element)) if (isAlone(target.in(place), element)) return target.in(place);
  return null;
}

/** True for a selector of tags, classes and places only, which the next restyling may change. */
const isStructure = (selector: string): boolean => !/[#[]/.test(selector);

/** Targets by which a person would mean an element, the best first. */
function candidatesFor(element: Element): Target[] {
  const own = roleOf(element);
  const role = (roles as readonly (string | null)[]).includes(own) ? own : null;
  const [name, text, mark] = [nameOf(element), textOf(element), element.getAttribute(markAttribute())];
  const [placeholder, title] = [placeholderOf(element), titleOf(element)];
  const isShown = !isHiddenFromPeople(element);
  return [
    ...(role && name && isShown ? [targetOf({ by: 'role', role, name, state: {} })] : []),
    ...(isField(element) && name ? [targetOf({ by: 'field', name })] : []),
    ...(isPicture(element) && alternativeOf(element)
      ? [targetOf({ by: 'picture', name: alternativeOf(element) })]
      : []),
    ...(text && text.length <= 60 ? [targetOf({ by: 'text', name: text })] : []),
    ...(role && role !== 'generic' && isShown ? [targetOf({ by: 'role', role, state: {} })] : []),
    ...(mark ? [targetOf({ by: 'marked', mark })] : []),
    ...(placeholder ? [targetOf({ by: 'placeholder', name: placeholder })] : []),
    ...(title ? [targetOf({ by: 'titled', name: title })] : []),
  ];
}

/** What people fill in they name by its label; what they tick or press by what it is. */
const filledIn = new Set(['textbox', 'searchbox', 'spinbutton', 'combobox', 'listbox', 'slider']);

const isLabel = ({ query }: Target): boolean => query.by === 'field';

/** A target for an element, and how many elements it would mean without a number or a place. */
export type ForElement = { target: Target; matches: number };

/** The targets by which a person would mean an element: those first that mean it alone, then those narrowed to it. */
export function targetsFor(element: Element): ForElement[] {
  const isFilledIn = filledIn.has(roleOf(element) ?? '');
  const all = [...candidatesFor(element), targetOf({ by: 'css', selector: selectorOf(element) })];
  const sorted = isFilledIn ? all.toSorted((a, b) => Number(isLabel(b)) - Number(isLabel(a))) : all;
  const found = sorted.flatMap((target): ForElement[] => {
    const meant = findAll(target);
    const at = meant.indexOf(element);
    if (at < 0) return [];
    const narrowed = meant.length === 1 ? target : (inPlace(target, element) ?? target.nth(at));
    return [{ target: narrowed, matches: meant.length }];
  });
  const isSure = ({ target, matches }: ForElement): boolean => matches === 1 && target.query.by !== 'css';
  const isPlaced = ({ target, matches }: ForElement): boolean => matches > 1 && target.scope !== null;
  const rank = (one: ForElement): number => (isSure(one) ? 0 : isPlaced(one) ? 1 : one.matches === 1 ? 2 : 3);
  return found.toSorted((a, b) => rank(a) - rank(b));
}

/** The best of them. Every element has a tag, so there is one. */
export const bestTarget = (element: Element): Target => targetsFor(element)[0]!.target;

/** Ids that a library has counted up, such as `pn_id_1_list_0` and `:r3:`: they are others after another look. */
const countedUp = /[:«»]|\d\D+\d|\d{5}/;

/** A selector of the last resort: an id that somebody has chosen, or a tag with its classes. */
function selectorOf(element: Element): string {
  if (element.id && !countedUp.test(element.id)) return `#${CSS.escape(element.id)}`;
  const classes = [...element.classList].map((one) => `.${CSS.escape(one)}`).join('');
  return element.localName + classes;
}

/** Roles of what is there to say one thing after the other: its text is what a check is about, not what it goes by. */
const saying = new Set(['status', 'alert', 'log', 'timer', 'marquee', 'meter', 'progressbar']);

/** What to write instead of a target that goes by structure or classes, or null when there is nothing better. */
export function betterThan({ query }: Target, element: Element): string | null {
  if (query.by !== 'css' || !isStructure(query.selector)) return null;
  const isSaying = saying.has(roleOf(element) ?? '');
  for (const candidate of candidatesFor(element)) {
    if (isSaying && candidate.query.by === 'text') continue;
    const better = isAlone(candidate, element) ? candidate : inPlace(candidate, element);
    if (better) return inCode(better);
  }
  return null;
}
