/** In what a value contradicts a type: what no real use of a component could give it. */
import { article } from '../text/article.ts';
import { show } from '../value/show.ts';
import { type PropType, typeInWords } from './type.ts';

/** So many contradictions say enough. */
const most = 20;

/** What a person would call a type when a value is of another one. */
function expected(type: PropType): string {
  switch (type.is) {
    case 'text':
      return 'a string';
    case 'number':
    case 'boolean':
      return `a ${type.is}`;
    case 'function':
      return 'a function';
    case 'list':
      return 'a list';
    case 'row':
      return `a list of ${type.of.length}`;
    case 'object':
      return type.name ? `an object (${type.name})` : 'an object';
    case 'instance':
      return article(type.name);
    case 'one':
      return type.of.length === 0 ? 'nothing' : [...new Set(type.of.map(expected))].join(' or ');
    default:
      return typeInWords(type);
  }
}

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

const not = (path: string, type: PropType, value: unknown): string[] => [
  `${path || 'props'}: expected ${expected(type)}, got ${show(value)}`,
];

const at = (path: string, key: string | number): string =>
  typeof key === 'number' ? `${path}[${key}]` : path ? `${path}.${key}` : key;

function inObject(type: Extract<PropType, { is: 'object' }>, value: unknown, path: string): string[] {
  // Functions have entries as well, and texts may be asked for theirs.
  if (value === null || value === undefined) return not(path, type, value);
  const entries = Object.entries(type.entries);
  if (!isObject(value) && typeof value !== 'function') return not(path, type, value);
  const found: string[] = [];
  for (const [key, prop] of entries) {
    const given = (value as Record<string, unknown>)[key];
    if (given !== undefined) found.push(...contradictions(prop.type, given, at(path, key)));
    else if (!prop.isOptional && !accepts(prop.type, undefined))
      found.push(key in value ? not(at(path, key), prop.type, given)[0]! : `${at(path, key)} is missing`);
  }
  if (type.others)
    for (const [key, given] of Object.entries(value))
      if (!Object.hasOwn(type.entries, key)) found.push(...contradictions(type.others, given, at(path, key)));
  return found;
}

/** The kind of thing that a type wants, told by entries that can be only one value. */
const tells = (type: PropType, value: unknown): boolean =>
  type.is === 'object' &&
  isObject(value) &&
  Object.entries(type.entries).some(([key, { type: one }]) => one.is === 'value' && one.value === value[key]);

/** Of several types the one that was meant: told by one of its entries, or nearly what was given. */
function inOneOf(type: Extract<PropType, { is: 'one' }>, value: unknown, path: string): string[] {
  const each = type.of.map((one) => ({ one, found: contradictions(one, value, path) }));
  if (each.some(({ found }) => found.length === 0)) return [];
  const isInside = ({ found }: { found: string[] }): boolean => !found[0]?.startsWith(`${path || 'props'}: expected `);
  const meant = each.filter(({ one }) => tells(one, value));
  const near = (meant.length > 0 ? meant : each).filter(isInside);
  near.sort((a, b) => a.found.length - b.found.length);
  return near[0]?.found ?? not(path, type, value);
}

/** Everything in which a value contradicts a type, a line each: `depth: expected a number, got "four"`. */
export function contradictions(type: PropType, value: unknown, path = ''): string[] {
  switch (type.is) {
    case 'anything':
    case 'content':
      return [];
    case 'text':
      return typeof value === 'string' ? [] : not(path, type, value);
    case 'number':
    case 'boolean':
      return typeof value === type.is ? [] : not(path, type, value);
    case 'null':
      return value === null ? [] : not(path, type, value);
    case 'undefined':
      return value === undefined ? [] : not(path, type, value);
    case 'value':
      return value === type.value ? [] : not(path, type, value);
    case 'function':
      return typeof value === 'function' ? [] : not(path, type, value);
    case 'list':
      if (!Array.isArray(value)) return not(path, type, value);
      return value.flatMap((one, index) => contradictions(type.of, one, at(path, index))).slice(0, most);
    case 'row': {
      if (!Array.isArray(value) || value.length < type.least || value.length > type.of.length)
        return not(path, type, value);
      return value.flatMap((one, index) => contradictions(type.of[index]!, one, at(path, index)));
    }
    case 'instance': {
      const kinds: string[] = [];
      for (let of: object | null = isObject(value) ? value : null; of; of = Object.getPrototypeOf(of))
        kinds.push((of.constructor as { name?: string } | undefined)?.name ?? '');
      return kinds.includes(type.name) ? [] : not(path, type, value);
    }
    case 'object':
      return inObject(type, value, path).slice(0, most);
    case 'one':
      return inOneOf(type, value, path);
  }
}

const accepts = (type: PropType, value: unknown): boolean => contradictions(type, value).length === 0;
