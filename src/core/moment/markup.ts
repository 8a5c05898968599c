/** A moment's markup as lines of text, in one normal form: what people read of a change. */
import type { MarkupChange } from '../run/verdict.ts';
import { folded } from '../text/folded.ts';
import type { CanonicalElement, CanonicalMoment, CanonicalNode } from './canonical.ts';
import { steadyNames } from './names.ts';

const unseen = new Set(['script', 'style', 'link', 'meta', 'head', 'title', 'noscript']);

function openTag({ tag, state = {} }: CanonicalElement, attrs: Record<string, string>): string {
  const written = Object.entries(attrs).map(([name, value]) => (value === '' ? ` ${name}` : ` ${name}="${value}"`));
  const now: string[] = [];
  if (state.value !== undefined) now.push(` ·value="${state.value}"`);
  if (state.checked !== undefined) now.push(` ·checked=${state.checked}`);
  if (state.dialog) now.push(` ·${state.dialog}`);
  return `<${tag}${written.join('')}${now.join('')}>`;
}

/**
 * Markup of everything in the body that is rendered, one element or text a line, indented; attributes by name, with
 * something steady for names that are made up, live state behind a dot.
 */
export function markupLines({ root }: CanonicalMoment): string[] {
  const lines: string[] = [];
  const attributesOf = steadyNames(root);
  const visit = (node: CanonicalNode, depth: number): void => {
    const indent = '  '.repeat(depth);
    if (typeof node === 'string') {
      const text = folded(node);
      if (text) lines.push(indent + text);
      return;
    }
    if (unseen.has(node.tag) || node.unseen) return;
    if (node.leftOut) {
      lines.push(`${indent}<${node.tag} ·left-out>`);
      return;
    }
    lines.push(indent + openTag(node, attributesOf(node)));
    if (node.shadow) {
      lines.push(`${indent}  #shadow`);
      for (const kid of node.shadow.kids) visit(kid, depth + 2);
    }
    if (node.frame?.kid) visit(node.frame.kid, depth + 1);
    for (const kid of node.kids ?? []) visit(kid, depth + 1);
  };
  if (typeof root === 'string') return lines;
  const body = root.kids?.find((kid) => typeof kid !== 'string' && kid.tag === 'body') as CanonicalElement | undefined;
  for (const kid of body?.kids ?? []) visit(kid, 0);
  return lines;
}

/** Attributes that a person perceives, by sight or by an assistive technology, whatever the picture shows. */
const perceived = new RegExp(
  '^(aria-.*|role|alt|title|placeholder|label|href|type|disabled|readonly|required|open|hidden|inert|lang|dir|for|' +
    'colspan|rowspan|scope|headers|tabindex|contenteditable|min|max|step|pattern|maxlength|autocomplete|download|' +
    'target)$',
);

/** True for an attribute that a person perceives although no pixel may show it. */
export const isPerceived = (name: string): boolean => perceived.test(name);

/** Elements that say nothing of what they hold. */
const plain = new Set(['<div>', '<span>', '<g>']);

/** A line of markup without what nobody perceives; empty for one of which nothing is left. */
function perceivedLine(line: string): string {
  const text = line.trim();
  const tag = /^<[^\s>]+/.exec(text)?.[0];
  if (!tag || !text.endsWith('>')) return text;
  const kept = [...text.slice(tag.length, -1).matchAll(/ (·[^\s]+|[^\s="]+)(?:="([^"]*)")?/g)]
    .filter(([, name]) => name!.startsWith('·') || perceived.test(name!))
    .map(([whole]) => whole);
  const rest = `${tag}${kept.join('')}>`;
  return plain.has(rest) ? '' : rest;
}

/** What of markup a person perceives beside the picture: roles, names, states and texts, in their order. */
export const perceivedLines = (lines: readonly string[]): string[] =>
  lines.map(perceivedLine).filter((line) => line !== '');

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
