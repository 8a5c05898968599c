/** Reads what can be run of a source. */
import { parseAst } from 'rolldown/parseAst';
import type { Arm, Branch, FunctionPart, Handler, Span, Structure } from '../core/coverage/structure.ts';
import { folded } from '../core/text/folded.ts';

/** A node of a syntax tree (ESTree, with those of JSX and TypeScript). */
type Node = { type: string; start: number; end: number } & Record<string, unknown>;

const isNode = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && typeof (value as Node).type === 'string';

const spanOf = ({ start, end }: Node): Span => [start, end];

/** Statements that do something where they stand; what they hold counts for itself. */
const doing = new Set([
  ...['ExpressionStatement', 'ReturnStatement', 'IfStatement', 'ForStatement', 'ForInStatement', 'ForOfStatement'],
  ...['WhileStatement', 'DoWhileStatement', 'SwitchStatement', 'ThrowStatement', 'TryStatement'],
  ...['BreakStatement', 'ContinueStatement', 'DebuggerStatement'],
]);

const functions = new Set(['FunctionDeclaration', 'FunctionExpression', 'ArrowFunctionExpression']);

const nameOf = (key: unknown): string | null => {
  if (!isNode(key)) return null;
  if (typeof key.name === 'string') return key.name;
  return typeof key.value === 'string' ? key.value : null;
};

/** The texts that stand in an element, as far as they are written there. */
function textIn(element: Node): string | null {
  const { attributes } = element.openingElement as Node & { attributes: Node[] };
  const label = attributes.find(({ name }) => nameOf(name) === 'aria-label');
  const said = nameOf(label?.value);
  if (said) return said;
  const texts = (element.children as Node[]).map((child) => {
    if (child.type === 'JSXText') return String(child.value);
    return child.type === 'JSXElement' ? (textIn(child) ?? '') : '';
  });
  const text = folded(texts.join(' '));
  return text === '' ? null : text;
}

/** What a function hears that is given to an attribute of an element of the platform. */
function handlerOf(parent: Node | null): Handler | null {
  if (parent?.type !== 'JSXExpressionContainer') return null;
  const { attribute, owner } = parent;
  if (typeof attribute !== 'string' || !isNode(owner)) return null;
  const element = nameOf((owner.openingElement as Node).name);
  if (!/^on[A-Z]/.test(attribute) || element === null || !/^[a-z]/.test(element)) return null;
  return { event: attribute.slice(2).toLowerCase(), element, text: textIn(owner) };
}

/** What a function is called by whoever reads its source: by its own name, or by what it is given to. */
function functionName(node: Node, parent: Node | null): string {
  const own = nameOf(node.id);
  if (own) return own;
  switch (parent?.type) {
    case 'VariableDeclarator':
      return nameOf(parent.id) ?? '(anonymous)';
    case 'Property':
    case 'MethodDefinition':
    case 'PropertyDefinition':
      return nameOf(parent.key) ?? '(anonymous)';
    case 'JSXExpressionContainer':
      return typeof parent.attribute === 'string' ? parent.attribute : '(anonymous)';
    case 'AssignmentExpression':
      return nameOf(parent.left) ?? '(anonymous)';
    default:
      return '(anonymous)';
  }
}

/** The operands of a chain of the same kind of choice, as in `a && b && c`. */
const operandsOf = (node: Node): Node[] =>
  node.type === 'LogicalExpression' ? [...operandsOf(node.left as Node), ...operandsOf(node.right as Node)] : [node];

const arm = (node: Node): Arm => ({ at: spanOf(node), isElse: false });

function branchOf(node: Node, parent: Node | null): Branch | null {
  const at = spanOf(node);
  switch (node.type) {
    case 'IfStatement': {
      const other = isNode(node.alternate) ? arm(node.alternate) : { at, isElse: true };
      return { kind: 'if', at, test: spanOf(node.test as Node), arms: [arm(node.consequent as Node), other] };
    }
    case 'ConditionalExpression':
      return {
        kind: 'choice',
        at,
        test: spanOf(node.test as Node),
        arms: [arm(node.consequent as Node), arm(node.alternate as Node)],
      };
    case 'LogicalExpression':
      return parent?.type === 'LogicalExpression'
        ? null
        : { kind: 'and-or', at, test: null, arms: operandsOf(node).map(arm) };
    case 'SwitchStatement': {
      const arms = (node.cases as Node[]).flatMap(({ consequent, test }): Arm[] => {
        const [first] = consequent as Node[];
        return first ? [{ ...arm(first), ...(isNode(test) && { label: spanOf(test) }) }] : [];
      });
      return arms.length === 0 ? null : { kind: 'switch', at, test: spanOf(node.discriminant as Node), arms };
    }
    default:
      return null;
  }
}

/** True for a plain value that gets a name: bundlers write such values where they are used. */
const isConstant = (value: Node, declaration: Node | null): boolean =>
  declaration?.kind === 'const' &&
  (value.type === 'Literal' || (value.type === 'TemplateLiteral' && (value.expressions as Node[]).length === 0));

/** What compilers of single-file components take out of a script, and nothing runs. */
const macros = new Set([
  ...['defineProps', 'defineEmits', 'defineModel', 'defineSlots', 'defineOptions', 'defineExpose', 'withDefaults'],
  ...['$props', '$bindable'],
]);

/** True for a statement that only says something to a compiler: `const props = defineProps<…>()`. */
function isMacro(node: Node): boolean {
  const value = node.type === 'VariableDeclarator' ? node.init : node.expression;
  return isNode(value) && value.type === 'CallExpression' && macros.has(nameOf(value.callee) ?? '');
}

/** What is run when a node is reached, as Istanbul counts it. */
function statementsAt(node: Node, parent: Node | null): Span[] {
  if (doing.has(node.type)) {
    // Directives do nothing.
    return typeof node.directive === 'string' ? [] : [spanOf(node)];
  }
  switch (node.type) {
    case 'VariableDeclarator':
      return isNode(node.init) && !isConstant(node.init, parent) ? [spanOf(node)] : [];
    case 'PropertyDefinition':
      return isNode(node.value) ? [spanOf(node.value)] : [];
    case 'ArrowFunctionExpression':
      return (node.body as Node).type === 'BlockStatement' ? [] : [spanOf(node.body as Node)];
    case 'ExportDefaultDeclaration': {
      const what = node.declaration as Node;
      const declares = what.type === 'FunctionDeclaration' || what.type === 'ClassDeclaration';
      return declares || what.type.startsWith('TS') ? [] : [spanOf(node)];
    }
    default:
      return [];
  }
}

/** What is not there any more when a source runs. */
const isType = ({ type, declare }: Node): boolean =>
  declare === true ||
  (/^TS/.test(type) &&
    !/^TS(AsExpression|SatisfiesExpression|NonNullExpression|TypeAssertion|ParameterProperty)$/.test(type));

const languages: Readonly<Record<string, 'js' | 'jsx' | 'ts' | 'tsx'>> = {
  ts: 'ts',
  mts: 'ts',
  cts: 'ts',
  tsx: 'tsx',
};

/** The scripts of a component's single file: everything else as white space, so that places stay. */
function scriptsIn(text: string): { code: string; language: string } {
  let code = '';
  let last = 0;
  let language = 'js';
  const blank = (part: string): string => part.replace(/[^\n]/g, ' ');
  for (const found of text.matchAll(/(<script\b[^>]*>)([\s\S]*?)<\/script\s*>/gi)) {
    const from = found.index + found[1]!.length;
    const said = /\blang\s*=\s*["']?(\w+)/.exec(found[1]!)?.[1];
    if (said) language = said;
    code += blank(text.slice(last, from)) + found[2]!;
    last = from + found[2]!.length;
  }
  return { code: code + blank(text.slice(last)), language };
}

/** Endings of files that hold something to be run. */
export const codeEndings = ['js', 'mjs', 'cjs', 'jsx', 'ts', 'mts', 'cts', 'tsx', 'vue', 'svelte'];

/** Reads the structure of a source; null for one that cannot be parsed, or holds no code. */
export function structureOf(path: string, text: string): Structure | null {
  const ending = /\.(\w+)$/.exec(path)?.[1]?.toLowerCase() ?? '';
  if (!codeEndings.includes(ending) || /\.d\.\w+$/.test(path)) return null;
  const isParts = ending === 'vue' || ending === 'svelte';
  const { code, language } = isParts ? scriptsIn(text) : { code: text, language: ending };
  const found: Structure = { statements: [], functions: [], branches: [] };
  try {
    const root = parseAst(code, { lang: languages[language] ?? 'jsx', sourceType: 'module' }) as unknown as Node;
    visit(root, null, found, isParts);
  } catch {
    return null;
  }
  const before = (a: Span, b: Span): number => a[0] - b[0] || b[1] - a[1];
  found.statements.sort(before);
  found.functions.sort((a, b) => before(a.at, b.at));
  return found;
}

function visit(node: Node, parent: Node | null, found: Structure, isParts: boolean): void {
  if (isType(node)) return;
  if (!isParts || !isMacro(node)) found.statements.push(...statementsAt(node, parent));
  if (functions.has(node.type) && isNode(node.body)) found.functions.push(functionPart(node, parent));
  const branch = branchOf(node, parent);
  if (branch) found.branches.push(branch);
  for (const [key, value] of Object.entries(node)) {
    if (key === 'owner' || key === 'typeAnnotation' || key === 'typeParameters' || key === 'typeArguments') continue;
    for (const child of Array.isArray(value) ? value : [value]) {
      if (!isNode(child)) continue;
      // A handler is called by its attribute, of an element.
      if (node.type === 'JSXElement') child.owner = node;
      if (node.type === 'JSXOpeningElement') child.owner = node.owner;
      if (node.type === 'JSXAttribute') {
        child.attribute = nameOf(node.name) ?? undefined;
        child.owner = node.owner;
      }
      visit(child, node, found, isParts);
    }
  }
}

/** The body of a function without its braces, which have no place of their own in source maps. */
function functionPart(node: Node, parent: Node | null): FunctionPart {
  const body = node.body as Node;
  const inside: Span = body.type === 'BlockStatement' ? [body.start + 1, body.end - 1] : spanOf(body);
  return { name: functionName(node, parent), at: spanOf(node), body: inside, handler: handlerOf(parent) };
}
