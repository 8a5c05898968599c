/** Object literals in source text: what stands in them, and where more can be put without touching the rest. */
import type ts from 'typescript';
import { compiler } from '../props/compiler.ts';

/** A change of a text: what stands from `start` to `end` gives way to `text`. */
export type Edit = { start: number; end: number; text: string };

/** Several edits of one text, none of which overlap. */
export function edited(source: string, edits: readonly Edit[]): string {
  const sorted = [...edits].sort((a, b) => b.start - a.start);
  return sorted.reduce((text, { start, end, text: put }) => text.slice(0, start) + put + text.slice(end), source);
}

/** An expression without what only the compiler reads: `({ … }) satisfies X as const`. */
export function bare(node: ts.Expression): ts.Expression {
  if (compiler.isAsExpression(node) || compiler.isSatisfiesExpression(node) || compiler.isParenthesizedExpression(node))
    return bare(node.expression);
  return node;
}

export const objectIn = (node: ts.Expression | undefined): ts.ObjectLiteralExpression | null => {
  const found = node && bare(node);
  return found && compiler.isObjectLiteralExpression(found) ? found : null;
};

/** The name of an entry as it is written down; null for one that is computed, or spread. */
export function nameOf(entry: ts.ObjectLiteralElementLike): string | null {
  const { name } = entry;
  if (!name) return null;
  if (compiler.isIdentifier(name) || compiler.isStringLiteralLike(name) || compiler.isNumericLiteral(name))
    return name.text;
  if (compiler.isComputedPropertyName(name) && compiler.isStringLiteralLike(name.expression))
    return name.expression.text;
  return null;
}

export const entryOf = (object: ts.ObjectLiteralExpression, name: string): ts.ObjectLiteralElementLike | undefined =>
  // Of several the last one counts.
  object.properties.findLast((entry) => nameOf(entry) === name);

/** True where something after an entry may take its place: a spread, or a name that is only known when it runs. */
export function mayBeReplaced(object: ts.ObjectLiteralExpression, entry: ts.ObjectLiteralElementLike): boolean {
  const after = object.properties.slice(object.properties.indexOf(entry) + 1);
  return after.some((one) => nameOf(one) === null);
}

/** The white space at the beginning of the line that a place is in. */
export function indentAt(source: string, position: number): string {
  const start = source.lastIndexOf('\n', position - 1) + 1;
  return /^[ \t]*/.exec(source.slice(start))![0];
}

/** Puts an entry at the end of an object, on a line of its own where the others have one. */
export function appended(object: ts.ObjectLiteralExpression, entry: string, source: string, indent: string): Edit {
  const { properties } = object;
  const end = object.getEnd() - 1;
  const last = properties.at(-1);
  if (!last) {
    const hasComment = source.slice(object.getStart() + 1, end).trim() !== '';
    const at = object.getStart() + 1;
    // What stands in an empty object is a comment, which stays before what comes.
    return hasComment ? inLine(source, object, end, entry, indent) : { start: at, end, text: ` ${entry} ` };
  }
  const tail = source.slice(last.getEnd(), end);
  const comma = commaIn(tail);
  const isOnLines = source.slice(object.getStart(), last.getStart()).includes('\n');
  if (!isOnLines) {
    const at = last.getEnd() + (comma < 0 ? 0 : comma + 1);
    return { start: at, end: at, text: comma < 0 ? `, ${entry}` : ` ${entry},` };
  }
  const own = indentAt(source, last.getStart());
  const newline = source.includes('\r\n') ? '\r\n' : '\n';
  // After what stands behind the last entry on its line, a comment mostly.
  const at = comma < 0 ? last.getEnd() : last.getEnd() + comma + 1;
  const rest = /^[^\r\n]*/.exec(source.slice(at, end))![0];
  const isComment = /^\s*(\/\/|\/\*.*\*\/\s*$)/.test(rest);
  const place = isComment ? at + rest.length : at;
  if (comma >= 0) return { start: place, end: place, text: `${newline}${own}${entry},` };
  return isComment
    ? { start: last.getEnd(), end: place, text: `,${source.slice(last.getEnd(), place)}${newline}${own}${entry}` }
    : { start: place, end: place, text: `,${newline}${own}${entry}` };
}

function inLine(source: string, object: ts.ObjectLiteralExpression, end: number, entry: string, indent: string): Edit {
  const newline = source.includes('\r\n') ? '\r\n' : '\n';
  const outer = indentAt(source, object.getStart());
  const kept = source.slice(0, end).trimEnd().length;
  return { start: kept, end, text: `${newline}${outer}${indent}${entry},${newline}${outer}` };
}

/** Where the comma after an entry is in what follows it, comments left out; -1 for none. */
function commaIn(tail: string): number {
  const plain = tail.replace(/\/\*[\s\S]*?\*\/|\/\/[^\n]*/g, (comment) => ' '.repeat(comment.length));
  return plain.indexOf(',');
}
