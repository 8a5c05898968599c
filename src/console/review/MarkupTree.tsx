/** How the markup differs, as a tree in which what is equal is folded. */
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { foldEqual, type MarkupRow } from '../../core/moment/markupRows.ts';
import { counted } from '../../core/text/counted.ts';
import { service } from '../data.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';

const signs = { both: ' ', baseline: '−', now: '+' } as const;
const tones = { both: 'text-soft', baseline: 'bg-failed/8 text-failed', now: 'bg-passed/8 text-passed' } as const;

const Line = ({ row: { side, depth, text } }: { row: MarkupRow }) => (
  <li className={`flex whitespace-pre ${tones[side]}`}>
    <span className="w-4 shrink-0 select-none">{signs[side]}</span>
    <span style={{ paddingLeft: `${depth * 1.2}em` }}>{text}</span>
  </li>
);

function Fold({ rows }: { rows: readonly MarkupRow[] }) {
  const [isOpen, setOpen] = useState(false);
  if (isOpen) return rows.map((row, i) => <Line key={i} row={row} />);
  return (
    <li>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="w-full pl-4 text-left text-soft hover:text-accent"
        style={{ paddingLeft: `${1.3 + rows[0]!.depth * 1.2}em` }}
      >
        … {counted(rows.length, 'equal line')}
      </button>
    </li>
  );
}

export function MarkupTree({ result, capture }: { result: number; capture: string }) {
  const markup = useQuery({
    queryKey: ['markup', result, capture],
    queryFn: () => service.markup(result, capture),
  });
  const rows = useMemo(() => foldEqual(markup.data ?? []), [markup.data]);
  if (markup.isPending) return <Waiting what="Fetching the markup…" />;
  if (markup.isError) return <Trouble error={markup.error} />;
  const isEqual = markup.data.every(({ side }) => side === 'both');
  return (
    <div className="h-full overflow-auto rounded-md border border-rule bg-sheet p-2">
      {isEqual && <p className="mb-1 text-soft">The markup is the same.</p>}
      <ul className="w-max min-w-full font-mono text-[11.5px] leading-[1.45]">
        {rows.map((row, i) => (row.side === 'fold' ? <Fold key={i} rows={row.rows} /> : <Line key={i} row={row} />))}
      </ul>
    </div>
  );
}
