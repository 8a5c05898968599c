/** Which elements a target may mean at all: by what they are, before anything is computed of them. */
import type { Query } from '../../language/target.ts';
import { markAttribute } from '../host/settings.ts';
import { documentIn } from '../record/frames.ts';
import { tagsWithInternals } from '../record/internals.ts';
import { rootsNow, shadowOf } from '../record/roots.ts';
import { frameAround, isElement } from './element.ts';
import { untilChange } from './memo.ts';

/** Tags whose elements have a role without saying so (HTML-AAM 1.0), as selectors. */
const tags: Record<string, string> = {
  article: 'article',
  banner: 'header',
  blockquote: 'blockquote',
  button: 'button, summary, input',
  caption: 'caption',
  cell: 'td',
  checkbox: 'input',
  code: 'code',
  columnheader: 'th',
  combobox: 'input, select',
  complementary: 'aside',
  contentinfo: 'footer',
  definition: 'dd',
  deletion: 'del, s',
  dialog: 'dialog',
  document: 'html',
  emphasis: 'em',
  figure: 'figure',
  form: 'form',
  group: 'details, fieldset, optgroup',
  heading: 'h1, h2, h3, h4, h5, h6',
  img: 'img',
  insertion: 'ins',
  legend: 'legend',
  link: 'a, area, link',
  list: 'menu, ol, ul',
  listbox: 'datalist, select',
  listitem: 'li',
  main: 'main',
  math: 'math',
  meter: 'meter',
  navigation: 'nav',
  none: 'img',
  option: 'option',
  paragraph: 'p',
  presentation: 'img',
  progressbar: 'progress',
  radio: 'input',
  region: 'section',
  row: 'tr',
  rowgroup: 'tbody, tfoot, thead',
  rowheader: 'th',
  search: 'search',
  searchbox: 'input',
  separator: 'hr',
  slider: 'input',
  spinbutton: 'input',
  status: 'output',
  strong: 'strong',
  subscript: 'sub',
  superscript: 'sup',
  table: 'table',
  term: 'dt',
  textbox: 'input, textarea',
  time: 'time',
};

/** Elements that say their role. */
const saying = (): string => ['[role]', ...tagsWithInternals().map((tag) => CSS.escape(tag))].join(', ');

/** A selector for every element that a query may mean. */
export function selectorFor(asked: Exclude<Query, { by: 'css' | 'text' }>): string {
  switch (asked.by) {
    case 'role':
      return tags[asked.role] ? `${tags[asked.role]}, ${saying()}` : saying();
    case 'field':
      return `input, textarea, select, ${saying()}, [contenteditable], [contenteditable] *`;
    case 'placeholder':
      return '[placeholder], [aria-placeholder]';
    case 'picture':
      return `img, area, input, svg, ${saying()}`;
    case 'titled':
      return '[title], :has(> title)';
    case 'marked':
      return `[${CSS.escape(markAttribute())}]`;
  }
}

type Root = Element | Document | ShadowRoot;

/** What a node lies in, through shadow roots and frames. */
const parentOf = (node: Node): Node | null => node.parentNode ?? (node as ShadowRoot).host ?? frameAround(node);

function isIn(node: Node, outer: Node): boolean {
  for (let at: Node | null = node; at; at = parentOf(at)) if (at === outer) return true;
  return false;
}

/** Documents of the frames in a root, and of the frames in these. */
const documentsIn = (root: Root): Document[] =>
  [...root.querySelectorAll('iframe')].flatMap((frame) => {
    const inner = documentIn(frame);
    return inner ? [inner, ...documentsIn(inner)] : [];
  });

const parts = untilChange<Element | Document, Root[]>();

/** The parts of the page inside a root that selectors see one by one: itself, shadow roots, frames. */
export const partsOf = (root: Element | Document): Root[] => parts(root, findParts);

function findParts(root: Element | Document): Root[] {
  const own = isElement(root) ? (shadowOf(root) ?? documentIn(root)) : null;
  const shadows = rootsNow().filter((one) => one !== document && one !== own && isIn((one as ShadowRoot).host, root));
  const near: Root[] = [root, ...(own ? [own] : []), ...(shadows as ShadowRoot[])];
  return [...near, ...near.flatMap(documentsIn)];
}

const lists = untilChange<Root, Map<string, Element[]>>();

/** The elements of a part that a selector means. */
export function selectedIn(part: Root, selector: string): readonly Element[] {
  const own = lists(part, () => new Map());
  const before = own.get(selector);
  if (before) return before;
  const found = [...part.querySelectorAll(selector)];
  own.set(selector, found);
  return found;
}
