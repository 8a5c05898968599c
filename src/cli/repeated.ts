/** Tells which captures came out differently when looks were run several times. */
import { lookKey, lookTitle } from '../core/look/look.ts';
import type { ResultSummary, RunSummary } from '../core/run/run.ts';
import { counted } from '../core/text/counted.ts';

/** A capture, with the pictures and the markup that it came to. */
type Repeated = { title: string; pictures: Set<string>; markup: Set<string> };

const mostNamed = 10;

function repeatedIn(results: readonly ResultSummary[]): Repeated[] {
  const found = new Map<string, Repeated>();
  for (const { component, look, environment, captures } of results)
    for (const { name, hash, canonical } of captures) {
      const key = `${lookKey(component, look)}\n${environment}\n${name}`;
      const title = `${lookTitle(component, look)} · ${environment} · ${name}`;
      const one = found.get(key) ?? { title, pictures: new Set(), markup: new Set() };
      one.pictures.add(hash);
      one.markup.add(canonical);
      found.set(key, one);
    }
  return [...found.values()].filter(({ pictures, markup }) => pictures.size > 1 || markup.size > 1);
}

/** How many captures differed from those of the first repetition, which these are, and how to find out why. */
export function repeatedText({ request, unstable }: RunSummary, results: readonly ResultSummary[]): string {
  const all = `${counted(unstable, 'capture')} differed in ${request.repeat} repetitions`;
  if (unstable === 0) return `${all}.`;
  const names = repeatedIn(results).map(
    ({ title, pictures }) => `  ${title}: ${pictures.size > 1 ? 'the picture' : 'the markup, in the same picture'}`,
  );
  const more = names.length > mostNamed ? [`  … and ${names.length - mostNamed} more`] : [];
  return [
    `${all}:`,
    ...names.slice(0, mostNamed),
    ...more,
    '  → sguardo steady NAME says at which step two repetitions part.',
  ].join('\n');
}
