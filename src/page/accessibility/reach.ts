/** Keyboard and pointer: what can have the focus, and how large targets are (WCAG 2.2 2.1, 2.4, 2.5). */
import type { Check } from './check.ts';
import { around, canHaveFocus, isInTabOrder, type Seen } from './scene.ts';

/** Roles that a person works with directly; parts of composites get the focus by keys of the composite. */
const reached = new Set([
  'button',
  'checkbox',
  'combobox',
  'link',
  'searchbox',
  'slider',
  'spinbutton',
  'switch',
  'textbox',
]);

const order: Check = ({ told }, tell) => {
  for (const seen of told) {
    const { element, tag, given } = seen;
    if (Number(element.getAttribute('tabindex')) > 0)
      tell('tab-order-is-natural', element, `Its tabindex is ${element.getAttribute('tabindex')}.`);
    const isOff = element.getAttribute('aria-disabled') === 'true' || element.closest('[inert], :disabled') !== null;
    if (given && reached.has(given) && !isOff && !canHaveFocus(seen)) {
      const isManaged = around(seen, (one) => one.element.hasAttribute('aria-activedescendant'));
      const holdsOne = element.querySelector('a[href], button, input, select, textarea, [tabindex]') !== null;
      if (!isManaged && !holdsOne) tell('widget-can-have-focus', element, `It is a ${given} without tabindex.`);
    }
    const isPressed = element.hasAttribute('onclick') || element.hasAttribute('tabindex');
    if (tag === 'a' && given === null && !element.hasAttribute('href') && isPressed)
      tell('link-has-address', element, 'It is an <a> without href.', false);
  }
};

const least = 24;

/** Buttons and lines of text are at least so high by themselves. */
const ownSize = 18;

const isTarget = (seen: Seen): boolean => isInTabOrder(seen) && seen.tag !== 'iframe';

/** True for one that stands in a line of text: its height is that of the text. */
const isInText = ({ element, tag }: Seen): boolean =>
  tag === 'a' &&
  getComputedStyle(element).display === 'inline' &&
  [...(element.parentElement?.childNodes ?? [])].some((node) => node.nodeType === 3 && node.textContent!.trim() !== '');

/** A field that a label goes with is as large as both. */
function boxOf({ element }: Seen): DOMRect {
  const own = element.getBoundingClientRect();
  const labels = (element as HTMLInputElement).labels;
  const isSmall = own.width < least || own.height < least;
  if (!isSmall || !labels || labels.length === 0) return own;
  const all = [own, ...[...labels].map((label) => label.getBoundingClientRect())];
  const [left, top] = [Math.min(...all.map((box) => box.left)), Math.min(...all.map((box) => box.top))];
  const [right, bottom] = [Math.max(...all.map((box) => box.right)), Math.max(...all.map((box) => box.bottom))];
  return new DOMRect(left, top, right - left, bottom - top);
}

const centre = (box: DOMRect): [number, number] => [box.left + box.width / 2, box.top + box.height / 2];

/** How far a point is from a box. */
const distance = ([x, y]: [number, number], box: DOMRect): number =>
  Math.hypot(Math.max(box.left - x, 0, x - box.right), Math.max(box.top - y, 0, y - box.bottom));

const size: Check = ({ told }, tell) => {
  const targets = told.filter(isTarget).map((seen) => ({ seen, box: boxOf(seen) }));
  const shown = targets.filter(({ box }) => box.width > 0 && box.height > 0);
  for (const { seen, box } of shown) {
    if ((box.width >= least && box.height >= least) || isInText(seen)) continue;
    // A circle of that size around the middle must meet no other target (2.5.8, spacing).
    const near = shown.find(({ seen: other, box: beside }) => {
      if (other === seen || seen.element.contains(other.element) || other.element.contains(seen.element)) return false;
      const isSmall = beside.width < least || beside.height < least;
      const between = Math.hypot(...centre(box).map((value, i) => value - centre(beside)[i]!));
      return distance(centre(box), beside) < least / 2 || (isSmall && between < least);
    });
    if (!near) continue;
    const what = `It is ${Math.round(box.width)} by ${Math.round(box.height)} pixels, and another target is next to it.`;
    // What the browser made so large by itself is exempt, and which that was is not told.
    tell(
      'target-is-large',
      seen.element,
      what,
      Math.min(box.width, box.height) < ownSize && !/^(input|select)$/.test(seen.tag),
    );
  }
};

export const reachChecks: Check[] = [order, size];
