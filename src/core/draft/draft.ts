/** A first look file for a component, made of the types of its props: a beginning, for somebody to go on with. */
import type { Kind } from '../look/kind.ts';
import type { Described } from '../props/described.ts';
import type { Prop, PropType, PropTypes } from '../props/type.ts';
import { entriesOf, inWords, type Sample, sampleOf } from './sample.ts';
import { keyOf, quoted, type Style } from './style.ts';

/** A component that a file offers. */
export type Component = {
  name: string;
  kind: Kind;
  /** What a look file beside it imports: `./BerthCard`. */
  from: string;
  isDefault: boolean;
  /** The tag of a custom element that nobody exports. */
  tag: string | null;
  types: PropTypes | null;
  described: Described;
};

type Props = Record<string, Prop>;
type State = { name: string; props: [string, Sample][] };

/** So many states at most are drafted: more say nothing that a person would not rather choose. */
const mostStates = 40;
const mostValues = 12;

const longText =
  'A text that is far longer than anybody had in mind, which shows where it wraps, and what it pushes aside';

const shapesOf = (types: PropTypes | null): Props[] => {
  if (types?.is === 'object') return [types.entries];
  return types?.is === 'one' ? types.of.flatMap(shapesOf) : [];
};

const membersOf = (type: PropType): PropType[] => (type.is === 'one' ? type.of : [type]);
const firstOf = (type: PropType): PropType =>
  membersOf(type).find(({ is }) => is !== 'null' && is !== 'undefined') ?? type;
const isCallback = (type: PropType): boolean => {
  const first = firstOf(type);
  return first.is === 'function' && first.hears;
};

/** What every look has: what must be given, and a spy for every callback. */
function commonProps(props: Props, style: Style): [string, Sample][] {
  const needed = Object.entries(props).filter(
    ([, { type, isOptional, isOwn }]) => (!isOptional && !isCallback(type)) || (isOwn && isCallback(type)),
  );
  return needed.map(([name, { type }]) => [name, sampleOf(type, name, style)]);
}

const shown = (value: string | number | boolean): string => String(value);

/** A state for each value that a prop may have beside the one that all looks have. */
function statesOfValues(props: Props, style: Style): State[] {
  return Object.entries(props).flatMap(([name, { type, isOptional }]): State[] => {
    const values = membersOf(type).filter((one): one is Extract<PropType, { is: 'value' }> => one.is === 'value');
    if (values.length === 0 || values.length > mostValues) return [];
    // Without one it shows as it does by itself; the first one is what all looks have otherwise.
    const others = isOptional ? values : values.slice(1);
    return others.map((one) => ({
      name: `${inWords(name).toLowerCase()} ${shown(one.value)}`,
      props: [[name, sampleOf(one, name, style)]],
    }));
  });
}

/** A state for each switch that is on. */
const statesOfSwitches = (props: Props): State[] =>
  Object.entries(props).flatMap(([name, { type }]): State[] =>
    membersOf(type).some(({ is }) => is === 'boolean')
      ? [
          {
            name: inWords(name.replace(/^(is|has)(?=[A-Z])/, '')).toLowerCase(),
            props: [[name, { text: 'true', hasSpy: false }]],
          },
        ]
      : [],
  );

/** A state for each list that is empty, and for each thing that is not there. */
function statesOfLittle(props: Props): State[] {
  const without = (name: string, text: string, word: string): State => ({
    name: `${word} ${inWords(name).toLowerCase()}`,
    props: [[name, { text, hasSpy: false }]],
  });
  return Object.entries(props).flatMap(([name, { type, isOptional }]): State[] => {
    const members = membersOf(type);
    if (members.some(({ is }) => is === 'list')) return [without(name, '[]', 'no')];
    const isNullable = members.length > 1 && members.some(({ is }) => is === 'null');
    return isNullable && !isCallback(type) && !isOptional ? [without(name, 'null', 'no')] : [];
  });
}

/** Everything that may be left out, given. */
function withEverything(props: Props, style: Style): State[] {
  const more = entriesOf(props, true).filter(
    ([, { type, isOptional, isOwn }]) =>
      isOptional && isOwn && !isCallback(type) && !['boolean', 'value', 'anything'].includes(firstOf(type).is),
  );
  if (more.length === 0) return [];
  return [{ name: 'with everything', props: more.map(([name, { type }]) => [name, sampleOf(type, name, style)]) }];
}

function withLongTexts(props: Props, style: Style): State[] {
  const texts = Object.entries(props).filter(([, { type }]) => ['text', 'content'].includes(firstOf(type).is));
  if (texts.length === 0) return [];
  const sample: Sample = { text: quoted(longText, style), hasSpy: false };
  return [{ name: 'long texts', props: texts.map(([name]) => [name, sample]) }];
}

/** Of props of several shapes each other one is a state of its own. */
function statesOfShapes(shapes: readonly Props[], style: Style): State[] {
  return shapes.slice(1).map((props, index) => {
    const [told] = Object.entries(props).filter(([, { type }]) => type.is === 'value');
    const value = told?.[1].type.is === 'value' ? told[1].type.value : null;
    const name = told ? `${inWords(told[0]).toLowerCase()} ${shown(value!)}` : `shape ${index + 2}`;
    return { name, props: commonProps(props, style) };
  });
}

function statesOf(shapes: readonly Props[], style: Style): State[] {
  const [props = {}] = shapes;
  const states: State[] = [
    { name: 'default', props: [] },
    ...statesOfShapes(shapes, style),
    ...(shapes.length > 1 ? [] : statesOfValues(props, style)),
    ...statesOfSwitches(props),
    ...statesOfLittle(props),
    ...withEverything(props, style),
    ...withLongTexts(props, style),
  ];
  const seen = new Set<string>();
  return states.filter(({ name }) => !seen.has(name) && seen.add(name)).slice(0, mostStates);
}

/** Content of a framework that draws it in slots is given as one. */
function slotsAmong(kind: Kind, props: readonly [string, Sample][], all: Props): [string, Sample][] {
  if (kind !== 'svelte') return [];
  return props.filter(([name]) => firstOf(all[name]?.type ?? { is: 'anything' }).is === 'content');
}

function objectText(entries: readonly (readonly [string, string])[], at: string, style: Style): string {
  const inline = `{ ${entries.map(([key, text]) => `${keyOf(key, style)}: ${text}`).join(', ')} }`;
  if (entries.length === 0) return '{}';
  if (at.length + inline.length <= 90 && !inline.includes('\n')) return inline;
  const inner = at + style.indent;
  return `{\n${entries.map(([key, text]) => `${inner}${keyOf(key, style)}: ${text},\n`).join('')}${at}}`;
}

const nameInImport = ({ name, isDefault }: Component): string => (isDefault ? name : `{ ${name} }`);

/** The text of a look file that stands beside the component. */
export function draftOf(component: Component, style: Style): string {
  const { kind, from, tag, types } = component;
  const shapes = shapesOf(types);
  const all = Object.assign({}, ...shapes) as Props;
  const common = commonProps(shapes[0] ?? {}, style);
  const states = statesOf(shapes, style);
  const rooms = (given: readonly [string, Sample][], at: string): [string, string][] => {
    const slots = slotsAmong(kind, given, all);
    const props = given.filter((one) => !slots.includes(one)).map(([name, { text }]) => [name, text] as const);
    const inSlots = slots.map(([name, { text }]) => [name === 'children' ? 'default' : name, text] as const);
    return [
      ...(props.length > 0 ? [['props', objectText(props, at, style)] as [string, string]] : []),
      ...(inSlots.length > 0 ? [['slots', objectText(inSlots, at, style)] as [string, string]] : []),
    ];
  };
  const { indent, semicolon } = style;
  const written = states.map(({ name, props }) => {
    const entries = rooms(props, indent.repeat(3));
    const text = objectText(entries, indent.repeat(2), style);
    return [name, text] as const;
  });
  const hasSpy = [...common, ...states.flatMap(({ props }) => props)].some(([, sample]) => sample.hasSpy);
  const imported = hasSpy ? '{ looks, spy }' : '{ looks }';
  const subject = tag === null ? component.name : quoted(tag, style);
  const lines = [
    `import ${imported} from ${quoted(`sguardo/${kind}`, style)}${semicolon}`,
    `import ${tag === null ? `${nameInImport(component)} from ` : ''}${quoted(from, style)}${semicolon}`,
    '',
    `export default looks(${subject}, {`,
    ...rooms(common, indent).map(([key, text]) => `${indent}${key}: ${text},`),
    `${indent}states: {`,
    ...written.map(([name, text]) => `${indent.repeat(2)}${keyOf(name, style)}: ${text},`),
    `${indent}},`,
    `})${semicolon}`,
  ];
  return `${lines.join('\n')}\n`;
}
