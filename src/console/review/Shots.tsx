/** All captures of an entry, small, side by side; single ones can be left out. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { beginningOf } from '../../core/run/board.ts';
import { site } from '../site.ts';
import { service } from '../data.ts';
import { type Shot, shotKey } from '../../core/review/entries.ts';

type Props = {
  shots: readonly Shot[];
  shown: Shot;
  isLeftOut(shot: Shot): boolean;
  onChoose(shot: Shot): void;
  onLeaveOut(shot: Shot): void;
};

const width = 132;

const stateOf = (shot: Shot, isOut: boolean): string => {
  if (shot.decided) return shot.decided.kind === 'approve' ? '✓ approved' : '✗ rejected';
  return isOut ? 'left out' : '';
};

const paper = 'checks flex h-[54px] items-center justify-center overflow-hidden rounded-sm';

function Small({
  shot,
  isShown,
  isOut,
  onChoose,
  onLeaveOut,
}: {
  shot: Shot;
  isShown: boolean;
  isOut: boolean;
  onChoose(): void;
  onLeaveOut(): void;
}) {
  const { look, environment, capture, hash } = shot;
  const state = stateOf(shot, isOut);
  const name = `${look} · ${environment}${capture === 'end' ? '' : ` · ${capture}`}`;
  return (
    <div className="relative h-full px-1">
      <button
        type="button"
        aria-current={isShown}
        aria-label={`${name}${state === '' ? '' : `, ${state}`}`}
        onClick={onChoose}
        className={`block w-full rounded-md border p-1 text-left ${
          isShown ? 'border-accent bg-wash' : 'border-rule bg-sheet hover:border-accent'
        }`}
      >
        <span className={`${paper} ${isOut ? 'opacity-30' : ''}`}>
          <img
            src={service.thumbnailUrl(beginningOf(hash))}
            alt=""
            decoding="async"
            className="max-h-full max-w-full"
          />
        </span>
        <span className="mt-0.5 block truncate text-[11px] font-medium">{look}</span>
        <span className="block truncate text-[11px] text-soft">
          {state === '' ? `${environment}${capture === 'end' ? '' : ` · ${capture}`}` : state}
        </span>
      </button>
      {!site && !shot.decided && (
        <label className="absolute top-1.5 right-2.5 grid size-5 cursor-pointer place-items-center rounded bg-sheet/90">
          <input
            type="checkbox"
            checked={!isOut}
            onChange={onLeaveOut}
            tabIndex={-1}
            className="accent-accent"
            aria-label={`Decide about ${name}, too`}
          />
        </label>
      )}
    </div>
  );
}

export function Shots({ shots, shown, isLeftOut, onChoose, onLeaveOut }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: shots.length,
    horizontal: true,
    getScrollElement: () => list.current,
    estimateSize: () => width,
    overscan: 4,
  });
  const at = shots.indexOf(shown);
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at);
  }, [virtual, at]);
  return (
    // As high as its captures, and as a scroll bar where the browser draws one below them.
    <div ref={list} className="shrink-0 overflow-x-auto overflow-y-hidden border-t border-rule bg-sheet px-2 py-1.5">
      <ul aria-label="Captures" className="relative h-[99px]" style={{ width: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((column) => {
          const shot = shots[column.index]!;
          return (
            <li
              key={shotKey(shot)}
              aria-posinset={column.index + 1}
              aria-setsize={shots.length}
              className="absolute top-0 h-full"
              style={{ width, transform: `translateX(${column.start}px)` }}
            >
              <Small
                shot={shot}
                isShown={shot === shown}
                isOut={isLeftOut(shot)}
                onChoose={() => onChoose(shot)}
                onLeaveOut={() => onLeaveOut(shot)}
              />
            </li>
          );
        })}
      </ul>
    </div>
  );
}
