/** A capture and its baseline in one place: one over the other, or one after the other. */
import { Slider } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { CaptureSummary } from '../../core/run/run.ts';
import { service } from '../data.ts';
import { useRoom } from './useRoom.ts';

/** How large the baseline is. */
export const sizeBefore = ({ state, width, height }: CaptureSummary): [number, number] =>
  state.kind === 'changed' && state.picture ? state.picture.from : [width, height];

/** How large both pictures are drawn, so that they fit and keep one scale. */
function useFit(capture: CaptureSummary): {
  area: React.RefObject<HTMLDivElement | null>;
  width: number;
  height: number;
  scale: number;
} {
  const { area, size } = useRoom();
  const from = sizeBefore(capture);
  const width = Math.max(capture.width, from[0]);
  const height = Math.max(capture.height, from[1]);
  return { area, width, height, scale: Math.min(1, size[0] / width, size[1] / height) };
}

function Pair({ capture, clip, scale }: { capture: CaptureSummary; clip: string; scale: number }) {
  const from = sizeBefore(capture);
  return (
    <>
      <img
        src={service.pictureUrl(capture.baseline!)}
        alt="Baseline"
        className="absolute top-0 left-0 max-w-none"
        style={{ width: from[0] * scale }}
      />
      <img
        src={service.pictureUrl(capture.hash)}
        alt="Now"
        className="absolute top-0 left-0 max-w-none"
        style={{ width: capture.width * scale, clipPath: clip }}
      />
    </>
  );
}

export function Over({ capture }: { capture: CaptureSummary }) {
  const [at, setAt] = useState(50);
  const { area, width, height, scale } = useFit(capture);
  const edge = (width * scale * at) / 100;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-6 shrink-0 items-center gap-3 text-[11.5px] text-soft">
        <span>Baseline on the left of the line</span>
        <Slider.Root
          className="relative flex h-5 w-64 touch-none items-center"
          value={[at]}
          onValueChange={([value]) => setAt(value!)}
          max={100}
          step={0.5}
        >
          <Slider.Track className="relative h-1 flex-1 rounded-full bg-rule" />
          <Slider.Thumb
            className="block size-4 rounded-full border-2 border-accent bg-sheet"
            aria-label="Position of the line"
          />
        </Slider.Root>
        <span>now on its right</span>
      </div>
      <div ref={area} className="min-h-0 flex-1 overflow-hidden">
        <div
          className="checks relative mx-auto rounded-md border border-rule"
          style={{ width: width * scale, height: height * scale }}
          onPointerMove={(event) =>
            event.buttons === 1 &&
            setAt(
              Math.max(
                0,
                Math.min(
                  100,
                  ((event.clientX - event.currentTarget.getBoundingClientRect().left) / (width * scale)) * 100,
                ),
              ),
            )
          }
        >
          <Pair capture={capture} clip={`inset(0 0 0 ${edge}px)`} scale={scale} />
          <span className="absolute top-0 bottom-0 w-0.5 bg-accent" style={{ left: edge - 1 }} />
        </div>
      </div>
    </div>
  );
}

export function Flicker({ capture }: { capture: CaptureSummary }) {
  const [now, setNow] = useState(true);
  const { area, width, height, scale } = useFit(capture);
  useEffect(() => {
    const timer = setInterval(() => setNow((value) => !value), 650);
    return () => clearInterval(timer);
  }, []);
  return (
    <div className="flex h-full flex-col">
      <div className="h-6 shrink-0 text-[11.5px] text-soft">{now ? 'Now' : 'Baseline'}</div>
      <div ref={area} className="min-h-0 flex-1 overflow-hidden">
        <div
          className="checks relative mx-auto rounded-md border border-rule"
          style={{ width: width * scale, height: height * scale }}
        >
          <Pair capture={capture} clip={now ? 'none' : 'inset(100%)'} scale={scale} />
        </div>
      </div>
    </div>
  );
}
