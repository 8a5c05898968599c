/** What the source of a component says of it beside types: in comments, and by the values it falls back on. */

export type Described = {
  /** Its doc comment, as Markdown; empty where it has none. */
  about: string;
  /** By the names of props. */
  props: Record<string, DescribedProp>;
};

export type DescribedProp = {
  about: string;
  /** The source of the value that counts when none is given; null where there is none. */
  usual: string | null;
};

export const undescribed: Described = { about: '', props: {} };
