/** What has changed between two looks at the page, as checks that somebody may want: texts, dialogs, calls. */
import { codeOf } from '../../core/value/code.ts';
import type { Answer } from '../../language/answer.ts';
import { isSpy } from '../../language/spy.ts';
import { inCode, targetOf } from '../../language/target.ts';
import { elementsIn, findAll } from '../act/find.ts';
import { nameOf, roleOf, textOf } from '../act/names.ts';
import { isClipped } from '../act/twin.ts';
import { isVisible } from '../act/visible.ts';
import { contextNow } from '../attend/attend.ts';
import { named } from './named.ts';

/** What there is to see, and what was called, at one instant. */
export type Sight = {
  /** Texts with one element that shows each, and how many do. */
  texts: Map<string, { element: Element; count: number }>;
  /** Dialogs, alerts and the like, by role and name. */
  news: Map<string, { element: Element; code: string }>;
  calls: Map<string, number>;
};

/** Longer texts are no words to check. */
const longest = 60;

/** What tells a person something, or asks them. */
const tellers = ['dialog', 'alertdialog', 'alert', 'status'].map((role) => `[role="${role}"]`).join(', ');

/** Of a page that is larger only its beginning is looked at. */
const mostElements = 3000;

/** So many checks are offered for one thing done. */
const most = 4;

type Context = { props?: Record<string, unknown>; answers?: Record<string, Answer> };

/** Spies among the props, and answers, with the calls that they have had and how a script names them. */
function subjects(): { key: string; code: string; calls: readonly unknown[]; isSpied: boolean }[] {
  const { props = {}, answers = {} } = contextNow() as Context;
  const spied = Object.entries(props).flatMap(([name, value]) =>
    isSpy(value) && /^[\w$]+$/.test(name)
      ? [{ key: `props.${name}`, code: `props.${name}`, calls: value.calls, isSpied: true }]
      : [],
  );
  const answered = Object.keys(answers).map((route) => {
    const code = `answers[${codeOf(route)}]`;
    return { key: code, code, calls: answers[route]!.calls, isSpied: false };
  });
  return [...spied, ...answered];
}

/** What is there now. */
export function sightNow(): Sight {
  const texts: Sight['texts'] = new Map();
  const news: Sight['news'] = new Map();
  let count = 0;
  for (const element of elementsIn(document.body)) {
    if (++count > mostElements) break;
    const isTeller = element.matches(`${tellers}, dialog, output`);
    if ((!isTeller && element.children.length > 0) || !isVisible(element)) continue;
    if (isTeller) {
      const code = named(element);
      news.set(`${roleOf(element)} ${nameOf(element)} ${textOf(element)}`, { element, code });
    }
    const text = element.children.length > 0 ? '' : textOf(element);
    // What is clipped to be read out only, nobody sees.
    if (text === '' || text.length > longest || isClipped(element)) continue;
    const before = texts.get(text);
    texts.set(text, { element: before?.element ?? element, count: (before?.count ?? 0) + 1 });
  }
  return { texts, news, calls: new Map(subjects().map(({ key, calls }) => [key, calls.length])) };
}

/** What is said of the newest call. */
function callClaim({ calls, isSpied }: ReturnType<typeof subjects>[number]): string {
  const last = calls.at(-1);
  if (isSpied) {
    const args = (last as unknown[]).map(codeOf);
    return args.includes(null) || args.length === 0 ? 'wasCalled()' : `wasCalledWith(${args.join(', ')})`;
  }
  const { json } = last as { json?: unknown };
  const body = json === undefined ? null : codeOf(json);
  return body === null ? 'wasAsked()' : `wasAskedWith({ body: ${body} })`;
}

/** How a text is named that has appeared: by itself, where nothing else says the same. */
function shownBy(text: string, element: Element): string {
  const target = targetOf({ by: 'text', name: text });
  return findAll(target).length === 1 && roleOf(element) !== 'button' ? inCode(target) : named(element);
}

/** The checks that tell one sight from an earlier one, those first that say most. */
export function offersFor(before: Sight, now: Sight): string[] {
  const called = subjects().flatMap((subject) =>
    subject.calls.length > (before.calls.get(subject.key) ?? 0)
      ? [`ensure(${subject.code}).${callClaim(subject)}`]
      : [],
  );
  const told = [...now.news].flatMap(([key, { code }]) =>
    before.news.has(key) ? [] : [`ensure(${code}).isVisible()`],
  );
  const shownNow = new Set([...now.news.values()].map(({ code }) => code));
  const gone = [...before.news].flatMap(([key, { code }]) =>
    now.news.has(key) || shownNow.has(code) ? [] : [`ensure(${code}).isAbsent()`],
  );
  // Whatever is named is looked for in the whole page: that takes long for a thousand rows.
  const appeared = [...now.texts]
    .filter(([text, { count }]) => count === 1 && !before.texts.has(text))
    .slice(0, most)
    .map(([text, { element }]) => `ensure(${shownBy(text, element)}).isVisible()`);
  const vanished = [...before.texts]
    .filter(([text, { count }]) => count === 1 && !now.texts.has(text))
    .slice(0, most)
    .map(([text]) => `ensure(the.text(${codeOf(text)})).isAbsent()`);
  return [...new Set([...called, ...told, ...gone, ...appeared, ...vanished])].slice(0, most);
}

/** True when there is something to see that was not there, or the other way round. */
export const isOther = (before: Sight, now: Sight): boolean =>
  [...now.texts.keys()].some((text) => !before.texts.has(text)) ||
  [...before.texts.keys()].some((text) => !now.texts.has(text)) ||
  [...now.calls].some(([key, calls]) => calls > (before.calls.get(key) ?? 0));
