/**
 * Names that were made up anew: classes of style libraries and modules, marks of scoped styles, counted ids. Where one
 * stands for another everywhere, elements and rules alike, nothing has changed, and the earlier name is put back.
 */
import { isText, type Moment } from '../moment/moment.ts';
import { isScopeMark } from '../moment/names.ts';
import { escaped } from '../text/escaped.ts';
import type { Matching } from './match.ts';

type Names = ReadonlyMap<string, string>;

/** Every class that elements of a moment have, or its sheets speak of. */
function classesOf({ nodes, sheets }: Moment): Set<string> {
  const found = new Set<string>();
  for (const entry of Object.values(nodes))
    if (!isText(entry)) for (const name of (entry.attrs?.class ?? '').split(/\s+/)) found.add(name);
  for (const sheet of Object.values(sheets))
    if ('css' in sheet) for (const [, name] of sheet.css.matchAll(/\.(-?[_a-zA-Z][\w-]*)/g)) found.add(name!);
  return found;
}

const tokens = (value: string | undefined): string[] => (value ?? '').split(/\s+/).filter(Boolean);

/** Later names by what they stand for, as long as each says the same everywhere. */
class Renames {
  readonly #found = new Map<string, string | null>();

  add(now: string, before: string): void {
    const known = this.#found.get(now);
    this.#found.set(now, known === undefined || known === before ? before : null);
  }

  /** Those that are not taken back, and that no two later names share. */
  sure(isPossible: (now: string, before: string) => boolean): Map<string, string> {
    const all = [...this.#found]
      .filter((one): one is [string, string] => one[1] !== null)
      .filter((one) => isPossible(...one));
    const uses = new Map<string, number>();
    for (const [, before] of all) uses.set(before, (uses.get(before) ?? 0) + 1);
    return new Map(all.filter(([, before]) => uses.get(before) === 1));
  }
}

function classNames(before: Moment, now: Moment, pairs: Matching['now']): Names {
  const renames = new Renames();
  for (const [x, y] of pairs) {
    const [one, other] = [before.nodes[x]!, now.nodes[y]!];
    if (isText(one) || isText(other) || one.attrs?.class === other.attrs?.class) continue;
    const [had, has] = [tokens(one.attrs?.class), tokens(other.attrs?.class)];
    const lost = had.filter((name) => !has.includes(name));
    const added = has.filter((name) => !had.includes(name));
    // Libraries keep the order of their classes.
    if (lost.length === added.length) added.forEach((name, i) => void renames.add(name, lost[i]!));
  }
  const [then, present] = [classesOf(before), classesOf(now)];
  return renames.sure((name, former) => !then.has(name) && !present.has(former));
}

function marks(before: Moment, now: Moment, pairs: Matching['now']): Names {
  const renames = new Renames();
  for (const [x, y] of pairs) {
    const [one, other] = [before.nodes[x]!, now.nodes[y]!];
    if (isText(one) || isText(other)) continue;
    const lost = Object.keys(one.attrs ?? {}).filter((name) => isScopeMark(name) && !(name in (other.attrs ?? {})));
    const added = Object.keys(other.attrs ?? {}).filter((name) => isScopeMark(name) && !(name in (one.attrs ?? {})));
    if (lost.length === added.length) added.forEach((name, i) => void renames.add(name, lost[i]!));
  }
  return renames.sure(() => true);
}

/** Ids that nobody has written by hand, and so says nothing by being another one. */
function ids(before: Moment, now: Moment, pairs: Matching['now']): Names {
  const renames = new Renames();
  for (const [x, y] of pairs) {
    const [one, other] = [before.nodes[x]!, now.nodes[y]!];
    if (isText(one) || isText(other)) continue;
    const [had, has] = [one.attrs?.id, other.attrs?.id];
    if (had !== undefined && has !== undefined && had !== has && /[\d‹]/.test(had) && /[\d‹]/.test(has))
      renames.add(has, had);
  }
  return renames.sure(() => true);
}

/** Puts earlier names into the text of a sheet. */
function inSheet(css: string, classes: Names, scopes: Names): string {
  let text = css;
  if (classes.size > 0)
    text = text.replace(/\.(-?[_a-zA-Z][\w-]*)/g, (whole, name: string) =>
      classes.has(name) ? `.${classes.get(name)}` : whole,
    );
  for (const [name, former] of scopes) text = text.replace(new RegExp(`\\[${escaped(name)}\\]`, 'g'), `[${former}]`);
  return text;
}

/** The later moment with the names of the earlier one, wherever one merely stands for the other. */
export function withFormerNames(before: Moment, now: Moment, { now: pairs }: Matching): Moment {
  const classes = classNames(before, now, pairs);
  const scopes = marks(before, now, pairs);
  const counted = ids(before, now, pairs);
  if (classes.size + scopes.size + counted.size === 0) return now;
  const value = (name: string, text: string): string => {
    if (name === 'class') return text.replace(/\S+/g, (token) => classes.get(token) ?? token);
    return counted.size === 0 ? text : text.replace(/[^\s"'#(),;]+/g, (token) => counted.get(token) ?? token);
  };
  const nodes: Moment['nodes'] = {};
  for (const [id, entry] of Object.entries(now.nodes)) {
    if (isText(entry) || !entry.attrs) nodes[id] = entry;
    else {
      const attrs = Object.entries(entry.attrs).map(([name, text]) => [scopes.get(name) ?? name, value(name, text)]);
      nodes[id] = { ...entry, attrs: Object.fromEntries(attrs) as Record<string, string> };
    }
  }
  const sheets: Moment['sheets'] = {};
  for (const [id, sheet] of Object.entries(now.sheets))
    sheets[id] = 'css' in sheet ? { ...sheet, css: inSheet(sheet.css, classes, scopes) } : sheet;
  return { ...now, nodes, sheets };
}
