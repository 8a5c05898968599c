/** One lane below the steps: its marks, and their titles where there is room for them. */
import { shortened } from '../../core/text/folded.ts';
import type { Lane, Mark } from '../../core/timeline/timeline.ts';
import type { Scale } from './scale.ts';
import { milliseconds } from './time.ts';

const tones: Record<Mark['level'], string> = { info: 'fill-soft', warning: 'fill-changed', error: 'fill-failed' };

const longest = 48;
/** About how wide a title is drawn, with some air. */
const widthOf = (mark: Mark): number => Math.min(longest, mark.title.length) * 6.2 + 16;

type Placed = { mark: Mark; from: number; to: number; side: 'right' | 'left' | 'none' };

/** Where each mark lies, and on which side of it its title has room. */
export function placeMarks(marks: readonly Mark[], scale: Pick<Scale, 'x'>, width: number): Placed[] {
  const placed: Placed[] = marks.map((mark) => {
    const from = scale.x(mark.at);
    return {
      mark,
      from,
      to: mark.took === null ? from : Math.max(from + 4, scale.x(mark.at + mark.took)),
      side: 'none',
    };
  });
  placed.forEach((one, i) => {
    const before = placed[i - 1];
    const taken = before ? before.to + (before.side === 'right' ? widthOf(before.mark) : 0) : 0;
    if ((placed[i + 1]?.from ?? width) - one.to > widthOf(one.mark)) one.side = 'right';
    else if (one.from - taken > widthOf(one.mark)) one.side = 'left';
  });
  return placed;
}

export function MarkRow({ lane, marks, scale, width }: { lane: Lane; marks: Mark[]; scale: Scale; width: number }) {
  if (lane === 'dom') {
    return marks.map((mark, i) => (
      <rect key={i} x={scale.x(mark.at)} y={7} width={3} height={11} rx={1} className="fill-soft">
        <title>{`${milliseconds(mark.at)} ${mark.title}`}</title>
      </rect>
    ));
  }
  return placeMarks(marks, scale, width).map(({ mark, from, to, side }, i) => (
    <g key={i} transform={`translate(${from} 0)`}>
      <title>{`${milliseconds(mark.at)} ${mark.title}`}</title>
      {mark.took === null ? (
        <path d="M0 7 5 12.5 0 18 -5 12.5Z" className={tones[mark.level]} />
      ) : (
        <rect y={8} width={to - from} height={9} rx={2} className={tones[mark.level]} />
      )}
      {side !== 'none' && (
        <text
          x={side === 'right' ? to - from + (mark.took === null ? 9 : 5) : -9}
          y={16}
          textAnchor={side === 'right' ? 'start' : 'end'}
          className="pointer-events-none fill-ink text-[10.5px]"
        >
          {shortened(mark.title, longest)}
        </text>
      )}
    </g>
  ));
}
