/** How an element is found again when its look is run once more: by what it says, and its place among those. */
import { folded } from '../text/folded.ts';

export type Identity = {
  /** Its tag, attributes that tell it apart, and its own text, as one text. */
  says: string;
  /** So many elements that say the same come before it in the document. */
  nth: number;
};

const telling = ['role', 'aria-label', 'name', 'type', 'title', 'alt', 'placeholder', 'value'] as const;

/** What an element says of itself: `attribute` reads one of its attributes, `text` is what stands directly in it. */
export const sayingOf = (tag: string, attribute: (name: string) => string | null, text: string): string =>
  JSON.stringify([tag, ...telling.map(attribute), folded(text)]);
