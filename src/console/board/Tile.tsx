/** One look on the board: what it looks like, its name, and what it stands at in each environment. */
import { memo, useEffect, useState } from 'react';
import type { BoardDecision, BoardLook, Variant } from '../../core/run/board.ts';
import { counted } from '../../core/text/counted.ts';
import { benchPath } from '../bench/useDesk.ts';
import { service } from '../data.ts';
import { Verdict, VerdictShape } from '../parts/Verdict.tsx';
import { inOrder } from './useShown.ts';

/** Tiles are at least this wide; they grow to fill a row. */
export const tileWidth = 184;
export const tileHeight = 186;

/** From the middle of a look's name down to the edge of its tile. */
const belowName = 51;

/** So many letters of environments' names fit below a tile. */
const room = 20;

type Props = {
  look: BoardLook;
  /** The one whose picture is shown. */
  shown: Variant;
  width: number;
  isChosen: boolean;
  onShow: (look: BoardLook, environment: string) => void;
  order: readonly string[];
  /** True while one scrolls. */
  isPassing: { readonly current: boolean };
};

/** How long a tile that comes by while one scrolls waits for its picture, in milliseconds: most are gone by then. */
const passing = 60;

function Picture({ picture, isPassing }: { picture: string } & Pick<Props, 'isPassing'>) {
  const [isWanted, setWanted] = useState(!isPassing.current);
  useEffect(() => {
    if (isWanted) return;
    const timer = setTimeout(() => setWanted(true), passing);
    return () => clearTimeout(timer);
  }, [isWanted]);
  if (!isWanted) return null;
  return (
    <img src={service.thumbnailUrl(picture)} alt="" decoding="async" className="max-h-full max-w-full rounded-xs" />
  );
}

/** Below a look that its file leaves out: that, and why. */
const Skipped = ({ why }: { why: string }) => (
  <span className="truncate text-soft" title={why}>
    skipped: {why}
  </span>
);

const said = ({ environment, verdict, decision }: Variant): string =>
  `${environment}: ${verdict}${decision?.kind === 'reject' ? ', rejected' : ''}`;

const decidedWord = ({ kind }: BoardDecision): string => (kind === 'reject' ? 'rejected' : 'approved');

/** Who has decided, why, and who is to fix it; for whoever points at it. */
function decidedText(decision: BoardDecision): string {
  const { who, why, fixer } = decision;
  const reason = why ? `: “${why}”` : '';
  const to = fixer ? `, to be fixed by ${fixer}` : '';
  return `${decidedWord(decision)} by ${who}${reason}${to}`;
}

/** Below a look of which one environment is shown: its verdict in words, and which that is where there are others. */
function Single({ variant, hasOthers }: { variant: Variant; hasOthers: boolean }) {
  const { environment, verdict, decision, captures } = variant;
  const beside = hasOthers ? environment : captures > 1 ? counted(captures, 'capture') : '';
  return (
    <span className="flex items-center justify-between gap-2 text-soft">
      <Verdict verdict={verdict} />
      <span className="truncate" title={decision ? decidedText(decision) : undefined}>
        {decision?.kind === 'reject'
          ? `rejected${decision.fixer ? ` → ${decision.fixer}` : ''}`
          : beside || (decision ? 'approved' : '')}
      </span>
    </span>
  );
}

/** Below a look with several: each by the shape of its verdict, with its name where there is room. */
function Variants({ look, shown, onShow, order }: Pick<Props, 'look' | 'shown' | 'onShow' | 'order'>) {
  const letters = look.variants.reduce((sum, { environment }) => sum + environment.length + 2, 0);
  return (
    <span className="-mx-1 flex min-w-0 gap-1 overflow-hidden">
      {inOrder(look.variants, order).map((variant) => {
        const isShown = variant === shown;
        const { environment, verdict, decision } = variant;
        return (
          <a
            key={environment}
            href={benchPath(variant)}
            title={said(variant) + (decision ? `. ${decidedText(decision)}` : '')}
            aria-label={`${look.look}, ${said(variant)}`}
            onMouseEnter={() => onShow(look, environment)}
            className={`inline-flex min-h-6 min-w-0 items-center gap-1 rounded px-1 -outline-offset-2! hover:text-ink ${
              isShown ? 'bg-wash text-ink' : 'text-soft'
            }`}
          >
            <VerdictShape verdict={verdict} size={12} />
            {(letters <= room || isShown) && <span className="truncate">{environment}</span>}
            {decision?.kind === 'reject' && <span className="truncate">rejected</span>}
          </a>
        );
      })}
    </span>
  );
}

/** What is left of a tile that flies past: its name, to find one's way by. */
export const FlyingTile = ({ name, width }: { name: string; width: number }) => (
  <div
    className="truncate rounded-lg border border-rule bg-well px-2.5 font-medium"
    // The name stands where it does in a tile.
    style={{ width, height: tileHeight, lineHeight: `${2 * (tileHeight - belowName)}px` }}
  >
    {name}
  </div>
);

export const Tile = memo(function Tile({ look, shown, width, isChosen, onShow, order, isPassing }: Props) {
  return (
    <div
      className={`flex flex-col overflow-hidden rounded-lg border bg-sheet ${
        isChosen ? 'border-accent ring-2 ring-accent' : 'border-rule hover:border-accent'
      }`}
      style={{ width, height: tileHeight }}
      data-chosen={isChosen || undefined}
    >
      <a
        href={benchPath(shown)}
        // Its ring is inside: the tile, and the edge of the list, would cut it off.
        className="flex min-h-0 flex-1 flex-col rounded-t-lg -outline-offset-2!"
        aria-label={`${look.look}, ${look.skip === null ? said(shown) : `skipped: ${look.skip}`}`}
      >
        <span className="flex min-h-0 flex-1 items-center justify-center overflow-hidden border-b border-rule bg-well">
          {shown.picture ? (
            <Picture key={shown.picture} picture={shown.picture} isPassing={isPassing} />
          ) : (
            <span className="rounded bg-sheet px-2 py-1 text-soft">no capture</span>
          )}
        </span>
        <span className="truncate px-2.5 pt-1.5 font-medium" title={look.look}>
          {look.look}
        </span>
      </a>
      <span className="flex min-h-7 flex-col px-2.5 pb-1 text-[11.5px]">
        {look.skip !== null ? (
          <Skipped why={look.skip} />
        ) : look.variants.length === 1 ? (
          <Single variant={shown} hasOthers={order.length > 1} />
        ) : (
          <Variants {...{ look, shown, onShow, order }} />
        )}
      </span>
    </div>
  );
});
