/** What a merge has left: what both sides had before, what each has approved, and what is shown now. */
import type { ConflictSide, ConflictSides } from '../../core/baseline/baseline.ts';
import type { CaptureSummary } from '../../core/run/run.ts';
import { Button } from '../parts/Button.tsx';
import { day } from '../parts/day.ts';
import { Picture } from './Picture.tsx';

type Take = 'base' | 'ours' | 'theirs';
type Props = { capture: CaptureSummary; sides: ConflictSides; onTake(take: Take): void; onApprove(): void };

export const takeKeys: Record<Take, string> = { base: 'b', ours: 'l', theirs: 'r' };

const titles: Record<Take, string> = { base: 'Before both', ours: 'Ours', theirs: 'Theirs' };

const About = ({ side: { name, who, at, why } }: { side: ConflictSide }) => (
  <p className="truncate text-[11.5px] text-soft" title={why ?? undefined}>
    {name}
    {who && `${name === '' ? '' : ' · '}approved by ${who}`}
    {at && `, ${day(at)}`}
    {why && `: “${why}”`}
  </p>
);

function Side({
  take,
  side,
  isNow,
  onTake,
}: {
  take: Take;
  side: ConflictSide | null;
  isNow: boolean;
  onTake(): void;
}) {
  return (
    <div className="flex min-h-0 min-w-0 flex-col gap-1">
      {side ? (
        <>
          <div className="min-h-0 flex-1">
            <Picture title={`${titles[take]}${isNow ? ' (what is shown now)' : ''}`} {...side} />
          </div>
          <About side={side} />
          <Button className="self-start" onClick={onTake} shortcut={takeKeys[take]}>
            Take {take === 'base' ? 'this one' : take}
          </Button>
        </>
      ) : (
        <p className="text-soft">{titles[take]}: no baseline</p>
      )}
    </div>
  );
}

export function Conflict({ capture, sides, onTake, onApprove }: Props) {
  const { hash, width, height } = capture;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2 grid-rows-2 gap-3 px-4 py-2">
      {(['base', 'ours', 'theirs'] as const).map((take) => (
        <Side
          key={take}
          take={take}
          side={sides[take]}
          isNow={sides[take]?.hash === hash}
          onTake={() => onTake(take)}
        />
      ))}
      <div className="flex min-h-0 min-w-0 flex-col gap-1">
        <div className="min-h-0 flex-1">
          <Picture title="Now" hash={hash} width={width} height={height} />
        </div>
        <p className="text-[11.5px] text-soft">What the merged code shows</p>
        <Button className="self-start" onClick={onApprove} shortcut="a">
          Approve this
        </Button>
      </div>
    </div>
  );
}
