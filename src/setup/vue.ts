/** What the outermost component of a Vue app puts around the others: providers of a library, and styles for all. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type ts from 'typescript';
import { compiler } from '../props/compiler.ts';
import { showsMessages } from './messages.ts';
import { importsNeeded, type Needed } from './needed.ts';
import { provides } from './provides.ts';
import { sourceAt } from './source.ts';

/** `open` as `<NConfigProvider :theme="dark">`, the outermost first; `styles` as `<style>…</style>`. */
export type Outermost = {
  script: ts.SourceFile;
  folder: string;
  wrappers: { open: string; name: string }[];
  /** As `<Toaster rich-colors />`. */
  messages: string[];
  styles: string[];
  needed: Needed;
};

/** As much of Vue's syntax tree as is read here; places count from the beginning of the file. */
type Place = { start: { offset: number }; end: { offset: number } };
type Attribute = { type: number; name: string; loc: Place; exp?: { content: string } };
type Node = { type: number; tag?: string; loc: Place; props?: Attribute[]; children?: Node[] };
type Block = { content: string; loc: Place; attrs: Record<string, string | true>; scoped?: boolean; module?: unknown };
type Parsed = {
  descriptor: { template: { ast?: Node } | null; scriptSetup: Block | null; styles: (Block & { lang?: string })[] };
};

/** An element in a template, to Vue's compiler. */
const elementType = 1;

/** What an element is called in a script: `n-config-provider` is `NConfigProvider`. */
const inPascal = (tag: string): string => tag.replaceAll(/(?:^|-)(\w)/g, (_, letter: string) => letter.toUpperCase());

const isProvider = ({ tag = '' }: Node): boolean => provides(inPascal(tag));

/** True for an element that is always there, and whose content needs nothing from it by name. */
const isPlain = ({ props = [] }: Node): boolean => !props.some(({ name }) => /^(if|else|else-if|for|slot)$/.test(name));

/** The providers in a template, the outermost first: each holds the next. */
function providersIn(nodes: readonly Node[]): Node[] {
  for (const node of nodes) {
    if (node.type !== elementType || !isPlain(node)) continue;
    const inside = providersIn(node.children ?? []);
    if (isProvider(node)) return [node, ...inside];
    if (inside.length > 0) return inside;
  }
  return [];
}

/** What shows messages in a template, and holds nothing itself. */
const messagesIn = (nodes: readonly Node[]): Node[] =>
  nodes.flatMap((node) => {
    if (node.type !== elementType || !isPlain(node)) return [];
    const { tag = '', children = [] } = node;
    return children.length === 0 && showsMessages(tag) ? [node] : messagesIn(children);
  });

/** The opening tag of an element, as it is written. */
function openingOf(text: string, { loc, tag = '', props = [] }: Node): string {
  const last = props.at(-1)?.loc.end.offset ?? loc.start.offset + 1 + tag.length;
  return text.slice(loc.start.offset, text.indexOf('>', last) + 1);
}

/** What a provider's opening tag refers to: itself, and whatever it is given. */
const referredBy = ({ tag = '', props = [] }: Node): ts.SourceFile => {
  const given = props.flatMap(({ exp }) => (exp ? [`(${exp.content})`] : []));
  return compiler.createSourceFile('open.ts', [inPascal(tag), ...given].join(';\n'), compiler.ScriptTarget.ESNext);
};

/** A style block that holds for the whole app, and refers to no file beside its own. */
const isForAll = ({ content, scoped, module }: Block): boolean =>
  !scoped && !module && content.trim() !== '' && !/@import|@use|@forward|url\(\s*['"]?\./.test(content);

/** A file's parts by the project's own compiler; null when it has none, or cannot read it. */
function parsed(root: string, text: string): Parsed['descriptor'] | null {
  try {
    const { parse } = createRequire(join(root, 'package.json'))('vue/compiler-sfc') as {
      parse(source: string): Parsed;
    };
    return parse(text).descriptor;
  } catch {
    return null;
  }
}

/** Reads the component that an app begins with; null when it cannot be read. */
export function outermostIn(root: string, path: string): Outermost | null {
  const text = sourceAt(root, path);
  if (text === null) return null;
  const found = parsed(root, text);
  if (!found) return null;
  const folder = dirname(path);
  const code = found.scriptSetup?.content ?? '';
  const script = compiler.createSourceFile('app.tsx', code, compiler.ScriptTarget.ESNext, true);
  const neededFor = (nodes: readonly ts.Node[]): Needed => importsNeeded(script, folder, nodes);
  const template = found.template?.ast?.children ?? [];
  // What the app itself is given, or asks its routes for, is not there for a look.
  const alone = (nodes: readonly Node[]): { node: Node; by: ts.Node }[] =>
    nodes
      .map((node) => ({ node, by: referredBy(node) }))
      .filter(
        ({ by }) => !neededFor([by]).statements.some((one) => /\b(defineProps|defineModel|useRoute)\b/.test(one)),
      );
  const providers = alone(providersIn(template));
  const messages = alone(messagesIn(template));
  return {
    script,
    folder,
    wrappers: providers.map(({ node }) => ({ open: openingOf(text, node), name: node.tag! })),
    messages: messages.map(({ node: { loc } }) => text.slice(loc.start.offset, loc.end.offset)),
    styles: found.styles
      .filter(isForAll)
      .map(({ lang, content }) => `<style${lang ? ` lang="${lang}"` : ''}>${content}</style>`),
    needed: neededFor([...providers, ...messages].map(({ by }) => by)),
  };
}
