/** What ::before and ::after say of an element to somebody who does not see it. */

/** A part of a `content`: a string, the slash before what is said instead, or something that has no words. */
const part = /"((?:\\[\s\S]|[^"\\])*)"|(\/)|[^"/]+/g;

/** A string of CSS as what it stands for (CSS Syntax 3, 4.3.7). */
const unescaped = (text: string): string =>
  text.replace(/\\(?:([0-9a-f]{1,6})\s?|([\s\S]))/gi, (_, code: string | undefined, letter: string) =>
    code ? String.fromCodePoint(Number.parseInt(code, 16) || 0xfffd) : letter,
  );

/** The words of a computed `content`: what stands after a slash is said instead of the rest (CSS Content 3, 1.2). */
export function wordsOf(content: string): string {
  let words = '';
  for (const [, text, slash] of content.matchAll(part)) {
    if (slash) words = '';
    else if (text !== undefined) words += unescaped(text);
  }
  return words;
}

/** Styles as names are made of them: content that is not shown, or is said otherwise than it is drawn, is put right. */
export function stylesForNames(element: Element, pseudo?: string | null): CSSStyleDeclaration {
  const styles = getComputedStyle(element, pseudo);
  if (!pseudo) return styles;
  const isShown = styles.display !== 'none' && styles.visibility === 'visible';
  const words = isShown ? wordsOf(styles.content).replace(/\s+/g, ' ') : '';
  return { getPropertyValue: () => (words ? `"${words}"` : 'none') } as unknown as CSSStyleDeclaration;
}
