/** What went wrong with looks, as diagnostics of the lines where it did. */
import { type Diagnostic, DiagnosticSeverity, type Range } from 'vscode-languageserver';
import { isWrong, placeOf, reasonOf } from '../core/report/report.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { looksIn } from './lookFile.ts';
import { type Lines, linesOf } from './lines.ts';

/** What quick fixes need of a diagnostic. */
export type Cause = {
  component: string;
  look: string;
  code: string;
  found: string[];
  remedy: string;
  verdict: ResultSummary['verdict'];
};

/** A file of the project with the diagnostics that it has. */
export type FileDiagnostics = { file: string; diagnostics: Diagnostic[] };

/** The part of a line that is not white space. */
function rangeOfLine({ lines }: Lines, line: number): Range {
  const text = lines[line - 1] ?? '';
  const start = text.length - text.trimStart().length;
  return {
    start: { line: line - 1, character: start },
    end: { line: line - 1, character: Math.max(start + 1, text.trimEnd().length) },
  };
}

/** Where a look's name stands; the first line where it is not written out. */
function rangeOfLook(text: string, { look }: ResultSummary): Range {
  const lines = linesOf(text);
  const written = looksIn(text).find(({ name }) => name === look);
  return written ? lines.range(written.key) : rangeOfLine(lines, 1);
}

/** The message of a problem: what was expected, what was there instead, what to do. */
function messageOf(result: ResultSummary, environments: readonly string[]): string {
  const { problem, look } = result;
  const lines = [
    `${look}, ${environments.join(', ')}: ${problem?.message ?? reasonOf(result)}`,
    ...(problem?.found ?? []).map((found) => `instead: ${found}`),
    ...(problem ? [`→ ${problem.remedy}`] : ['→ Review what changed on the console, or: sguardo review']),
  ];
  return lines.join('\n');
}

/**
 * The diagnostics of some results, by the files where they stand. Results that went wrong in the same way in several
 * environments are reported once. `textOf` gives what a file holds; null when it cannot be read.
 */
export function diagnosticsOf(
  results: readonly ResultSummary[],
  textOf: (file: string) => string | null,
  linkOf: (result: ResultSummary) => string,
): Map<string, Diagnostic[]> {
  const alike = new Map<string, ResultSummary[]>();
  for (const result of results) {
    if (!isWrong(result, false)) continue;
    const { component, look, verdict, problem } = result;
    const key = JSON.stringify([component, look, verdict, problem?.message, problem?.place]);
    alike.set(key, [...(alike.get(key) ?? []), result]);
  }
  const found = new Map<string, Diagnostic[]>();
  for (const same of alike.values()) {
    const result = same[0]!;
    const { file, line } = placeOf(result);
    const text = textOf(file) ?? '';
    const { problem, component, look, verdict } = result;
    const cause: Cause = {
      component,
      look,
      code: problem?.code ?? verdict,
      found: problem?.found ?? [],
      remedy: problem?.remedy ?? '',
      verdict,
    };
    const diagnostic: Diagnostic = {
      range: line === null ? rangeOfLook(text, result) : rangeOfLine(linesOf(text), line),
      severity: verdict === 'changed' ? DiagnosticSeverity.Warning : DiagnosticSeverity.Error,
      source: 'sguardo',
      code: cause.code,
      codeDescription: { href: linkOf(result) },
      message: messageOf(result, [...new Set(same.map(({ environment }) => environment))]),
      data: cause,
    };
    found.set(file, [...(found.get(file) ?? []), diagnostic]);
  }
  return found;
}
