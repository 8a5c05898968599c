/** What the looks of a run have run of the project's sources: in all, and line by line. */
import { readFileSync, statSync } from 'node:fs';
import { join, sep } from 'node:path';
import { glob } from 'tinyglobby';
import type { LookCoverage, SourceHits } from '../core/coverage/hits.ts';
import { allHits } from '../core/coverage/hits.ts';
import { coverageMapOf, type IstanbulFile } from '../core/coverage/istanbul.ts';
import { folded, shortened } from '../core/text/folded.ts';
import {
  addParts,
  type CoverageReport,
  type FileCoverage,
  type FileLines,
  type LineCoverage,
  linesOf,
  partsOf,
  shortfallsOf,
} from '../core/coverage/report.ts';
import {
  type Counts,
  countsOf,
  lineStartsOf,
  positionAt,
  probesOf,
  type Structure,
} from '../core/coverage/structure.ts';
import { unreachedIn } from '../core/coverage/unreached.ts';
import { styleOf } from '../core/draft/style.ts';
import { componentOf, type LookName, lookKey } from '../core/look/look.ts';
import { fail } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import { codeEndings, structureOf } from '../coverage/structure.ts';
import { hashOf, type Store } from '../store/index.ts';
import { componentsOf } from '../work/index.ts';

export type CoverageDesk = {
  /** Of a run, or of the newest one that has counted. @throws ProblemError `coverage-none` */
  report(run: number | null): Promise<CoverageReport>;
  /** One source, line by line. @throws ProblemError `coverage-none`, `not-found` */
  file(run: number | null, path: string): Promise<FileLines>;
  /** As Istanbul's tools read it. @throws ProblemError `coverage-none` */
  map(run: number | null): Promise<Record<string, IstanbulFile>>;
};

/** What is never counted: files that say how things are tested, built or typed. */
const aside = [
  ...['node_modules', 'dist', 'build', 'out', 'coverage', '.sguardo', '.git'].map((folder) => `**/${folder}/**`),
  ...['look', 'test', 'spec', 'config', 'd'].map((word) => `**/*.${word}.*`),
  ...['**/__tests__/**', '**/__mocks__/**', '**/sguardo.*'],
];

/** Sources larger than this were not written by hand. */
const largest = 1_000_000;

/** A source with what its looks have run of it, look by look. */
type Source = {
  path: string;
  text: string;
  structure: Structure;
  /** Counts by probe. */
  total: number[];
  loading: number[];
  byLook: { look: LookName; hits: SourceHits['hits'] }[];
};

type Counted = { look: LookName; coverage: LookCoverage };

const add = (to: number[], pairs: readonly number[]): void => {
  for (let i = 0; i + 1 < pairs.length; i += 2) if (pairs[i]! < to.length) to[pairs[i]!]! += pairs[i + 1]!;
};

/** Reads sources with their structures; what was read stays for as long as the text is the same. */
function structures(): (path: string, text: string) => Structure | null {
  const known = new Map<string, Structure | null>();
  return (path, text) => {
    const key = `${path} ${hashOf(text)}`;
    if (!known.has(key)) known.set(key, structureOf(path, text));
    return known.get(key)!;
  };
}

/** Puts what looks have run together, source by source. Texts are those that ran, as far as they are kept. */
function sourcesOf(
  paths: readonly string[],
  counted: readonly Counted[],
  read: (path: string, hash: string | null) => string | null,
  structure: ReturnType<typeof structures>,
): { sources: Source[]; notes: string[] } {
  const wanted = new Set(paths);
  const hashes = new Map<string, string>();
  for (const { coverage } of counted)
    for (const { path, hash } of [...coverage.own, ...coverage.loading]) hashes.set(path, hash);
  const notes: string[] = [];
  const sources = new Map<string, Source>();
  for (const path of paths) {
    const text = read(path, hashes.get(path) ?? null);
    if (text === null) continue;
    const found = structure(path, text);
    if (!found) {
      notes.push(`${path} could not be parsed, and is not counted.`);
      continue;
    }
    if (found.statements.length === 0 && found.functions.length === 0) continue;
    const none = (): number[] => new Array<number>(probesOf(found).length).fill(0);
    sources.set(path, { path, text, structure: found, total: none(), loading: none(), byLook: [] });
  }
  for (const { look, coverage } of counted) {
    for (const { path, hash, hits } of coverage.loading) {
      const source = wanted.has(path) && hashes.get(path) === hash ? sources.get(path) : undefined;
      if (!source) continue;
      add(source.loading, hits);
      add(source.total, hits);
    }
    for (const { path, hash, hits } of coverage.own) {
      const source = wanted.has(path) && hashes.get(path) === hash ? sources.get(path) : undefined;
      if (!source) continue;
      add(source.total, hits);
      source.byLook.push({ look, hits });
    }
  }
  return { sources: [...sources.values()], notes };
}

const countsIn = ({ structure, total }: Source): Counts => countsOf(structure, total);

const aboutFile = (source: Source): FileCoverage => ({
  path: source.path,
  ...partsOf(source.structure, countsIn(source), source.text),
  looks: new Set(source.byLook.map(({ look }) => lookKey(look.component, look.look))).size,
});

/** The lines of a source, with who has run them. */
function linesIn(source: Source): { lines: LineCoverage[]; looks: LookName[] } {
  const { structure, text, loading, byLook } = source;
  const looks = new Map<string, { look: LookName; hits: number[] }>();
  for (const { look, hits } of byLook) {
    const key = lookKey(look.component, look.look);
    const known = looks.get(key);
    if (known) add(known.hits, hits);
    else looks.set(key, { look, hits: allHits(hits, source.total.length) });
  }
  const all = [...looks.values()];
  const each = all.map(({ hits }) => linesOf(structure, countsOf(structure, hits), text));
  const loaded = linesOf(structure, countsOf(structure, loading), text);
  const counts = countsIn(source);
  const starts = lineStartsOf(text);
  const missing = new Map<number, string[]>();
  structure.branches.forEach(({ arms }, i) => {
    const taken = counts.branches[i]!;
    if (taken.every((count) => count === 0)) return;
    arms.forEach(({ at, isElse }, arm) => {
      if (taken[arm]! > 0) return;
      const { line } = positionAt(starts, at[0]);
      const what = isElse ? 'its condition is never false' : `never run: ${shortened(folded(text.slice(...at)), 80)}`;
      missing.set(line, [...(missing.get(line) ?? []), what]);
    });
  });
  const lines = [...linesOf(structure, counts, text)].sort(([a], [b]) => a - b);
  return {
    looks: all.map(({ look }) => look),
    lines: lines.map(([line, count]) => ({
      line,
      count,
      looks: each.flatMap((one, index) => ((one.get(line) ?? 0) > 0 ? [index] : [])),
      isLoading: (loaded.get(line) ?? 0) > 0,
      missing: missing.get(line) ?? [],
    })),
  };
}

export function coverageDeskOf(root: string, store: Store, settings: () => Promise<Settings>): CoverageDesk {
  const structure = structures();
  const onDisk = (path: string): string | null => {
    const about = statSync(join(root, path), { throwIfNoEntry: false });
    return about?.isFile() && about.size <= largest ? readFileSync(join(root, path), 'utf8') : null;
  };
  const read = (path: string, hash: string | null): string | null => {
    const kept = hash === null ? null : store.blobs.get(hash);
    return kept ? kept.bytes.toString('utf8') : onDisk(path);
  };
  const find = async (patterns: readonly string[], ignore: readonly string[]): Promise<string[]> => {
    const found = await glob([...patterns], { cwd: root, ignore: [...ignore], dot: false });
    return found.map((file) => file.split(sep).join('/')).sort();
  };
  const ending = new RegExp(`\\.(${codeEndings.join('|')})$`);
  /** Of all sources, or of one of them. */
  const gather = async (wanted: number | null, only: string | null = null) => {
    const run = wanted ?? store.runs.newestCounted() ?? fail('coverage-none');
    const results = store.results.ofRun(store.runs.get(run)?.id ?? fail('not-found', { what: `run ${run}` }));
    const known = store.results.coverage(results.map(({ id }) => id));
    if (known.size === 0) fail('coverage-none');
    const { coverage, frame } = await settings();
    const apart = [...aside, ...coverage.exclude, ...(frame === null ? [] : [frame])];
    const all = (await find(coverage.include, apart)).filter((path) => ending.test(path));
    const paths = only === null ? all : all.filter((path) => path === only);
    const counted = results.flatMap(({ id, component, look }): Counted[] => {
      const found = known.get(id);
      return found ? [{ look: { component, look }, coverage: found }] : [];
    });
    const { sources, notes } = sourcesOf(paths, counted, read, structure);
    return { run, results, counted, sources, notes, thresholds: coverage.thresholds };
  };
  return {
    async report(wanted) {
      const { run, results, counted, sources, notes, thresholds } = await gather(wanted);
      const files = sources.map(aboutFile);
      const shortfalls = [];
      for (const [pattern, least] of Object.entries(thresholds)) {
        const meant = new Set(await find([pattern], []));
        shortfalls.push(
          ...shortfallsOf(
            pattern,
            least,
            files.filter(({ path }) => meant.has(path)),
          ),
        );
      }
      const looks = new Set(counted.map(({ look }) => lookKey(look.component, look.look))).size;
      const uncounted = results.length - counted.length;
      return { run, files, total: addParts(files), looks, uncounted, shortfalls, notes };
    },
    async file(wanted, path) {
      const { sources } = await gather(wanted, path);
      const source = sources[0] ?? fail('not-found', { what: `counted source ${path}` });
      const { text } = source;
      const counts = countsIn(source);
      const own = path.replace(/\.\w+$/, '');
      const looks = store.catalogue.looks().filter(({ file }) => componentOf(file) === own);
      const [component] = looks.length > 0 ? await componentsOf(root, path).catch(() => []) : [];
      const given = looks.map((look) => look.given ?? []);
      const subject = { types: component?.types ?? null, given, style: styleOf(text, /\.[cm]?tsx?$/.test(path)) };
      const unreached = unreachedIn({ text, structure: source.structure, counts }, subject);
      return { path, text, parts: partsOf(source.structure, counts, text), ...linesIn(source), unreached };
    },
    async map(wanted) {
      const { sources } = await gather(wanted);
      return Object.fromEntries(
        sources.map((source) => {
          const path = join(root, source.path);
          return [path, coverageMapOf(path, source.text, source.structure, countsIn(source))];
        }),
      );
    },
  };
}
