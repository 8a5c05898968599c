/** Names: what assistive technology reads out of pictures, controls and landmarks (accname 1.2, HTML-AAM 1.0). */
import { namedWidgets } from '../../core/accessibility/aria.ts';
import { article } from '../../core/text/article.ts';
import { readable } from '../../core/text/folded.ts';
import { nameOf } from '../act/names.ts';
import type { Check } from './check.ts';
import { calledBy, isNamed, type Seen, seenText } from './scene.ts';

const isPresentational = ({ given }: Seen): boolean => given === 'none' || given === 'presentation';

const fileName = /^[\w-]+\.(png|jpe?g|gif|webp|avif|svg|bmp|ico)$/i;

const pictures: Check = ({ told }, tell) => {
  for (const seen of told) {
    const { element, tag, role } = seen;
    if (tag === 'img' && !isPresentational(seen)) {
      const alt = element.getAttribute('alt');
      if (alt === null && !isNamed(element)) tell('picture-has-text', element, 'It has no alt.');
      else if (alt && fileName.test(alt.trim()))
        tell('picture-text-is-no-file', element, `Its text is “${alt.trim()}”.`);
    }
    if (tag === 'svg' && (role === 'img' || role === 'image') && !isNamed(element))
      tell('drawing-has-text', element, 'It is an image without a name.');
    else if (tag !== 'img' && tag !== 'svg' && (seen.given === 'img' || seen.given === 'image') && !isNamed(element))
      tell('drawing-has-text', element, 'It is an image without a name.');
    const isAreaNamed = ['alt', 'aria-label', 'aria-labelledby'].some((name) => element.getAttribute(name)?.trim());
    if (tag === 'area' && element.hasAttribute('href') && !isAreaNamed)
      tell('area-has-text', element, 'It has no alt.');
    if ((tag === 'object' || tag === 'embed') && !isNamed(element) && seenText(element) === '')
      tell('object-has-text', element, 'It has neither content nor a name.');
  }
};

const controls: Check = ({ told }, tell) => {
  for (const { element, tag, role, given } of told) {
    const isImageButton = tag === 'input' && (element as HTMLInputElement).type === 'image';
    if (isImageButton) {
      // Without one browsers call it “Submit”.
      const isTold = ['alt', 'aria-label', 'aria-labelledby', 'title'].some((name) =>
        element.getAttribute(name)?.trim(),
      );
      if (!isTold) tell('image-button-has-text', element, 'It has no alt.');
    } else if (role === 'button' && tag !== 'summary' && calledBy(element) === '')
      tell('button-has-name', element, 'It has neither text nor a name.');
    else if (role === 'link' && tag !== 'area' && calledBy(element) === '')
      tell('link-has-name', element, 'It has neither text nor a name.');
    else if (
      tag === 'summary' &&
      element.parentElement?.localName === 'details' &&
      !isNamed(element) &&
      seenText(element) === ''
    )
      tell('summary-has-text', element, 'It is empty.');
    else if (/^(input|select|textarea)$/.test(tag) && given === null) field(element, tell);
    else if (given !== null && namedWidgets.has(given) && !isNamed(element))
      tell('widget-has-name', element, `It is ${article(given)} without a name.`);
    else if ((tag === 'meter' || tag === 'progress') && !isNamed(element))
      tell('widget-has-name', element, `It is ${article(tag)} without a name.`);
  }
};

/** Buttons have a text by themselves; the rest needs one. */
const textless = /^(hidden|submit|reset|button|image)$/;

function field(element: Element, tell: Parameters<Check>[1]): void {
  if (element.localName === 'input' && textless.test((element as HTMLInputElement).type)) return;
  const labels = (element as HTMLInputElement).labels?.length ?? 0;
  const isLabelled = ['aria-label', 'aria-labelledby'].some((name) => element.getAttribute(name)?.trim());
  const hint = ['title', 'placeholder'].map((name) => element.getAttribute(name)?.trim()).find(Boolean);
  if (labels > 0 || isLabelled ? isNamed(element) : hint === undefined && isNamed(element)) return;
  if (hint === undefined) tell('field-has-label', element, 'It has no label.');
  else tell('label-is-visible', element, `It is called “${hint}” by its title or placeholder alone.`, false);
}

const groups: Check = ({ told }, tell) => {
  for (const { element, tag, role, given } of told) {
    if (role === 'dialog' || role === 'alertdialog') {
      if (!isNamed(element)) tell('dialog-has-name', element, 'It has no name.');
    } else if (tag === 'iframe' && !isNamed(element)) tell('frame-has-name', element, 'It has no title.');
    else if ((role === 'radiogroup' || tag === 'fieldset') && !isNamed(element))
      tell('group-has-name', element, 'It has no name.', role === 'radiogroup');
    else if (given === 'region' && !isNamed(element)) tell('region-has-name', element, 'It has no name.');
    else if (role === 'tabpanel' && !isNamed(element)) tell('tabpanel-has-name', element, 'It has no name.');
    else if (role === 'heading' && calledBy(element) === '') tell('heading-has-text', element, 'It is empty.');
  }
};

/** Radio buttons of one name that stand in no group: what they answer is said by nothing that is read out with them. */
const radios: Check = ({ told }, tell) => {
  const byName = new Map<string, HTMLInputElement[]>();
  for (const { element } of told)
    if (element instanceof HTMLInputElement && element.type === 'radio' && element.name)
      byName.set(element.name, [...(byName.get(element.name) ?? []), element]);
  for (const [first, second] of byName.values())
    if (second && !first!.closest('fieldset, [role=radiogroup], [role=group]'))
      tell('group-has-name', first!, `It and “${nameOf(second)}” are in no group with a name.`, false);
};

/** Letters and digits of a text: what somebody would say. */
const spoken = (text: string): string =>
  readable(text)
    .toLowerCase()
    .replace(/[^\p{L}\p{N} ]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();

const sayable = new Set(['button', 'link', 'tab', 'menuitem', 'checkbox', 'radio', 'switch', 'option']);

const asSeen: Check = ({ told }, tell) => {
  const places = new Map<string, { element: Element; href: string }>();
  for (const { element, role } of told) {
    if (!role || !sayable.has(role)) continue;
    const label =
      element.getAttribute('aria-label') ?? (element.hasAttribute('aria-labelledby') ? nameOf(element) : '');
    const text = label ? spoken(seenText(element)) : '';
    // A sign or two are no words to be spoken.
    if (text.length > 2 && !spoken(label).includes(text))
      tell('name-holds-what-is-seen', element, `It shows “${seenText(element)}” and is called “${nameOf(element)}”.`);
    const href = element instanceof HTMLAnchorElement ? element.href : null;
    const name = href === null ? '' : calledBy(element).toLowerCase();
    if (href === null || name === '') continue;
    const other = places.get(name);
    if (other && other.href !== href)
      tell('same-name-same-place', element, `Another link “${nameOf(element)}” leads to ${other.href}.`, false);
    places.set(name, { element, href });
  }
};

export const nameChecks: Check[] = [pictures, controls, groups, radios, asSeen];
