/** Quick fixes: what can be written in place of what went wrong. */
import { type CodeAction, CodeActionKind, type Diagnostic, type TextEdit } from 'vscode-languageserver';
import { nearest } from '../core/text/nearest.ts';
import type { Cause } from './diagnostics.ts';
import { linesOf } from './lines.ts';
import { looksIn, targetAt } from './lookFile.ts';
import { quoted } from './quoted.ts';

/** What was found instead, as a target: it is written as one, or as `button “Release berth”`. */
function targetOf(found: string): string | null {
  const code = /^the\.\w+\(.*\)$/.exec(found.trim());
  if (code) return code[0];
  const said = /^([a-z]+) “([^”]+)”/.exec(found.trim());
  return said ? `the.${said[1]}(${quoted(said[2]!)})` : null;
}

type Fix = { title: string; edits: TextEdit[]; isBest?: boolean };

/** Targets in place of one that nothing, or too much, matched. */
function otherTargets(text: string, { range }: Diagnostic, { found }: Cause): Fix[] {
  const lines = linesOf(text);
  const line = lines.lines[range.start.line] ?? '';
  const at = lines.offset({ line: range.start.line, character: Math.max(0, line.indexOf('the.')) });
  const written = line.includes('the.') ? targetAt(text, at + 1) : null;
  if (!written) return [];
  const targets = [...new Set(found.map(targetOf).filter((one) => one !== null))];
  const now = text.slice(...written.span);
  const best = nearest(now, targets) ?? targets[0];
  return targets
    .filter((one) => one !== now)
    .slice(0, 5)
    .map((one) => ({
      title: `Use ${one}`,
      edits: [{ range: lines.range(written.span), newText: one }],
      isBest: one === best,
    }));
}

/** `await` before a step that the script did not wait for. */
function awaited(text: string, { range }: Diagnostic): Fix[] {
  const lines = linesOf(text);
  const { line, character } = range.start;
  if (/^\s*(await|return)\b/.test(lines.lines[line] ?? '')) return [];
  return [
    {
      title: 'Add await',
      edits: [{ range: { start: { line, character }, end: { line, character } }, newText: 'await ' }],
      isBest: true,
    },
  ];
}

/** The answer that a request wants, in its look. */
function answered(text: string, { look, remedy }: Cause): Fix[] {
  const said = /answers: \{ ('[^']*'|"[^"]*"): (\{.*\}) \}/.exec(remedy);
  const written = looksIn(text).find(({ name }) => name === look);
  if (!said || !written || text[written.body[0]] !== '{') return [];
  const [, route, reply] = said;
  const body = text.slice(...written.body);
  const before = /\banswers:\s*\{/.exec(body);
  const lines = linesOf(text);
  const indent = /^\s*/.exec(lines.lines[lines.position(written.key[0]).line]!)![0];
  const value = reply!.replaceAll('…', '{}');
  const at = written.body[0] + (before ? before.index + before[0].length : 1);
  const newText = before ? ` ${route}: ${value},` : `\n${indent}  answers: { ${route}: ${value} },`;
  return [{ title: `Answer ${route}`, edits: [{ range: lines.range([at, at]), newText }], isBest: true }];
}

/** Fixes of one diagnostic: edits of its file, and what the service can do about it. */
export function fixesOf(uri: string, text: string, diagnostic: Diagnostic): CodeAction[] {
  const cause = diagnostic.data as Cause | undefined;
  if (!cause) return [];
  const fixes: Fix[] = [];
  if (/^target-(missing|ambiguous|hidden)$/.test(cause.code)) fixes.push(...otherTargets(text, diagnostic, cause));
  if (cause.code === 'step-unfinished') fixes.push(...awaited(text, diagnostic));
  if (cause.code === 'request-unanswered') fixes.push(...answered(text, cause));
  const actions = fixes.map(
    ({ title, edits, isBest = false }): CodeAction => ({
      title,
      kind: CodeActionKind.QuickFix,
      diagnostics: [diagnostic],
      isPreferred: isBest,
      edit: { changes: { [uri]: edits } },
    }),
  );
  if (cause.verdict !== 'changed') return actions;
  const { component, look } = cause;
  const title = `Approve “${look}” as it is now`;
  return [
    ...actions,
    {
      title,
      kind: CodeActionKind.QuickFix,
      diagnostics: [diagnostic],
      command: { title, command: 'sguardo.approve', arguments: [{ component, look, uri }] },
    },
  ];
}
