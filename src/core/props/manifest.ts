/**
 * What a project's manifest says of its custom elements (Custom Elements Manifest, schema 1.0.0): a JSON file that many
 * tools write, named in package.json as `customElements`.
 */
import { recordOf } from '../value/record.ts';
import type { Prop, PropType } from './type.ts';

type Typed = { name?: unknown; type?: { text?: unknown }; fieldName?: unknown };
type Member = Typed & { kind?: unknown; privacy?: unknown; static?: unknown; readonly?: unknown };
type Declaration = { name?: unknown; tagName?: unknown; members?: unknown; attributes?: unknown };

const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const words: Record<string, PropType> = {
  string: { is: 'text' },
  number: { is: 'number' },
  boolean: { is: 'boolean' },
  null: { is: 'null' },
  undefined: { is: 'undefined' },
  true: { is: 'value', value: true },
  false: { is: 'value', value: false },
  Date: { is: 'instance', name: 'Date' },
};

/** The members of a union, as far as they are not inside brackets or quotes. */
function membersOf(text: string): string[] {
  const members: string[] = [];
  let depth = 0;
  let quote = '';
  let start = 0;
  for (let at = 0; at < text.length; at++) {
    const one = text[at]!;
    if (quote) quote = one === quote ? '' : quote;
    else if (one === "'" || one === '"') quote = one;
    else if ('([{<'.includes(one)) depth++;
    else if (')]}>'.includes(one) && text[at - 1] !== '=') depth--;
    else if (one === '|' && depth === 0) {
      members.push(text.slice(start, at));
      start = at + 1;
    }
  }
  return [...members, text.slice(start)].map((member) => member.trim()).filter(Boolean);
}

/** A type as a manifest writes it, in TypeScript mostly: what is not plain there may be anything. */
export function typeOfText(text: string): PropType {
  const members = membersOf(text);
  if (members.length > 1) return { is: 'one', of: members.map(typeOfText) };
  const [only = ''] = members;
  const literal = /^(['"])(.*)\1$/.exec(only)?.[2];
  if (literal !== undefined) return { is: 'value', value: literal };
  if (/^-?\d+(\.\d+)?$/.test(only)) return { is: 'value', value: Number(only) };
  const entry = /^(?:readonly\s+)?(?:\((.*)\)|([^()]*))\[\]$/.exec(only) ?? /^(?:Readonly)?Array<(.*)>$/.exec(only);
  if (entry) return { is: 'list', of: typeOfText(entry[1] ?? entry[2] ?? '') };
  return words[only] ?? { is: 'anything' };
}

const propOf = ({ type }: Typed): Prop => ({
  type: typeof type?.text === 'string' ? typeOfText(type.text) : { is: 'anything' },
  isOptional: true,
  isOwn: true,
});

/** What an element declares: its public fields, and attributes that no field stands behind. */
function entriesOf({ members, attributes }: Declaration): Record<string, Prop> {
  const fields = (listOf(members).map(recordOf) as Member[]).filter(
    ({ kind, name, privacy, ...more }) =>
      kind === 'field' &&
      typeof name === 'string' &&
      (privacy ?? 'public') === 'public' &&
      !more.static &&
      !more.readonly,
  );
  const own = fields.map((field) => [field.name as string, propOf(field)] as const);
  const others = (listOf(attributes).map(recordOf) as Typed[])
    .filter(({ name, fieldName }) => typeof name === 'string' && fieldName === undefined)
    .filter(({ name }) => !fields.some((field) => field.name === name))
    .map((attribute) => [attribute.name as string, propOf(attribute)] as const);
  return Object.fromEntries([...own, ...others]);
}

/** The elements that a manifest declares in one file, by the names of their classes and by their tags. */
export function elementsIn(manifest: unknown, file: string): Map<string, Record<string, Prop>> {
  const found = new Map<string, Record<string, Prop>>();
  for (const module of listOf(recordOf(manifest).modules).map(recordOf)) {
    if (typeof module.path !== 'string' || module.path.replace(/^\.?\//, '') !== file) continue;
    for (const declaration of listOf(module.declarations).map(recordOf) as Declaration[]) {
      const { name, tagName } = declaration;
      for (const key of [name, tagName]) if (typeof key === 'string') found.set(key, entriesOf(declaration));
    }
  }
  return found;
}
