/** Which candidates can matter for what is seen at all, as far as that is known without drawing. */
import { isText, type Moment } from '../moment/moment.ts';
import { escaped } from '../text/escaped.ts';
import type { Candidate } from './candidates.ts';
import type { Edits } from './edits.ts';
import type { Pair } from './pair.ts';

/** Classes, ids and custom properties that a moment uses. */
type Used = { classes: Set<string>; ids: Set<string>; texts: string };

function usedIn(moments: readonly Moment[]): Used {
  const used: Used = { classes: new Set(), ids: new Set(), texts: '' };
  const texts: string[] = [];
  for (const { nodes, sheets } of moments) {
    for (const entry of Object.values(nodes)) {
      if (isText(entry) || !entry.attrs) continue;
      for (const name of (entry.attrs.class ?? '').split(/\s+/)) used.classes.add(name);
      if (entry.attrs.id) used.ids.add(entry.attrs.id);
      if (entry.attrs.style) texts.push(entry.attrs.style);
    }
    for (const sheet of Object.values(sheets)) if ('css' in sheet) texts.push(sheet.css);
  }
  used.texts = texts.join('\n');
  return used;
}

/** True for a custom property that something reads: as `var(--name)`, or in a container's style query. */
const isReadIn = (property: string, texts: string): boolean =>
  new RegExp(`(var|style)\\(\\s*${escaped(property)}(?![\\w-])`).test(texts);

/** What functional pseudo-classes hold is not looked into. */
const functional = /:(?:not|is|where|has|host|host-context|nth-[\w-]+|lang|dir)\((?:[^()]|\([^()]*\))*\)/g;

/** False when no element can match: a class or an id is asked for that nothing has. */
function canMatch(selector: string, { classes, ids }: Used): boolean {
  return selector
    .replace(functional, '')
    .split(',')
    .some((part) => {
      const plain = part.replace(/\[[^\]]*\]/g, '');
      if (plain.includes('\\')) return true;
      const wanted = [...plain.matchAll(/([.#])(-?[_a-zA-Z][\w-]*)/g)];
      return wanted.every(([, sign, name]) => (sign === '.' ? classes : ids).has(name!));
    });
}

/** Tells which candidates are only about what is not compared. */
function leftOutIn({ before, now, trees }: Pair): (candidate: Candidate) => boolean {
  const sides = [
    { ids: new Set(before.leftOut), ...trees.before },
    { ids: new Set(now.leftOut), ...trees.now },
  ];
  if (sides.every(({ ids }) => ids.size === 0)) return () => false;
  const isInside = (node: number): boolean =>
    sides.some(({ ids, parents }) => {
      for (let at: number | undefined = node; at !== undefined; at = parents.get(at)) if (ids.has(at)) return true;
      return false;
    });
  return ({ nodes }) => nodes.length > 0 && nodes.every(isInside);
}

/**
 * The candidates without those of rules that match nothing, of custom properties that nobody uses, and of what is not
 * compared.
 */
export function relevant(pair: Pair, { list }: Edits, given: readonly Candidate[]): Candidate[] {
  const { before, now } = pair;
  const isLeftOut = leftOutIn(pair);
  const candidates = given.filter((one) => !isLeftOut(one));
  if (!candidates.some(({ kind }) => kind === 'token' || kind === 'style' || kind === 'rule')) return [...candidates];
  const used = usedIn([before.moment, now.moment]);
  return candidates.filter(({ edits }) =>
    edits.some((at) => {
      const edit = list[at]!;
      if (edit.kind !== 'sheet') return true;
      const { property, within, what, before: was, now: is } = edit.difference;
      if (property?.startsWith('--') && !isReadIn(property, used.texts)) return false;
      const styles = within.filter((prelude) => !prelude.startsWith('@'));
      if (within.some((prelude) => /^@(-\w+-)?keyframes/.test(prelude))) return true;
      const wanted = what === 'selector' ? [was!, is!] : styles.slice(-1);
      // Inside others a selector says only a part of what it matches.
      if (wanted.length === 0 || styles.length > 1 || wanted.some((one) => one.startsWith('@'))) return true;
      return wanted.some((one) => canMatch(one, used));
    }),
  );
}
