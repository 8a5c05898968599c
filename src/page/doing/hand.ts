/** What a person has in hand: what they have begun to do, and the lines that say so far what it is. */
import type { Did } from '../../core/sitting/sitting.ts';
import { beginEdit, type Edit, linesOf } from './edit.ts';
import { focused } from './named.ts';

/** Who writes the lines down. */
export type Scribe = {
  /** Something is about to be done. */
  begin(): void;
  /** Writes a line, or gives one another text; null takes it back. */
  write(text: string | null, line?: Did | null): Did;
  /** The pointer has gone to something else. */
  over(target: string): void;
};

export type Hand = {
  readonly scribe: Scribe;
  /** What is done with the mouse between pressing and letting go. */
  gesture: { target: string; element: Element; x: number; y: number; line: Did | null; isDrag: boolean } | null;
  edit: Edit | null;
  editLines: Did[];
  /** A click into a field: typing there says as much. */
  entry: { field: HTMLElement; line: Did } | null;
  pressed: { keys: string; times: number; to: string; line: Did } | null;
  /** Where the focus was when the last thing had been done: it may have moved by itself since. */
  focusBefore: Element | null;
  /** What is being chosen in a list. */
  chosen: { element: Element; line: Did } | null;
  /** The target of what is being dragged. */
  carried: string | null;
  /** Enter and space click, too. */
  isKeyClick: boolean;
  over: Element | null;
  scrolling: { element: Element; by: [number, number]; line: Did } | null;
};

/** A hand that does nothing yet. */
export const emptyHand = (scribe: Scribe): Hand => ({
  scribe,
  gesture: null,
  edit: null,
  editLines: [],
  entry: null,
  pressed: null,
  focusBefore: focused(),
  chosen: null,
  carried: null,
  isKeyClick: false,
  over: null,
  scrolling: null,
});

/** Says what has been typed so far. */
export function writeEdit(hand: Hand): void {
  const texts = hand.edit ? linesOf(hand.edit) : [];
  const before = hand.editLines;
  const count = Math.max(texts.length, before.length);
  hand.editLines = Array.from({ length: count }, (_, i) => hand.scribe.write(texts[i] ?? null, before[i] ?? null));
}

/** Typing has come to its end: what comes next is something else. */
export function endEdit(hand: Hand): void {
  if (hand.edit) writeEdit(hand);
  hand.edit = null;
  hand.editLines = [];
}

/** Something else begins. */
export function begin(hand: Hand): void {
  endEdit(hand);
  hand.pressed = null;
  hand.chosen = null;
  hand.scrolling = null;
  hand.scribe.begin();
}

/** What is being typed into a field; the click that led there says nothing more. */
export function editOf(hand: Hand, field: HTMLElement): Edit {
  if (hand.edit?.field === field) return hand.edit;
  const { entry } = hand;
  begin(hand);
  if (entry?.field === field) hand.scribe.write(null, entry.line);
  hand.entry = null;
  hand.edit = beginEdit(field);
  return hand.edit;
}
