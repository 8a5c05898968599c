/** The stage: a moment drawn again, in a page of another origin that can do nothing here. */
import { useEffect, useRef, useState } from 'react';
import type { ProjectInfo } from '../../core/api/api.ts';
import type { Timeline } from '../../core/timeline/timeline.ts';
import { site } from '../site.ts';

type Props = {
  project: ProjectInfo;
  timeline: Timeline;
  environment: string;
  moment: number;
  outline: number | null;
  cover: number | null;
  pointer: [number, number] | null;
  dark: boolean;
};

export function Stage({ project, timeline, environment, moment, outline, cover, pointer, dark }: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [ready, setReady] = useState(0);
  const [drawn, setDrawn] = useState(false);
  useEffect(() => {
    const listen = (event: MessageEvent): void => {
      if (event.source !== frame.current?.contentWindow) return;
      const { kind } = event.data as { kind: string };
      if (kind === 'ready') setReady((times) => times + 1);
      if (kind === 'drawn') setDrawn(true);
    };
    window.addEventListener('message', listen);
    return () => window.removeEventListener('message', listen);
  }, []);
  const tell = (message: object): void =>
    frame.current?.contentWindow?.postMessage(message, site ? '*' : project.stage);
  const { base, patches, assets } = timeline;
  useEffect(() => {
    if (ready === 0) return;
    const { scheme, motion, contrast } = project.environments.find(({ name }) => name === environment) ?? {
      scheme: 'light',
      motion: 'reduce',
      contrast: 'no-preference',
    };
    tell({ kind: 'timeline', base, patches, assets, media: { scheme, motion, contrast } });
  }, [ready, base, patches, assets, environment]);
  useEffect(() => {
    if (ready > 0)
      tell({
        kind: 'show',
        moment,
        outline,
        cover,
        pointer,
        fit: true,
        ground: getComputedStyle(document.documentElement).getPropertyValue('--well'),
      });
  }, [ready, base, moment, outline, cover, pointer, dark]);
  return (
    <div className="relative h-full">
      {!drawn && (
        <div className="absolute inset-0 grid place-items-center text-soft">
          <span className="working">Drawing…</span>
        </div>
      )}
      <iframe
        ref={frame}
        title="The moment"
        // It is a picture that can be read: nothing in it does anything.
        tabIndex={-1}
        src={site ? site.draw : `${project.stage}/draw`}
        className={`h-full w-full border-0 ${drawn ? '' : 'opacity-0'}`}
      />
    </div>
  );
}
