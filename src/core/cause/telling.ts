/** Single edits in words. */
import { isPerceived } from '../moment/markup.ts';
import { isText, type Moment } from '../moment/moment.ts';
import { contrasted } from '../text/contrast.ts';
import { folded } from '../text/folded.ts';
import type { Told } from './candidates.ts';
import type { CauseKind, Trace } from './cause.ts';
import { type Edit, within } from './edits.ts';
import type { Pair } from './pair.ts';
import type { SheetDifference } from './sheet.ts';
import { inWords, quoted, short, textIn, valueInWords } from './words.ts';

type Values = { before: string | null; now: string | null };

const arrow = (before: string, now: string): string => `${before} → ${now}`;

/** Two values, each cut to where they part. */
function contrast(before: string, now: string, most = 60): [string, string] {
  const [one, other] = [folded(before), folded(now)];
  return [contrasted(one, [other], most), contrasted(other, [one], most)];
}

function keyed(kind: CauseKind, about: string, { before, now }: Values): string {
  return JSON.stringify([kind, about, before, now]);
}

const traced = (
  texts: readonly (string | null)[],
  property: string | null = null,
  selector: string | null = null,
): Trace => ({
  property,
  selector,
  texts: texts.filter((text) => text !== null && text.trim() !== '') as string[],
});

/** The words in which a text differs from what it was before. */
function changedPart(before: string, now: string): string {
  const isLetter = (at: number): boolean => /[\p{L}\p{N}]/u.test(now[at] ?? '');
  let start = 0;
  while (start < now.length && now[start] === before[start]) start++;
  let end = 0;
  while (end < now.length - start && end < before.length - start && now.at(-1 - end) === before.at(-1 - end)) end++;
  let to = now.length - end;
  while (start > 0 && isLetter(start - 1)) start--;
  while (to < now.length && isLetter(to)) to++;
  return now.slice(start, to).trim();
}

/** A file's name without the part that says what is in it: `flag.svg` of `/assets/flag-Ab3dE_9x.svg`. */
function fileName(address: string): string {
  const path = address.split(/[?#]/)[0]!;
  return path.slice(path.lastIndexOf('/') + 1).replace(/-[\w-]{8}(?=\.\w+$)/, '');
}

/** The one address in a value, or null. */
const addressIn = (value: string | null): string | null =>
  value === null
    ? null
    : (/^(?:url\(\s*["']?)?((?:https?:|\/|\.)[^"')\s]+)["']?\s*\)?$/.exec(value.trim())?.[1] ?? null);

/** The name of a file that merely has other bytes, and so another address; null for other values. */
function sameFile({ before, now }: Values): string | null {
  const [one, other] = [addressIn(before), addressIn(now)];
  return one !== null && other !== null && fileName(one) === fileName(other) ? fileName(other) : null;
}

function toldFile(name: string, { before, now }: Values, nodes: number[], selectors: string[]): Told {
  const kind = 'file';
  const key = keyed(kind, name, { before, now });
  const title = `the file ${name} changed`;
  return { key, kind, title, before, now, nodes, selectors, isPerceived: false, trace: traced([name]) };
}

function tellText({ before: { moment }, trees }: Pair, edit: Edit & { kind: 'text' }): Told {
  const { node, before, now } = edit;
  const parent = trees.before.parents.get(node);
  const element = parent === undefined ? 'the page' : inWords(moment, parent, false);
  const [was, is] = contrast(before, now);
  return {
    key: keyed('text', '', { before, now }),
    kind: 'text',
    title: `text of ${element}: ${arrow(`“${was}”`, `“${is}”`)}`,
    before,
    now,
    nodes: parent === undefined ? [] : [parent],
    selectors: [],
    isPerceived: before.trim() !== now.trim(),
    trace: traced([now.trim(), changedPart(before, now), ...now.split(/[\d“”"'{}]+/).map((one) => one.trim())]),
  };
}

/** Attributes that give an element its name. */
const names = /^(aria-label|alt|title|aria-labelledby)$/;

function changeInWords(what: string, of: string, { before, now }: Values): string {
  if (before === null) return `${what}${now === '' ? '' : ` ${quoted(now ?? '')}`} was added to ${of}`;
  if (now === null) return `${what} ${quoted(before)} was removed from ${of}`;
  const [was, is] = contrast(before, now);
  return `${what} of ${of}: ${arrow(was, is)}`;
}

function tellAttribute({ before: { moment } }: Pair, edit: Edit & { kind: 'attribute' | 'class' | 'style' }): Told {
  const { node, before, now } = edit;
  const name = edit.kind === 'attribute' ? edit.name : edit.kind === 'style' ? edit.property : 'class';
  const file = sameFile({ before, now });
  if (file !== null) return toldFile(file, { before, now }, [node], []);
  const element = inWords(moment, node);
  const entry = moment.nodes[node]!;
  const tag = isText(entry) ? '' : entry.tag;
  const isLost = names.test(name) && before !== null && now === null;
  const where = edit.kind === 'style' ? ' (style attribute)' : '';
  return {
    key: keyed(edit.kind === 'style' ? 'style' : 'attribute', `${tag} ${name}`, { before, now }),
    kind: edit.kind === 'style' ? 'style' : 'attribute',
    title: isLost ? `${element} lost its name (${name})` : changeInWords(name, element, { before, now }) + where,
    before,
    now,
    nodes: [node],
    selectors: [],
    isPerceived: edit.kind === 'attribute' && isPerceived(name),
    trace: edit.kind === 'style' ? traced([now], name) : traced([now, now === null ? name : null]),
  };
}

function tellState({ before: { moment } }: Pair, { node, name, before, now }: Edit & { kind: 'state' }): Told {
  const element = inWords(moment, node);
  const values = { before: valueInWords(before), now: valueInWords(now) };
  const what = name === 'pixels' ? 'the drawing' : name === 'scroll' ? 'the scroll position' : name;
  const isOpaque = name === 'pixels' || name === 'animated';
  return {
    key: keyed('state', `${name} ${inWords(moment, node, false)}`, values),
    kind: 'state',
    title: isOpaque ? `${what} of ${element} changed` : `${what} of ${element}: ${arrow(values.before, values.now)}`,
    ...values,
    nodes: [node],
    selectors: [],
    isPerceived: /^(value|checked|dialog|indeterminate|selected|popover)$/.test(name),
    trace: traced([typeof now === 'string' && !isOpaque ? now : null]),
  };
}

/** What an element is with all it holds, without ids: equal for equal ones of several captures. */
export function shapeOf({ before, now }: Pair, node: number): string {
  const moment = now.moment.nodes[node] ? now.moment : before.moment;
  const parts: string[] = [];
  for (const id of within(moment, node)) {
    const entry = moment.nodes[id]!;
    // Names with numbers in them are made up from time to time.
    const attributes = isText(entry)
      ? ''
      : Object.values(entry.attrs ?? {})
          .join(' ')
          .replace(/\S*[\d‹]\S*/g, '#');
    parts.push(isText(entry) ? entry.text : `<${entry.tag} ${attributes}>`);
    if (parts.length > 60) break;
  }
  return parts.join('').slice(0, 2000);
}

/** Where an element stands among its neighbours that are on both sides. */
function placeInWords({ before, now, trees }: Pair, node: number): string {
  const parent = trees.now.parents.get(node);
  const entry = parent === undefined ? undefined : now.moment.nodes[parent];
  if (parent === undefined || !entry || isText(entry)) return '';
  const kids = entry.shadow?.kids.includes(node) ? entry.shadow.kids : (entry.kids ?? []);
  const at = kids.indexOf(node);
  const isOld = (id: number): boolean => before.moment.nodes[id] !== undefined && textOf(id) !== '';
  const textOf = (id: number): string => {
    const one = now.moment.nodes[id]!;
    return isText(one) ? one.text.trim() : one.tag;
  };
  // What it says may be another text in every capture.
  const neighbour = (id: number): string => inWords(now.moment, id, false);
  const next = kids.slice(at + 1).find(isOld);
  if (next !== undefined) return ` above ${neighbour(next)}`;
  const previous = kids.slice(0, at).findLast(isOld);
  if (previous !== undefined) return ` below ${neighbour(previous)}`;
  return ` in ${neighbour(parent)}`;
}

function tellNode(pair: Pair, { kind, node }: Edit & { kind: 'added' | 'removed' | 'moved' }): Told {
  const isGone = kind === 'removed';
  const { moment } = isGone ? pair.before : pair.now;
  const element = inWords(moment, node);
  const text = short(textIn(moment, node), 200);
  const isNamed = element.includes('“');
  const said = isNamed || text === '' ? element : `${element} ${quoted(text)}`;
  const where = isGone ? '' : placeInWords(pair, node);
  return {
    key: keyed(kind, shapeOf(pair, node), { before: null, now: null }),
    kind,
    title: `${said} was ${kind}${kind === 'moved' ? where.replace(/^ in /, ' into ') : where}`,
    before: isGone ? text : null,
    now: kind === 'added' ? text : null,
    nodes: [node],
    selectors: [],
    isPerceived: kind !== 'moved' && text !== '',
    trace: traced(isGone ? [] : textsOf(moment, node)),
  };
}

/** Texts and classes of what an element holds, the longest first. */
function textsOf(moment: Moment, node: number): string[] {
  const texts: string[] = [];
  const names: string[] = [];
  for (const id of within(moment, node)) {
    const entry = moment.nodes[id]!;
    if (isText(entry)) texts.push(entry.text.trim());
    else names.push(...Object.values(entry.attrs ?? {}));
    if (texts.length + names.length > 40) break;
  }
  const longFirst = (list: string[]): string[] => list.toSorted((one, other) => other.length - one.length);
  return [...longFirst(texts), ...longFirst(names)].filter((text) => text.length > 2);
}

const isStyleRule = (prelude: string): boolean => !prelude.startsWith('@');

/** `.card in @media (max-width: 600px)`. */
function ruleInWords(within: readonly string[]): string {
  const frames = within.find((prelude) => /^@(-\w+-)?keyframes/.test(prelude));
  if (frames !== undefined) return `${frames}${within.at(-1) === frames ? '' : ` at ${within.at(-1)}`}`;
  const selectors = within.filter(isStyleRule).map((one) => short(one, 60));
  const conditions = within.filter((prelude) => /^@(media|container|supports)/.test(prelude));
  const named = selectors.length > 0 ? selectors.join(' ') : (within.at(-1) ?? 'the sheet');
  const around = selectors.length > 0 && conditions.length > 0 ? ` in ${conditions.join(' ')}` : '';
  return named + around;
}

function sheetTitle(difference: SheetDifference, rule: string): string {
  const { what, property, before, now } = difference;
  if (what === 'selector') return `the rule ${arrow(short(before!, 60), short(now!, 60))}`;
  if (what === 'rule') return `the rule ${rule} was ${now === null ? 'removed' : 'added'}`;
  if (before === null) return `${property}: ${short(now!, 60)} was added to ${rule}`;
  if (now === null) return `${property}: ${short(before, 60)} was removed from ${rule}`;
  const [was, is] = contrast(before, now);
  return property!.startsWith('--') ? `${property}: ${arrow(was, is)}` : `${property} of ${rule}: ${arrow(was, is)}`;
}

function tellSheet({ difference }: Edit & { kind: 'sheet' }): Told {
  const { what, within, property, before, now } = difference;
  const selectors = within.filter(isStyleRule).slice(-1);
  if (what === 'selector') selectors.push(...[before!, now!].filter(isStyleRule));
  const file = what === 'declaration' ? sameFile({ before, now }) : null;
  if (file !== null) return toldFile(file, { before, now }, [], selectors);
  const isToken = what === 'declaration' && property!.startsWith('--');
  const kind = isToken ? 'token' : what === 'declaration' ? 'style' : 'rule';
  const about = isToken && before !== null && now !== null ? property! : `${property ?? what} ${within.join(' ')}`;
  return {
    key: keyed(kind, about, { before, now }),
    kind,
    title: sheetTitle(difference, ruleInWords(within)),
    before,
    now,
    nodes: [],
    // Where a token is set says nothing of where it is seen.
    selectors: isToken ? [] : selectors,
    isPerceived: false,
    trace: traced([now], property, what === 'selector' ? now : (selectors[0] ?? within.at(-1) ?? null)),
  };
}

const views: Record<string, string> = {
  width: 'the width of the viewport',
  height: 'the height of the viewport',
  scroll: 'the scroll position of the page',
  hover: 'what the pointer is over',
  focus: 'the focus',
  focusVisible: 'whether the focus is shown',
  sheets: 'the adopted style sheets',
  media: 'what media queries see',
};

function tellView({ now: { moment } }: Pair, { name, before, now }: Edit & { kind: 'view' }): Told {
  const values = { before: valueInWords(before), now: valueInWords(now) };
  const ids = (Array.isArray(now) ? now : [now]) as unknown[];
  const isNodes = name === 'hover' || name === 'focus';
  const nodes = isNodes ? ids.filter((id): id is number => typeof id === 'number').slice(-1) : [];
  const where = nodes.length > 0 ? ` is on ${inWords(moment, nodes[0]!)} now` : ' changed';
  const isPlain = name === 'width' || name === 'height' || name === 'scroll' || name === 'media';
  return {
    key: keyed(
      'view',
      name + (nodes.length > 0 ? inWords(moment, nodes[0]!) : ''),
      isPlain ? values : { before: null, now: null },
    ),
    kind: 'view',
    title: `${views[name] ?? name}${isPlain ? `: ${arrow(values.before, values.now)}` : where}`,
    ...(isPlain ? values : { before: null, now: null }),
    nodes,
    selectors: [],
    isPerceived: false,
    trace: traced([]),
  };
}

/** Tells one edit. */
export function tellEdit(pair: Pair, edit: Edit): Told {
  switch (edit.kind) {
    case 'text':
      return tellText(pair, edit);
    case 'attribute':
    case 'class':
    case 'style':
      return tellAttribute(pair, edit);
    case 'state':
      return tellState(pair, edit);
    case 'added':
    case 'removed':
    case 'moved':
      return tellNode(pair, edit as Edit & { kind: 'added' | 'removed' | 'moved' });
    case 'sheet':
      return tellSheet(edit);
    case 'file':
      return toldFile(fileName(edit.address), edit, [], []);
    case 'view':
      return tellView(pair, edit);
  }
}
