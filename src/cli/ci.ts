/** Logs of machines that nobody looks at while they grow: a line for what went wrong, the rest folded away. */
import type { ResultSummary } from '../core/run/run.ts';
import { placeOf, reasonOf, titleOf } from '../core/report/report.ts';

/** Nobody sits before the terminal: every maker of such machines says so in this variable, some of them with a 1. */
export const isCi = !['', '0', 'false'].includes(process.env.CI ?? '');

/** How a log folds lines away, and how it marks a line of a file. */
export type Log = {
  open(title: string): string | null;
  close(): string | null;
  /** Shows a failure beside its line of the source, where the log's place can; `own` is the line of the look. */
  mark(result: ResultSummary, own: number | null): string | null;
};

/** Text within a workflow command of GitHub Actions. */
const forGithub = (text: string): string =>
  text
    .replaceAll('%', '%25')
    .replaceAll('\r', '%0D')
    .replaceAll('\n', '%0A')
    .replaceAll(':', '%3A')
    .replaceAll(',', '%2C');

/** Where a failure lies; where nothing says so, at its look. */
function placedAt(result: ResultSummary, own: number | null): { file: string; line: number | null } {
  const { file, line } = placeOf(result);
  return { file, line: line ?? own };
}

const github: Log = {
  open: (title) => `::group::${title}`,
  close: () => '::endgroup::',
  mark(result, own) {
    const { file, line } = placedAt(result, own);
    const at = `file=${forGithub(file)}${line === null ? '' : `,line=${line}`},title=${forGithub(titleOf(result))}`;
    return `::error ${at}::${forGithub(reasonOf(result))}`;
  },
};

const seconds = (): number => Math.floor(Date.now() / 1000);

const gitlab: Log = {
  open: (title) => `\u001b[0Ksection_start:${seconds()}:sguardo[collapsed=true]\r\u001b[0K${title}`,
  close: () => `\u001b[0Ksection_end:${seconds()}:sguardo\r\u001b[0K`,
  mark: () => null,
};

const plain: Log = { open: () => null, close: () => null, mark: () => null };

/** The log that this process writes to, by the variables that its makers set. */
export function logOf(env: NodeJS.ProcessEnv): Log {
  if (env.GITHUB_ACTIONS === 'true') return github;
  return env.GITLAB_CI === 'true' ? gitlab : plain;
}

/** A failure on one line, beginning with its place: `src/BerthCard.look.tsx:42 …`. */
export function failureLine(result: ResultSummary, own: number | null): string {
  const { file, line } = placedAt(result, own);
  return `${file}${line === null ? '' : `:${line}`}: ${result.verdict}: ${titleOf(result)}: ${reasonOf(result)}`;
}
