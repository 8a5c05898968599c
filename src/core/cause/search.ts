/**
 * Which edits did what was changed, found by running without them: first each by itself, the likeliest first, then
 * several together by halving (delta debugging, Zeller 1999).
 */
import { byLikelihood, type Hunk, type Wanted } from './hunks.ts';

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

const spent = `It was run ${mostAttempts} times without an answer.`;

/** Looks for the edits behind causes of one look. */
export async function searchEdits(
  sought: readonly Sought[],
  hunks: readonly Hunk[],
  attempt: Attempt,
): Promise<Found[]> {
  const search = new Search(hunks, attempt);
  const found = new Map<string, Found>();
  const likely = (one: Sought): Hunk[] => byLikelihood(hunks, one);
  const open = (): Sought[] => sought.filter(({ key }) => !found.has(key));
  /** What is gone without one hunk is that hunk's doing. */
  const learn = async (hunk: Hunk): Promise<void> => {
    const left = await search.without([hunk]);
    if (!left) return;
    for (const { key } of open())
      if (!left.has(key)) found.set(key, { key, proved: [hunk], candidates: [], note: null });
  };
  for (const one of sought)
    for (const hunk of likely(one)) if (!found.has(one.key) && !search.isSpent) await learn(hunk);
  for (const one of open()) {
    const candidates = likely(one).slice(0, mostCandidates);
    const isOurs = await search.isGone(one.key, hunks);
    const proved = isOurs ? await smallest(search, one.key, hunks) : [];
    const isSure = isOurs && !search.isSpent;
    const note = isSure
      ? null
      : search.isSpent
        ? spent
        : 'It is still there without any of these edits: something else has changed, such as a package.';
    found.set(one.key, { key: one.key, proved: isSure ? proved : [], candidates: isSure ? [] : candidates, note });
  }
  return sought.map(({ key }) => found.get(key)!);
}
