/** What of a component no look reaches: values of its types, ways through its code, handlers; and looks that would. */
import { sampleOf } from '../draft/sample.ts';
import { keyOf, quoted, type Style } from '../draft/style.ts';
import { type Given, membersIn, type Primitive } from '../props/given.ts';
import type { Prop, PropType, PropTypes } from '../props/type.ts';
import { folded, shortened } from '../text/folded.ts';
import { type Unreached, valueText } from './report.ts';
import {
  type Branch,
  type Counts,
  type Handler,
  lineStartsOf,
  positionAt,
  type Span,
  type Structure,
} from './structure.ts';

/** A component with what is known of it, and of what its looks give it. */
export type Subject = { types: PropTypes | null; given: readonly Given[]; style: Style };

type Source = { text: string; structure: Structure; counts: Counts };

/** Code longer than this is shortened where it is shown. */
const longest = 60;

const shorten = (text: string): string => shortened(folded(text), longest);

const propsOf = (types: PropTypes | null): Record<string, Prop> => {
  if (types?.is === 'object') return types.entries;
  return types?.is === 'one' ? Object.assign({}, ...types.of.map(propsOf)) : {};
};

/** A type with one value at a path in place of all that may be there. */
function narrowed(type: PropType, path: readonly string[], value: Primitive): PropType {
  const [name, ...rest] = path;
  if (type.is === 'list') return { ...type, of: narrowed(type.of, path, value) };
  if (type.is === 'one') {
    const holds = (one: PropType): boolean => one.is === 'object' || one.is === 'list';
    const inner = name === undefined ? undefined : type.of.find(holds);
    return inner ? narrowed(inner, path, value) : { is: 'value', value };
  }
  if (name === undefined || type.is !== 'object') return { is: 'value', value };
  const prop = type.entries[name];
  if (!prop) return type;
  const entry = { ...prop, isOptional: false, type: narrowed(prop.type, rest, value) };
  return { ...type, entries: { ...type.entries, [name]: entry } };
}

/** A look with one prop that its component's other looks do not have so. */
function stateWith(name: string, props: Record<string, Prop>, path: readonly string[], value: Primitive, style: Style) {
  const [first, ...rest] = path;
  const prop = first === undefined ? undefined : props[first];
  if (!first || !prop) return null;
  const { text } = sampleOf(narrowed(prop.type, rest, value), first, style);
  return `${keyOf(name, style)}: { props: { ${keyOf(first, style)}: ${text} } },`;
}

/** Members of unions that no look has given. */
function valuesOf({ types, given, style }: Subject): Unreached[] {
  if (!types) return [];
  const props = propsOf(types);
  const told = new Set(
    given.flat().flatMap(({ path, values }) => values.map((value) => `${path} ${valueText(value)}`)),
  );
  return [...membersIn(types)].flatMap(([path, values]) =>
    values
      .filter((value) => !told.has(`${path} ${valueText(value)}`))
      .map((value): Unreached => {
        const short = path.split('.').at(-1)!;
        const draft = stateWith(`${short} ${value}`, props, path.split('.'), value, style);
        return { kind: 'value', what: `${path} ${valueText(value)}`, line: null, draft };
      }),
  );
}

/** The look that would take the other way where nothing but a prop that is true or false decides. */
function draftFor(test: string, wanted: boolean, { types, style }: Subject): string | null {
  const found = /^(!?)\s*(?:props\.)?(\w+)$/.exec(test);
  const props = propsOf(types);
  const prop = found ? props[found[2]!] : undefined;
  if (!found || !prop) return null;
  const members = prop.type.is === 'one' ? prop.type.of : [prop.type];
  if (!members.some(({ is }) => is === 'boolean')) return null;
  const value = wanted !== (found[1] === '!');
  return stateWith(value ? found[2]! : `not ${found[2]}`, props, [found[2]!], value, style);
}

/** The ways of a branch that were never taken, although it was come to. */
function waysOf(branch: Branch, counts: readonly number[], text: string, subject: Subject): Omit<Unreached, 'line'>[] {
  const at = (span: Span): string => shorten(text.slice(...span));
  if (counts.every((count) => count === 0)) return [];
  return branch.arms.flatMap((arm, i): Omit<Unreached, 'line'>[] => {
    if (counts[i]! > 0) return [];
    if (branch.kind === 'switch') {
      const label = arm.label ? `case ${at(arm.label)}` : 'the default case';
      return [{ kind: 'branch', what: `${label} of ${at(branch.test!)} is never taken`, draft: null }];
    }
    if (branch.test === null) return [{ kind: 'branch', what: `${at(arm.at)} is never evaluated`, draft: null }];
    const test = text.slice(...branch.test).trim();
    const what = `${shorten(test)} is never ${i === 0 ? 'true' : 'false'}`;
    return [{ kind: 'branch', what, draft: draftFor(test, i === 0, subject) }];
  });
}

/** The line of a script that does what a handler hears; null for what is not done by a person. */
function lineFor({ event, element, text }: Handler, style: Style): string | null {
  const named = (role: string): string =>
    text === null ? `the.css(${quoted(element, style)})` : `the.${role}(${quoted(text, style)})`;
  const isField = element === 'input' || element === 'textarea';
  const end = style.semicolon;
  switch (event) {
    case 'click':
      return `await click(${named(element === 'button' ? 'button' : element === 'a' ? 'link' : 'text')})${end}`;
    case 'change':
    case 'input':
      if (element === 'select') return `await select(the.css('select'), ${quoted('…', style)})${end}`;
      return isField ? `await type(the.css(${quoted(element, style)}), ${quoted('Text', style)})${end}` : null;
    case 'submit':
      return `await press(the.css(${quoted('form input', style)}), ${quoted('Enter', style)})${end}`;
    case 'mouseenter':
    case 'mouseover':
    case 'pointerenter':
      return `await hover(${named('text')})${end}`;
    case 'keydown':
    case 'keyup':
      return `await press(${named('text')}, ${quoted('Enter', style)})${end}`;
    default:
      return null;
  }
}

function draftOf(handler: Handler, style: Style): string | null {
  const line = lineFor(handler, style);
  if (line === null) return null;
  const { indent } = style;
  const name = `${handler.event} on ${handler.text ?? handler.element}`;
  return `${keyOf(name, style)}: {\n${indent}script: async () => {\n${indent}${indent}${line}\n${indent}},\n},`;
}

/** Everything of a component's source that no look reaches, from its first line on. */
export function unreachedIn({ text, structure, counts }: Source, subject: Subject): Unreached[] {
  const starts = lineStartsOf(text);
  const lineOf = ([start]: Span): number => positionAt(starts, start).line;
  const functions = structure.functions.flatMap(({ name, at, handler }, i): Unreached[] => {
    if (counts.functions[i]! > 0) return [];
    const line = lineOf(at);
    if (handler) {
      const what = `${name} of <${handler.element}>${handler.text ? ` “${shorten(handler.text)}”` : ''}`;
      return [{ kind: 'handler', what, line, draft: draftOf(handler, subject.style) }];
    }
    const isHandler = /^(on|handle)[A-Z]/.test(name);
    const called = name === '(anonymous)' ? 'a function without a name' : name;
    return [{ kind: isHandler ? 'handler' : 'function', what: `${called} is never called`, line, draft: null }];
  });
  const branches = structure.branches.flatMap((branch, i) =>
    waysOf(branch, counts.branches[i]!, text, subject).map((way): Unreached => ({ ...way, line: lineOf(branch.at) })),
  );
  return [...valuesOf(subject), ...[...functions, ...branches].sort((a, b) => (a.line ?? 0) - (b.line ?? 0))];
}
