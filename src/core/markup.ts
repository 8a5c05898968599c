/** A moment's markup as lines of text, in one normal form: what a baseline keeps beside its picture. */
import { isText, type ElementEntry, type Moment } from './moment.ts';
import type { MarkupChange } from './verdict.ts';

const unseen = new Set(['script', 'style', 'link', 'meta', 'head', 'title', 'noscript']);

/** Ids that a framework counts up through a document: which number one gets depends on what was rendered before. */
const countedId = /(?:«r|:r|_r_)[0-9a-z]+(?:»|:|_)/g;

/** Replaces counted ids by their order of appearance, so that they say what refers to what and nothing else. */
function idNames(): (value: string) => string {
  const names = new Map<string, string>();
  return (value) =>
    value.replace(countedId, (id) => {
      const name = names.get(id) ?? `‹id ${names.size + 1}›`;
      names.set(id, name);
      return name;
    });
}

function openTag(entry: ElementEntry, rename: (value: string) => string): string {
  const attrs = Object.entries(entry.attrs ?? {})
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => (value === '' ? ` ${name}` : ` ${name}="${rename(value)}"`));
  const state = entry.state ?? {};
  const now: string[] = [];
  if (state.value !== undefined) now.push(` ·value="${state.value}"`);
  if (state.checked !== undefined) now.push(` ·checked=${state.checked}`);
  if (state.dialog) now.push(` ·${state.dialog}`);
  return `<${entry.tag}${attrs.join('')}${now.join('')}>`;
}

/** Markup of everything in the body, one element or text a line, indented; attributes by name, live state behind a dot. */
export function markupLines(moment: Moment): string[] {
  const lines: string[] = [];
  const rename = idNames();
  const visit = (id: number, depth: number): void => {
    const entry = moment.nodes[id];
    if (!entry) return;
    const indent = '  '.repeat(depth);
    if (isText(entry)) {
      const text = entry.text.replace(/\s+/g, ' ').trim();
      if (text) lines.push(indent + text);
      return;
    }
    if (unseen.has(entry.tag)) return;
    lines.push(indent + openTag(entry, rename));
    if (entry.shadow) {
      lines.push(`${indent}  #shadow`);
      for (const kid of entry.shadow.kids) visit(kid, depth + 2);
    }
    for (const kid of entry.kids ?? []) visit(kid, depth + 1);
  };
  const html = moment.nodes[moment.root];
  if (!html || isText(html)) return lines;
  for (const kid of html.kids ?? []) {
    const entry = moment.nodes[kid];
    if (entry && !isText(entry) && entry.tag === 'body') for (const child of entry.kids ?? []) visit(child, 0);
  }
  return lines;
}

/**
 * The lines that only one side has, by a shortest edit script (Myers 1986). Past `limit` edits the rest of both
 * sides is told as changed: nobody reads further than that.
 */
export function diffLines(from: readonly string[], to: readonly string[], limit = 400): MarkupChange[] {
  let start = 0;
  while (start < from.length && start < to.length && from[start] === to[start]) start++;
  let endA = from.length;
  let endB = to.length;
  while (endA > start && endB > start && from[endA - 1] === to[endB - 1]) {
    endA--;
    endB--;
  }
  const a = from.slice(start, endA);
  const b = to.slice(start, endB);
  if (a.length === 0 && b.length === 0) return [];
  const path = shortestEdit(a, b, limit);
  const changes: MarkupChange[] = [];
  const lost = (i: number): number => changes.push({ side: 'baseline', line: start + i + 1, text: a[i]! });
  const added = (i: number): number => changes.push({ side: 'now', line: start + i + 1, text: b[i]! });
  if (!path) {
    a.forEach((_, i) => void lost(i));
    b.forEach((_, i) => void added(i));
    return changes;
  }
  for (const { kind, index } of path) kind === 'lost' ? lost(index) : added(index);
  return changes;
}

type Edit = { kind: 'lost' | 'added'; index: number };

function shortestEdit(a: readonly string[], b: readonly string[], limit: number): Edit[] | null {
  const max = Math.min(a.length + b.length, limit);
  const offset = max + 1;
  const furthest = new Int32Array(2 * max + 3);
  const trace: Int32Array[] = [];
  for (let d = 0; d <= max; d++) {
    trace.push(furthest.slice());
    for (let k = -d; k <= d; k += 2) {
      const down = k === -d || (k !== d && furthest[offset + k - 1]! < furthest[offset + k + 1]!);
      let x = down ? furthest[offset + k + 1]! : furthest[offset + k - 1]! + 1;
      while (x < a.length && x - k < b.length && a[x] === b[x - k]) x++;
      furthest[offset + k] = x;
      if (x >= a.length && x - k >= b.length) return backtrack(trace, a.length, b.length, offset);
    }
  }
  return null;
}

function backtrack(trace: readonly Int32Array[], lengthA: number, lengthB: number, offset: number): Edit[] {
  const edits: Edit[] = [];
  let x = lengthA;
  let y = lengthB;
  for (let d = trace.length - 1; d > 0; d--) {
    const furthest = trace[d]!;
    const k = x - y;
    const down = k === -d || (k !== d && furthest[offset + k - 1]! < furthest[offset + k + 1]!);
    const previous = down ? k + 1 : k - 1;
    x = furthest[offset + previous]!;
    y = x - previous;
    edits.push(down ? { kind: 'added', index: y } : { kind: 'lost', index: x });
  }
  return edits.reverse();
}
