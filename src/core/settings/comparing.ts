/** What of captures is compared, as the configuration says it. */
import type { Allowance } from '../picture/allowance.ts';

export type Comparing = 'both' | 'picture' | 'markup';

/** A part of pages that is compared otherwise, by a selector; null for all of it. */
export type Allowing = Omit<Allowance, 'boxes'> & { target: string | null };

/** What a configuration may say; see `Compare` of the language, which has targets as well. */
export type CompareConfig = {
  what?: Comparing;
  leaveOut?: { target: string; why: string }[];
  tolerate?: ('anti-aliasing' | { upTo: number; in: string; why: string })[];
};
