/** Typing as it is done: what was typed into a field, as the lines that would do the same. */
import { textInCode } from '../../core/value/code.ts';
import { isCaretAtEnd, named, textIn } from './named.ts';

/** What somebody is typing into a field. */
export type Edit = {
  readonly field: HTMLElement;
  readonly target: string;
  /** What the field held before. */
  readonly before: string;
  /** Everything was selected, and gave way to what was typed. */
  isEmptied: boolean;
  typed: string;
  /** Nothing but characters were typed, at the end: keys would do the same again. */
  isPlain: boolean;
};

/** Somebody begins to type into a field. */
export const beginEdit = (field: HTMLElement): Edit => ({
  field,
  target: named(field),
  before: textIn(field),
  isEmptied: false,
  typed: '',
  isPlain: isCaretAtEnd(field),
});

/** The whole text of the field is selected. */
function isAllSelected(field: HTMLElement): boolean {
  const { selectionStart, selectionEnd, value } = field as Partial<HTMLInputElement>;
  return value !== undefined && value !== '' && selectionStart === 0 && selectionEnd === value.length;
}

/** A character is about to be typed. */
export function addCharacter(edit: Edit, character: string): void {
  if (edit.typed === '' && isAllSelected(edit.field)) {
    edit.isEmptied = true;
    edit.isPlain = true;
  } else if (!isCaretAtEnd(edit.field)) edit.isPlain = false;
  edit.typed += character;
}

/** Something is about to be deleted. */
export function deleteSome(edit: Edit): void {
  if (edit.typed === '' && isAllSelected(edit.field)) {
    edit.isEmptied = true;
    edit.isPlain = true;
  } else edit.isPlain = false;
}

/** The lines that do what was typed so far; none when it has changed nothing. */
export function linesOf({ field, target, before, isEmptied, typed, isPlain }: Edit): string[] {
  const clear = `clear(${target})`;
  const type = (text: string): string => `type(${target}, ${textInCode(text)})`;
  if (isPlain) return [...(isEmptied ? [clear] : []), ...(typed === '' ? [] : [type(typed)])];
  const now = textIn(field);
  if (now === before) return [];
  return [...(before === '' ? [] : [clear]), ...(now === '' ? [] : [type(now)])];
}
