/** The stage: a look as a live page, in one environment or in several side by side. */
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import { stageAddress } from '../../core/wire/live.ts';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import { service } from '../data.ts';
import { useKeys } from '../keys.ts';
import { ProblemCard } from '../parts/ProblemCard.tsx';
import { writingPath } from '../sitting/path.ts';
import { Blank, Waiting } from '../parts/Blank.tsx';
import { Bar } from './Bar.tsx';
import { Inputs } from './Inputs.tsx';
import { type Stage as OnStage, useStage } from './useStage.ts';
import { useTitle } from '../title.ts';
import { componentOf, lookTitle } from '../../core/look/look.ts';

type Environment = ProjectInfo['environments'][number];

type FrameProps = { stage: OnStage; environment: Environment; address: string; zoom: number };

/** One environment: a frame as large as its viewport, which can be dragged at its corner. */
function Frame({ stage, environment, address, zoom }: FrameProps) {
  const { name, viewport, scheme } = environment;
  const [width, height] = viewport;
  return (
    <figure className="shrink-0">
      <figcaption className="mb-1 flex gap-2 text-[11.5px] text-soft">
        <span className="font-medium text-ink">{name}</span>
        {width} × {height}, {scheme}
      </figcaption>
      <div
        className="box-content resize overflow-hidden rounded-md border border-rule"
        style={{ width: width * zoom, height: height * zoom, maxWidth: 'none' }}
      >
        <iframe
          ref={stage.frameRef(name)}
          src={address}
          title={`The stage in ${name}`}
          // A page in a frame is as dark as the frame is, and where it is as dark, shows what is behind it.
          style={{
            colorScheme: scheme,
            width: `${100 / zoom}%`,
            height: `${100 / zoom}%`,
            transform: `scale(${zoom})`,
          }}
          className="block origin-top-left border-0 bg-[Canvas]"
        />
      </div>
    </figure>
  );
}

/** What a person should know of what they see. */
function Notes({ stage }: { stage: OnStage }) {
  const { shown, troubles } = stage;
  const hasScript = shown?.looks.find(({ look }) => look === shown.look)?.hasScript === true;
  if (troubles.length === 0 && !hasScript) return null;
  return (
    <div className="max-h-32 shrink-0 overflow-y-auto border-b border-rule px-4 py-1.5">
      {troubles.map((message) => (
        <p key={message} className="text-failed" role="alert">
          ✗ {message}
        </p>
      ))}
      {hasScript && <p className="text-soft">The script of this look is not run on the stage: it is yours to use.</p>}
    </div>
  );
}

/** How large frames are that they all fit side by side into a width, at most as large as they are. */
function fitting(width: number, environments: readonly Environment[]): number {
  const all = environments.reduce((sum, { viewport }) => sum + viewport[0], 0);
  const room = width - 2 * padding - (environments.length - 1) * gap - environments.length * 2;
  return width === 0 || all === 0 ? 1 : Math.min(1, Math.max(0.2, Math.floor((room / all) * 100) / 100));
}

/** Around the frames and between them, in pixels. */
const padding = 16;
const gap = 20;

function useWidth(): [(element: HTMLElement | null) => void, number] {
  const [element, setElement] = useState<HTMLElement | null>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return [setElement, width];
}

type FloorProps = { stage: OnStage; project: ProjectInfo; address: string; look: string };

/** Where the frames stand. */
function Floor({ stage, project, address, look }: FloorProps) {
  const [ref, width] = useWidth();
  const environments = project.environments.filter(({ name }) => stage.environments.includes(name));
  const zoom = stage.zoom ?? fitting(width, environments);
  return (
    <div ref={ref} className="relative flex min-h-0 min-w-0 items-start overflow-auto bg-well" style={{ padding, gap }}>
      {environments.map((environment) => (
        <Frame
          key={`${look} ${environment.name}`}
          stage={stage}
          environment={environment}
          address={address}
          zoom={zoom}
        />
      ))}
      {stage.isWaiting && (
        <div className="absolute top-16 left-1/2 -translate-x-1/2 rounded-md border border-rule bg-sheet px-3 py-1.5">
          <Waiting what="Setting the stage…" />
        </div>
      )}
    </div>
  );
}

export function Stage({ project }: { project: ProjectInfo }) {
  const usual = project.environments[0]?.name ?? '';
  const stage = useStage(project.live, usual);
  const navigate = useNavigate();
  const { file, over } = stage;
  useTitle(stage.shown ? `Stage: ${lookTitle(componentOf(file), stage.shown.look)}` : 'Stage');
  const [problem, setProblem] = useState<Problem | null>(null);
  /** The stage is a page of the person's own browser; what is written down is done in that of the runs. */
  const writeDown = async (): Promise<void> => {
    const { shown, environments } = stage;
    if (!shown) return;
    try {
      const environment = environments[0] ?? null;
      const { id } = await service.beginSitting({ file, look: shown.look, environment, orders: { failure: true } });
      void navigate(writingPath(id));
    } catch (error) {
      setProblem(toProblem(error));
    }
  };
  useKeys({
    r: stage.reset,
    e: () => stage.setPointing(!stage.isPointing),
    w: () => void writeDown(),
    Escape: () => void navigate('/'),
  });
  const look = new URLSearchParams(window.location.search).get('look');
  const address = project.live + stageAddress(file, look, over);
  // Props that change are told to the frame that is there; only another look is another page.
  const key = `${file}\n${look}`;
  const [first, setFirst] = useState({ key, address });
  const loaded = first.key === key ? first : { key, address };
  if (first.key !== key) setFirst(loaded);
  if (!file)
    return (
      <Blank title="Nothing is on the stage">
        To use a look live, open it on the bench and press <kbd>s</kbd>.
      </Blank>
    );
  return (
    <div className="flex h-full flex-col">
      <Bar stage={stage} project={project} address={address} onWrite={() => void writeDown()} />
      {problem && (
        <div className="shrink-0 border-b border-rule px-4 py-2">
          <ProblemCard problem={problem} about="Writing down" />
        </div>
      )}
      <Notes stage={stage} />
      <div className="grid min-h-0 flex-1 grid-cols-[1fr_320px]">
        <Floor stage={stage} project={project} address={loaded.address} look={key} />
        {stage.shown ? <Inputs stage={stage} shown={stage.shown} /> : <div className="border-l border-rule bg-sheet" />}
      </div>
    </div>
  );
}
