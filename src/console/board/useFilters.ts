/** Which looks the board shows: by text, verdict and environment, kept in the address. */
import { useDeferredValue, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { matchesPattern } from '../../core/look/pattern.ts';
import { type BoardLook, type Variant, verdictsOf } from '../../core/run/board.ts';
import { type Tally, tally, type Verdict } from '../../core/run/verdict.ts';

export type Filters = {
  text: string;
  verdicts: Verdict[];
  /** Empty for all. */
  environment: string;
  environments: string[];
  /** How many of those that text and environment leave stand at each verdict. */
  counts: Tally;
  /** The looks that are left, each with those of its environments that are. */
  shown: BoardLook[];
  setText(text: string): void;
  setVerdicts(verdicts: readonly string[]): void;
  setEnvironment(name: string): void;
  clear(): void;
};

/**
 * Tells which looks are meant by a text: a pattern, or words that each are in a name, environment or verdict. Looks
 * that are left out are “skipped”.
 */
function searched(text: string): (look: BoardLook, variant: Variant) => boolean {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return () => true;
  return (look, { environment, verdict }) => {
    const stands = look.skip === null ? verdict : 'skipped';
    const isIn = (word: string): boolean => environment.toLowerCase().includes(word) || stands.includes(word);
    return words.every((word) => isIn(word) || matchesPattern(look, word)) || matchesPattern(look, text);
  };
}

/** Looks with those of their environments that are wanted; those without any are left out. */
const keep = (looks: readonly BoardLook[], isWanted: (look: BoardLook, variant: Variant) => boolean): BoardLook[] =>
  looks.flatMap((look) => {
    const variants = look.variants.filter((variant) => isWanted(look, variant));
    if (variants.length === 0) return [];
    return [variants.length === look.variants.length ? look : { ...look, variants }];
  });

export function useFilters(looks: readonly BoardLook[], order: readonly string[]): Filters {
  const [query, setQuery] = useSearchParams();
  // The address only follows what is typed: it is updated too late for somebody who types fast.
  const [text, setTyped] = useState(query.get('q') ?? '');
  const wanted = useDeferredValue(text);
  const verdicts = query.getAll('verdict') as Verdict[];
  const environment = query.get('env') ?? '';
  const set = (key: string, values: readonly string[]): void => {
    const next = new URLSearchParams(query);
    next.delete(key);
    for (const value of values) next.append(key, value);
    setQuery(next, { replace: true });
  };
  const environments = useMemo(() => {
    const found = new Set(looks.flatMap(({ variants }) => variants.map((variant) => variant.environment)));
    return [...found].sort((a, b) => order.indexOf(a) - order.indexOf(b));
  }, [looks, order]);
  const found = useMemo(() => {
    const isMeant = searched(wanted);
    return keep(
      looks,
      (look, variant) => (!environment || variant.environment === environment) && isMeant(look, variant),
    );
  }, [looks, environment, wanted]);
  const counts = useMemo(() => tally(verdictsOf(found)), [found]);
  const shown = useMemo(
    () =>
      verdicts.length === 0
        ? found
        : keep(found, ({ skip }, { verdict }) => skip === null && verdicts.includes(verdict)),
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
