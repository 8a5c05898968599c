/** One source: which of its lines are run, by which looks, and what of it no look reaches. */
import { useQuery } from '@tanstack/react-query';
import { useAddress } from '../useAddress.ts';
import { coverageKinds, type FileLines, type LineCoverage, percentText } from '../../core/coverage/report.ts';
import { service } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';
import { LineFacts } from './LineFacts.tsx';
import { Lines } from './Lines.tsx';

export function SourceView({ path, run }: { path: string; run: number | undefined }) {
  const source = useQuery({
    queryKey: ['coverage', run ?? null, path],
    queryFn: () => service.coverageOf(path, run),
  });
  if (source.isPending) return <Waiting what={`Reading ${path}…`} />;
  if (source.isError) return <Trouble error={source.error} />;
  return <Source source={source.data} />;
}

/** A line that wants a look: it is not run, or not all of it. */
const isOpen = ({ count, missing }: LineCoverage): boolean => count === 0 || missing.length > 0;

function Source({ source }: { source: FileLines }) {
  const [query, set] = useAddress();
  const open = source.lines.filter(isOpen);
  const wanted = Number(query.get('line'));
  const chosen = wanted || (open[0]?.line ?? 1);
  const choose = (line: number): void => set({ line: String(line) });
  const next = (): void => {
    const found = open.find(({ line }) => line > chosen) ?? open[0];
    if (found) choose(found.line);
  };
  const before = (): void => {
    const found = open.findLast(({ line }) => line < chosen) ?? open.at(-1);
    if (found) choose(found.line);
  };
  useKeys({ n: next, p: before });
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      <div className="flex h-10 shrink-0 items-center gap-4 border-b border-rule px-4">
        <h2 className="truncate font-semibold">{source.path}</h2>
        {coverageKinds.map((kind) => (
          <span key={kind} className="whitespace-nowrap text-soft tabular-nums">
            {percentText(source.parts[kind])} {kind}
          </span>
        ))}
        <span className="flex-1" />
        {open.length > 0 && (
          <span className="whitespace-nowrap text-soft">
            <kbd>n</kbd> <kbd>p</kbd> next, previous gap
          </span>
        )}
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[1fr_minmax(240px,22vw)]">
        <Lines source={source} chosen={chosen} onChoose={choose} />
        <LineFacts source={source} line={chosen} onLine={choose} />
      </div>
    </div>
  );
}
