/** A run as JUnit XML: a suite for each component in each environment, a case for each look. */
import type { ResultSummary } from '../run/run.ts';
import { inMarkup } from '../text/inMarkup.ts';
import { isWrong, placeIn, reasonOf, type ReportData } from './report.ts';

/** What XML 1.0 cannot hold: most control characters, halves of surrogate pairs, and two non-characters. */
const unwritable = /(?![\t\n\r])[\p{Cc}\p{Cs}\ufffe\uffff]/gu;

/** Text as XML writes it. */
const xml = (text: string): string => inMarkup(text.replace(unwritable, '�')).replaceAll('\n', '&#10;');

const attributes = (values: Record<string, string | number>): string =>
  Object.entries(values)
    .map(([name, value]) => ` ${name}="${xml(String(value))}"`)
    .join('');

const seconds = (milliseconds: number): string => (milliseconds / 1000).toFixed(3);

function bodyOf(result: ResultSummary, data: ReportData): string {
  const { isStrict, linkOf } = data;
  if (!isWrong(result, isStrict)) return '';
  const { problem, verdict } = result;
  const { file, line } = placeIn(data, result);
  const lines = [
    problem?.message ?? reasonOf(result),
    ...(problem?.found ?? []),
    `${file}${line === null ? '' : `:${line}`}`,
    ...(problem?.frame ? [problem.frame] : []),
    ...(problem ? [problem.remedy] : []),
    linkOf(result),
  ];
  const kind = verdict === 'broken' ? 'error' : 'failure';
  const about = attributes({ message: reasonOf(result), type: problem?.code ?? verdict });
  return `      <${kind}${about}>${xml(lines.join('\n')).replaceAll('&#10;', '\n')}</${kind}>\n`;
}

function caseOf(result: ResultSummary, data: ReportData): string {
  const name = result.repetition > 1 ? `${result.look} (${result.repetition})` : result.look;
  const { file, line } = placeIn(data, result);
  const about = attributes({
    name,
    classname: `${result.component}.${result.environment}`,
    time: seconds(result.took),
    file,
    ...(line !== null && { line }),
  });
  const body = bodyOf(result, data);
  return body === '' ? `    <testcase${about}/>\n` : `    <testcase${about}>\n${body}    </testcase>\n`;
}

const count = (results: readonly ResultSummary[], is: (result: ResultSummary) => boolean): number =>
  results.filter(is).length;

function tallyOf(results: readonly ResultSummary[], skipped: number, isStrict: boolean) {
  const isBroken = ({ verdict }: ResultSummary): boolean => verdict === 'broken';
  return {
    tests: results.length + skipped,
    failures: count(results, (one) => isWrong(one, isStrict) && !isBroken(one)),
    errors: count(results, isBroken),
    skipped,
    time: seconds(results.reduce((sum, { took }) => sum + took, 0)),
  };
}

export function junitOf(data: ReportData): string {
  const { run, results, isStrict } = data;
  const suites = new Map<string, ResultSummary[]>();
  for (const result of results) {
    const name = `${result.component} (${result.environment})`;
    suites.set(name, [...(suites.get(name) ?? []), result]);
  }
  const written = [...suites].map(([name, own]) => {
    const about = attributes({ name, ...tallyOf(own, 0, isStrict), timestamp: run.started });
    return `  <testsuite${about}>\n${own.map((result) => caseOf(result, data)).join('')}  </testsuite>\n`;
  });
  const left = run.skipped.map(({ component, look, why }) => {
    const about = attributes({ name: look, classname: component, time: '0.000' });
    return `    <testcase${about}>\n      <skipped${attributes({ message: why })}/>\n    </testcase>\n`;
  });
  if (left.length > 0) {
    const about = attributes({ name: 'skipped', ...tallyOf([], left.length, isStrict), timestamp: run.started });
    written.push(`  <testsuite${about}>\n${left.join('')}  </testsuite>\n`);
  }
  const about = attributes({ name: data.project, ...tallyOf(results, left.length, isStrict) });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<testsuites${about}>\n${written.join('')}</testsuites>\n`;
}
