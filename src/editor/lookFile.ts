/** Where the looks of a look file are written down, and which target stands at a place of it. */
import { parseAst } from 'rolldown/parseAst';

type Span = [start: number, end: number];

/** A look as it stands in its file: offsets in UTF-16 units. */
export type WrittenLook = { name: string; key: Span; body: Span };

type Node = { type: string; start: number; end: number } & Record<string, unknown>;

const isNode = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && typeof (value as Node).type === 'string';

function parsed(text: string): Node | null {
  try {
    return parseAst(text, { lang: 'tsx', sourceType: 'module' }) as unknown as Node;
  } catch {
    return null;
  }
}

function visit(node: Node, found: (node: Node) => void): void {
  found(node);
  for (const value of Object.values(node))
    for (const child of Array.isArray(value) ? value : [value]) if (isNode(child)) visit(child, found);
}

const keyOf = (key: unknown): string | null => {
  if (!isNode(key)) return null;
  if (typeof key.name === 'string') return key.name;
  return typeof key.value === 'string' ? key.value : null;
};

/** What an expression is without assertions of types. */
const bare = (node: unknown): Node | null => {
  if (!isNode(node)) return null;
  return /^TS(As|Satisfies|NonNull)Expression$/.test(node.type) ? bare(node.expression) : node;
};

const entryOf = (object: Node, name: string): Node | undefined =>
  (object.properties as Node[]).find((one) => one.type === 'Property' && keyOf(one.key) === name);

/** The looks that a file writes out, in their order; none while it cannot be parsed. */
export function looksIn(text: string): WrittenLook[] {
  const root = parsed(text);
  let states: Node | null = null;
  const find = (node: Node): void => {
    if (states || node.type !== 'CallExpression' || keyOf(node.callee) !== 'looks') return;
    const given = bare((node.arguments as Node[])[1]);
    const value = given?.type === 'ObjectExpression' ? bare(entryOf(given, 'states')?.value) : null;
    if (value?.type === 'ObjectExpression') states = value;
  };
  if (root) visit(root, find);
  const found = states as Node | null;
  return ((found?.properties as Node[] | undefined) ?? []).flatMap((one): WrittenLook[] => {
    const name = one.type === 'Property' ? keyOf(one.key) : null;
    const value = one.value as Node;
    return name === null
      ? []
      : [{ name, key: [(one.key as Node).start, (one.key as Node).end], body: [value.start, value.end] }];
  });
}

/** The look in whose lines a place is; the first one after what all of them share. */
export const lookAt = (looks: readonly WrittenLook[], offset: number): WrittenLook | null =>
  looks.find(({ key, body }) => offset >= key[0] && offset <= body[1]) ?? null;

/**
 * A target as it is written: `the.button('Release berth')`. It is narrowed when more is said of it than kind and name,
 * such as a state, a place or a number.
 */
export type WrittenTarget = { kind: string; name: string | RegExp | null; isNarrowed: boolean; span: Span };

/** A literal as a name; undefined for what is known only when it runs. */
function nameIn(node: Node | null): string | RegExp | undefined {
  if (node?.type !== 'Literal') return undefined;
  if (typeof node.value === 'string') return node.value;
  const { pattern, flags } = (node.regex ?? {}) as { pattern?: string; flags?: string };
  try {
    return pattern === undefined ? undefined : new RegExp(pattern, flags);
  } catch {
    return undefined;
  }
}

/** What a call of `the` says; null where that is known only when it runs. */
function said(call: Node, after: string): Omit<WrittenTarget, 'kind'> | null {
  const given = (call.arguments as Node[]).map(bare);
  const states = given.find((one) => one?.type === 'ObjectExpression') ?? null;
  const isNamed = given[0] !== undefined && given[0] !== states;
  const name = isNamed ? nameIn(given[0] ?? null) : null;
  // With exact: false the name may be a part of a longer one.
  if (name === undefined || (states && entryOf(states, 'exact'))) return null;
  const isNarrowed = states !== null || /^\s*\.(in|nth|first|last|having|without)\b/.test(after);
  return { name, isNarrowed, span: [call.start, call.end] };
}

/** The target at a place; null where there is none, or nothing is known of it before it runs. */
export function targetAt(text: string, offset: number): WrittenTarget | null {
  const root = parsed(text);
  let found: { kind: string; call: Node } | null = null;
  const look = (node: Node): void => {
    if (node.type !== 'CallExpression' || offset < node.start || offset > node.end) return;
    const callee = bare(node.callee);
    if (callee?.type !== 'MemberExpression' || keyOf(callee.object) !== 'the') return;
    const kind = keyOf(callee.property);
    // The innermost one, as in the.button('Go').in(the.dialog()).
    if (kind && (!found || node.end - node.start < found.call.end - found.call.start)) found = { kind, call: node };
  };
  if (root) visit(root, look);
  // The visitor sets it, which the compiler does not see.
  const { kind, call } = (found as { kind: string; call: Node } | null) ?? {};
  const target = call ? said(call, text.slice(call.end)) : null;
  return target && kind ? { kind, ...target } : null;
}

/** What is being written before a place: a kind of target, or the name of one. */
export type Writing = { of: 'kind'; typed: string } | { of: 'name'; kind: string; typed: string; quote: string };

/** What is begun on the line before a place; null for anything else. Half a line cannot be parsed. */
export function writingAt(text: string, offset: number): Writing | null {
  const line = text.slice(text.lastIndexOf('\n', offset - 1) + 1, offset);
  const name = /\bthe\.(\w+)\(\s*(['"`])((?:(?!\2).)*)$/.exec(line);
  if (name) return { of: 'name', kind: name[1]!, typed: name[3]!, quote: name[2]! };
  const kind = /\bthe\.(\w*)$/.exec(line);
  return kind ? { of: 'kind', typed: kind[1]! } : null;
}
