/** Keeps lines in a look file: in the script of a look, or as a look of its own. */
import type ts from 'typescript';
import { keyOf, quoted, type Style } from '../core/draft/style.ts';
import { compiler } from '../props/compiler.ts';
import { type Parsed, stateOf, statesIn, unclear, valueIn } from './looks.ts';
import { appended, type Edit, entryOf, indentAt, nameOf } from './object.ts';

/**
 * Lines to be kept: in the script of a look, before what stands on the line `before` of the file or at its end; or with
 * a name as a look of its own, which begins as that look begins, or where it has ended.
 */
export type KeepingLines = {
  look: string;
  as: string | null;
  lines: string[];
  before: number | null;
  from: 'start' | 'end';
};

/** What a line may call of the language. */
export const wordsOfLanguage = [
  ...['click', 'hover', 'unhover', 'type', 'clear', 'press', 'focus', 'blur', 'hold', 'select', 'drag', 'scroll'],
  ...['upload', 'paste', 'touch', 'pinch', 'resize', 'answer', 'clock', 'ensure', 'capture', 'part', 'pause'],
  ...['reset', 'spy', 'the', 'world'],
];

/** Texts in a line say nothing of what it calls. */
const withoutTexts = (line: string): string => line.replace(/'(\\.|[^'\\])*'|"(\\.|[^"\\])*"|`[^`]*`/g, "''");

/** The words of `among` that lines use. */
function used(lines: readonly string[], among: readonly string[]): string[] {
  const code = lines.map(withoutTexts).join('\n');
  return among.filter((word) => new RegExp(`(?<![.\\w$])${word}(?=\\s*[.([])`).test(code));
}

/** Lines as the file would have them. */
function inStyle(lines: readonly string[], { quote, semicolon }: Style): string[] {
  return lines
    .map((line) => line.trim().replace(/;+$/, ''))
    .filter((line) => line !== '')
    .map((line) => {
      const isPlain = quote === '"' && !line.includes('"') && !line.includes('\\');
      return (isPlain ? line.replaceAll("'", '"') : line) + semicolon;
    });
}

/** The names that a file has of its own, or imports from elsewhere. */
function namesElsewhere({ file }: Parsed): Set<string> {
  const names = new Set<string>();
  for (const one of file.statements) {
    if (compiler.isImportDeclaration(one) && !/^sguardo(\/|$)/.test((one.moduleSpecifier as ts.StringLiteral).text)) {
      const { name, namedBindings } = one.importClause ?? {};
      if (name) names.add(name.text);
      if (namedBindings && compiler.isNamedImports(namedBindings))
        for (const element of namedBindings.elements) names.add(element.name.text);
    }
    if (compiler.isVariableStatement(one))
      for (const { name } of one.declarationList.declarations) if (compiler.isIdentifier(name)) names.add(name.text);
    if (compiler.isFunctionDeclaration(one) && one.name) names.add(one.name.text);
  }
  return names;
}

/** Imports what lines use and the file does not import yet. @throws Unclear */
function importEdits(parsed: Parsed, lines: readonly string[]): Edit[] {
  const { file } = parsed;
  const own = namesElsewhere(parsed);
  const imported = new Set<string>();
  let last: ts.ImportSpecifier | null = null;
  for (const one of file.statements) {
    if (!compiler.isImportDeclaration(one)) continue;
    if (!/^sguardo(\/|$)/.test((one.moduleSpecifier as ts.StringLiteral).text)) continue;
    const bindings = one.importClause?.namedBindings;
    if (!bindings || !compiler.isNamedImports(bindings) || one.importClause?.isTypeOnly) continue;
    for (const element of bindings.elements) if (!element.isTypeOnly) imported.add(element.name.text);
    if (bindings.elements.some(({ name }) => name.text === 'looks')) last = bindings.elements.at(-1) ?? null;
  }
  const missing = used(lines, wordsOfLanguage).filter((word) => !imported.has(word));
  const taken = missing.find((word) => own.has(word));
  if (taken) unclear(`“${taken}” means something else in this file.`);
  if (missing.length === 0) return [];
  if (!last) return unclear('Nothing is imported from sguardo by name there.');
  const at = last.getEnd();
  return [{ start: at, end: at, text: missing.map((word) => `, ${word}`).join('') }];
}

type Script = ts.MethodDeclaration | ts.ArrowFunction | ts.FunctionExpression;

/** The script that an entry is, where it is written out. */
function scriptIn(entry: ts.ObjectLiteralElementLike): Script | null {
  if (compiler.isMethodDeclaration(entry)) return entry;
  const value = valueIn(entry);
  return value && (compiler.isArrowFunction(value) || compiler.isFunctionExpression(value)) ? value : null;
}

/** What a script has to be given so that lines can name it. */
function contextEdits(script: Script, lines: readonly string[], source: string): { edits: Edit[]; lines: string[] } {
  const wanted = used(lines, ['props', 'answers']);
  const [first] = script.parameters;
  if (wanted.length === 0) return { edits: [], lines: [...lines] };
  if (!first) {
    const open = source.indexOf('(', script.name?.getEnd() ?? script.getStart()) + 1;
    return { edits: [{ start: open, end: open, text: `{ ${wanted.join(', ')} }` }], lines: [...lines] };
  }
  const { name } = first;
  if (compiler.isIdentifier(name)) {
    const inside = new RegExp(`(?<![.\\w$])(${wanted.join('|')})(?=\\s*[.[])`, 'g');
    return { edits: [], lines: lines.map((line) => line.replace(inside, `${name.text}.$1`)) };
  }
  if (!compiler.isObjectBindingPattern(name)) return unclear('What the script is given is taken apart in another way.');
  const there = name.elements.map((one) => one.name.getText());
  const missing = wanted.filter((one) => !there.includes(one));
  const last = name.elements.at(-1);
  const at = last?.getEnd() ?? name.getStart() + 1;
  const text = last ? `, ${missing.join(', ')}` : ` ${missing.join(', ')} `;
  return { edits: missing.length === 0 ? [] : [{ start: at, end: at, text }], lines: [...lines] };
}

type Place = { statement: ts.Statement; script: Script | null };

/** The statement on a line, in the innermost block, and the script that it is in. */
function placeOn({ file }: Parsed, line: number): Place | null {
  let found: Place | null = null;
  const lineOf = (position: number): number => file.getLineAndCharacterOfPosition(position).line + 1;
  const visit = (node: ts.Node, script: Script | null): void => {
    if (compiler.isBlock(node))
      for (const statement of node.statements)
        if (lineOf(statement.getStart()) <= line && line <= lineOf(statement.getEnd())) found = { statement, script };
    const isScript = 'name' in node && node.name !== undefined && (node.name as ts.Node).getText() === 'script';
    const entry = isScript && compiler.isObjectLiteralElementLike(node) ? scriptIn(node) : null;
    compiler.forEachChild(node, (child) => visit(child, entry ?? script));
  };
  visit(file, null);
  return found;
}

/** Before what stands on a line, which may be in the script of a look on the way to this one, or in a helper. */
function beforeLine(parsed: Parsed, lines: readonly string[], before: number): Edit[] {
  const { source } = parsed;
  const place = placeOn(parsed, before) ?? unclear(`No step begins on line ${before}.`);
  const [unknown] = place.script ? [] : used(lines, ['props', 'answers']);
  if (unknown) unclear(`“${unknown}” is not known on line ${before}, which is outside of a script.`);
  const context = place.script ? contextEdits(place.script, lines, source) : { edits: [], lines: [...lines] };
  const at = place.statement.getStart();
  const newline = source.includes('\r\n') ? '\r\n' : '\n';
  const text = context.lines.map((line) => line + newline + indentAt(source, at)).join('');
  return [...context.edits, { start: at, end: at, text }];
}

/** At the end of a script. */
function atEnd({ source, style }: Parsed, script: Script, lines: readonly string[]): Edit {
  const newline = source.includes('\r\n') ? '\r\n' : '\n';
  const { body } = script;
  if (!body || !compiler.isBlock(body)) return unclear('The script is one expression: put it in braces first.');
  const end = body.getEnd() - 1;
  const last = body.statements.at(-1);
  const outer = indentAt(source, body.getStart());
  const indent = last ? indentAt(source, last.getStart()) : outer + style.indent;
  const kept = source.slice(0, end).trimEnd().length;
  return { start: kept, end, text: `${lines.map((line) => newline + indent + line).join('')}${newline}${outer}` };
}

/** A script of its own, written at this indentation. */
function scriptText(lines: readonly string[], indent: string, { style, source }: Parsed): string {
  const newline = source.includes('\r\n') ? '\r\n' : '\n';
  const given = used(lines, ['props', 'answers']);
  const body = lines.map((line) => `${indent}${style.indent}${line}`).join(newline);
  return `async script(${given.length > 0 ? `{ ${given.join(', ')} }` : ''}) {${newline}${body}${newline}${indent}}`;
}

/** What a look of its own does not take over from the one that it begins as. */
const left = new Set(['script', 'each', 'most', 'only', 'skip']);

function asLook(parsed: Parsed, states: ts.ObjectLiteralExpression, keeping: KeepingLines, lines: string[]): Edit {
  const { source, style } = parsed;
  const newline = source.includes('\r\n') ? '\r\n' : '\n';
  const { look, as, from } = keeping;
  if (states.properties.some((one) => nameOf(one) === as)) unclear(`There is a look called “${as}” already.`);
  const first = states.properties[0];
  const outer = first ? indentAt(source, first.getStart()) : indentAt(source, states.getStart()) + style.indent;
  const inner = outer + style.indent;
  const others =
    from === 'end'
      ? [`after: ${quoted(look, style)}`]
      : stateOf(states, look)
          .properties.filter((entry) => !left.has(nameOf(entry) ?? ''))
          .map((entry) => entry.getText());
  const entries = [...others, scriptText(lines, inner, parsed)].map((entry) => `${inner}${entry},${newline}`);
  return appended(states, `${keyOf(as!, style)}: {${newline}${entries.join('')}${outer}}`, source, style.indent);
}

/** The edits that put lines into a look file. @throws Unclear */
export function keepLines(parsed: Parsed, keeping: KeepingLines): Edit[] {
  const { source, style } = parsed;
  const { look, as, before } = keeping;
  const lines = inStyle(keeping.lines, style);
  if (lines.length === 0) return unclear('There is nothing to keep: no line was written or done.');
  const states = statesIn(parsed);
  const imports = importEdits(parsed, lines);
  if (as !== null) return [...imports, asLook(parsed, states, keeping, lines)];
  if (before !== null) return [...imports, ...beforeLine(parsed, lines, before)];
  const state = stateOf(states, look);
  const entry = entryOf(state, 'script');
  if (!entry) {
    const outer = indentAt(source, state.getStart());
    const last = state.properties.at(-1);
    const isOnLines = last !== undefined && source.slice(state.getStart(), last.getStart()).includes('\n');
    const inner = isOnLines ? outer + style.indent : outer;
    return [...imports, appended(state, scriptText(lines, inner, parsed), source, style.indent)];
  }
  const script = scriptIn(entry) ?? unclear(`The script of “${look}” is not written out there.`);
  const context = contextEdits(script, lines, source);
  return [...imports, ...context.edits, atEnd(parsed, script, context.lines)];
}
