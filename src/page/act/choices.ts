/** The options of list boxes that are made of other elements; in a long list, those that are yet to be scrolled to. */
import { fail } from '../../core/problem/problem.ts';
import type { Target } from '../../language/target.ts';
import type { Recording } from '../record/recording.ts';
import { elementsIn } from './find.ts';
import { nameOf, roleOf, textOf } from './names.ts';
import { visiblePart } from './scroll.ts';
import { drawnFor, isTold, itemsBeside } from './told.ts';
import { isDisabled } from './visible.ts';
import { turn } from './wheel.ts';

/** So many turns of the wheel are a list's, at most, each way. */
const mostTurns = 200;

/** The options of a list, as far as it shows them: a long one may hold those only that can be seen. */
export const optionsOf = (list: Element): Element[] =>
  isTold(list) ? itemsBeside(list) : [...elementsIn(list)].filter((one) => roleOf(one) === 'option');

/** What an option is called. */
export const wordsOf = (option: Element): string => (roleOf(option) === 'option' ? nameOf(option) : textOf(option));

/** An option by its words: one that can be chosen, or else one that is disabled. */
function optionOf(list: Element, wanted: string): Element | null {
  const drawn = isTold(list) ? drawnFor(list, wanted) : null;
  const options = drawn ? [drawn] : optionsOf(list).filter((one) => wordsOf(one) === wanted);
  return options.find((one) => !isDisabled(one)) ?? options[0] ?? null;
}

/** What can be seen of a list, or of what is drawn beside it. */
const seen = (list: Element): Element => (isTold(list) ? (list.parentElement ?? list) : list);

/** What scrolls of a list: something in it, or right around it. */
function scrollersOf(list: Element): Element[] {
  const around = list.parentElement && list.parentElement !== document.body ? [list.parentElement] : [];
  return [list, ...elementsIn(seen(list)), ...around].filter(
    (one) => one.scrollHeight > one.clientHeight + 1 && !/visible|clip/.test(getComputedStyle(one).overflowY),
  );
}

/** In so many turns in a row nothing comes of the wheel at the end of a list: one that is filled later may need two. */
const mostVain = 2;

/** Turns the wheel over a list, to its end and then back, until an option is there, or nothing else comes. */
async function seek(recording: Recording, list: Element, wanted: string): Promise<Element | null> {
  const shown = (): string =>
    [...optionsOf(list).map(wordsOf), ...scrollersOf(list).map(({ scrollTop }) => scrollTop)].join('\n');
  for (const way of [1, -1]) {
    let vain = 0;
    for (let turns = 0; turns < mostTurns && list.isConnected && !recording.isOver; turns++) {
      const { left, right, top, bottom } = visiblePart(seen(list));
      const before = shown();
      await turn(recording, [(left + right) / 2, (top + bottom) / 2], [0, way * Math.max(20, (bottom - top) * 0.8)]);
      const found = optionOf(list, wanted);
      if (found) return found;
      vain = shown() === before ? vain + 1 : 0;
      if (vain >= mostVain) break;
    }
  }
  return null;
}

/**
 * Finds an option of a list by its words; where the list is long it is sought once.
 *
 * @throws ProblemError `option-missing`, `option-disabled`
 */
export function optionIn(
  list: () => Element,
  recording: Recording,
  target: Target,
): (name: string) => Promise<Element> {
  const sought = new Set<string>();
  return async (name) => {
    const wanted = name.trim();
    let found = optionOf(list(), wanted);
    if (!found && !sought.has(wanted) && scrollersOf(list()).length > 0) {
      sought.add(wanted);
      found = await seek(recording, list(), wanted);
    }
    if (found && !isDisabled(found)) return found;
    const shown = optionsOf(list()).map((one) => `“${wordsOf(one)}”${isDisabled(one) ? ' (disabled)' : ''}`);
    const code = found ? 'option-disabled' : 'option-missing';
    return fail(code, { target: String(target), option: name }, { found: shown });
  };
}
