/** What a component takes: the types of its props, as far as they say so, as plain values. */

/** The type of a prop, or of a part of one. */
export type PropType =
  | { is: 'anything' }
  /** What a framework draws: nodes, elements, texts. */
  | { is: 'content' }
  | { is: 'text' }
  | { is: 'number' }
  | { is: 'boolean' }
  | { is: 'null' }
  | { is: 'undefined' }
  | { is: 'value'; value: string | number | boolean }
  /** `hears` is true for one that is only told something: what it returns is of no use to who calls it. */
  | { is: 'function'; hears: boolean; text: string }
  | { is: 'list'; of: PropType }
  /** A list of so many entries, each of a type of its own. */
  | { is: 'row'; of: PropType[]; least: number }
  /** `others` is the type of entries that are not named. */
  | { is: 'object'; name: string; entries: Record<string, Prop>; others: PropType | null }
  /** Made by a class of the platform, such as `Date`. */
  | { is: 'instance'; name: string }
  | { is: 'one'; of: PropType[] };

/** An entry of an object: a prop, or a part of one. */
export type Prop = {
  type: PropType;
  isOptional: boolean;
  /** The project declares it itself: a package of others does not. */
  isOwn: boolean;
};

/** The props of a component: an object, or one of several. */
export type PropTypes = PropType;

type Entries = Extract<PropType, { is: 'object' }>;

const objectsIn = (types: PropTypes): Entries[] =>
  types.is === 'object' ? [types] : types.is === 'one' ? types.of.flatMap(objectsIn) : [];

const isCallback = ({ is, ...type }: PropType): boolean => {
  if (is === 'function') return (type as { hears: boolean }).hears;
  const rest = is === 'one' ? (type as { of: PropType[] }).of.filter((one) => !isEmpty(one)) : [];
  return rest.length > 0 && rest.every(isCallback);
};

const isEmpty = ({ is }: PropType): boolean => is === 'null' || is === 'undefined';

/** The props by which a component calls back. Those that only a package declares count when they must be given. */
export function callbacksIn(types: PropTypes): string[] {
  const found = objectsIn(types).flatMap(({ entries }) =>
    Object.entries(entries).filter(([, prop]) => isCallback(prop.type) && (prop.isOwn || !prop.isOptional)),
  );
  return [...new Set(found.map(([name]) => name))];
}

/** How a type is written, shortened where it is long: `"calm" | "gale"`, `number[]`, `Berth`. */
export function typeInWords(type: PropType): string {
  switch (type.is) {
    case 'value':
      return JSON.stringify(type.value);
    case 'text':
      return 'string';
    case 'function':
      return type.text;
    case 'list':
      return type.of.is === 'one' || type.of.is === 'function'
        ? `(${typeInWords(type.of)})[]`
        : `${typeInWords(type.of)}[]`;
    case 'row':
      return `[${type.of.map(typeInWords).join(', ')}]`;
    case 'object':
      return type.name || `{ ${Object.keys(type.entries).slice(0, 5).join(', ')} }`;
    case 'instance':
      return type.name;
    case 'one':
      // What is not there comes last, as people write it.
      return [...type.of.filter((one) => !isEmpty(one)), ...type.of.filter(isEmpty)].map(typeInWords).join(' | ');
    default:
      return type.is;
  }
}
