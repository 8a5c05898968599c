/** Stages side by side that are driven together: what a person does in one is done in the others. */
import type { Deed } from '../../core/wire/live.ts';

/** Where an element is in the page: the positions of its ancestors and itself among their siblings. */
function pathOf(element: Element): number[] {
  const path: number[] = [];
  for (let at = element; at.parentElement; at = at.parentElement)
    path.unshift([...at.parentElement.children].indexOf(at));
  return path;
}

/** The same component makes the same elements, whatever its environment is; null where it does not. */
function elementAt(path: readonly number[]): Element | null {
  let at: Element | undefined = document.documentElement;
  for (const index of path) at = at?.children[index];
  return at ?? null;
}

type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

const isField = (element: unknown): element is Field =>
  element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement || element instanceof HTMLSelectElement;

const isChecked = (field: Field): field is HTMLInputElement =>
  field instanceof HTMLInputElement && /^(checkbox|radio)$/.test(field.type);

/** Says what a person does on this page; what is done for others is no person's doing. */
export function tellDeeds(tell: (deed: Deed) => void): void {
  const of = (event: Event): Element | null => {
    const [inner] = event.composedPath();
    return event.isTrusted && event.target instanceof Element && inner instanceof Element ? event.target : null;
  };
  const options = { capture: true };
  addEventListener(
    'click',
    (event) => {
      const element = of(event);
      // A click on a box that is checked is told as a change of that.
      if (element && !(isField(element) && isChecked(element))) tell({ did: 'click', path: pathOf(element) });
    },
    options,
  );
  for (const type of ['input', 'change'])
    addEventListener(
      type,
      (event) => {
        const element = of(event);
        if (!isField(element) || (element instanceof HTMLInputElement && element.type === 'file')) return;
        if (type === 'change' && !(element instanceof HTMLSelectElement) && !isChecked(element)) return;
        const value = isChecked(element) ? null : element.value;
        tell({ did: 'fill', path: pathOf(element), value, checked: isChecked(element) && element.checked });
      },
      options,
    );
  addEventListener(
    'keydown',
    (event) => {
      const element = of(event);
      // What types a text is told with the field.
      if (element && event.key.length > 1)
        tell({ did: 'press', path: pathOf(element), key: event.key, code: event.code });
    },
    options,
  );
}

function fill(field: Field, value: string | null, checked: boolean): void {
  if (isChecked(field)) {
    if (field.checked !== checked) field.click();
    return;
  }
  // Frameworks put accessors of their own on a field to hear of what others write into it.
  const { set } = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field) as object, 'value')!;
  set!.call(field, value);
  for (const type of ['input', 'change']) field.dispatchEvent(new Event(type, { bubbles: true }));
}

/** Does what was done on another page, as far as that can be done without a person. */
export function repeat(deed: Deed): void {
  const element = elementAt(deed.path);
  if (!(element instanceof HTMLElement || element instanceof SVGElement)) return;
  element.focus({ preventScroll: true });
  if (deed.did === 'click')
    element.dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true, composed: true, view: window }));
  else if (deed.did === 'fill') {
    if (isField(element)) fill(element, deed.value, deed.checked);
  } else
    for (const type of ['keydown', 'keyup'])
      element.dispatchEvent(
        new KeyboardEvent(type, { key: deed.key, code: deed.code, bubbles: true, cancelable: true, composed: true }),
      );
}
