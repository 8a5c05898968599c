/** Edits that are told together: what gave way to what, what was put around what, a class with its rule. */
import { isText } from '../moment/moment.ts';
import { escaped } from '../text/escaped.ts';
import type { Candidate } from './candidates.ts';
import { colourChange, type Written } from './colours.ts';
import type { Edit, Edits } from './edits.ts';
import type { Pair } from './pair.ts';
import { shapeOf } from './telling.ts';
import { usersOf } from './users.ts';
import { inWords } from './words.ts';

/** Candidates that are told otherwise, with those that they stand for. */
type Joined = { parts: readonly Candidate[]; whole: Candidate };

const editOf = ({ list }: Edits, { edits }: Candidate): Edit => list[edits[0]!]!;

/** Joins parts under the words of one of them, or other words. */
function joined(parts: readonly Candidate[], as: Partial<Candidate> & { key: string }): Joined {
  const [first] = parts;
  return {
    parts,
    whole: {
      ...first!,
      edits: parts.flatMap(({ edits }) => edits),
      nodes: [...new Set(parts.flatMap(({ nodes }) => nodes))],
      selectors: [...new Set(parts.flatMap(({ selectors }) => selectors))],
      isPerceived: parts.some((one) => one.isPerceived),
      ...as,
    },
  };
}

function siblings(pair: Pair, node: number, side: 'before' | 'now'): readonly number[] {
  const parent = pair.trees[side].parents.get(node);
  const entry = parent === undefined ? undefined : pair[side].moment.nodes[parent];
  if (!entry || isText(entry)) return [];
  return entry.shadow?.kids.includes(node) ? entry.shadow.kids : (entry.kids ?? []);
}

/** The neighbour on both sides that an element stands behind, and whose child it is. */
function placeOf(pair: Pair, node: number, side: 'before' | 'now'): string {
  const all = siblings(pair, node, side);
  const isShared = (id: number): boolean => !!pair.before.moment.nodes[id] && !!pair.now.moment.nodes[id];
  return `${pair.trees[side].parents.get(node)} ${all.slice(0, all.indexOf(node)).findLast(isShared) ?? ''}`;
}

/** Elements that gave way to others in the same place. */
function replaced(pair: Pair, edits: Edits, told: readonly Candidate[]): Joined[] {
  const places = new Map<string, { removed: Candidate[]; added: Candidate[] }>();
  for (const one of told) {
    const edit = editOf(edits, one);
    if (edit.kind !== 'removed' && edit.kind !== 'added') continue;
    const key = placeOf(pair, edit.node, edit.kind === 'removed' ? 'before' : 'now');
    const place = places.get(key) ?? { removed: [], added: [] };
    place[edit.kind].push(one);
    places.set(key, place);
  }
  return [...places.values()].flatMap(({ removed, added }) => {
    if (removed.length !== added.length) return [];
    return removed.map((one, i) => {
      const other = added[i]!;
      const [was, is] = [inWords(pair.before.moment, one.nodes[0]!), inWords(pair.now.moment, other.nodes[0]!)];
      return joined([one, other], {
        key: JSON.stringify(['replaced', shapeOf(pair, one.nodes[0]!), shapeOf(pair, other.nodes[0]!)]),
        kind: 'replaced',
        title: `${was} was replaced by ${is}`,
        before: one.before,
        now: other.now,
        nodes: other.nodes,
        trace: other.trace,
      });
    });
  });
}

/** Elements that were put around others, or taken away from around them. */
function wrapped(pair: Pair, edits: Edits, told: readonly Candidate[]): Joined[] {
  const moved = told.filter((one) => editOf(edits, one).kind === 'moved');
  return told.flatMap((one) => {
    const edit = editOf(edits, one);
    if (edit.kind !== 'added' && edit.kind !== 'removed') return [];
    const { parents } = edit.kind === 'added' ? pair.trees.now : pair.trees.before;
    const isInside = ({ nodes: [node] }: Candidate): boolean => {
      for (let at = parents.get(node!); at !== undefined; at = parents.get(at)) if (at === edit.node) return true;
      return false;
    };
    const inner = moved.filter(isInside);
    if (inner.length === 0) return [];
    const first = inWords(pair.before.moment, inner[0]!.nodes[0]!);
    const more = inner.length > 1 ? ` and ${inner.length - 1} more` : '';
    const isNew = edit.kind === 'added';
    const around = inWords(isNew ? pair.now.moment : pair.before.moment, edit.node, false);
    return joined([one, ...inner], {
      key: JSON.stringify([one.kind, around, inner.map(({ key }) => key)]),
      title: isNew ? `${around} was put around ${first}${more}` : `${around} around ${first}${more} was removed`,
    });
  });
}

/** Children of one element that stand in another order. */
function reordered(pair: Pair, edits: Edits, told: readonly Candidate[]): Joined[] {
  const byParent = new Map<number, Candidate[]>();
  for (const one of told) {
    const edit = editOf(edits, one);
    if (edit.kind !== 'moved') continue;
    const [was, is] = [pair.trees.before.parents.get(edit.node), pair.trees.now.parents.get(edit.node)];
    if (was !== undefined && was === is) byParent.set(is, [...(byParent.get(is) ?? []), one]);
  }
  return [...byParent].map(([parent, parts]) => {
    const names = siblings(pair, parts[0]!.nodes[0]!, 'now').map((id) => inWords(pair.now.moment, id));
    return joined(parts, {
      key: JSON.stringify(['moved', names]),
      title: `the order within ${inWords(pair.now.moment, parent, false)} changed`,
      nodes: [...parts.flatMap(({ nodes }) => nodes)],
    });
  });
}

const speaksOf = (selector: string, name: string): boolean =>
  new RegExp(`\\.${escaped(name)}(?![\\w-])`).test(selector);

/** Rules that use a custom property that came or went as a whole; none for any other candidate. */
function usersOfNew({ before, now }: Pair, { kind, trace: { property }, ...one }: Candidate): string[] {
  if (kind !== 'token' || property === null || (one.before === null) === (one.now === null)) return [];
  const { selectors, nodes } = usersOf((one.now === null ? before : now).moment, property);
  return nodes.length > 0 ? [] : selectors;
}

/** A class that came or went together with the rules that speak of it, and with what only such rules use. */
function classesWithRules(pair: Pair, edits: Edits, told: readonly Candidate[]): Joined[] {
  const rules = told.filter((one) => editOf(edits, one).kind === 'sheet');
  const users = new Map(rules.map((one) => [one, usersOfNew(pair, one)]));
  const byClass = new Map<string, Candidate[]>();
  for (const one of told) {
    const edit = editOf(edits, one);
    if (edit.kind !== 'class') continue;
    const key = JSON.stringify([edit.before, edit.now]);
    byClass.set(key, [...(byClass.get(key) ?? []), one]);
  }
  const namesIn = (key: string): string[] => (JSON.parse(key) as (string | null)[]).filter((name) => name !== null);
  const all = [...byClass.keys()].flatMap(namesIn);
  return [...byClass].flatMap(([key, parts]) => {
    const isOf = (selector: string): boolean => namesIn(key).some((name) => speaksOf(selector, name));
    const isOfAny = (selector: string): boolean => all.some((name) => speaksOf(selector, name));
    const own = rules.filter((one) =>
      one.kind === 'rule' ? one.selectors.some(isOf) : users.get(one)!.some(isOf) && users.get(one)!.every(isOfAny),
    );
    return own.length === 0 ? [] : [joined([...parts, ...own], { key: parts[0]!.key })];
  });
}

/** True for a shorthand and one of its parts, such as `border` and `border-bottom-width`. */
const isPartOf = (one: string, other: string): boolean => one.startsWith(`${other}-`) || other.startsWith(`${one}-`);

/** A shorthand that gave way to some of its parts in the same rule, or they to it. */
function shorthands(edits: Edits, told: readonly Candidate[]): Joined[] {
  const byRule = new Map<string, { lost: Candidate[]; added: Candidate[] }>();
  for (const one of told) {
    const edit = editOf(edits, one);
    if (edit.kind !== 'sheet' || edit.difference.what !== 'declaration') continue;
    const { within, before, now } = edit.difference;
    if (before !== null && now !== null) continue;
    const key = `${edit.sheet} ${within.join(' ')}`;
    const rule = byRule.get(key) ?? { lost: [], added: [] };
    (now === null ? rule.lost : rule.added).push(one);
    byRule.set(key, rule);
  }
  const said = ({ trace: { property } }: Candidate, value: string | null): string => `${property}: ${value}`;
  return [...byRule.values()].flatMap(({ lost, added }) =>
    lost.flatMap((one) => {
      const others = added.filter((other) => isPartOf(one.trace.property!, other.trace.property!));
      if (others.length === 0) return [];
      const [before, now] = [said(one, one.before), others.map((other) => said(other, other.now)).join('; ')];
      const [rule = ''] = one.selectors;
      const { trace } = others[0]!;
      return joined([one, ...others], {
        key: JSON.stringify(['style', rule, before, now]),
        title: `${before} of ${rule} became ${now}`,
        before,
        now,
        trace,
      });
    }),
  );
}

/** One custom property that has other values in several places, such as by day and by night. */
function tokens(edits: Edits, told: readonly Candidate[]): Joined[] {
  const byName = new Map<string, Candidate[]>();
  for (const one of told) {
    const edit = editOf(edits, one);
    if (edit.kind !== 'sheet' || one.kind !== 'token') continue;
    const { property, before, now } = edit.difference;
    if (before !== null && now !== null) byName.set(property!, [...(byName.get(property!) ?? []), one]);
  }
  return [...byName].map(([name, parts]) => {
    const values = [...new Set(parts.map(({ before, now }) => `${before} → ${now}`))];
    const side = (which: 'before' | 'now'): string => [...new Set(parts.map((one) => one[which]))].join(', ');
    return joined(parts, {
      key: JSON.stringify(['token', name, values]),
      title: values.length === 1 ? parts[0]!.title : `${name}: ${values.join(', ')}`,
      before: side('before'),
      now: side('now'),
    });
  });
}

/** True for a rule that sets tokens for everybody, and not for one component. */
const isGlobal = (selector: string): boolean =>
  /^(:root|html|body|:host|\*)|\[data-[\w-]*(theme|mode|scheme)/.test(selector);

/** A colour as all declarations write it; in hexadecimal where they differ. */
const commonNotation = (all: readonly Written[]): string =>
  all.every(({ text }) => text === all[0]!.text) ? all[0]!.text : all[0]!.hex;

/** One colour that gave way to another one in several rules, as themes in JavaScript do it. */
function colours(edits: Edits, told: readonly Candidate[]): Joined[] {
  const byChange = new Map<string, { changes: [Written, Written][]; parts: Candidate[] }>();
  for (const one of told) {
    const { kind, before, now } = one;
    const edit = editOf(edits, one);
    const within = edit.kind === 'sheet' ? edit.difference.within : [];
    if ((kind !== 'style' && kind !== 'token') || (kind === 'token' && within.some(isGlobal))) continue;
    const change = before === null || now === null ? null : colourChange(before, now);
    if (!change) continue;
    const name = change.map(({ hex }) => hex).join(' ');
    const known = byChange.get(name) ?? { changes: [], parts: [] };
    known.changes.push(change);
    known.parts.push(one);
    byChange.set(name, known);
  }
  return [...byChange.values()].map(({ changes, parts }) => {
    const key = JSON.stringify(['style', 'colour', changes[0]![0].hex, changes[0]![1].hex]);
    if (parts.length === 1) return joined(parts, { key });
    const [before, now] = [0, 1].map((side) => commonNotation(changes.map((change) => change[side]!)));
    const properties = [...new Set(parts.map(({ trace: { property } }) => property))];
    const named = properties.slice(0, 3).join(', ') + (properties.length > 3 ? ', …' : '');
    const title = `${before} → ${now} in ${parts.length} declarations (${named})`;
    return joined(parts, { key, kind: 'style', title, before, now });
  });
}

/** The candidates, with those that belong together joined. Nothing is in two of them. */
export function join(pair: Pair, edits: Edits, told: readonly Candidate[]): Candidate[] {
  const taken = new Set<Candidate>();
  const found: Candidate[] = [];
  const ways = [wrapped, reordered, replaced].map((way) => () => way(pair, edits, left()));
  const left = (): Candidate[] => told.filter((one) => !taken.has(one));
  for (const way of [
    ...ways,
    () => classesWithRules(pair, edits, left()),
    () => colours(edits, left()),
    () => tokens(edits, left()),
    () => shorthands(edits, left()),
  ])
    for (const { parts, whole } of way()) {
      if (parts.some((part) => taken.has(part))) continue;
      for (const part of parts) taken.add(part);
      found.push(whole);
    }
  return [...found, ...left()];
}
