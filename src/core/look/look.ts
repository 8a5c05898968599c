/** The names of looks: how one is written, stored and chosen. */
import type { Given } from '../props/given.ts';
import type { Budget } from '../timing/budget.ts';
import type { Comparing } from '../settings/comparing.ts';

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
  /** Patterns of files that it depends on although nothing imports them. */
  dependsOn?: string[];
  /** False for one that is run every time. */
  reuse?: boolean;
  tags?: string[];
  /** Why it is not run. */
  skip?: string;
  /** Its file says that others are left out for it. */
  only?: true;
  /** What of its captures is compared, where that is not what the configuration says. */
  compares?: Comparing;
  /** Names of the environments that it is for; all when it says none. */
  environments?: string[];
  /** Short values among its props. */
  given?: Given;
  /** What it may cost, where that is measured. */
  budget?: Budget;
  /** What it is to look like: a path or an address. */
  reference?: string;
};

/** The full name of a look. */
export type LookName = Pick<LookInfo, 'component' | 'look'>;

/** What a look file declared, with the hash of all that it was built from. */
export type Declared = { source: string; looks: LookInfo[] };

/** `src/BerthCard.look.tsx` → `src/BerthCard`. */
export const componentOf = (file: string): string => file.replace(/\.look\.[jt]sx?$/, '');

/** The last part of a component's path: what a person calls it. */
export const shortName = (component: string): string => component.slice(component.lastIndexOf('/') + 1);

/** The one text that names a look: `src/BerthCard/asks before releasing`. */
export const lookKey = (component: string, look: string): string => `${component}/${look}`;

/** How a look is written for people: `BerthCard › asks before releasing`. */
export const lookTitle = (component: string, look: string): string => `${shortName(component)} › ${look}`;

/** The name under which a look file as a whole is told when none of its looks could be run. */
export const wholeFile = '(the file)';
