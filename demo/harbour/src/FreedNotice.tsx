import { useEffect, useState } from 'react';

type Props = {
  berth: string;
  /** How long it stays, in seconds. */
  stays?: number;
  onUndo(berth: string): void;
};

/** Tells that a berth is free, and lets that be undone for a while: it goes by itself, but not under the pointer. */
export function FreedNotice({ berth, stays = 6, onUndo }: Props) {
  const [left, setLeft] = useState(stays);
  const [held, setHeld] = useState(false);
  const [undone, setUndone] = useState(false);
  const gone = left <= 0 || undone;
  useEffect(() => {
    if (held || gone) return;
    const timer = setInterval(() => setLeft((seconds) => seconds - 1), 1000);
    return () => clearInterval(timer);
  }, [held, gone]);

  return (
    <div role="status">
      {!gone && (
        <div
          className="notice row freed"
          onPointerEnter={() => setHeld(true)}
          onPointerLeave={() => {
            setHeld(false);
            setLeft(stays);
          }}
        >
          <strong>{berth} is free</strong>
          <span className="soft" aria-hidden="true">
            {held ? 'waits for you' : `${left} s`}
          </span>
          <button
            type="button"
            className="button quiet"
            onClick={() => {
              setUndone(true);
              onUndo(berth);
            }}
          >
            Undo
          </button>
        </div>
      )}
    </div>
  );
}
