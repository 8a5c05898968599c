/** Patches: what leads from one moment to another, and back. */
import type { Moment, Patch, View } from './moment.ts';

function applyRecord<T>(record: Record<string, T>, changes: Record<string, T | null> | undefined): Record<string, T> {
  if (!changes) return record;
  const next = { ...record };
  for (const [id, entry] of Object.entries(changes)) {
    if (entry === null) delete next[id];
    else next[id] = entry;
  }
  return next;
}

/** The moment after the patch. Neither argument is changed. */
export function applyPatch(moment: Moment, patch: Patch): Moment {
  return {
    root: moment.root,
    nodes: applyRecord(moment.nodes, patch.nodes),
    sheets: applyRecord(moment.sheets, patch.sheets),
    view: patch.view ? { ...moment.view, ...patch.view } : moment.view,
  };
}

function invertRecord<T>(record: Record<string, T>, changes: Record<string, T | null>): Record<string, T | null> {
  return Object.fromEntries(Object.keys(changes).map((id) => [id, Object.hasOwn(record, id) ? record[id]! : null]));
}

/** The patch that undoes `patch`; `before` is the moment that `patch` is applied to. */
export function invertPatch(before: Moment, patch: Patch): Patch {
  const inverse: Patch = {};
  if (patch.nodes) inverse.nodes = invertRecord(before.nodes, patch.nodes);
  if (patch.sheets) inverse.sheets = invertRecord(before.sheets, patch.sheets);
  if (patch.view) {
    const keys = Object.keys(patch.view) as (keyof View)[];
    inverse.view = Object.fromEntries(keys.map((key) => [key, before.view[key]])) as Partial<View>;
  }
  return inverse;
}

/** The one patch that does what two do, one after the other. */
export function joinPatches(first: Patch, second: Patch): Patch {
  const joined: Patch = {};
  if (first.nodes || second.nodes) joined.nodes = { ...first.nodes, ...second.nodes };
  if (first.sheets || second.sheets) joined.sheets = { ...first.sheets, ...second.sheets };
  if (first.view || second.view) joined.view = { ...first.view, ...second.view };
  return joined;
}

function diffRecord<T>(from: Record<string, T>, to: Record<string, T>): Record<string, T | null> | undefined {
  const changes: Record<string, T | null> = {};
  let any = false;
  for (const id of Object.keys(from)) {
    if (id in to) continue;
    changes[id] = null;
    any = true;
  }
  for (const [id, entry] of Object.entries(to)) {
    const before = from[id];
    if (before === entry || (before !== undefined && JSON.stringify(before) === JSON.stringify(entry))) continue;
    changes[id] = entry;
    any = true;
  }
  return any ? changes : undefined;
}

/** The smallest patch that leads from one moment to another of the same document. */
export function diffMoments(from: Moment, to: Moment): Patch {
  const patch: Patch = {};
  const nodes = diffRecord(from.nodes, to.nodes);
  const sheets = diffRecord(from.sheets, to.sheets);
  const view: Record<string, unknown> = {};
  for (const key of Object.keys(to.view) as (keyof View)[])
    if (JSON.stringify(from.view[key]) !== JSON.stringify(to.view[key])) view[key] = to.view[key];
  if (nodes) patch.nodes = nodes;
  if (sheets) patch.sheets = sheets;
  if (Object.keys(view).length > 0) patch.view = view as Partial<View>;
  return patch;
}

/** Moment number `index` of a timeline: the base with its first `index` patches applied. */
export function momentAt(base: Moment, patches: readonly Patch[], index: number): Moment {
  let moment = base;
  for (let i = 0; i < index && i < patches.length; i++) moment = applyPatch(moment, patches[i]!);
  return moment;
}
