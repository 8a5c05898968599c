/** A run as Markdown, short enough for a comment: what is wrong, by cause where there is one, with pictures by link. */
import type { CauseList } from '../cause/cluster.ts';
import { addParts, type CoverageReport, coverageKinds, percentText, shortfallText } from '../coverage/report.ts';
import type { ResultSummary } from '../run/run.ts';
import { verdicts } from '../run/verdict.ts';
import { counted } from '../text/counted.ts';
import { isWrong, placeIn, reasonOf, type ReportData, titleOf } from './report.ts';

/** At most this many failures and causes are listed; the rest is a number. */
const most = 20;

/** Text of people and pages that means nothing in Markdown or HTML. */
const plain = (text: string): string =>
  text
    .replace(/\s+/g, ' ')
    .replace(/[\\`*_{}[\]()#+!|<>~@&]/g, (found) => `&#${found.charCodeAt(0)};`)
    .slice(0, 600);

const more = (all: number): string[] => (all > most ? [`- … and ${all - most} more`] : []);

function failures(results: readonly ResultSummary[], data: ReportData): string[] {
  if (results.length === 0) return [];
  const lines = results.slice(0, most).map((result) => {
    const { file, line } = placeIn(data, result);
    const where = `${file}${line === null ? '' : `:${line}`}`;
    const title = `**${plain(titleOf(result))}** [${result.verdict}](${data.linkOf(result)})`;
    return `- ${title} · ${plain(where)}<br>${plain(reasonOf(result))}`;
  });
  return ['', '#### Looks that did not pass', '', ...lines, ...more(results.length)];
}

function changes(results: readonly ResultSummary[], { linkOf, pictureOf }: ReportData): string[] {
  if (results.length === 0) return [];
  const rows = results.slice(0, most).flatMap((result) =>
    result.captures
      .filter(({ state }) => state.kind === 'changed')
      .map(({ name, hash, baseline, difference }) => {
        const pictures = { baseline, now: hash, difference };
        const links = Object.entries(pictures).flatMap(([words, picture]) => {
          const address = picture && pictureOf(picture);
          return address ? [`[${words}](${address})`] : [];
        });
        const title = `[${plain(titleOf(result))}](${linkOf(result)})${name === 'end' ? '' : `, ${plain(name)}`}`;
        return `| ${title} | ${links.join(' · ') || 'see there'} |`;
      }),
  );
  return [
    '',
    '#### Captures that changed',
    '',
    '| capture | pictures |',
    '| --- | --- |',
    ...rows,
    ...more(results.length),
  ];
}

function causesOf({ causes }: CauseList): string[] {
  const told = causes.filter(({ kind }) => kind !== 'failed');
  if (told.length === 0) return [];
  const lines = told
    .slice(0, most)
    .map(({ title, captures }) => `- ${plain(title)}: ${counted(captures.length, 'capture')}`);
  return ['', '#### Why', '', ...lines, ...more(told.length)];
}

function coverageOf(report: CoverageReport): string[] {
  const total = addParts(report.files);
  const shares = coverageKinds.map((kind) => `${percentText(total[kind])} of ${kind}`).join(', ');
  const short = report.shortfalls.map((one) => `- ✗ ${plain(shortfallText(one))}`);
  return ['', `Coverage: ${shares}.`, ...(short.length > 0 ? ['', ...short] : [])];
}

export type MarkdownParts = { causes: CauseList | null; coverage: CoverageReport | null };

export function markdownOf(data: ReportData, { causes, coverage }: MarkdownParts): string {
  const { run, results, isStrict } = data;
  const wrong = results.filter((result) => isWrong(result, isStrict));
  const tally = verdicts
    .filter((verdict) => run.tally[verdict] > 0)
    .map((verdict) => `${run.tally[verdict]} ${verdict}`);
  const isGood = wrong.length === 0 && run.problems.length === 0 && (coverage?.shortfalls.length ?? 0) === 0;
  const at = run.commit === null ? '' : ` at ${run.commit}`;
  const lines = [
    `### ${isGood ? '✓' : '✗'} ${plain(data.project)}: ${tally.join(', ') || 'no looks'}${at}`,
    ...run.problems.flatMap((problem) => ['', `✗ ${plain(problem.message)} ${plain(problem.remedy)}`]),
    ...failures(
      wrong.filter(({ verdict }) => verdict !== 'changed'),
      data,
    ),
    ...changes(
      wrong.filter(({ verdict }) => verdict === 'changed'),
      data,
    ),
    ...(causes ? causesOf(causes) : []),
    ...(coverage ? coverageOf(coverage) : []),
  ];
  return `${lines.join('\n')}\n`;
}
