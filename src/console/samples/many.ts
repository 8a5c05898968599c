/** The same of the harbour office, but very much of it. */
import type { FindingList } from '../../core/accessibility/listing.ts';
import type { CauseList } from '../../core/cause/cluster.ts';
import type { FileLines } from '../../core/coverage/report.ts';
import type { HandbookPage, TokenPage } from '../../core/handbook/page.ts';
import * as pages from './pages.ts';

const times = <T>(count: number, make: (i: number) => T): T[] => Array.from({ length: count }, (_, i) => make(i));

/** As many causes as a change of everything makes. */
export function causes(count: number): CauseList {
  const [cause] = pages.causes.causes;
  const captures = cause!.captures.slice(0, 1);
  const own = (i: number) => ({
    key: JSON.stringify(['style', i + 1]),
    title: `.berth-${i}: gap 6px → 10px`,
    id: `c${i + 1}`,
    number: i + 1,
    place: { file: 'src/harbour.css', line: 12 + i },
  });
  return {
    ...pages.noCauses,
    causes: times(count, (i) => ({ ...cause!, ...own(i), captures })),
    changes: count,
  };
}

/** As many findings as a project without any care has, the first of them in as many looks. */
export function findings(count: number): FindingList {
  const finding = pages.findings.findings[1]!;
  const sighting = finding.sightings[0]!;
  const everywhere = times(count, (i) => ({ ...sighting, look: `ships ${i}`, step: i }));
  return {
    ...pages.findings,
    findings: times(count, (i) => ({
      ...finding,
      element: `text “Berth ${i}”`,
      sightings: i === 0 ? everywhere : [sighting],
    })),
  };
}

/** A source that is generated, nearly all of whose lines are run by so many looks. */
export const source = (lines: number, looks: number): FileLines => ({
  ...pages.coveredFile,
  text: times(lines, (i) => `export const berth${i} = (ships) => ships > ${i};`).join('\n'),
  lines: times(lines, (i) => ({
    line: i + 1,
    count: i % 7,
    looks: i % 7 === 0 ? [] : times(looks, (at) => at),
    isLoading: false,
    missing: [],
  })),
  looks: times(looks, (i) => ({ component: 'src/FeeTable', look: `ships ${i}` })),
  unreached: times(Math.floor(lines / 7), (i) => ({
    kind: 'function',
    what: `berth${i * 7}`,
    line: i * 7 + 1,
    draft: null,
  })),
});

/** A component with so many looks. */
export function page(component: string, count: number): HandbookPage {
  const one = pages.handbookPageOf(component);
  return { ...one, looks: times(count, (i) => ({ ...one.looks[0]!, look: `ships ${i}` })) };
}

/** The tokens of a system of designs: so many colours, each of them for text and for grounds. */
export function tokens(colours: number): TokenPage {
  const ink = pages.tokens.tokens[0]!;
  const names = times(colours, (i) => `--sea-${i}`);
  const pairOf = (text: string, ground: string) => ({ text, ground, where: ':root', ratio: 5.2 });
  return {
    tokens: names.map((name) => ({ ...ink, name })),
    pairs: names.flatMap((text) => names.filter((ground) => ground !== text).map((ground) => pairOf(text, ground))),
  };
}
