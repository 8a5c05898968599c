/** Targets: lazy descriptions of elements, resolved again at every try. */
import { fail } from '../core/problem/problem.ts';
import { nearest } from '../core/text/nearest.ts';
import * as given from './given.ts';
import { withMethods } from './known.ts';
import { type AriaRole, roles } from './roles.ts';

/** How a name is given: whole (white space folded) or by a pattern. */
export type Name = string | RegExp;

/** What an element of a role has to be like besides its name: its ARIA states, native controls included. */
export type RoleState = {
  /** False: the name may be part of a longer one, in any letter case. */
  exact?: boolean;
  /** Of headings, and of items that say theirs with `aria-level`. */
  level?: number;
  checked?: boolean | 'mixed';
  expanded?: boolean;
  selected?: boolean;
  pressed?: boolean | 'mixed';
  /** True for any, or one kind: `page`, `step`, `date` … */
  current?: boolean | string;
  disabled?: boolean;
  /** The accessible description. */
  description?: Name;
};

export type Query =
  | { by: 'role'; role: string; name?: Name; state: RoleState }
  | { by: 'text'; name: Name }
  | { by: 'field' | 'placeholder' | 'picture' | 'titled'; name: Name }
  | { by: 'marked'; mark: string }
  | { by: 'css'; selector: string };

/** Which of the elements that were found are kept; `n` counts from 0, and from the end when it is negative. */
export type Narrowing = { keep: 'nth'; n: number } | { keep: 'having' | 'without'; what: Target | Name };

/** A description of an element that may or may not be there. */
export type Target = {
  readonly isTarget: true;
  readonly query: Query;
  readonly scope: Target | null;
  /** In the order in which they were asked for. */
  readonly narrowed: readonly Narrowing[];
  /** Only what lies inside another target. */
  in(outer: Target): Target;
  /** The n-th of several, counted from 0. */
  nth(n: number): Target;
  first(): Target;
  last(): Target;
  /** Only what holds another target, or whose text holds this one. */
  having(what: Target | Name): Target;
  /** Only what does not hold another target, or whose text does not hold this one. */
  without(what: Target | Name): Target;
  /** The description in words: `the button “Release” in the dialog`. */
  toString(): string;
};

const quoted = (name: Name): string => (typeof name === 'string' ? `“${name}”` : String(name));

/** `level 2, not disabled`. */
function stateInWords(state: RoleState): string {
  const words = (Object.keys(stateRules) as (keyof RoleState)[]).flatMap((key) => {
    const value = state[key];
    if (value === undefined || (key === 'exact' && value === true)) return [];
    if (key === 'exact') return ['or a longer name'];
    if (key === 'description') return [`described as ${quoted(value as Name)}`];
    if (typeof value === 'boolean') return [value ? key : `not ${key}`];
    return [`${key} ${String(value)}`];
  });
  return words.length === 0 ? '' : ` (${words.join(', ')})`;
}

function inWords(query: Query): string {
  switch (query.by) {
    case 'role': {
      const named = query.name === undefined ? `the ${query.role}` : `the ${query.role} ${quoted(query.name)}`;
      return named + stateInWords(query.state);
    }
    case 'placeholder':
      return `the field with the placeholder ${quoted(query.name)}`;
    case 'titled':
      return `what is titled ${quoted(query.name)}`;
    case 'marked':
      return `what is marked “${query.mark}”`;
    case 'css':
      return `the element ${query.selector}`;
    default:
      return `the ${query.by} ${quoted(query.name)}`;
  }
}

/** `2nd`; `last`; `2nd last`. */
function ordinal(n: number): string {
  if (n < 0) return n === -1 ? 'last' : `${ordinal(-n - 1)} last`;
  const count = n + 1;
  const ending = count % 100 > 10 && count % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][count % 10] ?? 'th');
  return count + ending;
}

function narrowedInWords(words: string, one: Narrowing): string {
  if (one.keep !== 'nth') return `${words} ${one.keep} ${isTarget(one.what) ? one.what : quoted(one.what)}`;
  const place = ordinal(one.n);
  return words.startsWith('the ') ? `the ${place} ${words.slice(4)}` : `the ${place} of ${words}`;
}

/** Actions that are given their target, and what stands behind it. */
const actions: Readonly<Record<string, string>> = {
  blur: '',
  clear: '',
  click: '',
  drag: ', …',
  focus: '',
  hover: '',
  press: ', …',
  select: ', …',
  touch: '',
  type: ', …',
  upload: ', …',
};

/** How an action of a target is written: `click(the.button('Save'))`; nothing for what is no action. */
function actionOn(of: Target, name: string): string {
  const more = Object.hasOwn(actions, name) ? actions[name] : undefined;
  return more === undefined ? '' : `${name}(${inCode(of)}${more})`;
}

const narrowings = ['in', 'nth', 'first', 'last', 'having', 'without'] as const satisfies (keyof Target)[];

function target(query: Query, scope: Target | null = null, narrowed: readonly Narrowing[] = []): Target {
  const narrow = (one: Narrowing): Target => target(query, scope, [...narrowed, one]);
  const other = (call: string, outer: Target): Target => {
    given.need(call, outer, { fits: isTarget, wanted: "a target: the.button('Save').in(the.dialog())" });
    return outer;
  };
  const held = (call: string, what: Target | Name): Target | Name => {
    const wanted = "a target or a text: the.row().having('Alba')";
    given.need(call, what, { fits: (value) => isTarget(value) || isName(value), wanted });
    return what;
  };
  const made: Target = {
    isTarget: true,
    query,
    scope,
    narrowed,
    // Narrowed twice, both hold: the new outer target is where the old one is looked for.
    in: (outer) => target(query, scope ? scope.in(other('in(…)', outer)) : other('in(…)', outer), narrowed),
    nth(n) {
      given.need('nth(…)', n, given.whole('nth(0) is the first one, nth(-1) the last'));
      return narrow({ keep: 'nth', n });
    },
    first: () => narrow({ keep: 'nth', n: 0 }),
    last: () => narrow({ keep: 'nth', n: -1 }),
    having: (what) => narrow({ keep: 'having', what: held('having(…)', what) }),
    without: (what) => narrow({ keep: 'without', what: held('without(…)', what) }),
    toString: () => narrowed.reduce(narrowedInWords, inWords(query)) + (scope ? ` in ${scope}` : ''),
  };
  return withMethods(made, 'A target', narrowings, (name) => actionOn(made, name));
}

export const isTarget = (value: unknown): value is Target =>
  typeof value === 'object' && value !== null && (value as Target).isTarget === true;

const literal = (value: unknown): string =>
  typeof value === 'string' ? `'${value.replace(/[\\']/g, '\\$&')}'` : String(value);

/** A target as it is written in a look file: `the.button('Release').in(the.dialog())`. */
export function inCode({ query, scope, narrowed }: Target): string {
  const narrowing = (one: Narrowing): string => {
    if (one.keep !== 'nth') return `.${one.keep}(${isTarget(one.what) ? inCode(one.what) : literal(one.what)})`;
    return one.n === 0 ? '.first()' : one.n === -1 ? '.last()' : `.nth(${one.n})`;
  };
  return queryInCode(query) + narrowed.map(narrowing).join('') + (scope ? `.in(${inCode(scope)})` : '');
}

function queryInCode(query: Query): string {
  if (query.by === 'marked') return `the.marked(${literal(query.mark)})`;
  if (query.by === 'css') return `the.css(${literal(query.selector)})`;
  if (query.by !== 'role') return `the.${query.by}(${literal(query.name)})`;
  const state = Object.entries(query.state).map(([key, value]) => `${key}: ${literal(value)}`);
  const given = [
    ...(query.name === undefined ? [] : [literal(query.name)]),
    ...(state.length === 0 ? [] : [`{ ${state.join(', ')} }`]),
  ];
  return `the.${query.role}(${given.join(', ')})`;
}

/** Names what a script is about, as a person would. Any ARIA role is a function, too: `the.button('Release')`. */
type Named = {
  /** A form control by its label. */
  field(label: Name): Target;
  /** A form control by its placeholder. */
  placeholder(text: Name): Target;
  /** The innermost element with this text. */
  text(text: Name): Target;
  /** A picture by its text alternative: an `img`, `svg`, `area` or picture button, or what has the role. */
  picture(alternative: Name): Target;
  /** An element by its `title`, or an SVG shape by that of its `<title>`. */
  titled(title: Name): Target;
  /** An element by the attribute for marks: `data-testid="…"`, unless the configuration says another. */
  marked(mark: string): Target;
  /** An element by a CSS selector: the last resort. */
  css(selector: string): Target;
};

/** An element by its role: `the.heading('Berths', { level: 2 })`, `the.tab({ selected: true })`. */
export type ByRole = {
  (name?: Name, state?: RoleState): Target;
  (state: RoleState): Target;
};

/**
 * Targets by what a person perceives: `the.button('Release berth')`, `the.field('Draught')`; any ARIA role is a
 * function.
 */
export type The = Named & { readonly [role in AriaRole]: ByRole };

/** A way to name an element. @throws ProblemError `bad-step` for what is no name */
const byName =
  (by: 'field' | 'placeholder' | 'text' | 'picture' | 'titled') =>
  (name: Name): Target => {
    given.need(`the.${by}(…)`, name, given.name(`the.${by}('Moored')`));
    return target({ by, name });
  };

const named: Named = {
  field: byName('field'),
  placeholder: byName('placeholder'),
  text: byName('text'),
  picture: byName('picture'),
  titled: byName('titled'),
  marked(mark) {
    given.need('the.marked(…)', mark, given.text("the.marked('tide-curve')"));
    return target({ by: 'marked', mark });
  },
  css(selector) {
    given.need('the.css(…)', selector, given.text("the.css('.berth')"));
    return target({ by: 'css', selector });
  },
};

/** @throws ProblemError `role-unknown`: no element could ever have it */
function knownRole(role: string): string {
  if ((roles as readonly string[]).includes(role)) return role;
  return fail('role-unknown', { role, near: nearest(role, [...roles, ...Object.keys(named)]) ?? '' });
}

const isName = (value: unknown): value is Name => typeof value === 'string' || value instanceof RegExp;

const isTruth = { fits: (value: unknown) => typeof value === 'boolean', wanted: 'true or false' };
const isTruthOrMixed = {
  fits: (value: unknown) => typeof value === 'boolean' || value === 'mixed',
  wanted: "true, false or 'mixed'",
};

/** What each state may be. */
const stateRules: { [state in keyof RoleState]-?: given.Rule } = {
  exact: isTruth,
  level: given.count('{ level: 2 }'),
  checked: isTruthOrMixed,
  expanded: isTruth,
  selected: isTruth,
  pressed: isTruthOrMixed,
  current: { fits: (value) => typeof value === 'boolean' || typeof value === 'string', wanted: "true or 'page'" },
  disabled: isTruth,
  description: given.name("{ description: 'Free at 14:00' }"),
};

/** @throws ProblemError `role-unknown`, `look-entry`, `bad-step` */
function byRole(role: string, first?: Name | RoleState, second: RoleState = {}): Target {
  const isState = typeof first === 'object' && first !== null && !isTarget(first);
  if (first !== undefined && !isState) given.need(`the.${role}(…)`, first, given.name(`the.${role}('Save')`));
  const name = isName(first) ? first : undefined;
  const state = isName(first) || first === undefined ? second : first;
  if ('name' in state && isName(state.name)) {
    const { name, ...others } = state;
    const better = inCode(target({ by: 'role', role: knownRole(role), name, state: others }));
    fail('bad-step', { what: `the.${role}(…) was given its name as an entry.`, remedy: `Write ${better}.` });
  }
  given.needKnown(`What the.${role}(…) was given`, state, Object.keys(stateRules));
  for (const [key, value] of Object.entries(state) as [keyof RoleState, unknown][])
    if (value !== undefined) given.need(`the.${role}(…)`, value, stateRules[key], key);
  return target({ by: 'role', role: knownRole(role), name, state });
}

/** A target made by Sguardo itself. */
export const targetOf = (query: Query): Target => target(query);

export const the: The = new Proxy(named as The, {
  get: (known, key) =>
    typeof key !== 'string' || key in known
      ? Reflect.get(known, key)
      : (first?: Name | RoleState, state?: RoleState) => byRole(key, first, state),
});
