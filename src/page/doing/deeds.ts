/** Hears what a person does with mouse and keyboard, and has it said as lines of a script. */
import { isStopped, isTryingNow } from '../attend/attend.ts';
import { whenSettled } from '../attend/hands.ts';
import { emptyHand, endEdit, type Hand, type Scribe } from './hand.ts';
import { keyed } from './keyboard.ts';
import { askedForMenu, carries, clicked, dropped, letGo, moved, pressedDown, turned } from './mouse.ts';
import { focused } from './named.ts';
import { changed, changes, pasted } from './values.ts';

type Handlers = { [K in keyof WindowEventMap]?: (hand: Hand, event: WindowEventMap[K]) => void };

const handlers: Handlers = {
  mousemove: moved,
  mousedown: pressedDown,
  mouseup: letGo,
  click: clicked,
  contextmenu: askedForMenu,
  dragstart: carries,
  drop: dropped,
  dragend(hand) {
    hand.carried = null;
  },
  wheel: turned,
  keydown: keyed,
  input: changes,
  change: changed,
  paste: (hand, event) => pasted(hand, event as ClipboardEvent),
};

const options = { capture: true };

/** Hears until the returned function is called. What the script does, and lines that are tried, are none of it. */
export function hear(scribe: Scribe): () => void {
  const hand = emptyHand(scribe);
  const listeners = Object.entries(handlers).map(([type, handle]) => {
    const listen = (event: Event): void => {
      if (event.isTrusted && isStopped() && !isTryingNow()) (handle as (hand: Hand, event: Event) => void)(hand, event);
    };
    addEventListener(type, listen, options);
    return () => removeEventListener(type, listen, options);
  });
  const endHearing = whenSettled(() => {
    hand.focusBefore = focused();
  });
  return () => {
    endHearing();
    endEdit(hand);
    for (const stop of listeners) stop();
  };
}
