/** What the looks of a run have run of a project's sources. */
import type { LookName } from '../look/look.ts';
import type { Primitive } from '../props/given.ts';
import type { Thresholds } from '../settings/coverage.ts';
import { type Counts, lineStartsOf, positionAt, type Structure } from './structure.ts';

/** So much of so much. */
export type Part = { covered: number; all: number };

export const coverageKinds = ['lines', 'branches', 'functions'] as const;
export type CoverageKind = (typeof coverageKinds)[number];

export type Parts = Record<CoverageKind, Part>;

/** Sources that do not reach what the configuration wants of them. */
export type Shortfall = { pattern: string; kind: CoverageKind; wanted: number; percent: number; files: number };

export type FileCoverage = Parts & { path: string; looks: number };

export type CoverageReport = {
  run: number;
  files: FileCoverage[];
  total: Parts;
  /** How many looks it is made of, and how many of the run's were not counted. */
  looks: number;
  uncounted: number;
  shortfalls: Shortfall[];
  /** Sources that could not be read, with why. */
  notes: string[];
};

/** One line that something stands on that can be run: how often it was, and by which looks. */
export type LineCoverage = {
  line: number;
  count: number;
  /** Indexes into the file's looks. */
  looks: number[];
  /** It is run when the file is loaded, before any look. */
  isLoading: boolean;
  /** What on this line was never run while other parts of it were, in words. */
  missing: string[];
};

/** What no look reaches, and the text of a look that would. */
export type Unreached = {
  kind: 'value' | 'branch' | 'handler' | 'function';
  /** In words: `state "gale"`, `the way past the if`, `onRelease`. */
  what: string;
  line: number | null;
  draft: string | null;
};

export type FileLines = {
  path: string;
  text: string;
  parts: Parts;
  lines: LineCoverage[];
  looks: LookName[];
  unreached: Unreached[];
};

export const percentOf = ({ covered, all }: Part): number => (all === 0 ? 100 : (covered / all) * 100);

/** A share for people: a dash of nothing, never “100 %” of what is not whole, nor “0 %” of what was begun. */
export function percentText(part: Part): string {
  if (part.all === 0) return '–';
  const percent = percentOf(part);
  if (percent > 99 && part.covered < part.all) return '99 %';
  if (percent > 0 && percent < 1) return '1 %';
  return `${Math.round(percent)} %`;
}

const noPart: Part = { covered: 0, all: 0 };

export const addParts = (all: readonly Parts[]): Parts => {
  const sum = (kind: CoverageKind): Part =>
    all.reduce((a, b) => ({ covered: a.covered + b[kind].covered, all: a.all + b[kind].all }), noPart);
  return { lines: sum('lines'), branches: sum('branches'), functions: sum('functions') };
};

/** How often each line was run on which a statement begins: as often as the most frequent of them. */
export function linesOf(structure: Structure, counts: Counts, text: string): Map<number, number> {
  const starts = lineStartsOf(text);
  const lines = new Map<number, number>();
  structure.statements.forEach(([start], i) => {
    const { line } = positionAt(starts, start);
    lines.set(line, Math.max(lines.get(line) ?? 0, counts.statements[i] ?? 0));
  });
  return lines;
}

const partOf = (counts: readonly number[]): Part => ({
  covered: counts.filter((n) => n > 0).length,
  all: counts.length,
});

export const partsOf = (structure: Structure, counts: Counts, text: string): Parts => ({
  lines: partOf([...linesOf(structure, counts, text).values()]),
  branches: partOf(counts.branches.flat()),
  functions: partOf(counts.functions),
});

/** What of some sources is less than wanted. */
export function shortfallsOf(pattern: string, wanted: Thresholds, files: readonly FileCoverage[]): Shortfall[] {
  const total = addParts(files);
  return coverageKinds.flatMap((kind): Shortfall[] => {
    const least = wanted[kind];
    // A pattern that matches nothing is most likely a mistake.
    const percent = files.length === 0 ? 0 : percentOf(total[kind]);
    if (least === undefined || percent >= least) return [];
    return [{ pattern, kind, wanted: least, percent: Math.floor(percent * 10) / 10, files: files.length }];
  });
}

/** A shortfall in words. */
export const shortfallText = ({ pattern, kind, wanted, percent, files }: Shortfall): string =>
  files === 0
    ? `No source matches ${pattern}, which needs ${wanted} % of its ${kind}.`
    : `${pattern}: ${percent} % of its ${kind} are covered, ${wanted} % are needed.`;

/** A value as it is written in a union. */
export const valueText = (value: Primitive): string => JSON.stringify(value);
