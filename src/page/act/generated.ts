/** What ::before and ::after say of an element to somebody who does not see it. */
import { withoutIcons } from '../../core/text/folded.ts';

/** A part of a `content`: a string, the slash before what is said instead, or something that has no words. */
const part = /"((?:\\[\s\S]|[^"\\])*)"|(\/)|[^"/]+/g;

/** A string of CSS as what it stands for (CSS Syntax 3, 4.3.7). */
const unescaped = (text: string): string =>
  text.replace(/\\(?:([0-9a-f]{1,6})\s?|([\s\S]))/gi, (_, code: string | undefined, letter: string) =>
    code ? String.fromCodePoint(Number.parseInt(code, 16) || 0xfffd) : letter,
  );

/** The words of a computed `content`: what stands after a slash is said instead of the rest (CSS Content 3, 1.2). */
function spoken(content: string): string {
  let words = '';
  for (const [, text, slash] of content.matchAll(part)) {
    if (slash) words = '';
    else if (text !== undefined) words += unescaped(text);
  }
  return words;
}

/** `getComputedStyle`, as names are made of it, with the content that `keeps` says is a part of them. */
const styles =
  (keeps: (words: string) => boolean) =>
  (element: Element, pseudo?: string | null): CSSStyleDeclaration => {
    const found = getComputedStyle(element, pseudo);
    if (!pseudo) return found;
    const isShown = found.display !== 'none' && found.visibility === 'visible';
    // Of icon fonts nothing is left: what is named by nothing else has its title for a name.
    const words = isShown ? withoutIcons(spoken(found.content)).replace(/\s+/g, ' ') : '';
    const content = words !== '' && keeps(words) ? `"${words}"` : 'none';
    return { getPropertyValue: () => content } as unknown as CSSStyleDeclaration;
  };

/** Styles for names: content that is not shown, or is said otherwise than it is drawn, is put right. */
export const stylesForNames = styles(() => true);

/** Styles for names without marks that have no letter or number, such as the star of what is required. */
export const stylesWithoutMarks = styles((words) => /[\p{L}\p{N}]/u.test(words));
