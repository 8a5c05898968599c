/** Attributes of WAI-ARIA, and what a custom element says to the browser alone in place of them. */
import { internalsOf } from '../record/internals.ts';

/** The attributes that are asked for, with the properties that stand for them (WAI-ARIA 1.3, ARIAMixin). */
const properties = {
  checked: 'ariaChecked',
  current: 'ariaCurrent',
  disabled: 'ariaDisabled',
  expanded: 'ariaExpanded',
  haspopup: 'ariaHasPopup',
  level: 'ariaLevel',
  multiselectable: 'ariaMultiSelectable',
  placeholder: 'ariaPlaceholder',
  pressed: 'ariaPressed',
  selected: 'ariaSelected',
  valuenow: 'ariaValueNow',
} as const;

/** The value of `aria-` and a name, or what its class says in place of it; null where an element says nothing of it. */
export const ariaOf = (element: Element, name: keyof typeof properties): string | null =>
  element.getAttribute(`aria-${name}`) ?? internalsOf(element)?.[properties[name]] ?? null;
