/** A live look: its page to be touched, its script to be stopped and let go on, and lines to be tried on it. */
import { useEffect, useRef } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import type { SittingState } from '../../core/sitting/sitting.ts';
import { useKeys } from '../keys.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';
import { Element } from '../parts/Element.tsx';
import { ProblemCard } from '../parts/ProblemCard.tsx';
import { Bar } from './Bar.tsx';
import { Lines } from './Lines.tsx';
import { Picture } from './Picture.tsx';
import { Steps } from './Steps.tsx';
import { useSitting, useSittingState } from './useSitting.ts';
import { useTitle } from '../title.ts';
import { lookTitle } from '../../core/look/look.ts';

export function Live() {
  const id = Number(useParams().id);
  const state = useSittingState(id);
  if (state.isError) return <Trouble error={state.error} />;
  if (state.isPending) return <Waiting what="Looking for the live look…" />;
  return <Attended key={id} state={state.data} />;
}

/** The element pointed at is as high as it is, script and tries share the rest. */
const threeRows = 'grid-rows-[auto_minmax(0,1fr)_minmax(0,1fr)]';

function Attended({ state }: { state: SittingState }) {
  useTitle(`Live: ${lookTitle(state.component, state.look)}`);
  const sitting = useSitting(state);
  const navigate = useNavigate();
  const { phase, stop, problem, isTimeRunning, isRecording } = state;
  const mayGo = phase === 'stopped' && stop?.why !== 'end';
  const isStopped = phase === 'stopped';
  useKeys({
    g: () => mayGo && sitting.go(),
    o: () => mayGo && sitting.go({ go: 'over' }),
    i: () => mayGo && sitting.go({ go: 'into' }),
    e: () => isStopped && sitting.setPointing(!sitting.isPointing),
    m: () => isStopped && sitting.setTime(!isTimeRunning),
    w: () => isStopped && sitting.setRecording(!isRecording),
    l: () => document.querySelector<HTMLElement>('[aria-label="A line to try"]')?.focus(),
    p: () => document.querySelector<HTMLElement>('[role=application]')?.focus(),
    Escape: () => (sitting.isPointing ? sitting.setPointing(false) : void navigate('/')),
  });
  const [query] = useSearchParams();
  const isWanted = query.get('write') === 'yes';
  const hasBegun = useRef(false);
  const { setRecording } = sitting;
  useEffect(() => {
    if (!isWanted || !isStopped || hasBegun.current) return;
    hasBegun.current = true;
    setRecording(true);
  }, [isWanted, isStopped, setRecording]);
  const wrong = sitting.problem ?? stop?.problem ?? problem;
  return (
    <div className="flex h-full flex-col">
      <Bar sitting={sitting} />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_420px]">
        <Picture sitting={sitting} />
        <div className={`grid min-h-0 grid-cols-1 ${threeRows} border-l border-rule bg-sheet`}>
          <div className="max-h-[46vh] overflow-y-auto">
            {sitting.pointed && <Element pointed={sitting.pointed} onClose={sitting.forgetPointed} />}
            {wrong && (
              <div className="p-2">
                <ProblemCard problem={wrong} />
              </div>
            )}
          </div>
          <Steps sitting={sitting} />
          <Lines sitting={sitting} />
        </div>
      </div>
    </div>
  );
}
