/** Which look of which run is on the bench, and the way to others. */
import { useNavigate } from 'react-router';
import { isUndecided, type ResultSummary, standing } from '../../core/run/run.ts';
import { Button } from '../parts/Button.tsx';
import { Crumbs } from '../parts/Crumbs.tsx';
import { Verdict } from '../parts/Verdict.tsx';
import { site } from '../site.ts';
import type { Desk } from './useDesk.ts';

/** Who has rejected what it shows, and who is to fix that. */
function Rejected({ result: { captures } }: { result: ResultSummary }) {
  const found = captures.find(({ decision }) => decision?.stands && decision.kind === 'reject')?.decision;
  if (!found) return null;
  const { who, why, fixer } = found;
  return (
    <span className="truncate text-failed" title={why ?? undefined}>
      ✗ Rejected by {who}
      {why && `: “${why}”`}
      {fixer && `, to be fixed by ${fixer}`}
    </span>
  );
}

export function Header({ result, desk }: { result: ResultSummary; desk: Desk }) {
  const navigate = useNavigate();
  const { previous, next, newer, open } = desk;
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
      <Crumbs component={result.component} />
      <h1 className="truncate text-[14px] font-semibold">{result.look}</h1>
      <Verdict verdict={standing(result)} />
      <span className="text-soft">
        {result.environment} · run {result.run}
        {result.orderDependent ? ' · depends on what ran before it' : ''}
        {result.isUnsteady ? ' · unsteady' : ''}
      </span>
      <Rejected result={result} />
      {newer && <Button onClick={() => open(newer)}>Newer run available</Button>}
      <span className="flex-1" />
      {!site && result.captures.some(isUndecided) && (
        <Button onClick={() => void navigate(`/review?result=${result.id}`)}>Review captures</Button>
      )}
      {!site && <LiveButtons desk={desk} />}
      <Button
        onClick={() => open(previous)}
        disabled={!previous}
        title="Previous look (p)"
        aria-label="Previous look"
        shortcut="p"
      >
        ↑
      </Button>
      <Button onClick={() => open(next)} disabled={!next} title="Next look (n)" aria-label="Next look" shortcut="n">
        ↓
      </Button>
    </div>
  );
}

/** Ways to use the page as it was. */
function LiveButtons({ desk }: { desk: Desk }) {
  return (
    <>
      <Button onClick={desk.goLive} title="Run it again up to here, and use the page as it was (l)" shortcut="l">
        Go live
      </Button>
      <Button onClick={desk.point} title="Choose an element of the page as it was here (e)" shortcut="e">
        Point
      </Button>
      <Button onClick={desk.toStage} title="Use this look as a live page (s)" shortcut="s">
        Stage
      </Button>
    </>
  );
}
