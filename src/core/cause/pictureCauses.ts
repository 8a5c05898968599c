/** Causes that only pixels tell of. */
import type { PictureChanges } from '../picture/changes.ts';
import type { RegionClass } from '../picture/classify.ts';
import { counted } from '../text/counted.ts';
import type { Box } from '../timeline/timeline.ts';
import type { Cause } from './cause.ts';

/** `#b3261e` of a little-endian RGBA word. */
const colour = (word: number): string =>
  `#${[word & 255, (word >>> 8) & 255, (word >>> 16) & 255].map((one) => one.toString(16).padStart(2, '0')).join('')}`;

function about(key: string, title: string, values: [string, string] | null, pixels: number, regions: Box[]): Cause {
  return {
    key: JSON.stringify(['picture', key]),
    kind: 'picture',
    title,
    before: values?.[0] ?? null,
    now: values?.[1] ?? null,
    elements: 0,
    outlines: regions,
    pixels,
    regions,
    effects: [],
    trace: { property: null, selector: null, texts: [] },
  };
}

/** A class of change in words, with a key that says no place: it may be another one in every capture. */
function inWords(change: RegionClass): { key: string; title: string; values: [string, string] | null } {
  switch (change.kind) {
    case 'moved': {
      const [x, y] = change.by;
      return { key: `moved ${x} ${y}`, title: `something moved by ${x}, ${y} pixels`, values: null };
    }
    case 'recoloured': {
      const [from, to] = [colour(change.from), colour(change.to)];
      return { key: `recoloured ${from} ${to}`, title: `a colour of the picture: ${from} → ${to}`, values: [from, to] };
    }
    case 'noise':
      return { key: 'noise', title: 'edges are smoothed a little otherwise', values: null };
    case 'redrawn':
      return { key: 'redrawn', title: 'something in the picture is drawn otherwise', values: null };
  }
}

/** The causes of a change, by its pixels: bands first, then regions of one class together. */
export function pictureCauses({ axis, added, removed, regions }: PictureChanges): Cause[] {
  const line = axis === 'rows' ? 'row' : 'column';
  const bands = [
    ...added.map((band) => ({ ...band, verb: 'added' as const })),
    ...removed.map((band) => ({ ...band, verb: 'removed' as const })),
  ].map(({ at, size, verb }) => {
    const box: Box = axis === 'rows' ? [0, at, 1, size] : [at, 0, size, 1];
    const title = `a band of ${counted(size, line)} was ${verb}`;
    return about(`${verb} ${size} ${line}`, title, null, size, verb === 'added' ? [box] : []);
  });
  const byClass = new Map<string, { title: string; values: [string, string] | null; pixels: number; boxes: Box[] }>();
  for (const { box, pixels, change } of regions) {
    const { key, title, values } = inWords(change);
    const known = byClass.get(key) ?? { title, values, pixels: 0, boxes: [] };
    known.pixels += pixels;
    known.boxes.push(box);
    byClass.set(key, known);
  }
  return [
    ...bands,
    ...[...byClass].map(([key, { title, values, pixels, boxes }]) => about(key, title, values, pixels, boxes)),
  ];
}
