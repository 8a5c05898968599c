/** Results that may be taken over, by the key of what they rest on. */
import type { Resting } from '../core/run/basis.ts';
import type { Db } from './database.ts';

type RestingRow = Omit<Resting, 'files' | 'isUnsteady' | 'isContradiction' | 'isPhotographed' | 'isCovered'> & {
  public: string;
  unsteady: number;
  contradiction: number | null;
  photographed: number;
  covered: number;
};

/** So many keys' results stay in memory: those of a large project's look files, in several states of its code. */
const mostKnown = 5000;

/** A result never changes, and every run asks for most of them again: they stay in memory. */
export function restingOf(db: Db) {
  const select = db.prepare<[string], RestingRow>(
    `SELECT id, component, look, verdict, baselines, public, about ->> '$.isUnsteady' AS unsteady,
       about ->> '$.isContradiction' AS contradiction, about ->> '$.took' AS took,
       NOT EXISTS (SELECT 1 FROM captures WHERE result = results.id AND about ->> '$.isVouched') AS photographed,
       coverage IS NOT NULL AS covered
     FROM results WHERE key = ? ORDER BY id DESC`,
  );
  const known = new Map<string, Resting[]>();
  const read = (key: string): Resting[] =>
    select.all(key).map(({ public: files, unsteady, contradiction, photographed, covered, ...rest }) => ({
      ...rest,
      isUnsteady: unsteady === 1,
      isContradiction: contradiction === 1,
      isPhotographed: photographed === 1,
      isCovered: covered === 1,
      files: JSON.parse(files) as Resting['files'],
    }));
  return {
    /** The results that rest on a key, newest first. */
    of(key: string): readonly Resting[] {
      const found = known.get(key) ?? read(key);
      if (known.size >= mostKnown) known.clear();
      known.set(key, found);
      return found;
    },
    /** There is one more for a key. */
    added: (key: string) => void known.delete(key),
    /** Some have been removed. */
    forget: () => known.clear(),
  };
}
