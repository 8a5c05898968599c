/**
 * Lays two pictures over each other where one has rows or columns that the other has not: an inserted band is one
 * change, and what it has pushed aside counts as equal. Rows are known again by all their pixels.
 */
import { type Aligned, alignKeys } from '../list/align.ts';
import type { Picture } from './picture.ts';

/** Rows or columns that only one of the pictures has: where they begin in it, and how many they are. */
export type Band = { at: number; size: number };

export type Alignment = {
  axis: 'rows' | 'columns';
  /** Bands of the new picture, and of the baseline. */
  added: Band[];
  removed: Band[];
  /** For each row or column of the new picture, that of the baseline which lies under it; -1 for none. */
  under: Int32Array;
  /** Pixels that differ where rows or columns of both lie over each other. */
  residue: number;
};

/** The bytes of one row, or of one column, as words. */
type Lines = { count: number; width: number; at(line: number, i: number): number };

function wordsOf({ width, height, channels, data }: Picture): Uint32Array {
  if (channels === 4 && data.byteOffset % 4 === 0) return new Uint32Array(data.buffer, data.byteOffset, width * height);
  const words = new Uint32Array(width * height);
  for (let i = 0, at = 0; i < words.length; i++, at += channels)
    words[i] =
      ((channels === 4 ? data[at + 3]! : 255) << 24) | (data[at + 2]! << 16) | (data[at + 1]! << 8) | data[at]!;
  return words;
}

function linesOf(picture: Picture, words: Uint32Array, axis: Alignment['axis']): Lines {
  const { width, height } = picture;
  if (axis === 'rows') return { count: height, width, at: (line, i) => words[line * width + i]! };
  return { count: width, width: height, at: (line, i) => words[i * width + line]! };
}

/** Two hashes of each line (FNV-1a and a multiplicative one): equal lines have equal keys. */
function keysOf(lines: Lines): string[] {
  const keys: string[] = [];
  for (let line = 0; line < lines.count; line++) {
    let one = 0x811c9dc5;
    let other = 0x9e3779b1;
    for (let i = 0; i < lines.width; i++) {
      const word = lines.at(line, i);
      one = Math.imul(one ^ word, 0x01000193);
      other = Math.imul(other + word, 0x85ebca6b) ^ (other >>> 13);
    }
    keys.push(`${one} ${other}`);
  }
  return keys;
}

function differing(before: Lines, i: number, now: Lines, j: number): number {
  let count = 0;
  for (let at = 0; at < before.width; at++) if (before.at(i, at) !== now.at(j, at)) count++;
  return count;
}

const sum = (numbers: readonly number[]): number => numbers.reduce((total, one) => total + one, 0);

/** Lines that differ on both sides lie over each other; what one side has more of them is a band at one of the ends. */
function fill(before: Lines, now: Lines, lost: readonly number[], added: readonly number[], into: Alignment): void {
  const shared = Math.min(lost.length, added.length);
  const over = (fromLost: number, fromAdded: number): number =>
    sum(Array.from({ length: shared }, (_, i) => differing(before, lost[fromLost + i]!, now, added[fromAdded + i]!)));
  const atEnd = over(0, 0);
  const atStart = lost.length === added.length ? atEnd : over(lost.length - shared, added.length - shared);
  into.residue += Math.min(atEnd, atStart);
  const isAtEnd = atEnd <= atStart;
  const rest = (all: readonly number[]): readonly number[] =>
    isAtEnd ? all.slice(shared) : all.slice(0, all.length - shared);
  for (let i = 0; i < shared; i++) {
    const [one, other] = isAtEnd ? [i, i] : [lost.length - shared + i, added.length - shared + i];
    into.under[added[other]!] = lost[one]!;
  }
  const [gone, come] = [rest(lost), rest(added)];
  if (gone.length > 0) into.removed.push({ at: gone[0]!, size: gone.length });
  if (come.length > 0) into.added.push({ at: come[0]!, size: come.length });
}

function alongAxis(before: Picture, now: Picture, axis: Alignment['axis']): Alignment | null {
  const [one, other] = [linesOf(before, wordsOf(before), axis), linesOf(now, wordsOf(now), axis)];
  if (one.width !== other.width) return null;
  const under = new Int32Array(other.count).fill(-1);
  const alignment: Alignment = { axis, added: [], removed: [], under, residue: 0 };
  const lost: number[] = [];
  const added: number[] = [];
  const close = (): void => {
    if (lost.length > 0 || added.length > 0) fill(one, other, lost, added, alignment);
    lost.length = 0;
    added.length = 0;
  };
  const pairs: Aligned[] = alignKeys(keysOf(one), keysOf(other));
  for (const { before: i, now: j } of pairs) {
    if (i !== null && j !== null) {
      close();
      under[j] = i;
    } else if (i !== null) lost.push(i);
    else added.push(j!);
  }
  close();
  return alignment;
}

/** The better of both ways to lay two pictures over each other; null where neither of their sides is as long. */
export function alignPictures(before: Picture, now: Picture): Alignment | null {
  const rows = alongAxis(before, now, 'rows');
  if (rows?.residue === 0) return rows;
  const columns = alongAxis(before, now, 'columns');
  if (!rows || !columns) return rows ?? columns;
  return columns.residue < rows.residue ? columns : rows;
}

/** The baseline as large as the new picture: its rows or columns where they lie under those, the new ones elsewhere. */
export function laidUnder(before: Picture, now: Picture, { axis, under }: Alignment): Picture {
  const words = wordsOf(before);
  const out = new Uint32Array(wordsOf(now));
  const { width } = now;
  for (let line = 0; line < under.length; line++) {
    const from = under[line]!;
    if (from < 0) continue;
    if (axis === 'rows') out.set(words.subarray(from * before.width, from * before.width + width), line * width);
    else for (let y = 0; y < now.height; y++) out[y * width + line] = words[y * before.width + from]!;
  }
  return { width, height: now.height, channels: 4, data: new Uint8Array(out.buffer) };
}
