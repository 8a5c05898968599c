/** Reports and logs of CI, written by the command line and read by other programs. */
import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { XMLParser } from 'fast-xml-parser';
import { beforeAll, expect, test } from 'vitest';
import { logOf } from '../../src/cli/ci.ts';
import { type Said, sguardo, sguardoIn } from '../support/cli.ts';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const file = `import { looks, the, click, ensure } from 'sguardo';
function Buoy({ name }: { name: string }) {
  return <button onClick={() => fetch('/api/ping?at=3', { method: 'POST', body: '{"a":1}' })}>{name}</button>;
}
export default looks(Buoy, {
  states: {
    plain: { props: { name: 'Buoy' } },
    'says <who> & "why"': {
      props: { name: 'A\\u0007 <b>' },
      script: async () => {
        await ensure(the.text('nobody')).isVisible();
      },
    },
    asks: {
      props: { name: 'Ask' },
      answers: { 'POST /api/ping': { status: 201, json: {} } },
      script: async () => {
        await click(the.button('Ask'));
      },
    },
    'left out': { skip: 'not before spring', props: { name: 'x' } },
  },
});
`;

let root: string;
let first: Said;
const text = (name: string): string => readFileSync(join(root, name), 'utf8');
const kinds = 'junit=out/a/junit.xml,sarif=out/run.sarif,har=out/run.har,markdown=out/run.md,html=out/run.html';

beforeAll(async () => {
  root = project({ 'src/Buoy.look.tsx': file });
  // All commands find this one, rather than starting one each.
  await serve(root);
  first = await sguardo(root, 'run', '--strict', '--report', kinds);
});

test('JUnit XML is understood by a parser of its own, whatever names and messages hold', () => {
  const parsed = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(text('out/a/junit.xml'));
  expect(parsed.testsuites).toMatchObject({ tests: '4', failures: '3', errors: '0', skipped: '1' });
  const [suite, skipped] = parsed.testsuites.testsuite;
  expect(suite).toMatchObject({ name: 'src/Buoy (day)', tests: '3' });
  const failing = suite.testcase.find((one: { name: string }) => one.name === 'says <who> & "why"');
  expect(failing).toMatchObject({ classname: 'src/Buoy.day', file: 'src/Buoy.look.tsx', line: '11' });
  expect(failing.failure.message).toContain('nobody');
  expect(skipped.testcase.skipped.message).toBe('not before spring');
  expect(text('out/a/junit.xml')).not.toContain('\u0007');
});

test('the page of a run marks the step that failed, and no other', () => {
  const steps = text('out/run.html').match(/<li class="\w+">[^<]*/g)!;
  expect(steps.length).toBeGreaterThan(5);
  const marked = steps.filter((step) => step.includes('✗') || step.includes('failed'));
  expect(marked).toEqual([expect.stringMatching(/^<li class="failed">✗ ensure the text “nobody”/)]);
});

test('SARIF names rule, line and look', () => {
  const [run] = JSON.parse(text('out/run.sarif')).runs;
  const failing = run.results.find((one: { level: string }) => one.level === 'error');
  expect(failing.locations[0].physicalLocation).toEqual({
    artifactLocation: { uri: 'src/Buoy.look.tsx', uriBaseId: 'PROJECT' },
    region: { startLine: 11, startColumn: expect.any(Number) },
  });
  // What is new went wrong at no line; its look has one.
  const fresh = run.results.filter((one: { ruleId: string }) => one.ruleId === 'look-new');
  const lines = fresh.map(
    (one: { locations: [{ physicalLocation: { region: { startLine: number } } }] }) =>
      one.locations[0].physicalLocation.region.startLine,
  );
  expect(lines).toEqual([14, 7]);
  expect(run.tool.driver.rules.map(({ id }: { id: string }) => id)).toContain(failing.ruleId);
});

test('the HTTP archive has what looks asked for', () => {
  const { log } = JSON.parse(text('out/run.har'));
  expect(log.version).toBe('1.2');
  expect(log.entries).toHaveLength(1);
  expect(log.entries[0]).toMatchObject({
    request: {
      method: 'POST',
      url: 'http://looks.localhost/api/ping?at=3',
      queryString: [{ name: 'at', value: '3' }],
      postData: { text: '{"a":1}' },
    },
    response: { status: 201 },
  });
  expect(log.pages[0].title).toBe('Buoy › asks, day');
});

test('Markdown is short, and nothing in it means more than it says', () => {
  const markdown = text('out/run.md');
  expect(markdown.length).toBeLessThan(4000);
  expect(markdown).toContain('src/Buoy.look.tsx:11');
  expect(markdown).toContain('src/Buoy.look.tsx:7<br>Its picture has no baseline yet.');
  expect(markdown).not.toContain('<who>');
  expect(markdown.split('\n')[0]).toMatch(/^### ✗ .*1 failed/);
});

test('the HTML file holds its pictures, loads nothing and runs nothing', () => {
  const html = text('out/run.html');
  expect(html).toContain("default-src 'none'; img-src data:");
  expect(html).toContain('src="data:image/png;base64,');
  expect(html).not.toContain('<script');
  expect(html).not.toContain('<who>');
  expect(html).not.toMatch(/(src|href)="https?:/);
});

test('the command says what it has written, and a bad name or place what to do', async () => {
  expect(first.out).toContain('Written: out/a/junit.xml, out/run.sarif');
  const wrong = await sguardo(root, 'run', '--report', 'junt=a.xml');
  expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('There is no report “junt”.')]);
  const nowhere = await sguardo(root, 'run', '--report', 'html');
  expect(nowhere.err).toContain('Say where it goes, as in html=out/html.');
  const blocked = await sguardo(root, 'run', 'plain', '--report', 'html=src/Buoy.look.tsx/report.html');
  expect(blocked.code).toBe(3);
  expect(blocked.err).not.toContain('    at ');
  expect(statSync(join(root, 'src/Buoy.look.tsx')).isFile()).toBe(true);
});

test('in CI every failure is one line with its place, and what passed is not told', async () => {
  await sguardo(root, 'approve', '--all');
  const { out } = await sguardoIn(root, { CI: 'true' }, 'run', '--fresh');
  const lines = out.split('\n');
  expect(lines).toContainEqual(expect.stringMatching(/^src\/Buoy\.look\.tsx:11: failed: Buoy › says <who>/));
  expect(out).not.toContain('Buoy › plain');
  expect(out).not.toContain('::group');
});

test('GitHub and GitLab fold failures away, each in its own way', async () => {
  const github = await sguardoIn(root, { CI: 'true', GITHUB_ACTIONS: 'true' }, 'run', '--fresh');
  expect(github.out).toMatch(/^::error file=src\/Buoy\.look\.tsx,line=11,title=/m);
  expect(github.out).toMatch(/^::group::Buoy › says <who>[\s\S]*^::endgroup::$/m);
  // What has only changed lies nowhere by itself: it is shown at its look.
  const changed = { file: 'src/Buoy.look.tsx', component: 'src/Buoy', look: 'plain', environment: 'day' };
  const result = { ...changed, verdict: 'changed', problem: null, captures: [], notes: [] } as never;
  expect(logOf({ GITHUB_ACTIONS: 'true' }).mark(result, 7)).toMatch(/^::error file=src\/Buoy\.look\.tsx,line=7,/);
  const gitlab = await sguardoIn(root, { CI: 'true', GITLAB_CI: 'true' }, 'run', '--fresh');
  // biome-ignore lint/suspicious/noControlCharactersInRegex: the marks of a section hold them
  expect(gitlab.out).toMatch(/\u001b\[0Ksection_start:\d+:sguardo\[collapsed=true\]\r/);
  expect(existsSync(join(root, 'out'))).toBe(true);
});
