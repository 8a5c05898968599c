/** Where the probes of sources are in the scripts that a bundle made of them. */
import { createHash } from 'node:crypto';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { decodedMappings, TraceMap } from '@jridgewell/trace-mapping';
import { type Bundle, bundleFolder } from '../bundle/index.ts';
import { type CoveredScript, countsAt, type SourceHits } from '../core/coverage/hits.ts';
import { lineStartsOf, probesOf } from '../core/coverage/structure.ts';
import { structureOf } from './structure.ts';

/** The probes of a script: offsets in ascending order, and what each of them is of. */
type ScriptProbes = { offsets: Int32Array; sources: Int32Array; probes: Int32Array; all: Source[] };

type Source = { path: string; hash: string };

/** Says what pages have run, in terms of the project's sources. */
export type Reader = (scripts: readonly CoveredScript[]) => SourceHits[];

const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');

const nothing: ScriptProbes = {
  offsets: new Int32Array(),
  sources: new Int32Array(),
  probes: new Int32Array(),
  all: [],
};

/** A place of a source with the place of the script that was made of it, both as offsets. */
type Mapping = readonly [original: number, generated: number];

/** The mappings of each source of a map that `isWanted`, by where they stand in the source. */
function mappingsOf(map: TraceMap, script: string, lines: readonly (readonly number[] | null)[]): Mapping[][] {
  const found: Mapping[][] = lines.map(() => []);
  const starts = lineStartsOf(script);
  decodedMappings(map).forEach((segments, line) => {
    for (const segment of segments) {
      if (segment.length === 1) continue;
      const [column, source, originalLine, originalColumn] = segment;
      const start = lines[source]?.[originalLine];
      if (start !== undefined) found[source]!.push([start + originalColumn, starts[line]! + column]);
    }
  });
  for (const mappings of found) mappings.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  return found;
}

/** The first mapping at an offset of the source or after it, by its index. */
function firstFrom(mappings: readonly Mapping[], offset: number): number {
  let low = 0;
  let high = mappings.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (mappings[middle]![0] < offset) low = middle + 1;
    else high = middle;
  }
  return low;
}

function readScript(bundle: Bundle, path: string): ScriptProbes {
  const json = bundle.maps.get(path);
  const body = bundle.files.get(path)?.body;
  if (!json || !body) return nothing;
  const map = new TraceMap(json);
  const folder = dirname(join(bundleFolder(bundle.root), path));
  const own = map.sources.map((source): string | null => {
    if (source === null) return null;
    const inside = relative(bundle.root, resolve(folder, source.split('?')[0]!))
      .split(sep)
      .join('/');
    return /^\.\.|node_modules\/|virtual:|^\//.test(inside) ? null : inside;
  });
  const texts = own.map((file, i) => (file === null ? null : (map.sourcesContent?.[i] ?? null)));
  const mappings = mappingsOf(
    map,
    body.toString('utf8'),
    texts.map((text) => (text === null ? null : lineStartsOf(text))),
  );
  const all: Source[] = [];
  const places: [offset: number, source: number, probe: number][] = [];
  own.forEach((file, i) => {
    const text = texts[i];
    const structure = file && text ? structureOf(file, text) : null;
    if (!structure || mappings[i]!.length === 0) return;
    const source = all.push({ path: file!, hash: hashOf(text!) }) - 1;
    probesOf(structure).forEach((spans, probe) => {
      for (const [start, end] of spans) {
        const found = mappings[i]![firstFrom(mappings[i]!, start)];
        if (found === undefined || found[0] >= end) continue;
        places.push([found[1], source, probe]);
        return;
      }
    });
  });
  places.sort((a, b) => a[0] - b[0]);
  return {
    offsets: Int32Array.from(places, ([offset]) => offset),
    sources: Int32Array.from(places, ([, source]) => source),
    probes: Int32Array.from(places, ([, , probe]) => probe),
    all,
  };
}

/** Maps take a while to read, so each bundle's are read once. */
const known = new WeakMap<Bundle['files'], Map<string, ScriptProbes>>();

/** Reads what pages of a bundle have run. Sources that none of its scripts was made of are not among it. */
export function coverageReader(bundle: Bundle): Reader {
  const scripts = known.get(bundle.files) ?? new Map<string, ScriptProbes>();
  known.set(bundle.files, scripts);
  const probesIn = (path: string): ScriptProbes => {
    const found = scripts.get(path) ?? readScript(bundle, path);
    scripts.set(path, found);
    return found;
  };
  return (covered) => {
    const hits = new Map<string, { source: Source; counts: Map<number, number> }>();
    for (const { path, functions } of covered) {
      const { offsets, sources, probes, all } = probesIn(path);
      if (offsets.length === 0) continue;
      countsAt(functions, offsets).forEach((count, i) => {
        if (count === 0) return;
        const source = all[sources[i]!]!;
        const entry = hits.get(source.path) ?? { source, counts: new Map<number, number>() };
        hits.set(source.path, entry);
        const probe = probes[i]!;
        entry.counts.set(probe, (entry.counts.get(probe) ?? 0) + count);
      });
    }
    return [...hits.values()].map(({ source, counts }) => ({
      ...source,
      hits: [...counts].sort((a, b) => a[0] - b[0]).flat(),
    }));
  };
}
