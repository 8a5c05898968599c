/** `npm run reference`: writes docs/reference.md from the doc comments of what a look file imports. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { rules } from '../src/core/accessibility/rules.ts';

const root = resolve(import.meta.dirname, '..');

/** The files of the language, in the order of the reference, with what each is about. */
const chapters: [file: string, title: string][] = [
  ['target', 'Targets'],
  ['actions', 'Actions'],
  ['ensure', 'Checks'],
  ['own', 'Words of your own'],
  ['spy', 'Spies'],
  ['answer', 'Answers'],
  ['script', 'Parts and captures'],
  ['clock', 'The clock'],
  ['world', 'The world'],
  ['looks', 'Look files'],
  ['settings', 'Settings of a file or a look'],
  ['accept', 'Accepted findings'],
  ['command', 'Options'],
];

/** What of it is for look files; the rest is between the language and the page. */
const told = new Set([
  ...['Name', 'RoleState', 'Target', 'The', 'the', 'TargetChecks', 'CallChecks', 'AnswerChecks', 'ValueChecks'],
  ...['CheckOptions', 'action', 'check', 'reset', 'spy', 'Spy', 'Reply', 'Received', 'AnswerInit', 'Answer', 'answer'],
  ...['ServerEvent', 'part', 'capture', 'pause', 'CaptureOptions', 'world', 'WorldChange', 'Media', 'World', 'ensure'],
  ...['Accept', 'LookSettings', 'LookState', 'LooksOf', 'ScriptContext', 'Tags', 'looks', 'Amount', 'Spot', 'Side'],
  ...['ClickOptions', 'PressOptions', 'DragOptions', 'TouchOptions', 'Carried', 'Asked'],
]);

/** What is described where it is not exported, with the name by which a look file imports it. */
const made: Record<string, string> = { Named: 'the', moves: 'clock' };

const folded = (text: string): string => text.replace(/\s+/g, ' ').trim();

function docOf(node: ts.Node): string {
  const docs = (node as { jsDoc?: ts.JSDoc[] }).jsDoc ?? [];
  const comment = docs.at(-1)?.comment;
  return folded(typeof comment === 'string' ? comment : (ts.getTextOfJSDocComment(comment) ?? ''));
}

const cell = (text: string): string => text.replaceAll('|', '\\|');

/** One line of a table: what is written, and what it means. */
const row = (code: string, doc: string): string => `| \`${cell(folded(code))}\` | ${cell(doc)} |`;

/** What a function takes, as it is written. */
const parametersOf = (node: ts.Expression, source: ts.SourceFile): string =>
  ts.isCallExpression(node)
    ? parametersOf(node.arguments.find(ts.isArrowFunction)!, source)
    : ts.isArrowFunction(node)
      ? node.parameters.map((one) => one.getText(source)).join(', ')
      : '';

/** The entries of a type: its members with their comments. */
function membersOf(node: ts.Node, source: ts.SourceFile): string[] {
  const rows: string[] = [];
  const visit = (one: ts.Node): void => {
    if (ts.isPropertySignature(one) || ts.isMethodSignature(one) || ts.isPropertyAssignment(one)) {
      const text = ts.isPropertyAssignment(one)
        ? `${one.name.getText(source)}(${parametersOf(one.initializer, source)})`
        : one
            .getText(source)
            .replace(/;$/, '')
            .replace(/: Promise<void>$/, '');
      rows.push(row(text.replace(/^readonly /, ''), docOf(one)));
      return;
    }
    ts.forEachChild(one, visit);
  };
  ts.forEachChild(node, visit);
  return rows;
}

/** A function as it is called. */
function callOf(name: string, node: ts.Node, source: ts.SourceFile): string | null {
  let found: string | null = null;
  const visit = (one: ts.Node): void => {
    if (found !== null) return;
    if (ts.isArrowFunction(one) || ts.isFunctionDeclaration(one)) {
      found = `${name}(${one.parameters.map((p) => p.getText(source).replace(/ = \{\}$/, '')).join(', ')})`;
      return;
    }
    ts.forEachChild(one, visit);
  };
  visit(node);
  return found;
}

function sectionOf(node: ts.Statement, source: ts.SourceFile): string[] {
  const name = ts.isVariableStatement(node)
    ? node.declarationList.declarations[0]!.name.getText(source)
    : ((node as ts.FunctionDeclaration | ts.TypeAliasDeclaration).name?.getText(source) ?? '');
  const isExported =
    ts.canHaveModifiers(node) && ts.getModifiers(node)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);
  const doc = docOf(node);
  const isAction = source.fileName.endsWith('actions.ts');
  if (
    (!isExported && !Object.hasOwn(made, name)) ||
    doc === '' ||
    !(isAction || told.has(name) || Object.hasOwn(made, name))
  )
    return [];
  const isType = ts.isTypeAliasDeclaration(node) || ts.isInterfaceDeclaration(node);
  const members = isType || name === 'moves' ? membersOf(node, source) : [];
  const title = made[name] ?? (isType ? name : (callOf(name, node, source) ?? name));
  const table = members.length > 0 ? ['', '| | |', '| --- | --- |', ...members] : [];
  const plain =
    ts.isTypeAliasDeclaration(node) && members.length === 0 ? ['', `\`${folded(node.type.getText(source))}\``] : [];
  return [`### \`${folded(title)}\``, '', doc, ...plain, ...table, ''];
}

/** The text of the page. */
export function referenceText(): string {
  const parts = chapters.flatMap(([file, title]) => {
    const path = join(root, 'src/language', `${file}.ts`);
    const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
    const seen = new Set<string>();
    const sections = source.statements.flatMap((node) => {
      const lines = sectionOf(node, source);
      if (lines.length === 0 || seen.has(lines[0]!)) return [];
      seen.add(lines[0]!);
      return lines;
    });
    return [`## ${title}`, '', ...sections];
  });
  const head = [
    '# Reference',
    '',
    'What a look file imports from `sguardo`, `sguardo/react`, `/vue`, `/svelte`, `/angular` and `/dom`. This page ' +
      'is made',
    'of the code’s own comments (`npm run reference`); [Writing looks](looks.md) has it in context.',
    '',
  ];
  return `${[...head, ...parts].join('\n').trim()}\n`;
}

/** What stands above the table of rules. */
const rulesBegin = '<!-- rules:';

/** docs/accessibility.md with the rules as they are now. */
export function rulesText(): string {
  const page = readFileSync(join(root, 'docs/accessibility.md'), 'utf8');
  const head = page.slice(0, page.indexOf('\n', page.indexOf(rulesBegin)) + 1);
  const cell = (text: string): string => text.replaceAll('<', '\\<').replaceAll('|', '\\|');
  const lines = Object.entries(rules).map(
    ([id, { title, severity, criterion, fix }]) =>
      `| \`${id}\` | ${cell(title)} | ${severity} | ${criterion ?? ''} | ${cell(fix)} |`,
  );
  const table = ['| rule | is kept when | severity | WCAG | to fix it |', '| --- | --- | --- | --- | --- |', ...lines];
  return `${head}\n${table.join('\n')}\n`;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  writeFileSync(join(root, 'docs/accessibility.md'), rulesText());
  writeFileSync(join(root, 'docs/reference.md'), referenceText());
  process.stdout.write('Written: docs/reference.md\n');
}
