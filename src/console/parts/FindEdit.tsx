/** The edit behind a change or a failure, looked for when somebody asks: the look is run again for it. */
import { useQuery } from '@tanstack/react-query';
import type { FoundEdit } from '../../core/cause/found.ts';
import { service } from '../data.ts';
import { site } from '../site.ts';
import { Button } from './Button.tsx';
import { FoundEditCard } from './FoundEditCard.tsx';
import { Wrong } from './Wrong.tsx';

type Props = {
  result: number;
  /** Null for a look that fails. */
  capture: string | null;
  /** Which of what was found it is about. */
  pick(edits: readonly FoundEdit[]): FoundEdit | undefined;
};

export function FindEdit({ result, capture, pick }: Props) {
  const edits = useQuery({
    queryKey: ['edits', result, capture],
    queryFn: () => service.edits(result, capture),
    enabled: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  // It is found by running, which nothing does on a site.
  if (site) return null;
  if (edits.isFetching) return <p className="text-soft">Running the look without each edit…</p>;
  if (edits.isError) return <Wrong error={edits.error} />;
  if (!edits.data)
    return (
      <Button onClick={() => void edits.refetch()} title="Run the look without each edit since it was as it should be">
        Find the edit
      </Button>
    );
  const found = pick(edits.data.edits);
  return found ? (
    <FoundEditCard found={found} />
  ) : (
    <p className="text-soft">{edits.data.note ?? 'No edit was found.'}</p>
  );
}
