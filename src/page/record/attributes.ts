/** Attributes as moments keep them: without handlers, and with the addresses that are shown. */

/** An element that holds or names a style sheet. */
export type Styled = HTMLStyleElement | HTMLLinkElement;

export const isStyled = (element: Element): element is Styled =>
  (element.localName === 'style' && element.namespaceURI !== null) ||
  (element.localName === 'link' && /(^|\s)stylesheet(\s|$)/i.test((element as HTMLLinkElement).rel ?? ''));

/** An attribute that is a handler of this element, and not merely named like one. */
const isHandler = (element: Element, name: string): boolean => /^on[a-z]+$/.test(name) && name in element;

/**
 * A style attribute with computed values where the browser has written none: what a shorthand with `var()` gives to
 * properties of which another is set by itself (CSSOM, "serialize a CSS declaration block").
 */
function styleOf(element: Element, value: string): string {
  if (!value.includes(': ;')) return value;
  const { style } = element as HTMLElement;
  const computed = getComputedStyle(element);
  // An empty custom property is one.
  return value.replace(/(?<=^|; )(-?[a-z][a-z-]*): ;/g, (written, name: string) => {
    const shown = style.getPropertyValue(name) === '' ? computed.getPropertyValue(name) : '';
    return shown === '' ? written : `${name}: ${shown};`;
  });
}

/** The attributes of an element as they are recorded; `onAsset` hears of every file that they name. */
export function attributesOf(element: Element, onAsset: (url: string) => void): Record<string, string> {
  const attrs: Record<string, string> = {};
  for (const { name, value } of element.attributes) if (!isHandler(element, name)) attrs[name] = value;
  if (attrs.style) attrs.style = styleOf(element, attrs.style);
  const use = (url: string | null | undefined): void => {
    if (url) onAsset(url);
  };
  const full = (url: string): string => {
    try {
      return new URL(url, element.baseURI).href;
    } catch {
      return '';
    }
  };
  switch (element.localName) {
    case 'img': {
      const image = element as HTMLImageElement;
      // The one address that is shown; what it was chosen from would be chosen again when drawn on another screen.
      if (image.currentSrc && (attrs.srcset || image.parentElement?.localName === 'picture'))
        attrs.src = image.currentSrc;
      delete attrs.srcset;
      delete attrs.loading;
      if (image.src || image.currentSrc) use(image.currentSrc || image.src);
      break;
    }
    case 'source':
      if (element.parentElement?.localName === 'picture') delete attrs.srcset;
      break;
    case 'image':
    case 'use':
    case 'feImage': {
      const href = attrs.href ?? attrs['xlink:href'];
      if (href && !href.startsWith('#')) use(full(href));
      break;
    }
    case 'link':
      if (isStyled(element)) use((element as HTMLLinkElement).href);
      break;
    case 'video':
      if (attrs.poster) use(full(attrs.poster));
      break;
    case 'input':
      if (attrs.src) use(full(attrs.src));
      break;
  }
  if (attrs.background && /^(body|table|td|th|tr)$/.test(element.localName)) use(full(attrs.background));
  return attrs;
}
