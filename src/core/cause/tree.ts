/** A moment as a tree whose nodes can be held against those of another one. */
import { type ElementEntry, isText, type Moment, type NodeEntry } from '../moment/moment.ts';
import { classes, isScopeMark } from '../moment/names.ts';

/** Gives equal texts equal numbers. */
export type Intern = (text: string) => number;

export function interning(): Intern {
  const numbers = new Map<string, number>();
  return (text) => {
    const known = numbers.get(text) ?? numbers.size;
    numbers.set(text, known);
    return known;
  };
}

/** The nodes of a moment that are in its document. */
export type Outline = {
  /** Parents before their children. */
  order: number[];
  parents: Map<number, number>;
};

export type Tree = Outline & {
  moment: Moment;
  /** What a node is without what it holds: equal numbers for what is told as the same. */
  own: Map<number, number>;
  /** What a node is with everything that it holds, exactly. */
  whole: Map<number, number>;
  /** How many nodes a node is with what it holds. */
  sizes: Map<number, number>;
};

/** The children of an element: in its shadow root, in its own document, and its own. */
export const kidsOf = ({ shadow, frame, kids = [] }: ElementEntry): number[] => [
  ...(shadow?.kids ?? []),
  ...(frame?.kid == null ? [] : [frame.kid]),
  ...kids,
];

/** Attributes that refer to other elements by their ids. */
const references = /^(id|for|aria-(labelledby|describedby|controls|owns|activedescendant|errormessage|details))$/;

/** Attributes without names that are made up anew from time to time. */
function steadyAttributes(attrs: Record<string, string>): string[] {
  return Object.entries(attrs).flatMap(([name, value]) => {
    if (isScopeMark(name)) return [];
    if (name === 'class') return [`class=${classes(value)}`];
    return [`${name}=${references.test(name) ? value.replace(/\S*[\d‹]\S*/g, '#') : value}`];
  });
}

function ownText(entry: NodeEntry, isSteady: boolean): string {
  if (isText(entry)) return `"${entry.text}`;
  const { tag, ns = '', attrs = {} } = entry;
  const said = isSteady ? steadyAttributes(attrs) : Object.entries(attrs).map((one) => one.join('='));
  return `${ns} ${tag} ${said.join(' ')}`;
}

/** The text of a sheet, as far as it is known. */
export function textOfSheet({ sheets }: Moment, id: number | undefined): string {
  const sheet = id === undefined ? undefined : sheets[id];
  return sheet && 'css' in sheet ? sheet.css : '';
}

function wholeText(entry: NodeEntry, { moment, whole }: Pick<Tree, 'moment' | 'whole'>): string {
  if (isText(entry)) return ownText(entry, false);
  const { state, frame, shadow, sheet, kids = [] } = entry;
  const listed = (ids: readonly number[]): string => ids.map((id) => whole.get(id)).join();
  const sheets = [sheet, ...(shadow?.sheets ?? [])].map((id) => textOfSheet(moment, id));
  const around = [state ?? '', frame ? [frame.width, frame.height] : '', sheets];
  const shadowKids = shadow ? `#${listed(shadow.kids)}` : '';
  const inner = frame?.kid == null ? '' : `@${whole.get(frame.kid)}`;
  return `${ownText(entry, false)}${JSON.stringify(around)}${shadowKids}${inner}>${listed(kids)}`;
}

/** Walks through a moment. Nothing is visited twice, whatever circles it holds. */
export function outlineOf(moment: Moment): Outline {
  const order: number[] = [];
  const parents = new Map<number, number>();
  const seen = new Set<number>();
  const left = [moment.root];
  for (let id = left.pop(); id !== undefined; id = left.pop()) {
    const entry = moment.nodes[id];
    if (!entry || seen.has(id)) continue;
    seen.add(id);
    order.push(id);
    if (isText(entry)) continue;
    for (const kid of kidsOf(entry).reverse()) {
      if (seen.has(kid)) continue;
      parents.set(kid, id);
      left.push(kid);
    }
  }
  return { order, parents };
}

/** Looks through a moment: what each of its nodes is, by itself and with all that it holds. */
export function treeOf(moment: Moment, intern: Intern): Tree {
  const { order, parents } = outlineOf(moment);
  const tree: Tree = { moment, order, parents, own: new Map(), whole: new Map(), sizes: new Map() };
  for (const id of order.toReversed()) {
    const entry = moment.nodes[id]!;
    tree.own.set(id, intern(`own ${ownText(entry, true)}`));
    tree.whole.set(id, intern(wholeText(entry, tree)));
    const kids = isText(entry) ? [] : kidsOf(entry);
    tree.sizes.set(
      id,
      kids.reduce((sum, kid) => sum + (tree.sizes.get(kid) ?? 0), 1),
    );
  }
  return tree;
}
