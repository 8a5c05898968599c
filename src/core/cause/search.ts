/**
 * Which edits did what was changed, found by running without them: the likeliest by themselves, then halves that say
 * which single one it is, then several together (delta debugging, Zeller 1999).
 */
import { byLikelihood, type Hunk, striking, type Wanted } from './hunks.ts';

/** A cause that an edit is looked for. */
export type Sought = Wanted & { key: string };

/** Runs the look without some hunks. Resolves with the keys of the causes that are left; null when it could not run. */
export type Attempt = (undone: readonly Hunk[]) => Promise<ReadonlySet<string> | null>;

/**
 * What was found for a cause: hunks without which it is gone, none of which can be left out; `candidates` are the
 * likeliest where nothing could be proved, with why.
 */
export type Found = { key: string; proved: Hunk[]; candidates: Hunk[]; note: string | null };

/** So often a look is run again at most. */
const mostAttempts = 24;

/** So many candidates are told. */
const mostCandidates = 5;

/** One search: what was tried is not tried again. */
class Search {
  readonly #attempt: Attempt;
  readonly #known = new Map<string, ReadonlySet<string> | null>();
  readonly #hunks: readonly Hunk[];
  isSpent = false;

  constructor(hunks: readonly Hunk[], attempt: Attempt) {
    this.#hunks = hunks;
    this.#attempt = attempt;
  }

  /** What is left without some hunks; null also when nothing more may be tried. */
  async without(undone: readonly Hunk[]): Promise<ReadonlySet<string> | null> {
    const name = undone
      .map((hunk) => this.#hunks.indexOf(hunk))
      .sort((a, b) => a - b)
      .join();
    const known = this.#known.get(name);
    if (known !== undefined) return known;
    if (this.#known.size >= mostAttempts) {
      this.isSpent = true;
      return null;
    }
    const found = await this.#attempt(undone);
    this.#known.set(name, found);
    return found;
  }

  async isGone(key: string, undone: readonly Hunk[]): Promise<boolean> {
    const left = await this.without(undone);
    return left !== null && !left.has(key);
  }
}

/** A smallest set of hunks without which a cause is gone; `all` of them together are one. */
async function smallest(search: Search, key: string, all: readonly Hunk[]): Promise<Hunk[]> {
  let kept = [...all];
  for (let parts = 2; kept.length > 1 && !search.isSpent; ) {
    const size = Math.ceil(kept.length / parts);
    const chunks = Array.from({ length: Math.ceil(kept.length / size) }, (_, i) =>
      kept.slice(i * size, (i + 1) * size),
    );
    let next: Hunk[] | null = null;
    for (const chunk of chunks) if (!next && (await search.isGone(key, chunk))) next = chunk;
    for (const chunk of chunks) {
      const rest = kept.filter((hunk) => !chunk.includes(hunk));
      if (!next && rest.length > 0 && (await search.isGone(key, rest))) next = rest;
    }
    if (next) {
      kept = next;
      parts = 2;
    } else if (size === 1) break;
    else parts = Math.min(kept.length, parts * 2);
  }
  return kept;
}

/** Some of the hunks undone together, and what is left then. */
type Round = { undone: readonly Hunk[]; left: ReadonlySet<string> };

/**
 * Undoes halves of the hunks, by the bits of their places: if each cause is one hunk's doing, so few rounds say which,
 * for all causes at once.
 */
async function halves(search: Search, hunks: readonly Hunk[]): Promise<Round[]> {
  const rounds: Round[] = [];
  for (let bit = 1; bit < hunks.length && !search.isSpent; bit *= 2) {
    const undone = hunks.filter((_, place) => (place & bit) !== 0);
    const left = await search.without(undone);
    if (left) rounds.push({ undone, left });
  }
  return rounds;
}

/** True for a hunk that may by itself be what every round says. */
const fits = (hunk: Hunk, key: string, rounds: readonly Round[]): boolean =>
  rounds.every(({ undone, left }) => undone.includes(hunk) === !left.has(key));

const spent = `It was run ${mostAttempts} times without an answer.`;

/** From so many hunks on halves are quicker than one after the other. */
const worthHalving = 4;

/** Looks for the edits behind causes of one look. */
export async function searchEdits(
  sought: readonly Sought[],
  hunks: readonly Hunk[],
  attempt: Attempt,
): Promise<Found[]> {
  const search = new Search(hunks, attempt);
  const found = new Map<string, Found>();
  const tried = new Set<Hunk>();
  const open = (): Sought[] => sought.filter(({ key }) => !found.has(key));
  /** What is gone without one hunk is that hunk's doing. */
  const learn = async (hunk: Hunk): Promise<void> => {
    if (tried.has(hunk) || search.isSpent) return;
    tried.add(hunk);
    const left = await search.without([hunk]);
    if (!left) return;
    for (const { key } of open())
      if (!left.has(key)) found.set(key, { key, proved: [hunk], candidates: [], note: null });
  };
  for (const one of sought) {
    const [first] = byLikelihood(hunks, one);
    if (first && first.score >= striking && !found.has(one.key)) await learn(first.hunk);
  }
  const rest = hunks.filter((hunk) => !tried.has(hunk));
  const rounds = open().length > 0 && rest.length >= worthHalving ? await halves(search, rest) : [];
  for (const one of open())
    for (const { hunk } of byLikelihood(rest, one))
      if (!found.has(one.key) && fits(hunk, one.key, rounds)) await learn(hunk);
  for (const one of open()) found.set(one.key, await together(search, one, hunks));
  return sought.map(({ key }) => found.get(key)!);
}

/** Looks for hunks that only matter together. */
async function together(search: Search, one: Sought, hunks: readonly Hunk[]): Promise<Found> {
  const { key } = one;
  const isOurs = await search.isGone(key, hunks);
  const proved = isOurs ? await smallest(search, key, hunks) : [];
  if (isOurs && !search.isSpent) return { key, proved, candidates: [], note: null };
  const candidates = byLikelihood(hunks, one)
    .slice(0, mostCandidates)
    .map(({ hunk }) => hunk);
  const note = search.isSpent
    ? spent
    : 'It is still there without any of these edits: something else has changed, such as a package.';
  return { key, proved: [], candidates, note };
}
