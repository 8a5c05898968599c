/** Texts as they are compared and read. */

/** A text with single blanks, and none at its ends. */
export const folded = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** A text without the letters of icon fonts (Unicode's private use), which nobody reads. */
export const withoutIcons = (text: string): string => text.replace(/\p{Co}/gu, '');

/** A folded text without the letters of icon fonts. */
export const readable = (text: string): string => folded(withoutIcons(text));

/** A text of at most so many letters, with … where something was cut off. */
export const shortened = (text: string, most: number): string =>
  text.length > most ? `${text.slice(0, most - 1)}…` : text;
