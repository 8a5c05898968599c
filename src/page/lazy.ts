/** Lazy imports (ECMA-262, `import()`): what several of them bring must not depend on which file comes first. */
import { append, native } from './host/natives.ts';

/** How often the page is looked at meanwhile, in milliseconds: a busy page comes round more slowly. */
const turnLength = 10;

/**
 * After so many turns in which no file came the next import no longer waits for those before it: a module that awaits
 * another one while it is evaluated would wait for ever.
 */
const mostTurnsInOrder = 50;

/** After so many the look's own time moves on: a module may await a timer while it is evaluated. */
const mostTurns = 100;

/** Imports that have not begun. */
const waiting: (() => void)[] = [];
let underWay = 0;
let imported = 0;
let turns = 0;
let timer = 0;

/** A file of the page was asked for, or has come. */
export const stir = (): void => {
  turns = 0;
};

/** True while what was imported lazily is still to come. */
export const isImporting = (): boolean => underWay > 0 && turns < mostTurns;

/** How many imports have come, or could not. */
export const importedSoFar = (): number => imported;

function beginNext(): void {
  stir();
  waiting.splice(0, 1)[0]?.();
}

function settled(): void {
  imported++;
  underWay--;
  beginNext();
  if (underWay === 0) native.clearInterval(timer);
}

function begin(): void {
  stir();
  timer = native.setInterval(() => {
    if (++turns === mostTurnsInOrder && waiting.length > 0) beginNext();
  }, turnLength);
}

/** Imports, with `load`, when all has come that was asked for before. */
export function inOrder<T>(load: () => Promise<T>): Promise<T> {
  const isFirst = underWay++ === 0;
  if (isFirst) begin();
  const mine = new Promise<void>((resolve) => (isFirst ? resolve() : append(waiting, resolve))).then(load);
  // What is returned is what follows: of a promise that we hear ourselves nobody is told that it was not caught.
  return mine.finally(settled);
}
