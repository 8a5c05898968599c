/** The handbook of a project: what its pages say of components, by the service's interface. */
import { symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from 'vitest';
import { project } from '../support/project.ts';
import { openConsole } from '../support/page.ts';
import { type Served, serve } from '../support/service.ts';

const component = `import type { ReactNode } from 'react';
import './buoy.css';
type Props = {
  /** What is painted on it. */
  name: string;
  /**
   * How the sea is.
   * @default calm
   */
  sea?: 'calm' | 'gale';
  lit?: boolean;
  children?: ReactNode;
};
/** Marks a channel. */
export const Buoy = ({ name, sea = 'calm', lit = false, children }: Props) => (
  <div className="buoy"><b>{name}</b> {sea} {lit ? 'lit' : 'dark'} {children}</div>
);
`;

const looks = `import { looks } from 'sguardo';
import { Buoy as Mark } from './Buoy.js';
export default looks(Mark, {
  props: { name: 'North' },
  reference: './buoy.svg',
  states: {
    plain: {},
    'in a gale': { props: { sea: 'gale' }, reference: 'https://design.test/buoy', tags: ['storm'] },
  },
});
`;

const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><script>alert(1)</script></svg>';

let root: string;
let served: Served;

beforeAll(async () => {
  root = project({
    'src/Buoy.tsx': component,
    'src/Buoy.look.tsx': looks,
    'src/buoy.css': ':root { --mark: #c00; --water: #fff; } .buoy { color: var(--mark); background: var(--water) }',
    'src/buoy.svg': svg,
    'src/Bell.look.tsx':
      "import { looks } from 'sguardo';\nexport default looks(() => <i>ding</i>, { states: { rung: {} } });",
    'secret.txt': 'secret',
    '.hidden/key.png': 'key',
  });
  symlinkSync('/etc/hosts', join(root, 'src/hosts.png'));
  served = await serve(root);
  await served.run();
});

test('a page has the words, the props with their defaults, and every look with its code and picture', async () => {
  const page = await served.client.handbookPage('src/Buoy');
  expect(page).toMatchObject({
    name: 'Buoy',
    source: 'src/Buoy.tsx',
    prose: 'Marks a channel.',
    proseFile: null,
    kind: 'react',
  });
  expect(page.props).toEqual([
    { name: 'name', type: 'string', about: 'What is painted on it.', usual: null, isRequired: true },
    { name: 'sea', type: '"calm" | "gale"', about: 'How the sea is.', usual: "'calm'", isRequired: false },
    { name: 'lit', type: 'boolean', about: '', usual: 'false', isRequired: false },
    { name: 'children', type: 'content', about: '', usual: null, isRequired: false },
  ]);
  expect(page.tokens).toEqual(['--mark', '--water']);
  const [plain, gale] = page.looks;
  expect(plain).toMatchObject({
    code: '<Buoy name="North" />',
    reference: { kind: 'picture', address: 'src/buoy.svg' },
  });
  expect(gale).toMatchObject({
    code: '<Buoy name="North" sea="gale" />',
    reference: { kind: 'link', address: 'https://design.test/buoy' },
    tags: ['storm'],
  });
  expect(plain!.results[0]!.picture).toMatch(/^[0-9a-f]{64}$/);
  expect(page.coverage).toBeNull();
});

test('a component that stands in its look file has a page as well', async () => {
  const page = await served.client.handbookPage('src/Bell');
  expect(page).toMatchObject({ name: expect.any(String), source: null, props: [], prose: null });
  expect(page.looks.map(({ look }) => look)).toEqual(['rung']);
});

test('a Markdown file beside the component comes before its comment', async () => {
  writeFileSync(
    join(root, 'src/Buoy.md'),
    '# Buoy\n\nMarks a *channel*, see <b onclick="x()">this</b>.\n\n| a | b |\n|---|---|\n| 1 | 2 |\n',
  );
  const page = await served.client.handbookPage('src/Buoy');
  expect(page.proseFile).toBe('src/Buoy.md');
  const [, buoy] = await served.client.handbook();
  expect(buoy).toMatchObject({ component: 'src/Buoy', looks: 2, verdict: 'new' });
  expect(buoy!.words).toContain('storm');
});

test('tokens are told with their values and contrasts', async () => {
  const { tokens, pairs } = await served.client.tokens();
  expect(tokens.map(({ name, kind }) => [name, kind])).toEqual([
    ['--mark', 'colour'],
    ['--water', 'colour'],
  ]);
  expect(pairs.map(({ text, ground, ratio }) => [text, ground, ratio.toFixed(2)])).toEqual([
    ['--mark', '--water', '5.89'],
  ]);
});

test('pictures of the project are given away as they are, and nothing else is', async () => {
  const reply = await fetch(served.client.projectFileUrl('src/buoy.svg'));
  expect([reply.status, await reply.text()]).toEqual([200, svg]);
  expect(reply.headers.get('content-security-policy')).toContain('sandbox');
  for (const path of [
    'secret.txt',
    '../p.png',
    '/etc/hosts',
    '.hidden/key.png',
    'src/hosts.png',
    'src',
    'src/none.png',
    'src/Buoy.tsx',
  ])
    expect([path, (await fetch(served.client.projectFileUrl(path))).status]).toEqual([path, 404]);
});

test('the console shows it all, searches it, and lays the design over the look', async () => {
  const page = await openConsole(served.service.url);
  await page.open('/handbook');
  await page.shows('Handbook');
  await page.open('/handbook?page=src/Buoy');
  await page.shows('What is painted on it.');
  // HTML in somebody's words is not HTML here.
  await page.holds("document.querySelector('article b[onclick]') === null");
  await page.holds("document.querySelector('article figure') !== null");
  await page.click('Design');
  await page.shows('Only differences');
  await page.holds(
    "[...document.querySelectorAll('article img')].every((one) => one.complete && one.naturalWidth > 0)",
  );
  await page.press('/');
  await page.type('storm');
  await page.press('Enter');
  await page.shows('in a gale');
  await page.holds("document.querySelectorAll('[role=option]').length === 1");
});

test('what was approved is wrong no more', async () => {
  await served.client.decide({ kind: 'approve', patterns: ['Buoy'] });
  const [, buoy] = await served.client.handbook();
  expect(buoy).toMatchObject({ component: 'src/Buoy', verdict: 'passed' });
  const { looks } = await served.client.handbookPage('src/Buoy');
  expect(looks.flatMap(({ results }) => results.map(({ verdict }) => verdict))).toEqual(['passed', 'passed']);
});
