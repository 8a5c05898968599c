/** What a person does with the mouse, as lines. */
import { codeOf } from '../../core/value/code.ts';
import { isInput, isTextArea } from '../act/element.ts';
import { begin, type Hand } from './hand.ts';
import { fieldOf, innermost, isPicked, meant, named } from './named.ts';

/** From how many pixels on a pressed mouse drags. */
const dragged = 8;

/** The modifiers that are held. */
export const heldIn = ({ ctrlKey, shiftKey, altKey, metaKey }: MouseEvent | KeyboardEvent): string[] =>
  [ctrlKey && 'Control', shiftKey && 'Shift', altKey && 'Alt', metaKey && 'Meta'].filter((one) => one !== false);

/** `, { holding: 'Shift', times: 2 }`, or nothing. */
function optionsOf(entries: Record<string, unknown>): string {
  const given = Object.entries(entries).filter(([, value]) => value !== undefined);
  return given.length === 0 ? '' : `, ${codeOf(Object.fromEntries(given))}`;
}

/** The pointer has moved. */
export function moved(hand: Hand, event: MouseEvent): void {
  const element = innermost(event);
  if (!element || element === hand.over || event.buttons !== 0) return;
  hand.over = element;
  if (!hand.edit) hand.scribe.over(named(meant(element)));
}

/** A button was pressed. */
export function pressedDown(hand: Hand, event: MouseEvent): void {
  const element = innermost(event);
  if (!element) return;
  hand.isKeyClick = false;
  begin(hand);
  const target = meant(element);
  const { clientX: x, clientY: y, detail } = event;
  // The second press of a double click says more of the first one.
  const line = detail < 2 ? null : (hand.gesture?.line ?? null);
  hand.gesture = { element: target, target: named(target), x, y, line, isDrag: false };
}

/** The button was let go: somewhere else, it has dragged something. */
export function letGo(hand: Hand, event: MouseEvent): void {
  const { gesture } = hand;
  if (!gesture || hand.carried) return;
  const by = [Math.round(event.clientX - gesture.x), Math.round(event.clientY - gesture.y)];
  const isText = !(getSelection()?.isCollapsed ?? true);
  if (Math.hypot(...by) <= dragged || isPicked(gesture.element) || isText) return;
  gesture.isDrag = true;
  hand.scribe.write(`drag(${gesture.target}, { by: ${codeOf(by)} })`);
}

/** Something was clicked. */
export function clicked(hand: Hand, event: MouseEvent): void {
  const { gesture } = hand;
  const element = innermost(event);
  if (!element || !gesture || gesture.isDrag || hand.isKeyClick) return;
  const isFile = isInput(element) && element.type === 'file';
  if (element.matches('select, option') || isPicked(element) || isFile) return;
  const holding = heldIn(event).join('+') || undefined;
  const times = event.detail > 1 ? event.detail : undefined;
  // A label clicks on behalf of its control: both are the same line.
  gesture.line = hand.scribe.write(`click(${gesture.target}${optionsOf({ holding, times })})`, gesture.line);
  const field = fieldOf(element);
  hand.entry = field && times === undefined && holding === undefined ? { field, line: gesture.line } : null;
}

/** The right button has opened a menu, or would have. */
export function askedForMenu({ gesture, scribe }: Hand): void {
  if (gesture && !gesture.line) gesture.line = scribe.write(`click(${gesture.target}, { button: 'right' })`);
}

/** What the page lets be dragged is dragged. */
export function carries(hand: Hand, event: DragEvent): void {
  const element = innermost(event);
  hand.carried = element ? (hand.gesture?.target ?? named(element)) : null;
}

/** It was dropped. */
export function dropped(hand: Hand, event: DragEvent): void {
  const element = innermost(event);
  if (element && hand.carried) hand.scribe.write(`drag(${hand.carried}, ${named(meant(element))})`);
  hand.carried = null;
}

/** The wheel was turned. */
export function turned(hand: Hand, event: WheelEvent): void {
  const element = innermost(event);
  if (!element || isTextArea(element)) return;
  const same = hand.scrolling?.element === element ? hand.scrolling : null;
  if (!same) begin(hand);
  const [x, y] = same?.by ?? [0, 0];
  const by: [number, number] = [x + event.deltaX, y + event.deltaY];
  const text = `scroll(${named(element)}, { by: ${codeOf(by.map(Math.round))} })`;
  hand.scrolling = { element, by, line: hand.scribe.write(text, same?.line ?? null) };
}
