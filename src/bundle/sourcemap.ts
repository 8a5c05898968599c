/** From a place in a bundled script back to the source that somebody wrote. */
import { existsSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';
import {
  decodedMappings,
  originalPositionFor,
  type SourceMapSegment,
  sourceContentFor,
  TraceMap,
} from '@jridgewell/trace-mapping';
import { addressOf, decodePath } from '../core/address/address.ts';
import { codeFrame } from '../core/problem/codeframe.ts';
import type { Located, ProfileNode } from '../core/timing/costs.ts';
import type { SourcePlace } from '../core/timeline/timeline.ts';
import { bundleFolder } from './build.ts';
import type { Bundle } from './bundle.ts';
import { isSource, shownPath } from './graph.ts';
import { ownFolder } from './own.ts';

/** Resolves the places that a bundle's pages speak of. */
export type SourceMapper = {
  /** The first place of a stack in the project's own source; one in `prefer` (a file) comes before others. */
  place(stack: string, prefer?: string): SourcePlace | null;
  /** The source around a place, or undefined when it is not known. */
  frame(place: SourcePlace): string | undefined;
};

/** A place in a source, as maps tell it: lines from 1, columns from 0. */
type Original = { source: string; line: number; column: number };

/** An entry of a map that names a source: column, index of the source, line and column, all from 0. */
type Mapped = Exclude<SourceMapSegment, [number]>;
const isMapped = (segment: SourceMapSegment): segment is Mapped => segment.length > 1;

/**
 * The source of what stands at a place of a script. Compilers of templates name none for what they make up: between two
 * places of one source it belongs to the first of them.
 */
function originalOf(map: TraceMap, at: { line: number; column: number }): Original | null {
  const { source, line, column } = originalPositionFor(map, at);
  if (source !== null) return { source, line, column };
  const mapped = (decodedMappings(map)[at.line - 1] ?? []).filter(isMapped);
  const after = mapped.findIndex(([start]) => start > at.column);
  const [before, next] = [mapped[after - 1], mapped[after]];
  if (!before || !next || before[1] !== next[1]) return null;
  return { source: map.resolvedSources[before[1]]!, line: before[2] + 1, column: before[3] };
}

/** Where functions of a profile stand: in the project or a package of it, or in our own side of the page. */
const locators = new WeakMap<Bundle, (node: ProfileNode) => Located>();

/** Says of a function in a profile of a bundle's page where it stands, and whether it is ours. */
export function locatorOf(bundle: Bundle): (node: ProfileNode) => Located {
  const found = locators.get(bundle) ?? makeLocator(bundle);
  locators.set(bundle, found);
  return found;
}

function makeLocator(bundle: Bundle): (node: ProfileNode) => Located {
  const maps = new Map<string, TraceMap | null>();
  const known = new Map<string, Located>();
  const folder = bundleFolder(bundle.root);
  const mapOf = (path: string): TraceMap | null => {
    if (!maps.has(path)) {
      const text = bundle.maps.get(path);
      maps.set(path, text ? new TraceMap(text) : null);
    }
    return maps.get(path)!;
  };
  const locate = ({ callFrame }: ProfileNode): Located => {
    const { functionName, url, lineNumber, columnNumber } = callFrame;
    const name = functionName || '(anonymous)';
    if (url === '') return { name, place: null, isOurs: false };
    const path = decodePath(addressOf(url)?.pathname ?? '');
    const map = path === null ? null : mapOf(path);
    const at = { line: lineNumber + 1, column: Math.max(0, columnNumber) };
    const found = map && originalOf(map, at);
    // What is called by its address in the engine, or by nothing that was bundled, is our host's.
    if (path === null || !found) return { name, place: null, isOurs: true };
    const full = resolve(dirname(join(folder, path)), found.source);
    if (full.startsWith(ownFolder + sep) || found.source.includes('virtual:sguardo'))
      return { name, place: null, isOurs: true };
    const inside = relative(bundle.root, full).split(sep).join('/');
    const packaged = inside.lastIndexOf('node_modules/');
    const shown = packaged < 0 ? inside : inside.slice(packaged);
    return { name, place: `${shown}:${found.line}`, isOurs: false };
  };
  return (node) => {
    const { functionName, url, lineNumber, columnNumber } = node.callFrame;
    const key = `${url} ${lineNumber} ${columnNumber} ${functionName}`;
    const found = known.get(key) ?? locate(node);
    known.set(key, found);
    return found;
  };
}

const address = /https?:\/\/[^/\s)]+(\/[^\s):?]+)(?:\?[^\s):]*)?:(\d+):(\d+)/g;

/** Reading a map takes a while, so each bundle's are read once. */
const known = new WeakMap<Bundle, SourceMapper>();

export function sourceMapper(bundle: Bundle): SourceMapper {
  const mapper = known.get(bundle) ?? makeMapper(bundle);
  known.set(bundle, mapper);
  return mapper;
}

function makeMapper(bundle: Bundle): SourceMapper {
  const maps = new Map<string, TraceMap>();
  const texts = new Map<string, string>();
  const folder = bundleFolder(bundle.root);
  const mapOf = (path: string): TraceMap | null => {
    const known = maps.get(path);
    if (known) return known;
    const text = bundle.maps.get(path);
    if (!text) return null;
    const map = new TraceMap(text);
    maps.set(path, map);
    return map;
  };
  /** A source's path relative to the project's root, or null when it is not the project's own. */
  const own = (path: string, source: string): string | null => {
    const full = resolve(dirname(join(folder, path)), source);
    const shown = shownPath(bundle.root, full);
    // Packages bring maps that name the sources where they were built.
    const isThere = existsSync(full.split('?', 1)[0]!);
    return isThere && isSource(bundle.root, shown) && !shown.includes('virtual:') ? shown : null;
  };
  return {
    place(stack, prefer) {
      let first: SourcePlace | null = null;
      for (const [, asked, lineText, columnText] of stack.matchAll(address)) {
        const path = decodePath(asked!);
        const map = path === null ? null : mapOf(path);
        const at = { line: Number(lineText), column: Number(columnText) - 1 };
        // Lines count from 1; what a page calls a stack need not.
        if (path === null || !map || !(at.line >= 1 && at.column >= 0)) continue;
        const found = originalOf(map, at);
        const file = found && own(path, found.source);
        if (!found || !file) continue;
        if (!texts.has(file)) texts.set(file, sourceContentFor(map, found.source) ?? '');
        const place = { file, line: found.line, column: found.column + 1 };
        if (!prefer || file === prefer) return place;
        first ??= place;
      }
      return first;
    },
    frame(place) {
      const text = texts.get(place.file);
      return text ? codeFrame(text, place) : undefined;
    },
  };
}
