/** Which looks the board shows: by text, verdict and environment, kept in the address. */
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { matchesPattern } from '../../core/look/pattern.ts';
import { type ResultSummary, standing } from '../../core/run/run.ts';
import type { Verdict } from '../../core/run/verdict.ts';

export type Filters = {
  text: string;
  verdicts: Verdict[];
  /** Empty for all. */
  environment: string;
  environments: string[];
  /** How many of the looks that text and environment leave stand at each verdict. */
  counts: Partial<Record<Verdict, number>>;
  /** The looks that are left. */
  shown: ResultSummary[];
  setText(text: string): void;
  setVerdicts(verdicts: readonly string[]): void;
  setEnvironment(name: string): void;
  clear(): void;
};

export function useFilters(looks: readonly ResultSummary[]): Filters {
  const [query, setQuery] = useSearchParams();
  // The address only follows what is typed: it is updated too late for somebody who types fast.
  const [text, setTyped] = useState(query.get('q') ?? '');
  const verdicts = query.getAll('verdict') as Verdict[];
  const environment = query.get('env') ?? '';
  const set = (key: string, values: readonly string[]): void => {
    const next = new URLSearchParams(query);
    next.delete(key);
    for (const value of values) next.append(key, value);
    setQuery(next, { replace: true });
  };
  const environments = useMemo(() => [...new Set(looks.map((look) => look.environment))], [looks]);
  const found = useMemo(
    () =>
      looks.filter(
        (look) => (!environment || look.environment === environment) && (!text || matchesPattern(look, text)),
      ),
    [looks, environment, text],
  );
  const counts = useMemo(() => {
    const all: Filters['counts'] = {};
    for (const look of found) all[standing(look)] = (all[standing(look)] ?? 0) + 1;
    return all;
  }, [found]);
  const shown = useMemo(
    () => found.filter((look) => verdicts.length === 0 || verdicts.includes(standing(look))),
    [found, verdicts.join()],
  );
  return {
    text,
    verdicts,
    environment,
    environments,
    counts,
    shown,
    setText(typed) {
      setTyped(typed);
      set('q', typed ? [typed] : []);
    },
    setVerdicts: (values) => set('verdict', values),
    setEnvironment: (name) => set('env', name === 'all' || !name ? [] : [name]),
    clear() {
      setTyped('');
      setQuery({}, { replace: true });
    },
  };
}
