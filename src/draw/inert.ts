/** Elements of a recorded page as they are drawn again: they look as they did, and can do nothing. */
import type { ElementEntry } from '../core/moment/moment.ts';
import { type MediaFeatures, pinScheme, restyle } from '../core/moment/restyle.ts';

const namespaces = { svg: 'http://www.w3.org/2000/svg', math: 'http://www.w3.org/1998/Math/MathML' };

/**
 * Elements that could do something although scripts are off, or that draw something of another page, and what stands
 * in for them.
 */
const standIns: Record<string, string> = {
  iframe: 'sg-frame',
  frame: 'sg-frame',
  fencedframe: 'sg-frame',
  webview: 'sg-frame',
  portal: 'sg-frame',
  applet: 'sg-object',
  object: 'sg-object',
  embed: 'sg-embed',
  base: 'sg-base',
  meta: 'sg-meta',
  link: 'sg-link',
  script: 'sg-script',
  // Where scripts are off it would be shown.
  noscript: 'sg-noscript',
};

/** Hides the stand-ins of elements that show nothing, and gives those of frames their kind of box. */
export const standInRules =
  'sg-link,sg-object,sg-embed,sg-base,sg-meta,sg-script,sg-noscript{display:none!important}' +
  'sg-frame{display:inline-block;background:#f2f2f2}';

/** The one kind of meta element that changes what is seen. */
const isSchemeMeta = ({ tag, attrs }: ElementEntry): boolean =>
  tag === 'meta' && attrs?.name?.toLowerCase() === 'color-scheme';

/** Attributes that do something, or would be done again. */
const doing = new Set([
  'autofocus',
  'srcdoc',
  'http-equiv',
  'ping',
  'formaction',
  'action',
  'manifest',
  'srcset',
  'sandbox',
]);

/** True for an element whose own document is drawn, too. */
export const drawsDocument = (entry: ElementEntry): boolean => entry.frame != null && entry.frame.kid !== null;

/** The name of the element that is drawn for a recorded one. A page may have spelt it in any letters. */
function nameFor(entry: ElementEntry): string {
  // A linked sheet's recorded text is put in place of the link.
  if (entry.sheet !== undefined) return 'style';
  if (isSchemeMeta(entry)) return 'meta';
  if (drawsDocument(entry)) return 'iframe';
  const tag = entry.tag.toLowerCase();
  return Object.hasOwn(standIns, tag) ? standIns[tag]! : entry.tag;
}

/** An element for a recorded one, without its attributes. */
export function makeElement(document: Document, entry: ElementEntry): Element {
  const { ns, tag, shadow } = entry;
  try {
    // Scripts and frames of SVG are none that do anything without scripts; links lead nowhere without a person.
    if (ns) return document.createElementNS(namespaces[ns], tag);
    const element = document.createElement(nameFor(entry));
    if (shadow) element.attachShadow({ mode: 'open' });
    return element;
  } catch {
    // A name that no parser gives, or a root where none can be: what it holds is drawn all the same.
    const element = document.createElement('sg-element');
    if (shadow) element.attachShadow({ mode: 'open' });
    return element;
  }
}

const showsFile = (tag: string): boolean => tag === 'image' || tag === 'use' || tag === 'feImage';

/** An attribute as it was recorded, and the element that is drawn for its own. */
type Recorded = { element: Element; entry: ElementEntry; name: string; value: string };

/** What it is drawn with: what media queries answer, and where recorded files are. */
type Means = { media: MediaFeatures; resolve(url: string): string };

/** What an attribute's value is when drawn, or null when the attribute is left out. */
function drawnValue({ element, entry, name, value }: Recorded, { media, resolve }: Means): string | null {
  const lower = name.toLowerCase();
  if (doing.has(lower) || /^on[a-z]+$/.test(lower)) return null;
  if (
    lower === 'src' ||
    lower === 'poster' ||
    lower === 'background' ||
    (lower.endsWith('href') && showsFile(entry.tag))
  )
    return element.localName === 'iframe' ? null : resolve(value);
  if (lower === 'style') return restyle(value, media, resolve);
  if (lower === 'content' && element.localName === 'meta') return pinScheme(value, media);
  if (lower.endsWith('href') && /^\s*(javascript|data|vbscript):/i.test(value)) return null;
  // A dialog is opened by its own method, which also puts it in the top layer.
  if (lower === 'open' && entry.tag === 'dialog' && entry.state?.dialog === 'modal') return null;
  return value;
}

/**
 * Gives an element an attribute as it was recorded, unless it would do something; `resolve` turns addresses into
 * those of recorded files.
 */
export function putAttribute(recorded: Recorded, means: Means): void {
  const { element, name } = recorded;
  const shown = drawnValue(recorded, means);
  if (shown === null || element.getAttribute(name) === shown) return;
  try {
    if (name.startsWith('xlink:')) element.setAttributeNS('http://www.w3.org/1999/xlink', name, shown);
    else element.setAttribute(name, shown);
  } catch {
    // A parser accepts names that setAttribute does not; such an attribute shows nothing.
  }
}
