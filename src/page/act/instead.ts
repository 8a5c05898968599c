/** What a person might have meant by a target that matches nothing, or too much. */
import { distance } from 'fastest-levenshtein';
import { namedByContent } from '../../core/moment/named.ts';
import { readable } from '../../core/text/folded.ts';
import { inCode, type Name, type Query, type Target, targetOf } from '../../language/target.ts';
import { markAttribute } from '../host/settings.ts';
import { bestTarget, inPlace } from './bestTarget.ts';
import {
  alternativeOf,
  elementsIn,
  findAll,
  isField,
  isNamed,
  isPicture,
  ownText,
  placeholderOf,
  titleOf,
} from './find.ts';
import { within } from './flat.ts';
import { contentOf, describe, isHiddenFromPeople, nameOf, roleOf, textOf } from './names.ts';
import { whyNotIn } from './states.ts';
import { whyInvisible } from './visible.ts';

/** How many elements are told of. */
const most = 6;

/** Words and numbers that a pattern spells out. */
const wordsIn = ({ source }: RegExp): string[] => source.replace(/\\./g, ' ').match(/[\p{L}\p{N}]{2,}/gu) ?? [];

/** Says how far a text is from a wanted name: of a pattern, how many of its words are missing. */
function farness(wanted: Name): (text: string) => number {
  if (typeof wanted === 'string') return (text) => distance(text.slice(0, 80), wanted);
  const words = wordsIn(wanted).map((word) => word.toLowerCase());
  return (text) => words.filter((word) => !text.toLowerCase().includes(word)).length;
}

/** Elements in words, those first whose label is nearest to the wanted name. */
function like(elements: Element[], wanted: Name | undefined, label: (element: Element) => string): string[] {
  const named = elements.map((element) => ({ text: describe(element), name: label(element) }));
  if (wanted !== undefined) {
    const far = farness(wanted);
    named.sort((a, b) => far(a.name) - far(b.name));
  }
  const texts = [...new Set(named.map(({ text }) => text))];
  const shown = texts.length > most ? [...texts.slice(0, most), `and ${texts.length - most} more`] : texts;
  return [...shown, ...asPart(elements, wanted, label)];
}

/** Says so when the wanted name is a part of what there is: a text means all of a name. */
function asPart(elements: Element[], wanted: Name | undefined, label: (element: Element) => string): string[] {
  if (typeof wanted !== 'string' || wanted === '') return [];
  const whole = elements.find((element) => label(element).includes(wanted));
  return whole ? [`/${wanted.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')}/ would match ${describe(whole)}`] : [];
}

/** What elements go by, the nearest to the wanted name first; `none` when there are no elements. */
function labelled(elements: Element[], wanted: Name, label: (element: Element) => string, none: string): string[] {
  if (elements.length === 0) return [none];
  const texts = [...new Set(elements.map(label))];
  const far = farness(wanted);
  texts.sort((a, b) => far(a) - far(b));
  return texts.slice(0, most).map((text) => `“${text}”`);
}

/** Says so when there is an element that has the wanted name for its content: such a role takes no name from that. */
function byContent(shown: Element[], { role, name }: Query & { by: 'role' }): string[] {
  if (typeof name !== 'string' || namedByContent.has(role)) return [];
  const found = shown.filter((element) => contentOf(element).includes(readable(name)));
  if (found.length === 0) return [];
  const better = inCode(targetOf({ by: 'role', role, state: {} }).having(name));
  return [`its name does not come from what it says: use ${better}`];
}

/** Says so when elements of the role are there, and nothing gives any of them a name. */
function withoutName(shown: Element[], { role, name }: Query & { by: 'role' }): string[] {
  if (name === undefined || shown.some((element) => nameOf(element) !== '')) return [];
  return [`nothing gives the ${role} a name: use ${inCode(bestTarget(shown[0]!))}`];
}

/** Elements of the wanted name that are in another state, with what that is. */
const inOtherState = (shown: Element[], asked: Query & { by: 'role' }): string[] =>
  shown
    .filter((element) => isNamed(element, asked))
    .flatMap((element) => {
      const why = whyNotIn(element, asked.state);
      return why === null ? [] : [`${describe(element)}, but ${why}`];
    })
    .slice(0, most);

/** False for roles that say nothing of an element. */
const isTold = (role: string): boolean => !/^(generic|document|none|presentation)$/.test(role);

/**
 * Elements of the wanted name that are something else than was asked for: of those in each other, such as a cell in its
 * row, which is called after it, the innermost.
 */
function ofOtherRole(all: Element[], asked: Query & { by: 'role' }): string[] {
  const found = all.filter((element) => {
    const role = roleOf(element);
    const isOther = role !== null && role !== asked.role && isTold(role);
    return isOther && isNamed(element, asked) && !isHiddenFromPeople(element);
  });
  return found
    .filter((one) => !found.some((other) => other !== one && within(other, one)))
    .slice(0, most)
    .map((element) => `${describe(element)}: ${inCode(bestTarget(element))}`);
}

/** Buttons that open something, whose names hold what a field was asked for by, as where its choice is said with it. */
const openers = (all: Element[], name: Name | undefined): string[] =>
  all
    .filter((one) => one.matches('[aria-haspopup], [aria-expanded]') && roleOf(one) === 'button')
    .filter((one) => typeof name === 'string' && nameOf(one).includes(readable(name)) && !isHiddenFromPeople(one))
    .slice(0, most)
    .map((one) => `${describe(one)}: ${inCode(bestTarget(one))}`);

/** Says so when what was asked for by a name is there as a text only, which can be pointed at all the same. */
function asText(all: Element[], name: Name | undefined): string[] {
  if (name === undefined || name === '') return [];
  const target = targetOf({ by: 'text', name });
  const isSeen = findAll(target).some((one) => all.includes(one) && whyInvisible(one) === null);
  return isSeen ? [`a text: ${inCode(target)}`] : [];
}

const hiddenOnes = (hidden: Element[], name?: Name): string[] => [
  `hidden from assistive technology: ${like(hidden, name, nameOf).join(', ')}`,
];

function insteadOfRole(all: Element[], asked: Query & { by: 'role' }): string[] {
  const { role, name } = asked;
  const same = all.filter((element) => roleOf(element) === role);
  const hidden = same.filter(isHiddenFromPeople);
  const shown = same.filter((element) => !hidden.includes(element));
  const other = inOtherState(shown, asked);
  if (other.length > 0) return other;
  const named = name === undefined ? [] : ofOtherRole(all, asked);
  if (named.length > 0) return [...asPart(shown, name, nameOf), ...named];
  const veiled = name === undefined ? [] : hidden.filter((element) => isNamed(element, asked));
  if (veiled.length > 0) return hiddenOnes(veiled);
  if (shown.length > 0) {
    const why = [byContent(shown, asked), withoutName(shown, asked)].find((hints) => hints.length > 0) ?? [];
    return [...asText(all, name), ...why, ...like(shown, name, nameOf)];
  }
  if (hidden.length > 0) return hiddenOnes(hidden, name);
  const roles = [...new Set(all.filter((element) => !isHiddenFromPeople(element)).map(roleOf))].filter(
    (one) => one && isTold(one),
  );
  return [...asText(all, name), `no ${role} at all${roles.length > 0 ? `; there is: ${roles.join(', ')}` : ''}`];
}

function insteadIn(all: Element[], asked: Query): string[] {
  const having = (label: (element: Element) => string | null): Element[] => all.filter((one) => label(one) !== null);
  switch (asked.by) {
    case 'role':
      return insteadOfRole(all, asked);
    case 'field': {
      const fields = all.filter(isField);
      const others = all.filter((element) => !isField(element));
      const equal = ofOtherRole(others, { by: 'role', role: '', name: asked.name, state: {} });
      const named = equal.length > 0 ? equal : openers(others, asked.name);
      const text = named.length > 0 ? [] : asText(all, asked.name);
      return [...named, ...text, ...(fields.length > 0 ? like(fields, asked.name, nameOf) : ['no form field at all'])];
    }
    case 'text':
      return like(
        all.filter(
          (one) =>
            readable(ownText(one)) !== '' && textOf(one) !== '' && one.closest('head, script, style, title') === null,
        ),
        asked.name,
        textOf,
      );
    case 'placeholder':
      return labelled(having(placeholderOf), asked.name, (one) => placeholderOf(one)!, 'no field has a placeholder');
    case 'titled':
      return labelled(having(titleOf), asked.name, (one) => titleOf(one)!, 'nothing has a title');
    case 'picture': {
      const pictures = all.filter((one) => isPicture(one) && !isHiddenFromPeople(one));
      return labelled(pictures, asked.name, alternativeOf, 'no picture at all');
    }
    case 'marked': {
      const marks = having((one) => one.getAttribute(markAttribute()));
      const none = `nothing is marked with ${markAttribute()}`;
      return labelled(marks, asked.mark, (one) => one.getAttribute(markAttribute())!, none);
    }
    case 'css':
      return [];
  }
}

/** What a person might have meant: elements like the wanted one that are there, the likeliest first. */
export function insteadOf(target: Target): string[] {
  const { scope, narrowed, query } = target;
  if (scope && findAll(scope).length === 0) return [`${scope} is not there either`, ...insteadOf(scope)];
  if (narrowed.length > 0) {
    const wider: Target = { ...target, narrowed: narrowed.slice(0, -1) };
    const all = findAll(wider);
    if (all.length === 0) return insteadOf(wider);
    const shown = all.slice(0, most).map(describe).join(', ');
    return [narrowed.at(-1)!.keep === 'nth' ? `only ${all.length} of them: ${shown}` : `none of these: ${shown}`];
  }
  const roots: (Element | Document)[] = scope ? findAll(scope) : [document];
  return insteadIn(
    roots.flatMap((root) => [...elementsIn(root)]),
    query,
  );
}

/** What would tell the elements apart that one target matches: each with the target that means it alone. */
export const apart = (target: Target, found: readonly Element[]): string[] =>
  found
    .slice(0, most)
    .map((element, i) => `${describe(element)}: ${inCode(inPlace(target, element) ?? target.nth(i))}`);
