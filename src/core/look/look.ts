/** The names of looks: how one is written, stored and chosen. */

/** One look as a look file declares it; `component` is the look file's path without its ending. */
export type LookInfo = {
  /** Look file, relative to the project's root, with forward slashes. */
  file: string;
  component: string;
  look: string;
  /** Its place in the look file, from 0. */
  order: number;
  hasScript: boolean;
  after: string | null;
};

/** The full name of a look. */
export type LookName = Pick<LookInfo, 'component' | 'look'>;

/** What a look file declared, and the script that did: its address carries a hash of all that is in it. */
export type Declared = { script: string; looks: LookInfo[] };

/** `src/BerthCard.look.tsx` → `src/BerthCard`. */
export const componentOf = (file: string): string => file.replace(/\.look\.[jt]sx?$/, '');

/** The last part of a component's path: what a person calls it. */
export const shortName = (component: string): string => component.slice(component.lastIndexOf('/') + 1);

/** The one text that names a look: `src/BerthCard/asks before releasing`. */
export const lookKey = (component: string, look: string): string => `${component}/${look}`;

/** How a look is written for people: `BerthCard › asks before releasing`. */
export const lookTitle = (component: string, look: string): string => `${shortName(component)} › ${look}`;
