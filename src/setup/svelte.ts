/** What the outermost component of a Svelte app sets up for the others, and puts around them. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type ts from 'typescript';
import { compiler } from '../props/compiler.ts';
import { showsMessages } from './messages.ts';
import { importsNeeded, type Needed } from './needed.ts';
import { provides } from './provides.ts';
import { sourceAt } from './source.ts';

/** `calls` as `setFees({ perMetre: 4 })`; `open` as `<Theme value={dark}>`, the outermost first. */
export type Outermost = {
  script: ts.SourceFile;
  folder: string;
  calls: string[];
  wrappers: { open: string; name: string }[];
  /** As `<Toaster richColors />`. */
  messages: string[];
  needed: Needed;
};

/** As much of Svelte's syntax tree as is read here. */
type Node = {
  type: string;
  name?: string;
  start: number;
  end: number;
  fragment?: Fragment;
  consequent?: Fragment;
  alternate?: Fragment | null;
  body?: Fragment;
};
type Fragment = { nodes: Node[] };

const scriptsIn = (text: string): string =>
  [...text.matchAll(/<script\b[^>]*>([\s\S]*?)<\/script>/g)].map(([, script]) => script!).join('\n');

/** The nodes of a tree by the project's own compiler; none when it has none, or cannot read it. */
function nodesOf(root: string, text: string): Node[] {
  try {
    const { parse } = createRequire(join(root, 'package.json'))('svelte/compiler') as {
      parse(source: string, options: { modern: true }): { fragment: Fragment };
    };
    return parse(text, { modern: true }).fragment.nodes;
  } catch {
    return [];
  }
}

/** The nodes around the place where a layout shows what it is given; null when it shows nothing. */
function pathTo(text: string, nodes: readonly Node[]): Node[] | null {
  for (const node of nodes) {
    const isPlace = node.type === 'RenderTag' && /^\{@render children\b/.test(text.slice(node.start, node.end));
    if (isPlace || node.type === 'SlotElement') return [];
    for (const part of [node.fragment, node.consequent, node.alternate, node.body]) {
      const inside = part ? pathTo(text, part.nodes) : null;
      if (inside) return [node, ...inside];
    }
  }
  return null;
}

/** What shows messages, and holds nothing itself, wherever it stands but in what is there only now and then. */
const messagesIn = (text: string, nodes: readonly Node[]): string[] =>
  nodes.flatMap(({ type, name = '', start, end, fragment }) => {
    if (type === 'Component' && showsMessages(name) && !fragment?.nodes.length) return [text.slice(start, end)];
    return fragment ? messagesIn(text, fragment.nodes) : [];
  });

/** The providers of a component that shows its pages itself, the outermost first: each holds the next. */
function providersIn(nodes: readonly Node[]): Node[] {
  for (const node of nodes) {
    if (!node.fragment?.nodes.length) continue;
    const inside = providersIn(node.fragment.nodes);
    if (node.type === 'Component' && provides(node.name ?? '')) return [node, ...inside];
    if (inside.length > 0) return inside;
  }
  return [];
}

/** Its components around what it is given, or those that give its pages something; elements are layout. */
const wrappersIn = (text: string, nodes: readonly Node[]): Outermost['wrappers'] =>
  (pathTo(text, nodes) ?? providersIn(nodes))
    .filter(({ type }) => type === 'Component')
    .map(({ name, start, fragment }) => ({ name: name!, open: text.slice(start, fragment!.nodes[0]!.start).trim() }));

/** What is called when the app begins, by its name to set something up: contexts, a language, a theme. */
const isSetting = (statement: ts.Statement): statement is ts.ExpressionStatement =>
  compiler.isExpressionStatement(statement) &&
  compiler.isCallExpression(statement.expression) &&
  /^(set|init|provide)[A-Z]/.test(statement.expression.expression.getText());

/** Reads the component that an app begins with; null when it cannot be read. */
export function outermostIn(root: string, path: string): Outermost | null {
  const text = sourceAt(root, path);
  if (text === null) return null;
  const folder = dirname(path);
  const script = compiler.createSourceFile('layout.ts', scriptsIn(text), compiler.ScriptTarget.ESNext, true);
  const neededFor = (nodes: readonly ts.Node[]): Needed => importsNeeded(script, folder, nodes);
  // What a layout is given by its page is not there for a look.
  const standsAlone = (node: ts.Node): boolean => !neededFor([node]).statements.some((one) => one.includes('$props('));
  const settings = script.statements.filter(isSetting).filter(standsAlone);
  const read = (markup: string): ts.Node =>
    compiler.createSourceFile('open.tsx', markup, compiler.ScriptTarget.ESNext, true);
  const nodes = nodesOf(root, text);
  const wrappers = wrappersIn(text, nodes)
    .map((wrapper) => ({ wrapper, node: read(`${wrapper.open}</${wrapper.name}>`) }))
    .filter(({ node }) => standsAlone(node));
  const messages = messagesIn(text, nodes)
    .map((markup) => ({ markup, node: read(markup) }))
    .filter(({ node }) => standsAlone(node));
  return {
    script,
    folder,
    calls: settings.map((one) => one.expression.getText(script)),
    wrappers: wrappers.map(({ wrapper }) => wrapper),
    messages: messages.map(({ markup }) => markup),
    needed: neededFor([...settings, ...[...wrappers, ...messages].map(({ node }) => node)]),
  };
}
