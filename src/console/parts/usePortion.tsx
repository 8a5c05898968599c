/** A list that may be very long, drawn a portion at a time. */
import { type ReactNode, useState } from 'react';

/** So many entries are drawn, and so many more whenever somebody asks. */
const usualPortion = 200;

/** The entries that are drawn, and the button for more; null when all are. */
export function usePortion<T>(entries: readonly T[], portion = usualPortion): { shown: readonly T[]; more: ReactNode } {
  const [size, setSize] = useState(portion);
  const left = entries.length - size;
  const more = left > 0 && (
    <button type="button" className="mt-1 text-accent hover:underline" onClick={() => setSize(size + portion)}>
      {left > portion ? `Show ${portion} of ${left} more` : `Show ${left} more`}
    </button>
  );
  return { shown: entries.slice(0, size), more };
}
