/** Values that fields get otherwise than by keys: chosen, picked, pasted, uploaded. */
import { textInCode } from '../../core/value/code.ts';
import { isInput } from '../act/element.ts';
import { beginEdit } from './edit.ts';
import { begin, type Hand, writeEdit } from './hand.ts';
import { fieldOf, focused, innermost, isPicked, named } from './named.ts';

/** A field has another value. */
export function changes(hand: Hand, event: Event): void {
  const element = innermost(event);
  if (!element) return;
  if (!isPicked(element)) {
    if (hand.edit && fieldOf(element) === hand.edit.field) writeEdit(hand);
    return;
  }
  if (hand.edit?.field !== element) {
    begin(hand);
    hand.edit = beginEdit(element as HTMLElement);
  }
  hand.edit.isPlain = true;
  hand.edit.typed = (element as HTMLInputElement).value;
  writeEdit(hand);
}

function select(hand: Hand, element: HTMLSelectElement): void {
  const same = hand.chosen?.element === element ? hand.chosen : null;
  if (!same) begin(hand);
  const labels = [...element.selectedOptions].map((option) => option.label.trim());
  const chosen = labels.map(textInCode);
  const text = `select(${named(element)}, ${element.multiple ? `[${chosen.join(', ')}]` : (chosen[0] ?? "''")})`;
  hand.chosen = { element, line: hand.scribe.write(text, same?.line ?? null) };
}

function upload(hand: Hand, element: HTMLInputElement): void {
  begin(hand);
  const files = [...(element.files ?? [])].map(
    ({ name, type }) => `new File([''], ${textInCode(name)}${type ? `, { type: ${textInCode(type)} }` : ''})`,
  );
  hand.scribe.write(`upload(${named(element)}, ${files.length === 1 ? files[0] : `[${files.join(', ')}]`})`);
}

/** A field has got the value that it was given. */
export function changed(hand: Hand, event: Event): void {
  const element = innermost(event);
  if (element instanceof HTMLSelectElement) select(hand, element);
  else if (element && isInput(element) && element.type === 'file') upload(hand, element);
}

/** Something was pasted. */
export function pasted(hand: Hand, event: ClipboardEvent): void {
  const text = event.clipboardData?.getData('text/plain') ?? '';
  const element = focused();
  const field = element && fieldOf(element);
  begin(hand);
  if (text !== '') hand.scribe.write(`paste(${field ? `${named(field)}, ` : ''}${textInCode(text)})`);
}
