/** Frames, and the documents of those that are of the page's own origin. */
import { append } from '../host/natives.ts';
import { rootsNow } from './roots.ts';

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

/** Frames of a root. Live collections cost nothing where there are none; shadow roots have no such thing. */
const framesIn = (root: Document | ShadowRoot): ArrayLike<HTMLIFrameElement> =>
  'getElementsByTagName' in root ? root.getElementsByTagName('iframe') : root.querySelectorAll('iframe');

/** Every frame there is: in the document, in shadow roots, and in frames of the same origin. */
export function framesOfPage(): HTMLIFrameElement[] {
  const found: HTMLIFrameElement[] = [];
  const look = (root: Document | ShadowRoot): void => {
    const frames = framesIn(root);
    for (let i = 0; i < frames.length; i++) {
      append(found, frames[i]!);
      const inner = documentOf(frames[i]!);
      if (inner) look(inner);
    }
  };
  for (const root of rootsNow()) look(root);
  return found;
}
