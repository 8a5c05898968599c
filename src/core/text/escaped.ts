/** A text as the source of a pattern that matches it and nothing else, also with the flag `u`. */
export const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
