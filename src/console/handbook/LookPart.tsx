/** One look in the handbook: its picture or the live component, what it is to look like, and the code to copy. */
import { Slider } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import type { HandbookLook, HandbookResult, Reference } from '../../core/handbook/page.ts';
import { service } from '../data.ts';
import { Choice, type Option } from '../parts/Choice.tsx';
import { CopyButton } from '../parts/CopyButton.tsx';
import { Verdict } from '../parts/Verdict.tsx';
import { liveAddress } from '../stage/liveAddress.ts';

type Environment = ProjectInfo['environments'][number];
type Shown = 'picture' | 'live' | 'over' | 'code';

type Props = { look: HandbookLook; file: string; environment: string; project: ProjectInfo };

/** Room around a live component, in which menus and the like can open, in CSS pixels. */
const roomBelow = 120;
const leastWidth = 240;
const mostWidth = 900;

/** How large a picture is in CSS pixels. */
const sizeOf = (result: HandbookResult | undefined, { ratio }: Environment): [number, number] =>
  result ? [Math.round(result.width / ratio), Math.round(result.height / ratio)] : [320, 120];

export function LookPart({ look, file, environment: name, project }: Props) {
  const [shown, setShown] = useState<Shown>('picture');
  const environment = project.environments.find((one) => one.name === name)!;
  const result = look.results.find((one) => one.environment === name);
  const [width, height] = sizeOf(result, environment);
  const { reference } = look;
  const options: Option<Shown>[] = [
    { value: 'picture', label: 'Picture' },
    ...(liveAddress(project, file, look.look) ? [{ value: 'live' as const, label: 'Live' }] : []),
    ...(reference && reference.kind !== 'link' ? [{ value: 'over' as const, label: 'Design' }] : []),
    ...(look.code ? [{ value: 'code' as const, label: 'Code' }] : []),
  ];
  return (
    <figure
      className="min-w-0 rounded-md border border-rule bg-sheet"
      style={{ width: Math.min(mostWidth, Math.max(leastWidth, width + 26)) }}
    >
      <figcaption className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-rule px-3 py-1.5">
        <span className="font-medium">{look.look}</span>
        {look.skip !== null && <span className="text-soft">skipped: {look.skip}</span>}
        {look.skip === null && result && result.verdict !== 'passed' && <Verdict verdict={result.verdict} />}
        <span className="flex-1" />
        {result && (
          <Link
            to={`/bench/${result.id}`}
            className="text-accent hover:underline"
            aria-label={`${look.look} on the bench`}
          >
            Bench
          </Link>
        )}
      </figcaption>
      <div className="p-3">
        {shown === 'picture' && <Picture look={look} result={result} width={width} />}
        {shown === 'live' && (
          <iframe
            src={liveAddress(project, file, look.look) ?? undefined}
            title={`${look.look}, live`}
            className="block w-full rounded border border-rule bg-[Canvas]"
            style={{ height: height + roomBelow, colorScheme: environment.scheme }}
          />
        )}
        {shown === 'over' && reference && (
          <Overlay reference={reference} result={result} width={width} height={height} look={look.look} />
        )}
        {shown === 'code' && <Code look={look} />}
      </div>
      <div className="flex flex-wrap items-center gap-2 border-t border-rule px-3 py-1.5">
        <Choice<Shown> label={`How ${look.look} is shown`} value={shown} options={options} onChoose={setShown} />
        <span className="flex-1" />
        {reference?.kind === 'link' && (
          <a href={reference.address} target="_blank" rel="noreferrer" className="text-accent underline">
            Design
          </a>
        )}
        {look.code && <CopyButton text={look.code} what="code" />}
      </div>
    </figure>
  );
}

function Picture({ look, result, width }: { look: HandbookLook; result: HandbookResult | undefined; width: number }) {
  if (!result?.picture) return <p className="text-soft">This environment has no picture yet.</p>;
  return (
    <img
      src={service.pictureUrl(result.picture)}
      alt={look.look}
      loading="lazy"
      style={{ width }}
      className="block max-w-full"
    />
  );
}

function Code({ look }: { look: HandbookLook }) {
  return (
    <>
      <pre className="overflow-x-auto font-mono text-[11.5px] leading-relaxed">{look.code}</pre>
      {look.script && (
        <details className="mt-2">
          <summary className="cursor-pointer text-soft">What its script does</summary>
          <pre className="mt-1 overflow-x-auto font-mono text-[11px] leading-relaxed">{look.script}</pre>
        </details>
      )}
    </>
  );
}

type OverlayProps = {
  reference: Reference;
  result: HandbookResult | undefined;
  width: number;
  height: number;
  look: string;
};

/** The design laid over the picture: as much of it as one wants, or only where the two differ. */
function Overlay({ reference, result, width, height, look }: OverlayProps) {
  const [share, setShare] = useState(50);
  const [isDifference, setDifference] = useState(false);
  const address = service.projectFileUrl(reference.address);
  const style = isDifference ? ({ mixBlendMode: 'difference' } as const) : { opacity: share / 100 };
  return (
    <>
      <div className="relative isolate overflow-hidden bg-white" style={{ width, maxWidth: '100%', height }}>
        {result?.picture && (
          <img
            src={service.pictureUrl(result.picture)}
            alt={look}
            className="absolute inset-0 max-w-none"
            style={{ width }}
          />
        )}
        {reference.kind === 'picture' ? (
          <img
            src={address}
            alt={`The design of ${look}`}
            className="absolute inset-0 max-w-none"
            style={{ ...style, width }}
          />
        ) : (
          <iframe
            src={`${address}#toolbar=0&view=FitH`}
            title={`The design of ${look}`}
            className="absolute inset-0 border-0"
            style={{ ...style, width, height }}
          />
        )}
      </div>
      <div className="mt-2 flex items-center gap-3 text-soft">
        <span>Look</span>
        <Slider.Root
          className="relative flex h-5 w-36 touch-none items-center"
          value={[share]}
          onValueChange={([value]) => setShare(value!)}
          max={100}
          disabled={isDifference}
        >
          <Slider.Track className="h-1 w-full rounded-full bg-well">
            <Slider.Range className="absolute h-1 rounded-full bg-accent" />
          </Slider.Track>
          <Slider.Thumb
            aria-label="How much of the design is seen"
            className="block size-3.5 rounded-full border border-accent bg-sheet"
          />
        </Slider.Root>
        <span>Design</span>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={isDifference} onChange={(event) => setDifference(event.target.checked)} />
          Only differences
        </label>
      </div>
    </>
  );
}
