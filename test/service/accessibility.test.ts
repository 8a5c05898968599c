/** What findings of accessibility come to: known ones, accepted ones, new ones that fail their looks. */
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from 'vitest';
import { sguardo } from '../support/cli.ts';
import { configuration, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (markup: string): string => `import { useState } from 'react';
export function Buoy() {
  const [step, setStep] = useState(0);
  return <div><button onClick={() => setStep(1)}>Next</button>{step === 1 && <input />}${markup}</div>;
}
`;
const looks = (more = ''): string => `import { looks, the, click } from 'sguardo';
import { Buoy } from './Buoy';
export default looks(Buoy, { ${more} states: {
  still: {},
  filled: { script: async () => { await click(the.button('Next')); } },
} });
`;
const nameless = '<button className="a" style={{ width: 30, height: 30 }}></button>';

let root: string;
let served: Served;
const known = (): string => join(root, 'sguardo.known.json');

beforeAll(async () => {
  root = project({ 'src/Buoy.tsx': buoy(nameless), 'src/Buoy.look.tsx': looks() });
  served = await serve(root);
});

test('the same finding of a component is told once, with all looks that show it; it fails none yet', async () => {
  const { look } = await served.run();
  expect(look('still').verdict).toBe('new');
  const { findings, known: file, failsOn } = await served.client.accessibility();
  expect(findings.map(({ rule, sightings }) => [rule, sightings.map((one) => one.look)])).toEqual([
    ['button-has-name', ['still', 'filled']],
    ['field-has-label', ['filled']],
  ]);
  expect(findings[0]).toMatchObject({ component: 'src/Buoy', element: '<button class="a">', certain: true });
  expect(findings[0]!.sightings[0]!.box![2]).toBeGreaterThan(0);
  expect([file, failsOn]).toEqual([null, null]);
});

test('what is adopted is known from that day on, and what comes later fails', async () => {
  const said = await sguardo(root, 'accessibility', '--adopt');
  expect(said.out).toBe('2 findings are known now: sguardo.known.json\n');
  expect((await served.client.accessibility()).findings.map(({ standing }) => standing.is)).toEqual(['known', 'known']);
  expect((await served.run()).look('still').verdict).toBe('new');
  write(root, { 'src/Buoy.tsx': buoy(`${nameless}<img src="data:," />`) });
  const failing = (await served.run()).look('still');
  expect(failing).toMatchObject({
    verdict: 'failed',
    problem: {
      code: 'accessibility-new',
      message: 'One new finding of accessibility.',
      found: [expect.stringContaining('Pictures have a text')],
    },
  });
  expect(failing.problem!.remedy).toContain("accept: [{ rule: 'picture-has-text', why: '…' }]");
});

test('a look file accepts with a reason, and so does the project', async () => {
  const why = 'the picture is the brand’s';
  write(root, { 'src/Buoy.look.tsx': looks(`accept: [{ rule: 'picture-has-text', why: '${why}' }],`) });
  expect((await served.run()).look('still').verdict).toBe('new');
  const { findings } = await served.client.accessibility();
  expect(findings.find(({ rule }) => rule === 'picture-has-text')!.standing).toEqual({ is: 'accepted', why });
  const accept = [{ rule: 'picture-has-text', element: '<img', why: 'later' }];
  write(root, {
    'src/Buoy.look.tsx': looks(),
    'sguardo.config.ts': configuration({ accessibility: { accept, failsOn: 'minor' } }),
  });
  expect((await served.run()).look('still').verdict).toBe('new');
  const wrong = looks(`accept: [{ rule: 'no-such-rule', why: 'x' }],`);
  write(root, { 'src/Buoy.look.tsx': wrong });
  const { results } = await served.run();
  expect(results[0]!.problem!.message).toContain('accept');
  write(root, { 'src/Buoy.look.tsx': looks() });
});

test('adopting again takes out what is gone and keeps the day of the rest', async () => {
  const before = JSON.parse(readFileSync(known(), 'utf8')) as { findings: { since: string }[] };
  for (const one of before.findings) one.since = '2025-01-02';
  writeFileSync(known(), JSON.stringify(before));
  write(root, { 'src/Buoy.tsx': buoy('') });
  await served.run();
  const { adopted, gone } = await served.client.adoptFindings();
  expect([adopted, gone]).toEqual([0, 1]);
  expect(JSON.parse(readFileSync(known(), 'utf8'))).toEqual({
    format: 'sguardo-known/1',
    findings: [{ component: 'src/Buoy', rule: 'field-has-label', element: '<input>', since: '2025-01-02' }],
  });
});

test('a file that cannot be read is named, with a way out', async () => {
  writeFileSync(known(), '{');
  const { code, err } = await sguardo(root, 'accessibility');
  expect([code, err]).toEqual([2, expect.stringContaining('sguardo.known.json cannot be read')]);
  const { run } = await served.run();
  expect(run.problems[0]!.code).toBe('known-wrong');
  rmSync(known());
});

test('with --every-step what is only there in between is found, too', async () => {
  write(root, {
    'src/Buoy.tsx': `import { useState } from 'react';
export function Buoy() {
  const [step, setStep] = useState(0);
  return <div><button onClick={() => setStep(step + 1)}>Next</button>{step === 1 && <input />}</div>;
}`,
    'src/Buoy.look.tsx': `import { looks, the, click } from 'sguardo';
import { Buoy } from './Buoy';
export default looks(Buoy, { states: {
  twice: { script: async () => { await click(the.button('Next')); await click(the.button('Next')); } },
} });`,
  });
  await served.run();
  expect((await served.client.accessibility()).findings).toEqual([]);
  await served.run({ everyStep: true });
  const { findings } = await served.client.accessibility();
  expect(findings.map(({ rule, sightings }) => [rule, sightings[0]!.step])).toEqual([['field-has-label', 1]]);
});

test('the command line lists what is new, and writes SARIF and EARL', async () => {
  const { out } = await sguardo(root, 'accessibility');
  expect(out).toContain('severe  Fields have a label  field-has-label, WCAG 4.1.2');
  expect(out).toContain('To begin, from what there is now: sguardo accessibility --adopt');
  const reports = 'sarif=out/a.sarif,earl=out/a.json';
  await sguardo(root, 'run', '--every-step', '--report', reports);
  const [run] = JSON.parse(readFileSync(join(root, 'out/a.sarif'), 'utf8')).runs;
  const ids = run.results.map(({ ruleId, level }: { ruleId: string; level: string }) => `${ruleId} ${level}`);
  // The configuration has every new finding fail its look.
  expect(ids).toEqual(['accessibility-new error', 'field-has-label error']);
  expect(run.tool.driver.rules[1].helpUri).toBe('https://www.w3.org/TR/WCAG22/#name-role-value');
  const earl = JSON.parse(readFileSync(join(root, 'out/a.json'), 'utf8'));
  expect(earl['@graph'][1]).toMatchObject({
    '@type': 'Assertion',
    test: { '@id': 'sguardo:field-has-label' },
    result: { outcome: 'earl:failed', pointer: '<input>' },
  });
});

test('what has come with a change of the picture is told with the cause of that', async () => {
  const page = (colour: string): Record<string, string> => ({
    'src/buoy.css': `:root { --words: ${colour} } .words { color: var(--words) }`,
    'src/Buoy.tsx': `import './buoy.css';
export function Buoy() {
  return (
    <div>
      <p className="words">Deep water</p>
      <p style={{ color: '#bbb' }}>Pale before</p>
    </div>
  );
}`,
    'src/Buoy.look.tsx': `import { looks } from 'sguardo';
import { Buoy } from './Buoy';
export default looks(Buoy, { states: { plain: {} } });`,
    'sguardo.config.ts': configuration({ accessibility: { failsOn: 'never' } }),
  });
  write(root, page('#222'));
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
  write(root, page('#aaa'));
  expect((await served.run()).look('plain').verdict).toBe('changed');
  const { findings } = await served.client.accessibility();
  const told = findings.map(({ element, causes }) => [element, causes.map(({ title, place }) => [title, place?.file])]);
  expect(Object.fromEntries(told)).toEqual({
    '<p> “Deep water”': [['--words: #222 → #aaa', 'src/buoy.css']],
    '<p> “Pale before”': [],
  });
  expect((await sguardo(root, 'accessibility')).out).toContain('came with: --words: #222 → #aaa  src/buoy.css:1');
  // Where it fails its look the picture has changed all the same.
  write(root, { 'sguardo.config.ts': configuration({ accessibility: { failsOn: 'severe' } }) });
  expect((await served.run()).look('plain').verdict).toBe('failed');
  const [failing] = (await served.client.accessibility()).findings.filter(({ element }) => element.includes('Deep'));
  expect(failing!.causes).toMatchObject([{ title: '--words: #222 → #aaa', place: { file: 'src/buoy.css', line: 1 } }]);
  write(root, { 'sguardo.config.ts': configuration({ accessibility: { failsOn: 'never' } }) });
  await served.run();
  // A result that was looked at where it ends only is not enough for who wants every step.
  await served.client.decide({ kind: 'approve', all: true });
  expect((await served.run()).run.reused).toBe(0);
  expect((await served.run()).run.reused).toBe(1);
  expect((await served.run({ everyStep: true })).run.reused).toBe(0);
});
