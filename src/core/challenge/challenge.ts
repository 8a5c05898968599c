/** What challenging looks comes to: which mutations were noticed, by what, and a score for each component. */
import type { LookName } from '../look/look.ts';
import type { Problem } from '../problem/problem.ts';
import type { Chosen } from './choose.ts';

/** What noticed a mutation: a step of the script, or only the comparison of a capture; null for nothing. */
export type Noticed = { by: 'step' | 'capture'; title: string } | null;

export type Challenge = Pick<Chosen, 'title' | 'check'> & { kind: Chosen['mutation']['kind']; noticed: Noticed };

export type ChallengedLook = LookName & {
  file: string;
  environment: string;
  challenges: Challenge[];
  /** Why it was not challenged; null for one that was. */
  note: string | null;
};

export type ChallengeReport = {
  looks: ChallengedLook[];
  /** Looks without a script, which are compared and nothing else. */
  withoutScript: number;
  /** How long the looks took that were run as they are, and all of it, in milliseconds of both lanes together. */
  took: { plain: number; all: number };
};

/** So many things are made wrong for each look where nobody says how many. */
export const usualMost = 12;

/** Which looks are challenged, as patterns mean them, and with how many mutations each at most. */
export type ChallengeRequest = { patterns: string[]; most: number };

/** How far challenging looks is: it has ended when there is a report or a problem. */
export type Challenging = {
  id: number;
  done: number;
  /** 0 until the looks are bundled. */
  all: number;
  report: ChallengeReport | null;
  problem: Problem | null;
};

export type ComponentScore = {
  component: string;
  all: number;
  noticed: number;
  byStep: number;
  looks: ChallengedLook[];
};

/** How each component stands, the one with most that went unnoticed first. */
export function scoresOf(looks: readonly ChallengedLook[]): ComponentScore[] {
  const components = [...new Set(looks.map(({ component }) => component))];
  const scores = components.map((component): ComponentScore => {
    const own = looks.filter((look) => look.component === component);
    const challenges = own.flatMap((look) => look.challenges);
    const noticed = challenges.filter((one) => one.noticed !== null);
    const byStep = noticed.filter((one) => one.noticed?.by === 'step').length;
    return { component, all: challenges.length, noticed: noticed.length, byStep, looks: own };
  });
  const missed = ({ all, noticed }: ComponentScore): number => all - noticed;
  return scores.sort((a, b) => missed(b) - missed(a) || (a.component < b.component ? -1 : 1));
}

/** How much of all was noticed, in percent, rounded down: 100 means all of it. Of nothing all was noticed. */
export const scoreOf = ({ all, noticed }: Pick<ComponentScore, 'all' | 'noticed'>): number =>
  all === 0 ? 100 : Math.floor((100 * noticed) / all);
