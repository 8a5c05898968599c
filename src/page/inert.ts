/** Elements of a recorded page as they are drawn again: they look as they did, and can do nothing. */
import type { ElementEntry } from '../core/moment.ts';
import { type MediaFeatures, pinScheme, restyle } from '../core/restyle.ts';

const namespaces = { svg: 'http://www.w3.org/2000/svg', math: 'http://www.w3.org/1998/Math/MathML' };

/** Elements that could do something although scripts are off, or that draw something of another page, and what stands in for them. */
const standIns: Record<string, string> = {
  iframe: 'sg-frame',
  frame: 'sg-frame',
  object: 'sg-object',
  embed: 'sg-embed',
  base: 'sg-base',
  meta: 'sg-meta',
  link: 'sg-link',
  // Where scripts are off it would be shown.
  noscript: 'sg-noscript',
  portal: 'sg-frame',
};

/** Hides the stand-ins of elements that show nothing. */
export const unseen = 'sg-link,sg-object,sg-embed,sg-base,sg-meta,sg-noscript{display:none!important}';

/** The one kind of meta element that changes what is seen. */
const isSchemeMeta = ({ tag, attrs }: ElementEntry): boolean => tag === 'meta' && attrs?.name?.toLowerCase() === 'color-scheme';

/** An element for a recorded one, without its attributes. */
export function makeElement(document: Document, entry: ElementEntry): Element {
  if (entry.ns) return document.createElementNS(namespaces[entry.ns], entry.tag);
  // A linked sheet's recorded text is put in place of the link.
  const tag = entry.sheet !== undefined ? 'style' : isSchemeMeta(entry) ? 'meta' : (standIns[entry.tag] ?? entry.tag);
  const element = document.createElement(tag);
  if (entry.shadow) element.attachShadow({ mode: 'open' });
  return element;
}

/** Gives an element an attribute as it was recorded, unless it would do something; `resolve` turns addresses into those of recorded files. */
export function putAttribute(element: Element, entry: ElementEntry, name: string, value: string, media: MediaFeatures, resolve: (url: string) => string): void {
  let shown = value;
  if (name === 'src' || name === 'poster' || (name.endsWith('href') && (entry.tag === 'image' || entry.tag === 'use' || entry.tag === 'feImage')))
    shown = resolve(value);
  else if (name === 'style') shown = restyle(value, media, resolve);
  else if (name === 'content' && element.localName === 'meta') shown = pinScheme(value, media);
  else if (
    name === 'autofocus' ||
    name === 'srcdoc' ||
    name === 'http-equiv' ||
    (name === 'href' && element.localName === 'a' && value.startsWith('javascript:'))
  )
    return;
  // A dialog is opened by its own method, which also puts it in the top layer.
  else if (name === 'open' && entry.tag === 'dialog' && entry.state?.dialog === 'modal') return;
  if (element.getAttribute(name) === shown) return;
  try {
    if (name.startsWith('xlink:')) element.setAttributeNS('http://www.w3.org/1999/xlink', name, shown);
    else element.setAttribute(name, shown);
  } catch {
    // A parser accepts names that setAttribute does not; such an attribute shows nothing.
  }
}
