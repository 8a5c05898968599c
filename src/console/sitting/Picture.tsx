/** The page of a live look: what it shows, to be touched as if it were here. */
import { useRef, useState } from 'react';
import { Button } from '../parts/Button.tsx';
import { Waiting } from '../parts/Blank.tsx';
import { ChoiceList } from './ChoiceList.tsx';
import { useHands } from './useHands.ts';
import { usePicture } from './usePicture.ts';
import type { Sitting } from './useSitting.ts';

/** Said before somebody is handed a page that is not quite the one that was recorded. */
function Parted({ sitting, onAccept }: { sitting: Sitting; onAccept(): void }) {
  const { what, lines } = sitting.state.parted!;
  return (
    <div className="absolute inset-0 grid place-items-center bg-well/80 p-6">
      <section
        role="alert"
        aria-label="Not as recorded"
        className="max-w-[44rem] rounded-md border border-changed bg-sheet p-4 shadow-lg"
      >
        <h2 className="mb-1 font-semibold">≠ Not as recorded</h2>
        <p>{what}</p>
        {lines.length > 0 && (
          <pre className="mt-2 max-h-64 overflow-auto rounded-md border border-rule bg-well p-2 font-mono text-[11px]">
            {lines.join('\n')}
          </pre>
        )}
        <p className="mt-3 flex gap-2">
          <Button tone="strong" onClick={onAccept}>
            Use it as it is
          </Button>
          <Button onClick={sitting.end}>Close it</Button>
        </p>
      </section>
    </div>
  );
}

const sheet = 'max-h-full touch-none overflow-hidden rounded-md border border-rule bg-white';

export function Picture({ sitting }: { sitting: Sitting }) {
  const { id, phase, viewport, parted, look } = sitting.state;
  const canvas = useRef<HTMLCanvasElement>(null);
  const isThere = usePicture(id, phase === 'over', canvas);
  const [accepted, setAccepted] = useState<object | null>(null);
  const isAsking = parted !== null && accepted !== parted && phase === 'stopped';
  const hands = useHands(id, viewport, phase === 'stopped' && !isAsking, sitting.isPointing ? sitting.pointAt : null);
  const cursor = phase !== 'stopped' ? 'cursor-progress' : sitting.isPointing ? 'cursor-crosshair' : '';
  return (
    <div className="relative flex min-h-0 min-w-0 flex-col bg-well p-3">
      <div className="grid min-h-0 flex-1 place-items-start overflow-hidden p-1">
        <div
          role="application"
          aria-label={`The page of “${look}”. Keys go to it; Shift+Escape leaves it.`}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: keys go to the page that it shows
          tabIndex={0}
          style={{ aspectRatio: `${viewport[0]} / ${viewport[1]}`, maxWidth: `min(100%, ${viewport[0]}px)` }}
          className={`${sheet} ${cursor} ${phase === 'over' ? 'opacity-50 grayscale' : ''}`}
          {...hands}
        >
          <canvas ref={canvas} className="h-full w-full" />
        </div>
      </div>
      {!isThere && phase !== 'over' && (
        <div className="absolute inset-0">
          <Waiting what="Opening its page…" />
        </div>
      )}
      {sitting.state.choice && <ChoiceList sitting={sitting} />}
      {isAsking && <Parted sitting={sitting} onAccept={() => setAccepted(parted)} />}
    </div>
  );
}
