/** Which look of which run is on the bench, and the way to others. */
import { Link, useNavigate } from 'react-router';
import { shortName } from '../../core/look/look.ts';
import { isUndecided, type ResultSummary, standing } from '../../core/run/run.ts';
import { Button } from '../parts/Button.tsx';
import { Verdict } from '../parts/Verdict.tsx';
import type { Desk } from './useDesk.ts';

export function Header({ result, desk }: { result: ResultSummary; desk: Desk }) {
  const navigate = useNavigate();
  const { previous, next, newer, open } = desk;
  const component = shortName(result.component);
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
      <Link to="/" className="text-soft hover:text-ink" title="Back to the board (Esc)">
        Board
      </Link>
      <span className="text-rule">/</span>
      <Link to={`/?q=${encodeURIComponent(component)}`} className="text-soft hover:text-ink">
        {component}
      </Link>
      <span className="text-rule">/</span>
      <h1 className="truncate text-[14px] font-semibold">{result.look}</h1>
      <Verdict verdict={standing(result)} />
      <span className="text-soft">
        {result.environment} · run {result.run}
        {result.orderDependent ? ' · depends on what ran before it' : ''}
        {result.isUnsteady ? ' · unsteady' : ''}
      </span>
      {newer && <Button onClick={() => open(newer)}>Newer run available</Button>}
      <span className="flex-1" />
      {result.captures.some(isUndecided) && (
        <Button onClick={() => void navigate(`/review?result=${result.id}`)}>Review captures</Button>
      )}
      <Button onClick={desk.toStage} title="Use this look as a live page (s)">
        Stage <kbd>s</kbd>
      </Button>
      <Button onClick={() => open(previous)} disabled={!previous} title="Previous look (p)">
        ↑ <kbd>p</kbd>
      </Button>
      <Button onClick={() => open(next)} disabled={!next} title="Next look (n)">
        ↓ <kbd>n</kbd>
      </Button>
    </div>
  );
}
