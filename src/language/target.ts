/** Targets: lazy descriptions of elements, resolved again at every try. */
import { fail } from '../core/problem/problem.ts';
import { nearest } from '../core/text/nearest.ts';
import { type AriaRole, roles } from './roles.ts';

/** How a name is given: exactly (white space folded) or by a pattern. */
export type Name = string | RegExp;

export type Query =
  | { by: 'role'; role: string; name?: Name }
  | { by: 'field'; name: Name }
  | { by: 'text'; text: Name }
  | { by: 'mark'; mark: string }
  | { by: 'css'; selector: string };

/** A description of an element that may or may not be there. */
export type Target = {
  readonly isTarget: true;
  readonly query: Query;
  readonly scope: Target | null;
  readonly index: number | null;
  /** Only what lies inside another target. */
  in(outer: Target): Target;
  /** The n-th of several, counted from 0. */
  nth(n: number): Target;
  /** The description in words: `the button “Release” in the dialog`. */
  toString(): string;
};

const quoted = (name: Name): string => (typeof name === 'string' ? `“${name}”` : String(name));

function inWords(query: Query): string {
  switch (query.by) {
    case 'role':
      return query.name === undefined ? `the ${query.role}` : `the ${query.role} ${quoted(query.name)}`;
    case 'field':
      return `the field ${quoted(query.name)}`;
    case 'text':
      return `the text ${quoted(query.text)}`;
    case 'mark':
      return `what is marked “${query.mark}”`;
    case 'css':
      return `the element ${query.selector}`;
  }
}

/** `the button “Save”` with 1 → `the 2nd button “Save”`. */
function counted(words: string, index: number): string {
  const n = index + 1;
  const ending = n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return words.startsWith('the ') ? `the ${n}${ending} ${words.slice(4)}` : `the ${n}${ending} of ${words}`;
}

function target(query: Query, scope: Target | null = null, index: number | null = null): Target {
  return {
    isTarget: true,
    query,
    scope,
    index,
    // Narrowed twice, both hold: the new outer target is where the old one is looked for.
    in: (outer) => target(query, scope ? scope.in(outer) : outer, index),
    nth: (n) => target(query, scope, n),
    toString: () => `${index === null ? inWords(query) : counted(inWords(query), index)}${scope ? ` in ${scope}` : ''}`,
  };
}

export const isTarget = (value: unknown): value is Target =>
  typeof value === 'object' && value !== null && (value as Target).isTarget === true;

type Named = {
  /** A form control by its label. */
  field(label: Name): Target;
  /** The innermost element with this text. */
  text(text: Name): Target;
  /** The element with the attribute `data-mark="…"`. */
  marked(mark: string): Target;
  /** An element by a CSS selector: the last resort. */
  css(selector: string): Target;
};

/**
 * Targets by what a person perceives: `the.button('Release berth')`, `the.field('Draught')`; any ARIA role is a
 * function.
 */
export type The = Named & { readonly [role in AriaRole]: (name?: Name) => Target };

const named: Named = {
  field: (name) => target({ by: 'field', name }),
  text: (text) => target({ by: 'text', text }),
  marked: (mark) => target({ by: 'mark', mark }),
  css: (selector) => target({ by: 'css', selector }),
};

/** @throws ProblemError `role-unknown`: no element could ever have it */
function knownRole(role: string): string {
  if ((roles as readonly string[]).includes(role)) return role;
  return fail('role-unknown', { role, near: nearest(role, [...roles, ...Object.keys(named)]) ?? '' });
}

export const the: The = new Proxy(named as The, {
  get: (known, key) =>
    typeof key !== 'string' || key in known
      ? Reflect.get(known, key)
      : (name?: Name) => target({ by: 'role', role: knownRole(key), name }),
});
