/** Hears what a person does with mouse and keyboard, and says it as lines of a script. */
import type { Did } from '../../core/sitting/sitting.ts';
import { codeOf } from '../../core/value/code.ts';
import { isInput, isTextArea } from '../act/element.ts';
import { whenSettled } from '../attend/hands.ts';
import { isStopped, isTryingNow } from '../attend/attend.ts';
import { addCharacter, beginEdit, deleteSome, type Edit, linesOf } from './edit.ts';
import { fieldOf, focused, innermost, isPicked, meant, named } from './named.ts';

/** Who writes the lines down. */
export type Scribe = {
  /** Something is about to be done. */
  begin(): void;
  /** Writes a line, or gives one another text; null takes it back. */
  write(text: string | null, line?: Did | null): Did;
  /** The pointer has gone to something else. */
  over(target: string): void;
};

const modifiers = ['Control', 'Shift', 'Alt', 'Meta'];

const heldIn = ({ ctrlKey, shiftKey, altKey, metaKey }: MouseEvent | KeyboardEvent): string[] =>
  [ctrlKey && 'Control', shiftKey && 'Shift', altKey && 'Alt', metaKey && 'Meta'].filter((one) => one !== false);

/** `{ times: 2, holding: 'Shift' }`, or nothing. */
function optionsOf(entries: Record<string, unknown>): string {
  const given = Object.entries(entries).filter(([, value]) => value !== undefined);
  return given.length === 0 ? '' : `, ${codeOf(Object.fromEntries(given))}`;
}

/** What is done with the mouse between pressing and letting go. */
type Gesture = { element: Element; target: string; x: number; y: number; line: Did | null; isDrag: boolean };

/** From how many pixels on a pressed mouse drags. */
const dragged = 8;

const isFileInput = (element: Element): element is HTMLInputElement => isInput(element) && element.type === 'file';

/** Hears until the returned function is called. */
export function hear(scribe: Scribe): () => void {
  let gesture: Gesture | null = null;
  let edit: Edit | null = null;
  let editLines: Did[] = [];
  /** A click into a field: typing there says as much. */
  let entry: { field: HTMLElement; line: Did } | null = null;
  let pressed: { keys: string; times: number; to: string; line: Did } | null = null;
  /** Where the focus was when the last thing had been done: it may have moved by itself since. */
  let focusBefore: Element | null = focused();
  /** What is being chosen in a list. */
  let chosen: { element: Element; line: Did } | null = null;
  let carried: string | null = null;
  let isKeyClick = false;
  let over: Element | null = null;
  let scrolling: { element: Element; by: [number, number]; line: Did } | null = null;

  const writeEdit = (): void => {
    const texts = edit ? linesOf(edit) : [];
    const count = Math.max(texts.length, editLines.length);
    editLines = Array.from({ length: count }, (_, i) => scribe.write(texts[i] ?? null, editLines[i] ?? null));
  };

  /** Typing has come to its end: what comes next is something else. */
  const endEdit = (): void => {
    if (edit) writeEdit();
    edit = null;
    editLines = [];
  };

  const begin = (): void => {
    endEdit();
    pressed = null;
    chosen = null;
    scrolling = null;
    scribe.begin();
  };

  const editOf = (field: HTMLElement): Edit => {
    if (edit?.field === field) return edit;
    const { line = null, field: entered = null } = entry ?? {};
    const isEntered = entered === field;
    begin();
    if (isEntered && line) scribe.write(null, line);
    entry = null;
    edit = beginEdit(field);
    return edit;
  };

  const press = (keys: string): void => {
    const at = focused();
    const isMoved = at !== focusBefore && at !== document.body && at !== null;
    const to = `press(${isMoved ? `${named(at)}, ` : ''}${codeOf(keys)}`;
    if (pressed?.keys === keys && !isMoved) {
      pressed.times++;
      scribe.write(`${pressed.to}, { times: ${pressed.times} })`, pressed.line);
      return;
    }
    begin();
    entry = null;
    pressed = { keys, times: 1, to, line: scribe.write(`${to})`) };
  };

  const handlers: { [K in keyof WindowEventMap]?: (event: WindowEventMap[K]) => void } = {
    mousemove(event) {
      const element = innermost(event);
      if (!element || element === over || event.buttons !== 0) return;
      over = element;
      if (!edit) scribe.over(named(meant(element)));
    },
    mousedown(event) {
      const element = innermost(event);
      if (!element) return;
      isKeyClick = false;
      begin();
      const target = meant(element);
      const { clientX: x, clientY: y } = event;
      gesture = { element: target, target: named(target), x, y, line: gesture?.line ?? null, isDrag: false };
      if (event.detail < 2) gesture.line = null;
    },
    mouseup(event) {
      if (!gesture || carried) return;
      const by = [Math.round(event.clientX - gesture.x), Math.round(event.clientY - gesture.y)];
      const isFar = Math.hypot(...by) > dragged;
      if (!isFar || isPicked(gesture.element) || !(getSelection()?.isCollapsed ?? true)) return;
      gesture.isDrag = true;
      scribe.write(`drag(${gesture.target}, { by: ${codeOf(by)} })`);
    },
    click(event) {
      const element = innermost(event);
      if (!element || !gesture || gesture.isDrag) return;
      // Enter and space click, too, and so does a label on behalf of its control.
      if (isKeyClick || element.matches('select, option') || isPicked(element) || isFileInput(element)) return;
      const held = heldIn(event).join('+') || undefined;
      const times = event.detail > 1 ? event.detail : undefined;
      const text = `click(${gesture.target}${optionsOf({ holding: held, times })})`;
      gesture.line = scribe.write(text, gesture.line);
      const field = fieldOf(element);
      entry = field && times === undefined && held === undefined ? { field, line: gesture.line } : null;
    },
    contextmenu() {
      if (!gesture || gesture.line) return;
      gesture.line = scribe.write(`click(${gesture.target}, { button: 'right' })`);
    },
    keydown(event) {
      if (isTryingNow()) return;
      const { key, isComposing } = event;
      const element = focused();
      const field = element && fieldOf(element);
      isKeyClick = key === 'Enter' || key === ' ';
      // What keys choose in a list is told by what was chosen.
      if (element instanceof HTMLSelectElement && key !== 'Tab') return;
      if (modifiers.includes(key) || isComposing || (element && isPicked(element) && key.length === 1)) return;
      const held = heldIn(event);
      const isPlain = held.every((one) => one === 'Shift');
      const isCharacter = key.length === 1 || (key === 'Enter' && field !== null && !isInput(field));
      if (field && isPlain && isCharacter) {
        addCharacter(editOf(field), key === 'Enter' ? '\n' : key);
        return;
      }
      if (field && isPlain && (key === 'Backspace' || key === 'Delete')) return deleteSome(editOf(field));
      if (field && held.join() === 'Control' && key.toLowerCase() === 'a') {
        // Whatever comes next takes the place of everything that is there.
        if (edit?.field === field && edit.typed !== '') begin();
        return void editOf(field);
      }
      if (held.includes('Control') && key.toLowerCase() === 'v') return;
      const name = key === ' ' ? 'Space' : key;
      const isShifted = key.length === 1 && isPlain;
      press([...(isShifted ? [] : held), name].join('+'));
    },
    input(event) {
      const element = innermost(event);
      if (!element || isTryingNow()) return;
      if (isPicked(element)) {
        const { value } = element as HTMLInputElement;
        if (edit?.field !== element) {
          begin();
          edit = { ...beginEdit(element as HTMLElement), isEmptied: false };
        }
        edit.isPlain = true;
        edit.typed = value;
        return writeEdit();
      }
      if (edit && fieldOf(element) === edit.field) writeEdit();
    },
    change(event) {
      const element = innermost(event);
      if (element instanceof HTMLSelectElement) {
        if (chosen?.element !== element) begin();
        const labels = [...element.selectedOptions].map((option) => option.label.trim());
        const text = `select(${named(element)}, ${codeOf(element.multiple ? labels : (labels[0] ?? ''))})`;
        chosen = { element, line: scribe.write(text, chosen?.element === element ? chosen.line : null) };
      } else if (element && isFileInput(element)) {
        begin();
        const files = [...(element.files ?? [])].map(({ name, type }) => {
          const kind = type ? `, { type: ${codeOf(type)} }` : '';
          return `new File([''], ${codeOf(name)}${kind})`;
        });
        scribe.write(`upload(${named(element)}, ${files.length === 1 ? files[0] : `[${files.join(', ')}]`})`);
      }
    },
    paste(event) {
      const element = focused();
      const field = element && fieldOf(element);
      const text = (event as ClipboardEvent).clipboardData?.getData('text/plain') ?? '';
      begin();
      const into = field ? `${named(field)}, ` : '';
      if (text !== '') scribe.write(`paste(${into}${codeOf(text) ?? "''"})`);
    },
    dragstart(event) {
      const element = innermost(event);
      carried = element ? (gesture?.target ?? named(element)) : null;
    },
    drop(event) {
      const element = innermost(event);
      if (element && carried) scribe.write(`drag(${carried}, ${named(meant(element))})`);
      carried = null;
    },
    dragend() {
      carried = null;
    },
    wheel(event) {
      const element = innermost(event);
      if (!element || isTextArea(element)) return;
      const same = scrolling?.element === element ? scrolling : null;
      if (!same) begin();
      const by: [number, number] = [(same?.by[0] ?? 0) + event.deltaX, (same?.by[1] ?? 0) + event.deltaY];
      const line = scribe.write(`scroll(${named(element)}, { by: ${codeOf(by.map(Math.round))} })`, same?.line ?? null);
      scrolling = { element, by, line };
    },
  };

  const options = { capture: true };
  const listeners = Object.entries(handlers).map(([type, handle]) => {
    const listen = (event: Event): void => {
      if (event.isTrusted && isStopped() && !isTryingNow()) (handle as (event: Event) => void)(event);
    };
    addEventListener(type, listen, options);
    return () => removeEventListener(type, listen, options);
  });
  const endHearing = whenSettled(() => {
    focusBefore = focused();
  });
  return () => {
    endHearing();
    endEdit();
    for (const stop of listeners) stop();
  };
}
