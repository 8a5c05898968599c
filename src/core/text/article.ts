/** “a” or “an” before a word of ARIA or HTML, as it is spoken. */
export const article = (word: string): string => `${/^[aeio]/i.test(word) ? 'an' : 'a'} ${word}`;

/** The same at the beginning of a sentence. */
export const atStart = (word: string): string => article(word).replace(/^a/, 'A');
