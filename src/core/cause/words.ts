/** Elements and values in the words of people. */
import { type ElementEntry, isText, type Moment } from '../moment/moment.ts';
import { classes } from '../moment/names.ts';
import { folded } from '../text/folded.ts';
import { kidsOf } from './tree.ts';

/** What people call elements; those by ARIA roles of the same name come first. */
const called: Record<string, string> = {
  a: 'link',
  alert: 'notice',
  article: 'article',
  button: 'button',
  caption: 'caption',
  checkbox: 'checkbox',
  combobox: 'choice',
  dialog: 'dialog',
  figure: 'figure',
  form: 'form',
  h1: 'heading',
  h2: 'heading',
  h3: 'heading',
  h4: 'heading',
  h5: 'heading',
  h6: 'heading',
  heading: 'heading',
  img: 'image',
  input: 'field',
  label: 'label',
  legend: 'legend',
  li: 'list item',
  link: 'link',
  list: 'list',
  listitem: 'list item',
  menu: 'menu',
  menuitem: 'menu item',
  nav: 'navigation',
  ol: 'list',
  option: 'option',
  p: 'paragraph',
  progress: 'progress bar',
  select: 'choice',
  status: 'status',
  summary: 'summary',
  tab: 'tab',
  table: 'table',
  td: 'cell',
  textarea: 'field',
  th: 'header cell',
  tr: 'row',
  ul: 'list',
};

/** Longer texts are cut where they are shown. */
const longest = 48;

/** A text on one line, not too long to be read in passing. */
export function short(text: string, most = longest): string {
  const line = folded(text);
  return line.length > most ? `${line.slice(0, most - 1).trimEnd()}…` : line;
}

export const quoted = (text: string): string => `“${short(text)}”`;

/** All text in a node, as far as it is worth reading. */
export function textIn(moment: Moment, id: number, most = 200): string {
  let text = '';
  const seen = new Set<number>();
  const visit = (one: number): void => {
    const entry = moment.nodes[one];
    if (!entry || seen.has(one) || text.length > most) return;
    seen.add(one);
    if (isText(entry)) text += `${entry.text} `;
    else if (!/^(script|style|template)$/.test(entry.tag)) for (const kid of kidsOf(entry)) visit(kid);
  };
  visit(id);
  return folded(text);
}

const wordFor = ({ tag, attrs }: Pick<ElementEntry, 'tag' | 'attrs'>): string | undefined =>
  called[attrs?.role ?? ''] ?? called[tag];

/** A name that an element is given by an attribute, or by its text where that is all it holds. */
function nameOf(moment: Moment, id: number, { tag, attrs = {}, kids = [] }: ElementEntry): string {
  const given = attrs['aria-label'] ?? attrs.alt ?? attrs.placeholder ?? attrs.title;
  if (given) return given;
  const isLeaf = kids.every((kid) => isText(moment.nodes[kid] ?? { text: '' }));
  const isNamedByAll = wordFor({ tag, attrs }) !== undefined && textIn(moment, id).length <= longest;
  return isLeaf || isNamedByAll ? textIn(moment, id) : '';
}

/** `div.card` of an element that has no word of its own. */
function asSelector({ tag, attrs = {} }: ElementEntry): string {
  const [first] = classes(attrs.class ?? '').split(/\s+/);
  return `${tag}${first ? `.${first}` : ''}`;
}

/** An element: `the button “Release”`, or `div.card`. Without its name it is the same whatever it says. */
export function inWords(moment: Moment, id: number, isNamed = true): string {
  const entry = moment.nodes[id];
  if (!entry) return 'an element';
  if (isText(entry)) return `the text ${quoted(entry.text)}`;
  const word = wordFor(entry);
  const name = isNamed ? nameOf(moment, id, entry) : '';
  const what = word === undefined ? asSelector(entry) : `the ${word}`;
  return name === '' ? what : `${what} ${quoted(name)}`;
}

/** A value of any kind, for reading. */
export function valueInWords(value: unknown): string {
  if (value === undefined || value === null) return 'nothing';
  return short(typeof value === 'string' ? value : JSON.stringify(value), 80);
}
