/** What may come next in a line: words of the language, and what is on the page by now. */
import type { Completion } from '../../core/sitting/sitting.ts';
import { readable } from '../../core/text/folded.ts';
import { checkNames } from '../../language/ensure.ts';
import { roles } from '../../language/roles.ts';
import { type Query, targetOf } from '../../language/target.ts';
import { alternativeOf, elementsIn, findAll, isField, isPicture, placeholderOf, titleOf } from '../act/find.ts';
import { nameOf, roleOf, textOf } from '../act/names.ts';
import { isVisible } from '../act/visible.ts';
import { markAttribute } from '../host/settings.ts';
import { scopeOf } from './line.ts';

/** So many words are shown at most, and so long. */
const most = 30;
const longest = 80;

/** Ways to name an element that are no roles. */
const others = ['field', 'text', 'marked', 'placeholder', 'picture', 'titled', 'css'];

/** How targets are narrowed. */
const narrowings = ['in(', 'having(', 'without(', 'nth(', 'first', 'last'];

const shown = (): Element[] => [...elementsIn(document)].filter((element) => isVisible(element));

const labelsOf = (label: (element: Element) => string | null, isMeant: (element: Element) => boolean): string[] =>
  shown().flatMap((element) => (isMeant(element) ? (label(element) ?? []) : []));

/** What elements on the page are called that can be named in one way. */
function namesBy(by: string): string[] {
  switch (by) {
    case 'field':
      return labelsOf(nameOf, isField);
    case 'text':
      return labelsOf(textOf, (element) => element.children.length === 0 && element.closest('head') === null);
    case 'marked':
      return labelsOf(
        (element) => element.getAttribute(markAttribute()),
        () => true,
      );
    case 'placeholder':
      return labelsOf(placeholderOf, () => true);
    case 'picture':
      return labelsOf(alternativeOf, isPicture);
    case 'titled':
      return labelsOf(titleOf, () => true);
    case 'css':
      return [];
    default:
      return findAll(targetOf({ by: 'role', role: by, state: {} } as Query)).map(nameOf);
  }
}

/** Roles that are on the page come first. */
function rolesNow(): string[] {
  const there = new Set(shown().flatMap((element) => roleOf(element) ?? []));
  const known = roles as readonly string[];
  return [...[...there].filter((role) => known.includes(role)), ...others, ...known.filter((role) => !there.has(role))];
}

const subjectKind = (subject: string): Parameters<typeof checkNames>[0] =>
  subject.startsWith('the.') ? 'target' : subject.startsWith('answers') ? 'answer' : 'spy';

type Found = { start: string; words: string[] };

/** Each way in which a line can end, with what may come there. */
const ways: [pattern: RegExp, (found: RegExpExecArray) => Found][] = [
  [
    /\bthe\.(\w+)\((['"])([^'"]*)$/,
    ([, by, quote, start]) => ({
      start: start!,
      words: namesBy(by!)
        .map(readable)
        .filter((name) => name !== '' && name.length <= longest && !name.includes(quote!))
        .map((name) => `${name}${quote})`),
    }),
  ],
  [/\bthe\.(\w*)$/, ([, start]) => ({ start: start!, words: rolesNow().map((role) => `${role}('`) })],
  [
    /\bensure\((.*)\)\.(?:not\.)?(\w*)$/,
    ([, subject, start]) => ({
      start: start!,
      words: checkNames(subjectKind(subject!.trim())).map((name) => (name === 'not' ? 'not.' : `${name}(`)),
    }),
  ],
  [
    /\bprops\.(\w*)$/,
    ([, start]) => ({ start: start!, words: Object.keys((scopeOf().props as object | undefined) ?? {}) }),
  ],
  [
    /\banswers\[(['"])([^'"]*)$/,
    ([, quote, start]) => ({
      start: start!,
      words: Object.keys((scopeOf().answers as object | undefined) ?? {}).map((route) => `${route}${quote}]`),
    }),
  ],
  [/\bthe\..*\)\.(\w*)$/, ([, start]) => ({ start: start!, words: narrowings })],
  [
    /(?:^|[\s(,;=[{&|!?:])(\w*)$/,
    ([, start]) => ({
      start: start!,
      words: Object.entries(scopeOf()).map(([name, value]) =>
        name === 'the' || name === 'clock' || name === 'props'
          ? `${name}.`
          : typeof value === 'function'
            ? `${name}(`
            : name,
      ),
    }),
  ],
];

/** What may come next where a text ends. */
export function completionOf(text: string): Completion {
  for (const [pattern, way] of ways) {
    const match = pattern.exec(text);
    if (!match) continue;
    const { start, words } = way(match);
    const fits = words.filter((word) => word.toLowerCase().startsWith(start.toLowerCase()) && word !== start);
    return { from: text.length - start.length, words: [...new Set(fits)].slice(0, most) };
  }
  return { from: text.length, words: [] };
}
