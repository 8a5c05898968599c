/** Which groups of the board are folded, for as long as the tab is open. */
import { useState } from 'react';

export type Folds = {
  /** The keys of the groups that are. */
  folded: ReadonlySet<string>;
  fold(key: string, isFolded: boolean): void;
  /** Folds all of these, or none at all. */
  setAll(keys: readonly string[]): void;
};

const place = 'sguardo.folded';

function kept(): string[] {
  try {
    const read: unknown = JSON.parse(sessionStorage.getItem(place) ?? '[]');
    return Array.isArray(read) ? read.filter((one) => typeof one === 'string') : [];
  } catch {
    return [];
  }
}

export function useFolds(): Folds {
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set(kept()));
  const set = (next: ReadonlySet<string>): void => {
    setFolded(next);
    sessionStorage.setItem(place, JSON.stringify([...next]));
  };
  return {
    folded,
    fold(key, isFolded) {
      const next = new Set(folded);
      if (isFolded) next.add(key);
      else next.delete(key);
      set(next);
    },
    setAll: (keys) => set(new Set(keys)),
  };
}
