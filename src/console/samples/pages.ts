/** What the pages of the console are answered about the harbour office. */
import type { HistoryEntry, LookHistory } from '../../core/api/api.ts';
import type { FindingList, ListedFinding } from '../../core/accessibility/listing.ts';
import type { CauseList, ChangedCapture, Cluster, ClusterCapture } from '../../core/cause/cluster.ts';
import type { Comparison } from '../../core/picture/compare.ts';
import type { CoverageReport, FileLines, Parts } from '../../core/coverage/report.ts';
import type { HandbookEntry, HandbookPage, TokenPage } from '../../core/handbook/page.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { verdicts } from '../../core/run/verdict.ts';
import { hashOf } from './picture.ts';
import { results } from './results.ts';

const changedCapture = ({ id, run, file, component, look, environment, captures }: ResultSummary): ChangedCapture => {
  const { hash, baseline, name: capture } = captures[0]!;
  const which = { result: id, run, file, component, look, environment, capture };
  return {
    ...which,
    pair: `${baseline}-${hash}`,
    hash,
    baseline: baseline!,
    difference: null,
    decision: null,
    failure: null,
  };
};

const oneOf = (result: ResultSummary): ClusterCapture => ({
  ...changedCapture(result),
  elements: 1,
  outlines: [[320, 30, 68, 22]],
  pixels: 1496,
  regions: [[320, 30, 68, 22]],
  proof: 'proved',
  others: [],
  unexplained: [],
  note: null,
  decided: null,
  seenBy: [],
});

function causeOf(number: number, title: string, captures: readonly ResultSummary[]): Cluster {
  return {
    key: JSON.stringify(['style', number]),
    kind: 'style',
    title,
    before: '6px',
    now: '10px',
    id: `c${number}`,
    number,
    place: { file: 'src/harbour.css', line: 11 + number },
    proof: 'proved',
    effects: [],
    comments: [{ id: 1, at: '2026-03-02T09:24:00.000Z', who: 'Bruno', text: 'As in the new style sheet?' }],
    captures: captures.map(oneOf),
  };
}

const changed = results.filter(({ verdict }) => verdict === 'changed');

export const noCauses: CauseList = { causes: [], changes: 0, unexplained: [], withoutBaseline: [] };

export const causes: CauseList = {
  causes: [
    causeOf(1, '.tag: border-radius 6px → 10px', changed.slice(0, 2)),
    causeOf(2, '.card h2: margin-bottom 6px → 10px', changed.slice(2)),
  ],
  changes: changed.length,
  unexplained: [],
  withoutBaseline: results
    .filter(({ verdict }) => verdict === 'new')
    .map((result) => {
      const { baseline: _, difference: __, failure: ___, ...capture } = changedCapture(result);
      return { ...capture, comments: [], why: 'new', sides: null, seenBy: [] };
    }),
};

const findingOf = (rule: ListedFinding['rule'], element: string, what: string, at: number): ListedFinding => {
  const { id: result, component, file, look, environment, captures } = results[at]!;
  const picture = captures[0]!.hash;
  const sighting = { result, look, environment, step: 2, node: 14, box: null, picture };
  return {
    rule,
    element,
    what,
    component,
    file,
    certain: at % 2 === 0,
    standing: { is: 'new' },
    causes: [],
    sightings: [sighting],
  };
};

export const noFindings: FindingList = { findings: [], known: null, failsOn: null };

export const findings: FindingList = {
  findings: [
    findingOf('button-has-name', 'button', 'It has no name.', 8),
    findingOf(
      'text-has-contrast',
      'text “Low water at 14:20”',
      'Its contrast is 3.1 to 1, and should be 4.5 to 1.',
      30,
    ),
    findingOf('focus-is-visible', 'link “Tariff 2026”', 'No pixel changes when it gets the focus.', 21),
  ],
  known: 'sguardo.known.json',
  failsOn: 'severe',
};

const partsOf = (covered: number, all: number): Parts => ({
  lines: { covered, all },
  branches: { covered: Math.floor(covered / 3), all: Math.floor(all / 3) },
  functions: { covered: Math.floor(covered / 5), all: Math.floor(all / 5) },
});

export const coverage: CoverageReport = {
  run: 12,
  files: [
    { path: 'src/ArrivalForm.tsx', looks: 8, ...partsOf(58, 64) },
    { path: 'src/BerthCard.tsx', looks: 10, ...partsOf(31, 31) },
    { path: 'src/FeeTable.tsx', looks: 4, ...partsOf(22, 40) },
    { path: 'src/tariff.ts', looks: 0, ...partsOf(0, 18) },
  ],
  total: partsOf(111, 153),
  looks: results.length,
  uncounted: 0,
  shortfalls: [{ pattern: 'src/**', kind: 'lines', wanted: 80, percent: 72.5, files: 4 }],
  notes: [],
};

const source = [
  "import { tariffOf } from './tariff';",
  '',
  'export function FeeTable({ ships, sort }: Props) {',
  '  const rows = sort === "fee" ? byFee(ships) : ships;',
  '  if (rows.length === 0) return <p>No ships in the harbour.</p>;',
  '  return <table>{rows.map(row)}</table>;',
  '}',
];

export const coveredFile: FileLines = {
  path: 'src/FeeTable.tsx',
  text: source.join('\n'),
  parts: coverage.files[2]!,
  lines: [
    { line: 3, count: 4, looks: [0, 1], isLoading: false, missing: [] },
    { line: 4, count: 4, looks: [0, 1], isLoading: false, missing: [] },
    { line: 5, count: 4, looks: [0, 1], isLoading: false, missing: ['the way into the if'] },
    { line: 6, count: 4, looks: [0, 1], isLoading: false, missing: [] },
  ],
  looks: results
    .filter(({ component }) => component === 'src/FeeTable')
    .map(({ component, look }) => ({ component, look })),
  unreached: [{ kind: 'branch', what: 'the way into the if', line: 5, draft: "'no ships': { props: { ships: [] } }," }],
};

const components = [...new Set(results.map(({ component }) => component))];

export const handbook: HandbookEntry[] = components.map((component) => {
  const own = results.filter((result) => result.component === component);
  const name = component.slice('src/'.length);
  const verdict = verdicts.find((worst) => own.some((one) => one.verdict === worst)) ?? null;
  return { component, name, about: 'A part of the harbour office.', looks: own.length / 2, verdict, words: name };
});

export const handbookPageOf = (component: string): HandbookPage => ({
  component,
  name: component.slice('src/'.length),
  kind: 'react',
  file: `${component}.look.tsx`,
  source: `${component}.tsx`,
  prose: 'Who lies at a berth, and for how long.\n\n- It is **free** without a ship.\n- `onRelease` gives it back.',
  proseFile: `${component}.md`,
  props: [
    { name: 'berth', type: 'string', about: 'The number painted on the quay.', usual: null, isRequired: true },
    { name: 'draught', type: 'number', about: 'In metres.', usual: '0', isRequired: false },
    { name: 'onRelease', type: '(berth: string) => void', about: '', usual: null, isRequired: false },
  ],
  outlets: { events: [], slots: [] },
  looks: results
    .filter((result) => result.component === component && result.environment === 'day')
    .map(({ look, id, verdict, captures, hasScript }) => ({
      look,
      hasScript,
      tags: [],
      skip: look === 'reserved' ? 'waits for the new gauge' : null,
      code: `<BerthCard berth="C-14" />`,
      script: null,
      reference: null,
      results: [{ id, environment: 'day', verdict, picture: captures[0]!.hash, width: 420, height: 180 }],
    })),
  tokens: ['--tag-radius', '--ink'],
  findings: { severe: 1, moderate: 0, minor: 0 },
  coverage: partsOf(31, 31),
});

export const tokens: TokenPage = {
  tokens: [
    { name: '--ink', kind: 'colour', values: [{ where: ':root', value: '#20242f', resolved: '#20242f' }], used: 14 },
    { name: '--sheet', kind: 'colour', values: [{ where: ':root', value: '#fff', resolved: '#ffffff' }], used: 3 },
    { name: '--tag-radius', kind: 'length', values: [{ where: ':root', value: '10px', resolved: '10px' }], used: 2 },
  ],
  pairs: [{ text: '--ink', ground: '--sheet', where: ':root', ratio: 15.1 }],
};

/** How the pictures of a look differ: its tag has become rounder. */
export const comparison: Comparison = {
  from: [420, 180],
  to: [420, 180],
  differing: 1496,
  visible: 1420,
  strongest: 0.31,
  regions: [{ box: [320, 30, 68, 22], pixels: 1420, strongest: 0.31 }],
  added: [],
  lost: [],
};

const decisionOf = (id: number, kind: HistoryEntry['kind'], isBaseline: boolean): HistoryEntry => ({
  id,
  kind,
  who: 'Ada',
  at: `2026-03-0${id}T08:15:00.000Z`,
  why: kind === 'reject' ? 'The tag lies over the name.' : null,
  fixer: kind === 'reject' ? 'Bruno' : null,
  capture: 'end',
  run: id,
  hash: hashOf(7000 + id),
  commit: '4f1d9a20c7b35e6812d0a4f9be17c3a58d2e6b71',
  branch: 'main',
  batch: id,
  undoes: null,
  isBaseline,
});

export const history: LookHistory = {
  results: results.slice(4, 5),
  decisions: [decisionOf(3, 'approve', true), decisionOf(2, 'reject', false), decisionOf(1, 'approve', false)],
};
