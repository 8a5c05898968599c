/** A picture that fits its place, with boxes over it. */
import type { Allowance } from '../../core/picture/allowance.ts';
import type { Box } from '../../core/timeline/timeline.ts';
import { service } from '../data.ts';
import { useRoom } from './useRoom.ts';

type Props = {
  title: string;
  hash: string;
  width: number;
  height: number;
  /** Places of the elements of causes. */
  outlines?: readonly Box[];
  /** Places that no cause explains. */
  left?: readonly Box[];
  /** What of it is compared otherwise. */
  allowances?: readonly Allowance[];
};

const outline = 'pointer-events-none absolute rounded-sm outline-2 outline-offset-1';

type Placed = { boxes: readonly Box[]; scale: number; tone: string };

const Boxes = ({ boxes, scale, tone }: Placed) =>
  boxes.map(([left, top, width, height], i) => (
    <span
      key={i}
      className={`${outline} ${tone}`}
      style={{ left: left * scale, top: top * scale, width: width * scale, height: height * scale }}
    />
  ));

/** A part that is compared otherwise, with the reason for it. */
const Hatched = ({ allowance: { boxes, kind, why }, scale }: { allowance: Allowance; scale: number }) =>
  (boxes ?? []).map(([left, top, width, height], i) => (
    <span
      key={i}
      className={`absolute rounded-xs ${kind === 'left-out' ? 'hatched' : 'outline-1 outline-soft outline-dotted'}`}
      title={kind === 'left-out' ? `Not compared: ${why}` : `Tolerated: ${why}`}
      style={{ left: left * scale, top: top * scale, width: width * scale, height: height * scale }}
    />
  ));

export function Picture({ title, hash, width, height, outlines = [], left = [], allowances = [] }: Props) {
  const { area, size } = useRoom();
  // It is never drawn larger than it is.
  const scale = Math.min(1, size[0] / Math.max(1, width), size[1] / Math.max(1, height));
  return (
    <figure className="flex h-full min-w-0 flex-col">
      <figcaption className="h-6 shrink-0 text-[11.5px] text-soft">{title}</figcaption>
      <div className="checks min-h-0 flex-1 overflow-hidden rounded-md border border-rule p-2">
        <div ref={area} className="h-full">
          <div className="relative mx-auto" style={{ width: width * scale, height: height * scale }}>
            <img src={service.pictureUrl(hash)} alt={title} className="block size-full max-w-none shadow-sm" />
            {allowances.map((allowance, i) => (
              <Hatched key={i} allowance={allowance} scale={scale} />
            ))}
            <Boxes boxes={outlines} scale={scale} tone="outline-accent outline-dashed" />
            <Boxes boxes={left} scale={scale} tone="outline-changed outline-dotted" />
          </div>
        </div>
      </div>
    </figure>
  );
}
