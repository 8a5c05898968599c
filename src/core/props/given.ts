/** Which values of its types a component was given, by path, as in `berth.state`. */
import type { PropType } from './type.ts';

/** A value that a union may name. */
export type Primitive = string | number | boolean;

/** Values that props have at a path; lists have those of all their entries. */
export type Given = { path: string; values: Primitive[] }[];

/** So deep values are looked for, and so many: a look's props may be whole tables. */
const deepest = 4;
const mostPaths = 100;
const mostValues = 20;
const longest = 60;

const isPrimitive = (value: unknown): value is Primitive =>
  typeof value === 'boolean' || typeof value === 'number' || (typeof value === 'string' && value.length <= longest);

/** The short values in props. Whatever is strange about them (getters that throw) is passed over. */
export function givenIn(props: unknown): Given {
  const found = new Map<string, Set<Primitive>>();
  const visit = (value: unknown, path: string, depth: number): void => {
    if (isPrimitive(value)) {
      const values = found.get(path) ?? new Set();
      if (values.size < mostValues && found.size < mostPaths) found.set(path, values.add(value));
      return;
    }
    if (depth >= deepest || typeof value !== 'object' || value === null) return;
    if (Array.isArray(value)) {
      for (const one of value.slice(0, mostValues)) visit(one, path, depth + 1);
      return;
    }
    for (const key of Object.keys(value).slice(0, mostPaths))
      visit((value as Record<string, unknown>)[key], path === '' ? key : `${path}.${key}`, depth + 1);
  };
  try {
    visit(props, '', 0);
  } catch {
    // What is found until then is true all the same.
  }
  return [...found].map(([path, values]) => ({ path, values: [...values] }));
}

/** The values that types name one by one, by path: the members of unions of values. */
export function membersIn(types: PropType): Map<string, Primitive[]> {
  const found = new Map<string, Primitive[]>();
  const visit = (type: PropType, path: string, depth: number): void => {
    const members = (type.is === 'one' ? type.of : [type]).flatMap((one) => (one.is === 'list' ? [one.of] : [one]));
    const values = members.flatMap((member) => (member.is === 'value' ? [member.value] : []));
    if (values.length > 1) found.set(path, [...new Set([...(found.get(path) ?? []), ...values])]);
    if (depth >= deepest) return;
    for (const member of members)
      if (member.is === 'object')
        for (const [name, prop] of Object.entries(member.entries))
          visit(prop.type, path === '' ? name : `${path}.${name}`, depth + 1);
  };
  visit(types, '', 0);
  return found;
}
