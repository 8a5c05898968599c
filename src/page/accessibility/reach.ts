/** Keyboard and pointer: what can have the focus, and how large targets are (WCAG 2.2 2.1, 2.4, 2.5). */
import { article } from '../../core/text/article.ts';
import { isClipped } from '../act/twin.ts';
import { append } from '../host/natives.ts';
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
    if (given && reached.has(given) && !canHaveFocus(seen)) {
      const isOff = element.getAttribute('aria-disabled') === 'true' || element.closest('[inert], :disabled') !== null;
      const isManaged = around(seen, (one) => one.element.hasAttribute('aria-activedescendant'));
      const holdsOne = element.querySelector('a[href], button, input, select, textarea, [tabindex]') !== null;
      if (!isOff && !isManaged && !holdsOne)
        tell('widget-can-have-focus', element, `It is ${article(given)} without tabindex.`);
    }
    const isPressed = element.hasAttribute('onclick') || element.hasAttribute('tabindex');
    if (tag === 'a' && given === null && !element.hasAttribute('href') && isPressed)
      tell('link-has-address', element, 'It is an <a> without href.', false);
  }
};

/** What people press, or what is a part of it. */
const pressed =
  'a[href], button, input, select, textarea, label, summary, option, video, audio, iframe, [tabindex], ' +
  '[contenteditable], [aria-disabled="true"], :disabled, [role=option], [role=menuitem], [role=gridcell]';

/** True for an element that has a pointing hand of its own, not that of what it is in. */
function hasOwnHand(element: Element): boolean {
  if (getComputedStyle(element).cursor !== 'pointer') return false;
  const parent = element.parentElement;
  return parent === null || getComputedStyle(parent).cursor !== 'pointer';
}

const clicks: Check = ({ told }, tell) => {
  for (const { element, tag, given } of told) {
    if (given !== null && reached.has(given)) continue;
    // Who listens is not known, but for the attribute; a hand under the pointer is a promise.
    const isMeant = element.hasAttribute('onclick') || hasOwnHand(element);
    if (!isMeant || /^(html|body)$/.test(tag) || element.closest(pressed) || element.querySelector(pressed)) continue;
    const { width, height } = element.getBoundingClientRect();
    if (width > 1 && height > 1)
      tell('click-is-not-all', element, 'It shows that it can be clicked, and Tab does not come to it.', false);
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

/** A field that a label goes with is as large as both; one that is clipped is as large as the label. */
function boxOf({ element }: Seen): DOMRect {
  const own = element.getBoundingClientRect();
  const labels = (element as HTMLInputElement).labels;
  const isSmall = own.width < least || own.height < least;
  if (!isSmall) return own;
  const isHidden = isClipped(element);
  if (!labels || labels.length === 0) return isHidden ? new DOMRect() : own;
  const all = [...labels].map((label) => label.getBoundingClientRect());
  if (!isHidden) append(all, own);
  const [left, top] = [Math.min(...all.map((box) => box.left)), Math.min(...all.map((box) => box.top))];
  const [right, bottom] = [Math.max(...all.map((box) => box.right)), Math.max(...all.map((box) => box.bottom))];
  return new DOMRect(left, top, right - left, bottom - top);
}

/** A target with its box and the middle of that. */
type Target = {
  seen: Seen;
  left: number;
  top: number;
  right: number;
  bottom: number;
  x: number;
  y: number;
  isSmall: boolean;
};

function targetOf(seen: Seen): Target {
  const { left, top, right, bottom } = boxOf(seen);
  const isSmall = right - left < least || bottom - top < least;
  return { seen, left, top, right, bottom, x: (left + right) / 2, y: (top + bottom) / 2, isSmall };
}

/** True when a circle of the least size around the middle of one meets another (2.5.8, spacing). */
function isTooNear(one: Target, other: Target): boolean {
  const across = Math.max(other.left - one.x, 0, one.x - other.right);
  const down = Math.max(other.top - one.y, 0, one.y - other.bottom);
  // Most are far away.
  if (across >= least || down >= least) return false;
  if (across * across + down * down < (least / 2) ** 2) return true;
  return other.isSmall && (one.x - other.x) ** 2 + (one.y - other.y) ** 2 < least ** 2;
}

const size: Check = ({ told }, tell) => {
  const all = told.filter(isTarget).map(targetOf);
  const targets = all.filter(({ left, right, top, bottom }) => right > left && bottom > top);
  for (const one of targets) {
    const { seen, left, top, right, bottom } = one;
    if (!one.isSmall || isInText(seen)) continue;
    const near = targets.find(
      (other) =>
        other !== one &&
        isTooNear(one, other) &&
        !seen.element.contains(other.seen.element) &&
        !other.seen.element.contains(seen.element),
    );
    if (!near) continue;
    const [width, height] = [right - left, bottom - top];
    const what = `It is ${Math.round(width)} by ${Math.round(height)} pixels, and another target is next to it.`;
    // What the browser made so large by itself is exempt, and which that was is not told.
    const isCertain = Math.min(width, height) < ownSize && !/^(input|select)$/.test(seen.tag);
    tell('target-is-large', seen.element, what, isCertain);
  }
};

export const reachChecks: Check[] = [order, clicks, size];
