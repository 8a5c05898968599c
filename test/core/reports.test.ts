/** What reports of a run hold: JUnit XML, SARIF 2.1.0, HAR 1.2 and Markdown, made of plain values. */
import { XMLParser } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import type { ListedFinding } from '../../src/core/accessibility/listing.ts';
import type { CauseList } from '../../src/core/cause/cluster.ts';
import { harOf } from '../../src/core/report/har.ts';
import { junitOf } from '../../src/core/report/junit.ts';
import { markdownOf } from '../../src/core/report/markdown.ts';
import { placeIn, type Recorded, type ReportData } from '../../src/core/report/report.ts';
import { sarifOf } from '../../src/core/report/sarif.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { tally } from '../../src/core/run/verdict.ts';
import { finishedRun, resultOf } from '../../src/console/samples/results.ts';

const failed = resultOf('src/BerthCard', 'released', 1);
const changed = resultOf('src/BerthCard', 'taken', 2);
const fresh = resultOf('src/TideCurve', 'neap tide', 3);
const passed = resultOf('src/BerthCard', 'free', 4);

const dataOf = (results: readonly ResultSummary[], about: Partial<ReportData> = {}): ReportData => ({
  project: 'harbour',
  version: '0.1.0',
  run: { ...finishedRun, tally: tally(results.map(({ verdict }) => verdict)), commit: null },
  results,
  isStrict: false,
  linkOf: ({ id }) => `http://sguardo.test/bench/${id}`,
  pictureOf: (hash) => `http://sguardo.test/picture/${hash.slice(0, 4)}`,
  lineOf: ({ look }) => (look === 'taken' ? 12 : null),
  ...about,
});

describe('where a result is read about', () => {
  it('is where it went wrong, then where its look is written, then its file', () => {
    const data = dataOf([]);
    expect(placeIn(data, failed)).toEqual({ file: 'src/BerthCard.look.tsx', line: 18, column: 13 });
    expect(placeIn(data, changed)).toEqual({ file: 'src/BerthCard.look.tsx', line: 12 });
    expect(placeIn(data, fresh)).toEqual({ file: 'src/TideCurve.look.tsx', line: null });
  });
});

describe('JUnit XML', () => {
  const parsed = (data: ReportData) =>
    new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(junitOf(data)).testsuites;

  it('counts what is new as a failure only where that is strict', () => {
    expect(parsed(dataOf([fresh, passed]))).toMatchObject({ tests: '2', failures: '0', errors: '0' });
    expect(parsed(dataOf([fresh, passed], { isStrict: true }))).toMatchObject({ tests: '2', failures: '1' });
  });

  it('tells what broke as an error, and what failed as a failure', () => {
    const broken = resultOf('src/WeatherNotice', 'no answer', 5);
    const { testsuite } = parsed(dataOf([broken, failed]));
    expect(testsuite[0].testcase.error.type).toBe('render-threw');
    expect(testsuite[1].testcase).toMatchObject({ line: '18', failure: { type: 'check-failed' } });
  });

  it('leaves out characters that XML cannot hold', () => {
    const odd = { ...failed, look: 'a\u0000b\ud800c', problem: { ...failed.problem!, message: 'x\u0007<y>' } };
    const { testsuite } = parsed(dataOf([odd]));
    expect(testsuite.testcase.name).toBe('a�b�c');
    expect(testsuite.testcase.failure.message).toBe('x�<y>');
  });
});

describe('SARIF', () => {
  const finding = (standing: ListedFinding['standing'], certain = true): ListedFinding => ({
    rule: 'button-has-name',
    certain,
    element: '<button>',
    what: 'It has neither text nor a name.',
    standing,
    component: 'src/BerthCard',
    file: 'src/Berth card.look.tsx',
    sightings: [{ result: 2, look: 'taken', environment: 'day', step: 0, node: null, box: null, picture: null }],
    causes: [],
  });
  // biome-ignore lint/suspicious/noExplicitAny: SARIF has no types here
  const runOf = (data: ReportData, findings: ListedFinding[] = []): any => (sarifOf(data, findings) as any).runs[0];

  it('has lines and columns, and rules in words', () => {
    const run = runOf(dataOf([failed, changed, passed]));
    const regions = run.results.map((one: typeof run) => one.locations[0].physicalLocation.region);
    expect(regions).toEqual([{ startLine: 18, startColumn: 13 }, { startLine: 12 }]);
    expect(run.results.map(({ level }: { level: string }) => level)).toEqual(['error', 'warning']);
    expect(run.tool.driver.rules).toEqual([
      { id: 'check-failed', shortDescription: { text: 'Check failed' } },
      { id: 'look-changed', shortDescription: { text: 'Look changed' } },
    ]);
  });

  it('has findings at the line of a look that shows them, suppressed where they are accepted or known', () => {
    const run = runOf(dataOf([]), [
      finding({ is: 'new' }),
      finding({ is: 'accepted', why: 'drawn by the port' }),
      finding({ is: 'known', since: '2026-03-01' }),
      finding({ is: 'new' }, false),
    ]);
    expect(run.results.map(({ level }: { level: string }) => level)).toEqual(['error', 'error', 'error', 'note']);
    expect(run.results[0].locations[0].physicalLocation).toMatchObject({
      artifactLocation: { uri: 'src/Berth%20card.look.tsx' },
      region: { startLine: 12 },
    });
    expect(run.results.map(({ suppressions }: { suppressions?: object[] }) => suppressions)).toEqual([
      undefined,
      [{ kind: 'external', justification: 'drawn by the port' }],
      [{ kind: 'external', justification: 'known since 2026-03-01' }],
      undefined,
    ]);
  });
});

describe('the HTTP archive', () => {
  const recorded = (...titles: string[]): Recorded =>
    ({
      result: failed,
      timeline: { marks: titles.map((title, i) => ({ lane: 'network', title, at: 10 * i, level: 'info' })) },
    }) as unknown as Recorded;
  // biome-ignore lint/suspicious/noExplicitAny: HAR has no types here
  const logOf = (...all: Recorded[]): any => (harOf(dataOf([failed]), all) as any).log;

  it('has a page for each look that asked, and an entry for each request', () => {
    const log = logOf(recorded('GET /api/tides?day=monday → 200', 'POST https://weather.test/now → 503'), recorded());
    expect(log.pages).toMatchObject([{ id: 'result-1', title: 'BerthCard › released, day' }]);
    expect(log.entries).toMatchObject([
      {
        pageref: 'result-1',
        startedDateTime: '2026-03-02T09:20:00.000Z',
        request: {
          method: 'GET',
          url: 'http://looks.localhost/api/tides?day=monday',
          queryString: [{ name: 'day', value: 'monday' }],
        },
        response: { status: 200, statusText: '' },
      },
      {
        startedDateTime: '2026-03-02T09:20:00.010Z',
        request: { url: 'https://weather.test/now' },
        response: { status: 503, statusText: '' },
      },
    ]);
  });

  it('says in words what had no status, and leaves out what is no request', () => {
    const log = logOf(recorded('GET /api/tides → unreachable', 'opened'));
    expect(log.entries).toMatchObject([{ response: { status: 0, statusText: 'unreachable' } }]);
  });
});

describe('Markdown', () => {
  const markdown = (
    results: readonly ResultSummary[],
    about: Partial<ReportData> = {},
    causes: object[] = [],
  ): string => markdownOf(dataOf(results, about), { causes: { causes } as unknown as CauseList, coverage: null });

  it('says at once whether anything is wrong', () => {
    expect(markdown([passed]).split('\n')[0]).toBe('### ✓ harbour: 1 passed');
    expect(markdown([fresh]).split('\n')[0]).toBe('### ✓ harbour: 1 new');
    expect(markdown([fresh], { isStrict: true }).split('\n')[0]).toBe('### ✗ harbour: 1 new');
  });

  it('names captures by their looks, those on the way by their own names, too', () => {
    const opened = { ...changed, captures: [...changed.captures, { ...changed.captures[0]!, name: 'opened' }] };
    const rows = markdown([opened])
      .split('\n')
      .filter((line) => line.startsWith('| [BerthCard'));
    expect(rows.map((row) => /^\| (.*?) \|/.exec(row)![1])).toEqual([
      '[BerthCard › taken, day](http://sguardo.test/bench/2)',
      '[BerthCard › taken, day](http://sguardo.test/bench/2), opened',
    ]);
  });

  it('has the first twenty, and how many more there are', () => {
    const many = Array.from({ length: 23 }, (_, i) => resultOf('src/BerthCard', 'released', i));
    const text = markdown(many);
    expect(text.match(/^- \*\*/gm)).toHaveLength(20);
    expect(text).toContain('- … and 3 more');
  });

  it('has causes of pictures, and none of failures', () => {
    const cause = (title: string, kind: string): object => ({ title, kind, captures: [1, 2] });
    const text = markdown([changed], {}, [cause('--depth: 4 → 5', 'style'), cause('a check failed', 'failed')]);
    expect(text).toContain('- --depth: 4 → 5: 2 captures');
    expect(text).not.toContain('a check failed');
  });
});
