/** Keeps props and lines in a look file: they are put where they belong, and everything else stays as it is. */
import type ts from 'typescript';
import { keyOf, type Style } from '../core/draft/style.ts';
import { compiler } from '../props/compiler.ts';
import { keepLines, type KeepingLines } from './lines.ts';
import { literalOf } from './literal.ts';
import { type Parsed, parse, stateOf, statesIn, Unclear, unclear, valueIn } from './looks.ts';
import { appended, type Edit, edited, entryOf, indentAt, mayBeReplaced, nameOf, objectIn } from './object.ts';

/** What is to be kept: props over those of a look, in it, or with a name as a look of its own beside it. */
export type Keeping = { look: string; as: string | null; props: Record<string, unknown> };

/** The file with it, or why it cannot be written without touching more than that. */
export type Kept = { text: string } | { why: string };

/** The props that a state gives, where they are written out; null where it gives none. */
function propsOf(state: ts.ObjectLiteralExpression, look: string): ts.ObjectLiteralExpression | null {
  const entry = entryOf(state, 'props');
  if (!entry) {
    if (state.properties.some((one) => nameOf(one) === null))
      unclear(`What “${look}” spreads may give it props of its own.`);
    return null;
  }
  if (mayBeReplaced(state, entry)) unclear(`What “${look}” spreads after its props may take their place.`);
  return objectIn(valueIn(entry)) ?? unclear(`The props of “${look}” are not written out there.`);
}

/** One prop in an object that is there. */
function putProp(
  props: ts.ObjectLiteralExpression,
  name: string,
  value: unknown,
  { source, style }: Parsed,
): Edit | null {
  const entry = entryOf(props, name);
  if (!entry) return null;
  const text = literalOf(value, style, indentAt(source, entry.getStart()));
  if (mayBeReplaced(props, entry)) unclear(`What is spread after “${name}” may take its place.`);
  if (compiler.isPropertyAssignment(entry)) {
    const { initializer } = entry;
    return { start: initializer.getStart(), end: initializer.getEnd(), text };
  }
  if (compiler.isShorthandPropertyAssignment(entry))
    return { start: entry.getStart(), end: entry.getEnd(), text: `${keyOf(name, style)}: ${text}` };
  return unclear(`“${name}” is a method or an accessor there.`);
}

const entriesText = (props: Record<string, unknown>, style: Style, at: string): string[] =>
  Object.entries(props).map(([name, value]) => `${keyOf(name, style)}: ${literalOf(value, style, at)}`);

function keepIn(parsed: Parsed, { look, props }: Keeping): Edit[] {
  const { source, style } = parsed;
  const state = stateOf(statesIn(parsed), look);
  const own = propsOf(state, look);
  if (!own) {
    const at = indentAt(source, (state.properties.at(-1) ?? state).getStart());
    return [appended(state, `props: { ${entriesText(props, style, at).join(', ')} }`, source, style.indent)];
  }
  const edits: Edit[] = [];
  const added: Record<string, unknown> = {};
  for (const [name, value] of Object.entries(props)) {
    const edit = putProp(own, name, value, parsed);
    if (edit) edits.push(edit);
    else added[name] = value;
  }
  const more = entriesText(added, style, indentAt(source, (own.properties.at(-1) ?? own).getStart()));
  // One after the other at the same place: together they are one entry.
  if (more.length > 0) {
    const isOnLines =
      own.properties.length > 0 && source.slice(own.getStart(), own.properties.at(-1)!.getStart()).includes('\n');
    const newline = source.includes('\r\n') ? '\r\n' : '\n';
    const between = isOnLines ? `,${newline}${indentAt(source, own.properties.at(-1)!.getStart())}` : ', ';
    edits.push(appended(own, more.join(between), source, style.indent));
  }
  return edits;
}

/** What a look of its own does not take over from the one that it is made of. */
const left = new Set(['props', 'after', 'script', 'each', 'most', 'only', 'skip', 'tags']);

/** Props of the states on the way to a look, as they are written, the later ones over the earlier ones. */
function propsOnTheWay(states: ts.ObjectLiteralExpression, look: string): Map<string, string> {
  const all = new Map<string, string>();
  const chain: string[] = [];
  for (let at: string | undefined = look; at !== undefined && !chain.includes(at); ) {
    chain.unshift(at);
    const after: ts.Expression | undefined = valueIn(entryOf(stateOf(states, at), 'after'));
    if (after && !compiler.isStringLiteralLike(after)) unclear(`What “${at}” comes after is not written out.`);
    at = after && compiler.isStringLiteralLike(after) ? after.text : undefined;
  }
  for (const one of chain)
    for (const entry of propsOf(stateOf(states, one), one)?.properties ?? []) {
      const key = nameOf(entry) ?? entry.getText();
      all.delete(key);
      all.set(key, entry.getText());
    }
  return all;
}

function keepAs(parsed: Parsed, { look, as, props }: Keeping): Edit[] {
  const { source, style } = parsed;
  const states = statesIn(parsed);
  if (states.properties.some((one) => nameOf(one) === as)) unclear(`There is a look called “${as}” already.`);
  const state = stateOf(states, look);
  const given = propsOnTheWay(states, look);
  const at = indentAt(source, states.properties.at(-1)!.getStart());
  for (const [name, value] of Object.entries(props)) {
    given.delete(name);
    given.set(name, `${keyOf(name, style)}: ${literalOf(value, style, at)}`);
  }
  const others = state.properties.filter((entry) => !left.has(nameOf(entry) ?? '')).map((entry) => entry.getText());
  const parts = [`props: { ${[...given.values()].join(', ')} }`, ...others];
  return [appended(states, `${keyOf(as!, style)}: { ${parts.join(', ')} }`, source, style.indent)];
}

/** Puts props or lines into the source of a look file of this name. */
export function keep(name: string, source: string, keeping: Keeping | KeepingLines): Kept {
  try {
    const parsed = parse(name, source);
    if ('lines' in keeping) return { text: edited(source, keepLines(parsed, keeping)) };
    if (Object.keys(keeping.props).length === 0) unclear('There is nothing to keep: no prop is changed.');
    const newline = source.includes('\r\n') ? '\r\n' : '\n';
    const edits = keeping.as === null ? keepIn(parsed, keeping) : keepAs(parsed, keeping);
    return {
      text: edited(
        source,
        edits.map((one) => ({ ...one, text: one.text.replace(/\r?\n/g, newline) })),
      ),
    };
  } catch (error) {
    if (error instanceof Unclear) return { why: error.message };
    throw error;
  }
}
