/** A capture and its baseline, seen in several ways. */
import { useQuery } from '@tanstack/react-query';
import type { CaptureSummary } from '../../core/run/run.ts';
import { service } from '../data.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import type { Box } from '../../core/timeline/timeline.ts';
import { Choice } from '../parts/Choice.tsx';
import { Key } from '../parts/Key.tsx';
import { MarkupTree } from './MarkupTree.tsx';
import { Flicker, Over, sizeBefore } from './Overlaid.tsx';
import { Picture } from './Picture.tsx';

export type Mode = 'beside' | 'over' | 'difference' | 'flicker' | 'alone' | 'markup';

export const modes: { mode: Mode; title: string; key: string }[] = [
  { mode: 'beside', title: 'Side by side', key: 's' },
  { mode: 'over', title: 'Over', key: 'o' },
  { mode: 'difference', title: 'Difference', key: 'd' },
  { mode: 'flicker', title: 'Flicker', key: 'f' },
  { mode: 'alone', title: 'Only this cause', key: 'i' },
  { mode: 'markup', title: 'Markup', key: 'm' },
];

type Props = {
  /** Null for two pictures that are of no result. */
  result: number | null;
  capture: CaptureSummary;
  /** The key of the cause that is shown; null where none is. */
  cause: string | null;
  mode: Mode;
  outlines: readonly Box[];
  /** Places that no cause explains. */
  left: readonly Box[];
  onMode(mode: Mode): void;
};

/** The ways in which a capture can be compared. */
function usableModes({ result, capture, cause }: Pick<Props, 'result' | 'capture' | 'cause'>): Set<Mode> {
  const hasBoth = capture.baseline !== null && capture.baseline !== capture.hash;
  return new Set<Mode>([
    'beside',
    ...(hasBoth ? (['over', 'flicker'] as const) : []),
    ...(hasBoth && capture.difference ? (['difference'] as const) : []),
    ...(cause === null ? [] : (['alone'] as const)),
    ...(result !== null && capture.state.kind === 'changed' ? (['markup'] as const) : []),
  ]);
}

export function Compare(props: Props) {
  const { result, capture, cause, mode, outlines, left, onMode } = props;
  const usable = usableModes(props);
  const seen = usable.has(mode) ? mode : 'beside';
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex h-9 shrink-0 items-center overflow-x-auto px-4">
        <Choice
          label="How to compare"
          value={seen}
          options={modes.map(({ mode: value, title, key }) => ({
            value,
            label: (
              <>
                {title} <Key className="max-xl:hidden">{key}</Key>
              </>
            ),
            disabled: !usable.has(value),
          }))}
          onChoose={onMode}
        />
      </div>
      <div className="min-h-0 flex-1 px-4 pb-1.5">
        {seen === 'beside' && <Beside capture={capture} outlines={outlines} left={left} />}
        {seen === 'over' && <Over capture={capture} />}
        {seen === 'difference' && <Sheet title="Difference: changes are marked" hash={capture.difference!} />}
        {seen === 'flicker' && <Flicker capture={capture} />}
        {seen === 'alone' && <Alone result={result!} capture={capture} cause={cause!} outlines={outlines} />}
        {seen === 'markup' && <MarkupTree result={result!} capture={capture.name} />}
      </div>
    </div>
  );
}

/** The baseline beside itself with one cause, and nothing else that has changed. */
function Alone({
  result,
  capture,
  cause,
  outlines,
}: Pick<Props, 'capture' | 'outlines'> & { result: number; cause: string }) {
  const alone = useQuery({
    queryKey: ['alone', result, capture.name, cause],
    queryFn: () => service.alone(result, capture.name, cause),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (alone.isPending) return <Waiting what="Drawing the baseline with this cause…" />;
  if (alone.isError) return <Trouble error={alone.error} />;
  const { hash } = alone.data;
  if (hash === null)
    return <Blank title="It cannot be drawn">The page of this capture or of its baseline was not kept.</Blank>;
  const [width, height] = sizeBefore(capture);
  return (
    <div className="grid h-full grid-cols-2 gap-4">
      <Picture title="Baseline" hash={capture.baseline!} width={width} height={height} />
      <Picture
        title="Baseline with only this cause"
        hash={hash}
        width={capture.width}
        height={capture.height}
        outlines={outlines}
      />
    </div>
  );
}

const sheet = 'flex min-h-0 flex-1 items-start justify-center overflow-auto rounded-md border border-rule p-2';

function Sheet({ title, hash }: { title: string; hash: string }) {
  return (
    <figure className="flex h-full min-w-0 flex-col">
      <figcaption className="h-6 shrink-0 text-[11.5px] text-soft">{title}</figcaption>
      <div className={`checks ${sheet}`}>
        <img src={service.pictureUrl(hash)} alt={title} className="max-h-full max-w-full object-contain shadow-sm" />
      </div>
    </figure>
  );
}

function Beside({ capture, outlines, left }: Pick<Props, 'capture' | 'outlines' | 'left'>) {
  const { hash, width, height, baseline, allowances, state } = capture;
  const now = { hash, width, height, outlines, left, allowances };
  if (!baseline) return <Picture title="Now (no baseline yet)" {...now} />;
  if (baseline === hash)
    return <Picture title={state.kind === 'same' ? 'Same picture' : 'Same picture, different markup'} {...now} />;
  const [before, tall] = sizeBefore(capture);
  return (
    <div className="grid h-full grid-cols-2 gap-4">
      <Picture title="Baseline" hash={baseline} width={before} height={tall} />
      <Picture title="Now" {...now} />
    </div>
  );
}
