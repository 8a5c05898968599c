/** One look on the board: what it looks like, its name, its verdict. */
import { Link } from 'react-router';
import { type ResultSummary, standing } from '../../core/run/run.ts';
import { benchPath } from '../bench/useDesk.ts';
import { source } from '../data.ts';
import { Verdict } from '../parts/Verdict.tsx';

/** Tiles are at least this wide; they grow to fill a row. */
export const tileWidth = 184;
export const tileHeight = 186;

export function Tile({
  look,
  width,
  chosen,
  showEnvironment,
}: {
  look: ResultSummary;
  width: number;
  chosen: boolean;
  showEnvironment: boolean;
}) {
  const picture = look.captures.at(-1);
  const verdict = standing(look);
  const rejected = look.captures.some(({ decision }) => decision?.kind === 'reject');
  return (
    <Link
      to={benchPath(look)}
      className={`group flex flex-col overflow-hidden rounded-lg border bg-sheet ${
        chosen ? 'border-accent ring-2 ring-accent' : 'border-rule hover:border-accent'
      }`}
      style={{ width, height: tileHeight }}
      aria-label={`${look.look}, ${look.environment}: ${verdict}`}
    >
      <span className="flex min-h-0 flex-1 items-center bg-well justify-center overflow-hidden border-b border-rule">
        {picture ? (
          <img
            src={source.pictureUrl(picture.hash)}
            alt=""
            loading="lazy"
            className="max-h-full max-w-full rounded-xs"
          />
        ) : (
          <span className="rounded bg-sheet px-2 py-1 text-soft">no capture</span>
        )}
      </span>
      <span className="flex flex-col gap-0.5 px-2.5 py-1.5">
        <span className="truncate font-medium" title={look.look}>
          {look.look}
        </span>
        <span className="flex items-center justify-between gap-2 text-[11.5px] text-soft">
          <Verdict verdict={verdict} />
          <span className="truncate">
            {rejected
              ? 'rejected'
              : showEnvironment
                ? look.environment
                : look.captures.length > 1
                  ? `${look.captures.length} captures`
                  : ''}
          </span>
        </span>
      </span>
    </Link>
  );
}
