/** The list of options that a page has opened: the browser shows it in a window of its own, which is not here. */
import { useEffect, useRef, useState } from 'react';
import type { Sitting } from './useSitting.ts';

const card = 'max-h-full min-w-52 overflow-y-auto rounded-md border border-rule bg-sheet py-1 shadow-lg outline-none';

export function ChoiceList({ sitting }: { sitting: Sitting }) {
  const { options, chosen } = sitting.state.choice!;
  const [at, setAt] = useState(Math.max(0, chosen));
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => list.current?.focus(), []);
  useEffect(() => {
    document.getElementById(`option-${at}`)?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const take = (index: number): void => {
    if (options[index] && !options[index].isDisabled) sitting.choose(index);
  };
  const move = (by: number): void => {
    let next = at + by;
    while (options[next]?.isDisabled) next += by;
    if (options[next]) setAt(next);
  };
  const keys: Record<string, () => void> = {
    ArrowDown: () => move(1),
    ArrowUp: () => move(-1),
    Enter: () => take(at),
    Escape: () => sitting.choose(null),
  };
  return (
    <div className="absolute inset-0 grid place-items-center bg-well/70 p-6">
      <div
        ref={list}
        role="listbox"
        aria-label="Choose an option"
        aria-activedescendant={`option-${at}`}
        tabIndex={0}
        onBlur={() => sitting.choose(null)}
        onKeyDown={(event) => {
          const carryOut = keys[event.key];
          if (!carryOut) return;
          event.preventDefault();
          event.stopPropagation();
          carryOut();
        }}
        className={card}
      >
        {options.map(({ label, isDisabled }, index) => (
          <div
            key={String(index)}
            id={`option-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === at}
            aria-disabled={isDisabled}
            onPointerDown={(event) => {
              event.preventDefault();
              take(index);
            }}
            className={`flex gap-2 px-3 py-1 aria-selected:bg-wash ${isDisabled ? 'opacity-45' : 'cursor-pointer'}`}
          >
            <span className="w-3">{index === chosen ? '✓' : ''}</span>
            {label}
          </div>
        ))}
      </div>
    </div>
  );
}
