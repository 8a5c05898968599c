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
    default:
      return { by: 'json' };
  }
}
