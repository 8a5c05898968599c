/** What a component tells by events and takes in slots, as far as its source says so plainly. */
import type { Kind } from '../look/kind.ts';

export type Outlets = { events: string[]; slots: string[] };

const every = (source: string, pattern: RegExp): string[] => [
  ...new Set([...source.matchAll(pattern)].map(([, name]) => name ?? '')),
];

/** Names among the first things in quotes of a list: `['arrived', 'left']`. */
const listed = (source: string, pattern: RegExp): string[] =>
  [...source.matchAll(pattern)].flatMap(([, list]) => every(list!, /['"]([\w:-]+)['"]/g));

/** Members of a type: `{ arrived: […]; (e: 'left'): void }`. */
const members = (source: string): string[] =>
  [...source.matchAll(/defineEmits\s*<\s*\{([\s\S]*?)\}\s*>/g)].flatMap(([, body]) => [
    ...every(body!, /(?:^|[;,\n{])\s*['"]?([\w:-]+)['"]?\s*:\s*\[/g),
    ...every(body!, /\(\s*\w+\s*:\s*['"]([\w:-]+)['"]/g),
  ]);

/** The tags of slots; the one without a name is called `default`. */
const slotTags = (source: string): string[] =>
  every(source, /<slot\b(?:[^>]*?\bname=["']([\w-]+)["'])?/g).map((name) => name || 'default');

const of: Record<Kind, (source: string) => Outlets> = {
  react: () => ({ events: [], slots: [] }),
  vue: (source) => ({
    events: [
      ...members(source),
      ...listed(source, /defineEmits\s*\(\s*\[([^\]]*)\]/g),
      ...every(source, /\$emit\(\s*['"]([\w:-]+)['"]/g),
    ],
    slots: slotTags(source),
  }),
  svelte: (source) => ({
    events: every(source, /\bdispatch\(\s*['"]([\w:-]+)['"]/g),
    slots: [...slotTags(source), ...every(source, /\{@render\s+(\w+)/g)],
  }),
  angular: (source) => ({
    events: [
      ...every(source, /(\w+)\s*=\s*output\s*[<(]/g),
      ...every(source, /@Output\([^)]*\)\s*(?:readonly\s+)?(\w+)/g),
    ],
    slots: every(source, /<ng-content\b(?:[^>]*?\bselect=["']([^"']+)["'])?/g).map((name) => name || 'default'),
  }),
  dom: (source) => ({
    events: every(source, /new (?:CustomEvent|Event)(?:<[^>]*>)?\(\s*['"]([\w:-]+)['"]/g),
    slots: slotTags(source),
  }),
};

/** The events and slots of a component, each once, in the order of its source. */
export function outletsIn(kind: Kind, source: string): Outlets {
  const plain = source.replace(/<!--[\s\S]*?-->|\/\*[\s\S]*?\*\//g, '');
  const { events, slots } = of[kind](plain);
  return { events: [...new Set(events)], slots: [...new Set(slots)] };
}
