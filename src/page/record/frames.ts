/** The document of a frame of the same origin, or null. */
export function documentOf(frame: HTMLIFrameElement): Document | null {
  try {
    return frame.contentDocument;
  } catch {
    return null;
  }
}

/** The document that an element shows, where that is a frame of the same origin; null for any other element. */
export const documentIn = (element: Element): Document | null =>
  element.localName === 'iframe' ? documentOf(element as HTMLIFrameElement) : null;
