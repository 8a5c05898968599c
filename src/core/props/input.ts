/** How a person gives a prop a value by hand: by the kind of its type, or of the value that it has. */
import type { GivenProp } from '../wire/live.ts';
import type { PropType } from './type.ts';

export type Choice = string | number | boolean;

export type Input =
  | { by: 'text' }
  | { by: 'colour' }
  | { by: 'number' }
  | { by: 'switch' }
  | { by: 'choice'; of: Choice[] }
  | { by: 'date' }
  | { by: 'json' }
  /** A list: a row for each entry, which all are of one type. */
  | { by: 'rows'; of: PropType }
  /** A function: it hears, and is not given by hand. */
  | { by: 'nobody' };

const membersOf = (type: PropType): PropType[] => (type.is === 'one' ? type.of.flatMap(membersOf) : [type]);

/** True for a prop that may be null. */
export const mayBeNull = (type: PropType): boolean => membersOf(type).some(({ is }) => is === 'null');

function inputOfValue(given: GivenProp | undefined): Input {
  if (!given) return { by: 'json' };
  if ('date' in given) return { by: 'date' };
  if ('words' in given) return { by: 'nobody' };
  const kinds: Record<string, Input> = { string: { by: 'text' }, number: { by: 'number' }, boolean: { by: 'switch' } };
  return kinds[typeof given.json] ?? { by: 'json' };
}

/** The input for a prop of this name. Of a type that says nothing the value decides. */
export function inputFor(name: string, type: PropType, given: GivenProp | undefined): Input {
  const members = membersOf(type).filter(({ is }) => is !== 'null' && is !== 'undefined');
  const [first] = members;
  const values = members.flatMap((one): Choice[] =>
    one.is === 'value' ? [one.value] : one.is === 'boolean' ? [true, false] : [],
  );
  if (first && members.length > 0 && members.every(({ is }) => is === 'value')) return { by: 'choice', of: values };
  if (!first || members.length > 1) return first ? { by: 'json' } : inputOfValue(given);
  switch (first.is) {
    case 'text':
      return /colou?r$/i.test(name) ? { by: 'colour' } : { by: 'text' };
    case 'content':
      return given && 'words' in given ? { by: 'nobody' } : { by: 'text' };
    case 'number':
      return { by: 'number' };
    case 'boolean':
      return { by: 'switch' };
    case 'function':
      return { by: 'nobody' };
    case 'instance':
      return first.name === 'Date' ? { by: 'date' } : { by: 'nobody' };
    case 'anything':
      return inputOfValue(given);
    case 'list':
      return { by: 'rows', of: first.of };
    default:
      return { by: 'json' };
  }
}

/** What a row begins as: the least that its type says. */
export function blankOf(type: PropType): unknown {
  switch (type.is) {
    case 'text':
    case 'content':
      return '';
    case 'number':
      return 0;
    case 'boolean':
      return false;
    case 'value':
      return type.value;
    case 'list':
      return [];
    case 'row':
      return type.of.slice(0, type.least).map(blankOf);
    case 'object': {
      const needed = Object.entries(type.entries).filter(([, { isOptional }]) => !isOptional);
      return Object.fromEntries(needed.map(([name, { type: own }]) => [name, blankOf(own)]));
    }
    case 'one':
      return blankOf(type.of.find(({ is }) => is !== 'null' && is !== 'undefined') ?? { is: 'null' });
    default:
      return null;
  }
}

/** The entries of an object that each have an input of one line; null when one has none. */
export function partsOf(type: PropType): [name: string, type: PropType][] | null {
  if (type.is !== 'object' || type.others) return null;
  const parts = Object.entries(type.entries).map(([name, { type: own }]) => [name, own] as [string, PropType]);
  const isBrief = ([name, own]: [string, PropType]): boolean =>
    ['text', 'number', 'switch', 'choice', 'colour'].includes(inputFor(name, own, undefined).by);
  return parts.length > 0 && parts.every(isBrief) ? parts : null;
}
