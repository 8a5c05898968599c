/** The board: of every look what its tile shows and nothing else, so that ten thousand of them are quickly told. */
import { type LookName, lookKey } from '../look/look.ts';
import { type CaptureSummary, type DecisionNote, isUndecided, type ResultSummary, standing } from './run.ts';
import { hasFailed, type Verdict, verdicts } from './verdict.ts';

/** Who has decided about a look, and why; `fixer` is to fix what was rejected. */
export type BoardDecision = Pick<DecisionNote, 'who' | 'why' | 'fixer'> & { kind: 'approve' | 'reject' };

/** A look in one environment. */
export type Variant = {
  /** Id of its newest result. */
  id: number;
  environment: string;
  /** What it stands at. */
  verdict: Verdict;
  /** The first 16 digits of the hash of its last picture; null without a capture. */
  picture: string | null;
  captures: number;
  /** Captures that nobody has decided about. */
  undecided: number;
  /** The newest decision that holds about what it shows now; null where nobody had to decide, or has. */
  decision: BoardDecision | null;
};

/** A look with its environments, in their names' order. */
export type BoardLook = LookName & {
  file: string;
  /** Its place among the looks of its file. */
  order: number;
  /** Why its file leaves it out now; null while it is run. */
  skip: string | null;
  variants: Variant[];
};

/** What looks stand at, in each of their environments: what is left out stands at nothing. */
export const verdictsOf = (looks: readonly BoardLook[]): Verdict[] =>
  looks.flatMap(({ skip, variants }) => (skip === null ? variants.map(({ verdict }) => verdict) : []));

/** One row of what the board is made from. */
export type BoardEntry = Omit<BoardLook, 'variants'> & Variant;

/** So many digits of a picture's hash tell it from all others. */
const digits = 16;

/** The address of a thumbnail names a picture by the beginning of its hash. */
export const beginningOf = (hash: string): string => hash.slice(0, digits);

/** `Pier2` before `Pier10`. */
const byName = new Intl.Collator('en', { numeric: true });

/** Compares paths folder by folder: what lies in a folder itself comes before what lies deeper. */
export function comparePaths(a: string, b: string): number {
  const [one, other] = [a.split('/'), b.split('/')];
  for (let i = 0; ; i++) {
    const isLast = i === one.length - 1;
    const isOtherLast = i === other.length - 1;
    if (isLast !== isOtherLast) return isLast ? -1 : 1;
    const found = byName.compare(one[i]!, other[i]!);
    if (found !== 0 || isLast) return found;
  }
}

/** Looks in the order in which the board shows them. */
function inOrder(looks: Iterable<BoardLook>): BoardLook[] {
  const components = new Map<string, BoardLook[]>();
  for (const look of looks) {
    const others = components.get(look.component);
    if (others) others.push(look);
    else components.set(look.component, [look]);
  }
  const names = [...components.keys()].sort(comparePaths);
  return names.flatMap((name) => components.get(name)!.sort((a, b) => a.order - b.order));
}

const byEnvironment = (a: Variant, b: Variant): number => byName.compare(a.environment, b.environment);

const withVariant = (look: BoardLook, variant: Variant): BoardLook => {
  const others = look.variants.filter(({ environment }) => environment !== variant.environment);
  return { ...look, variants: [...others, variant].sort(byEnvironment) };
};

/** Puts a look's environments together, and looks in the order in which the board shows them. */
export function boardOf(entries: readonly BoardEntry[]): BoardLook[] {
  const looks = new Map<string, BoardLook>();
  for (const { file, component, look, order, skip, ...variant } of entries) {
    const key = lookKey(component, look);
    const known = looks.get(key);
    if (known) known.variants.push(variant);
    else looks.set(key, { file, component, look, order, skip, variants: [variant] });
  }
  for (const { variants } of looks.values()) if (variants.length > 1) variants.sort(byEnvironment);
  return inOrder(looks.values());
}

/** False for what a look that failed shows on its way, where nothing was approved before: that cannot be. */
const canBeDecided = (result: ResultSummary, { state }: CaptureSummary): boolean =>
  state.kind !== 'new' || !hasFailed(result);

/** The decision about a result: a rejection before an approval, since that is what is to be fixed. */
function decisionOf({ captures }: ResultSummary): BoardDecision | null {
  const all = captures.flatMap(({ state, decision }) =>
    state.kind !== 'same' && decision?.stands && decision.kind !== 'adopt' ? [decision] : [],
  );
  const found = all.find(({ kind }) => kind === 'reject') ?? all[0];
  return found
    ? { kind: found.kind as BoardDecision['kind'], who: found.who, why: found.why, fixer: found.fixer }
    : null;
}

/** The variant that a result makes. */
export const variantOf = (result: ResultSummary): Variant => {
  const last = result.captures.at(-1);
  return {
    id: result.id,
    environment: result.environment,
    verdict: standing(result),
    picture: last ? beginningOf(last.hash) : null,
    captures: result.captures.length,
    undecided: result.captures.filter((capture) => isUndecided(capture) && canBeDecided(result, capture)).length,
    decision: decisionOf(result),
  };
};

/** The board with results that have come since; looks that it does not have yet are put in their places. */
export function withResults(looks: readonly BoardLook[], results: readonly ResultSummary[]): BoardLook[] {
  const all = [...looks];
  const places = new Map(all.map(({ component, look }, at) => [lookKey(component, look), at]));
  for (const result of results) {
    const { file, component, look, order } = result;
    const key = lookKey(component, look);
    const at = places.get(key) ?? all.length;
    places.set(key, at);
    // What is run is not left out.
    const known = { file, component, look, order, variants: all[at]?.variants ?? [], skip: null };
    all[at] = withVariant(known, variantOf(result));
  }
  return all.length === looks.length ? all : inOrder(all);
}

/**
 * The board as it is sent: a component's path and its looks' names once, everything else in columns with an entry for
 * each look in each environment.
 */
export type PackedBoard = {
  environments: string[];
  components: { component: string; file: string; looks: string[] }[];
  /** How many environments each look has, look after look. */
  variants: number[];
  /** What follows has as many entries as these are together. */
  environment: number[];
  /** Each as the difference from the one before. */
  id: number[];
  /** Indexes of verdicts, from the worst on. */
  verdict: number[];
  captures: number[];
  undecided: number[];
  /** Decisions by the entries that they are about. */
  decisions: [entry: number, decision: BoardDecision][];
  /** Looks that their files leave out, by their places among all looks, with why. */
  skipped: [look: number, why: string][];
  /** Empty for none. */
  picture: string[];
};

export function packBoard(looks: readonly BoardLook[]): PackedBoard {
  const components = new Map<string, PackedBoard['components'][number]>();
  for (const { component, file, look } of looks) {
    const known = components.get(component);
    if (known) known.looks.push(look);
    else components.set(component, { component, file, looks: [look] });
  }
  const all = looks.flatMap(({ variants }) => variants);
  const environments = [...new Set(all.map(({ environment }) => environment))];
  const places = new Map(environments.map((name, at) => [name, at]));
  return {
    environments,
    components: [...components.values()],
    variants: looks.map(({ variants }) => variants.length),
    environment: all.map(({ environment }) => places.get(environment)!),
    id: all.map(({ id }, at) => id - (all[at - 1]?.id ?? 0)),
    verdict: all.map(({ verdict }) => verdicts.indexOf(verdict)),
    captures: all.map(({ captures }) => captures),
    undecided: all.map(({ undecided }) => undecided),
    decisions: all.flatMap(({ decision }, at): PackedBoard['decisions'] => (decision ? [[at, decision]] : [])),
    skipped: looks.flatMap(({ skip }, at): PackedBoard['skipped'] => (skip === null ? [] : [[at, skip]])),
    picture: all.map(({ picture }) => picture ?? ''),
  };
}

/** What was packed. */
export function unpackBoard(packed: PackedBoard): BoardLook[] {
  const decisions = new Map(packed.decisions);
  const skipped = new Map(packed.skipped);
  const looks: BoardLook[] = [];
  let at = 0;
  let id = 0;
  for (const { component, file, looks: names } of packed.components)
    for (const [order, look] of names.entries()) {
      const variants: Variant[] = [];
      for (const end = at + packed.variants[looks.length]!; at < end; at++) {
        id += packed.id[at]!;
        variants.push({
          id,
          environment: packed.environments[packed.environment[at]!]!,
          verdict: verdicts[packed.verdict[at]!]!,
          picture: packed.picture[at] || null,
          captures: packed.captures[at]!,
          undecided: packed.undecided[at]!,
          decision: decisions.get(at) ?? null,
        });
      }
      looks.push({ component, file, look, order, skip: skipped.get(looks.length) ?? null, variants });
    }
  return looks;
}
