/** What the looks run of the project's sources: every source with its share, and one of them line by line. */
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { useAddress } from '../useAddress.ts';
import { type CoverageReport, type FileCoverage, percentOf } from '../../core/coverage/report.ts';
import { ProblemError } from '../../core/problem/problem.ts';
import { service, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { site } from '../site.ts';
import { Files } from './Files.tsx';
import { SourceView } from './SourceView.tsx';
import { useTitle } from '../title.ts';

/** Sources with least lines covered first; those that are covered as a whole come last, by their paths. */
export const worstFirst = (files: readonly FileCoverage[]): FileCoverage[] =>
  files.toSorted(
    (a, b) =>
      percentOf(a.lines) - percentOf(b.lines) ||
      percentOf(a.branches) - percentOf(b.branches) ||
      (a.path < b.path ? -1 : 1),
  );

export function Coverage() {
  useTitle('Coverage');
  const [query] = useSearchParams();
  const run = Number(query.get('run')) || undefined;
  const report = useQuery({
    queryKey: ['coverage', run ?? null],
    queryFn: () => service.coverage(run),
    retry: false,
  });
  const start = useStart();
  if (report.isPending) return <Waiting what="Reading what was run…" />;
  if (report.isError) {
    if (site) return <Blank title="Coverage was not counted">Run looks with coverage before they are published.</Blank>;
    if (!(report.error instanceof ProblemError) || report.error.problem.code !== 'coverage-none')
      return <Trouble error={report.error} />;
    return (
      <Blank title="Nothing has been counted yet">
        <p className="mb-3">Coverage shows which lines, branches and functions your looks run, and which none does.</p>
        <Button tone="strong" onClick={() => start({ coverage: true })}>
          Run all looks with coverage
        </Button>
      </Blank>
    );
  }
  if (report.data.files.length === 0)
    return (
      <Blank title="No source counts">
        Nothing in the project matches <code className="font-mono">coverage.include</code> of sguardo.config.ts.
      </Blank>
    );
  return <Desk report={report.data} run={run} />;
}

function Desk({ report, run }: { report: CoverageReport; run: number | undefined }) {
  const [query, set] = useAddress();
  const files = worstFirst(report.files);
  const chosen = files.find(({ path }) => path === query.get('file')) ?? files[0]!;
  const choose = (path: string): void => set({ file: path, line: null });
  const move = (by: number): void => {
    const next = files[files.indexOf(chosen) + by];
    if (next) choose(next.path);
  };
  useKeys({ ArrowDown: () => move(1), ArrowUp: () => move(-1) });
  return (
    <div className="grid h-full grid-cols-[minmax(300px,30vw)_1fr]">
      <Files report={report} files={files} chosen={chosen.path} onChoose={choose} />
      <SourceView key={chosen.path} path={chosen.path} run={run} />
    </div>
  );
}
