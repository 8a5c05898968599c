/** A published site: files from any server, below any path, with everything the console shows and nothing else. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { homedir } from 'node:os';
import { extname, join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { beforeAll, expect, test } from 'vitest';
import type { SiteList } from '../../src/core/site/site.ts';
import { afterwards } from '../support/afterwards.ts';
import { connect } from '../../src/client/client.ts';
import { type Said, serviceNote, sguardo } from '../support/cli.ts';
import { openConsole, type Page } from '../support/page.ts';
import { freshFolder, project, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

const buoy = (word: string): string => `import { useEffect, useState } from 'react';
import badge from './badge.svg';
import './buoy.css';
/** Marks a channel. */
export function Buoy({ name = 'North' }: { name?: string }) {
  const [sea, setSea] = useState('unknown');
  const [rung, setRung] = useState(0);
  useEffect(() => { fetch('/api/sea').then((r) => r.json()).then((it) => setSea(it.sea)); }, []);
  return <div className="buoy"><img src={badge} alt="Badge" width="20" height="20" />
    <b>${word} {name}</b> <i>{sea}</i> <button onClick={() => setRung(rung + 1)}>Ring {rung}</button></div>;
}
`;

const looks = `import { click, ensure, looks, the } from 'sguardo';
import { Buoy } from './Buoy';
export default looks(Buoy, {
  answers: { 'GET /api/sea': { json: { sea: 'very calm' } } },
  states: {
    plain: {},
    'rings twice': { async script() {
      await click(the.button(/Ring/));
      await ensure(the.button('Ring 5')).isVisible();
    } },
  },
});
`;

/** Sends a folder's files below a path, knowing nothing of them but their endings. */
async function fileServer(folder: string, below: string): Promise<string> {
  const types: Record<string, string> = {
    '.html': 'text/html',
    '.js': 'text/javascript',
    '.css': 'text/css',
    '.svg': 'image/svg+xml',
    '.png': 'image/png',
  };
  const server = createServer((request, response) => {
    const path = decodeURIComponent(new URL(request.url!, 'http://x').pathname);
    const file = join(folder, path.slice(below.length));
    const isThere = path.startsWith(below) && statSync(file, { throwIfNoEntry: false })?.isFile();
    response.writeHead(isThere ? 200 : 404, { 'content-type': types[extname(file)] ?? 'application/octet-stream' });
    response.end(isThere ? readFileSync(file) : 'nothing here');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  afterwards(() => void server.close());
  return `http://127.0.0.1:${(server.address() as { port: number }).port}${below}`;
}

const git = (root: string, ...args: string[]): string =>
  execFileSync('git', ['-c', 'user.name=Ada', '-c', 'user.email=ada@harbour.test', ...args], {
    cwd: root,
    encoding: 'utf8',
  });

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name));

const unpacked = (path: string): string => {
  const bytes = readFileSync(path);
  return (bytes[0] === 0x1f && bytes[1] === 0x8b ? gunzipSync(bytes) : bytes).toString('latin1');
};

let root: string;
let site: string;
let url: string;
let page: Page;
const mark = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><circle r="4" cx="4" cy="4"/></svg>';

/** Opens a page of the site anew, also where only what is behind the `#` differs. */
let opened = 0;
const open = (address: string): Promise<void> => page.open(address.replace('#', `?${++opened}#`));

let run: Said;
let published: Said;
const list = (): SiteList => JSON.parse(readFileSync(join(site, 'site.json'), 'utf8')) as SiteList;

beforeAll(async () => {
  root = project({
    'src/Buoy.tsx': buoy('Buoy'),
    'src/Buoy.look.tsx': looks,
    'src/Buoy.md': '# Buoys\n\n![Half](100%.svg) ![All](<a mark.svg>)',
    'src/100%.svg': mark,
    'src/a mark.svg': mark,
    'src/buoy.css': ':root { --mark: #c00 } .buoy { color: var(--mark) }',
    'src/badge.svg':
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><rect width="9" height="9" fill="#0a0"/>' +
      `<!--${'x'.repeat(6000)}--></svg>`,
  });
  git(root, 'init', '-q', '-b', 'main');
  git(root, 'add', '.');
  git(root, 'commit', '-qm', 'A buoy');
  site = join(freshFolder(), 'public');
  // Every command finds it, and none waits for one of its own.
  await serve(root);
  await sguardo(root, 'run');
  await sguardo(root, 'approve', '--all');
  write(root, { 'src/buoy.css': ':root { --mark: #00c } .buoy { color: var(--mark) }' });
  git(root, 'add', '.');
  git(root, 'commit', '-qm', 'Blue');
  run = await sguardo(root, 'run', '--site', 'https://looks.test/pier');
  published = await sguardo(root, 'publish', site);
  url = await fileServer(site, '/deep/er/');
  page = await openConsole(url);
});

test('a commit is published with its verdicts', () => {
  expect([published.code, published.err]).toEqual([0, '']);
  const [entry] = list().entries;
  expect(published.out).toContain(`Published ${entry!.name}: 2 looks`);
  expect(git(root, 'rev-parse', 'HEAD').startsWith(entry!.name)).toBe(true);
  expect(entry).toMatchObject({ branch: 'main', looks: 2, verdicts: { failed: 1, changed: 1 } });
});

test('its first page needs no script and leads to the board', async () => {
  await page.open('index.html');
  await page.shows('1 failed');
  await page.click(list().entries[0]!.name);
  await page.shows('rings twice');
  await page.shows('on main');
  expect(await page.text()).not.toContain('Run all looks');
});

test('a link of the log opens the step that failed, with its moment drawn', async () => {
  expect(run.code).toBe(1);
  const link = /https:\/\/looks\.test\/pier\/\S+/.exec(run.out)![0];
  await open(link.replace('https://looks.test/pier/', ''));
  await page.shows('ensure the button “Ring 5” is visible');
  await page.holds(`(() => {
      const draw = document.querySelector('iframe')?.contentDocument;
      const drawn = draw?.querySelector('iframe')?.contentDocument;
      const picture = drawn?.querySelector('img');
      return (
        drawn?.body?.innerText.includes('very calm') &&
        drawn.body.innerText.includes('Ring 1') &&
        picture?.naturalWidth > 0
      );
    })();`);
  await page.press('Home');
  await page.holds(
    `document.querySelector('iframe').contentDocument.querySelector('iframe')
      .contentDocument.body.innerText.trim() === ''`,
  );
});

test('the words of the handbook have their pictures, whatever these are called', async () => {
  await open(`${list().entries[0]!.name}/index.html#/handbook?page=src/Buoy`);
  await page.shows('Buoys');
  await page.holds("['Half', 'All'].every((alt) => document.querySelector(`img[alt=${alt}]`)?.naturalWidth > 0)");
});

test('looks are live in the handbook, with their answers', async () => {
  await open(`${list().entries[0]!.name}/index.html#/handbook?page=src/Buoy`);
  // The list beside it says as much, and is there first.
  await page.holds("document.querySelector('article figure') !== null");
  await page.click('Live');
  await page.holds("document.querySelector('article iframe')?.contentDocument?.body?.innerText.includes('very calm')");
  await page.window.evaluate(
    "document.querySelector('article iframe').contentDocument.querySelector('button').click()",
  );
  await page.holds("document.querySelector('article iframe').contentDocument.body.innerText.includes('Ring 1')");
});

test('a live look is given files that lie beside it, and nothing else of where the site is', async () => {
  const frame = "document.querySelector('article iframe').contentWindow";
  const asked = (address: string): Promise<unknown> =>
    page.window.evaluate(`${frame}.fetch(${address}).then((r) => r.status + ' ' + r.headers.get('content-type'))`);
  expect(await asked(`${frame}.location.href`)).toBe('200 text/html');
  expect(await asked(`new URL('none.json', ${frame}.location.href).href`)).toBe('404 application/problem+json');
  // It is there, and would be sent to anybody.
  expect(await asked("'/deep/er/site.json'")).toBe('404 application/problem+json');
  expect((await fetch(`${url}site.json`)).status).toBe(200);
});

test('nothing can be done in it, and what is not part of it says so', async () => {
  const at = `${list().entries[0]!.name}/index.html`;
  await open(`${at}#/review`);
  await page.shows('--mark: #c00 → #00c');
  await page.holds("[...document.querySelectorAll('img')].every((one) => one.complete && one.naturalWidth > 0)");
  for (const word of ['Approve', 'Reject']) expect(await page.text()).not.toContain(word);
  await page.press('a', 'R', 'x', 'u');
  await open(`${at}#/bench/999`);
  await page.shows('This is not part of the published site.');
  await open(`${at}#/coverage`);
  await page.shows('Coverage was not counted');
});

test('pages that need a service are not in it, and all that the others are made of is', async () => {
  const at = `${list().entries[0]!.name}/index.html`;
  expect(filesIn(site).filter((file) => /\/(Live|Stage|KeepDialog)-/.test(file))).toEqual([]);
  await open(`${at}#/stage?file=src/Buoy.look.tsx`);
  await page.shows('There is nothing at this address.');
  for (const [path, words] of [
    ['accessibility', 'Nothing was found'],
    ['history', 'No look is chosen'],
    ['bench/999', 'This is not part'],
  ] as const) {
    await open(`${at}#/${path}`);
    await page.shows(words);
  }
});

test('reports lie beside the pages, and lead to them', async () => {
  const [entry] = list().entries;
  expect(entry!.reports).toEqual(['summary.md', 'junit.xml', 'findings.sarif', 'findings.earl.json']);
  const read = (name: string): string => readFileSync(join(site, entry!.name, 'reports', name), 'utf8');
  expect(read('junit.xml').match(/<failure /g)).toHaveLength(entry!.verdicts.failed + entry!.verdicts.changed);
  expect(read('summary.md')).toMatch(/\[failed\]\(\.\.\/index\.html#\/bench\/\d+\?step=\d+\)/);
  const first = readFileSync(join(site, 'index.html'), 'utf8');
  expect(first).toContain(`href="./${entry!.name}/reports/junit.xml"`);
});

test('it names no path of the machine and no address of a service', () => {
  for (const file of filesIn(site)) {
    const text = unpacked(file);
    for (const secret of [root, homedir(), '127.0.0.1:', 'service.json'])
      expect([file, text.includes(secret)]).toEqual([file, false]);
  }
});

test('the next commit shares every file that is the same', async () => {
  const before = new Map(filesIn(site).map((file) => [file, statSync(file).mtimeMs]));
  write(root, { 'README.md': 'Nothing that is shown.' });
  git(root, 'add', '.');
  git(root, 'commit', '-qm', 'Words');
  await sguardo(root, 'run');
  const again = await sguardo(root, 'publish', site, '--json');
  expect(again.code).toBe(0);
  const { written, shown } = JSON.parse(again.out) as { written: number; shown: number };
  // What names the run is new; pictures, moments and the console are not.
  expect(written).toBeLessThan(shown * 0.75);
  expect(list().entries.map(({ commit }) => commit)).toEqual(git(root, 'log', '--format=%h', '-2').trim().split('\n'));
  const kept = filesIn(site).filter((file) => before.get(file) === statSync(file).mtimeMs);
  expect(kept.length).toBeGreaterThan(before.size - 4);
  await page.open(`${list().entries[1]!.name}/index.html`);
  await page.shows('rings twice');
});

test('looks of a repeated run are all there', async () => {
  await sguardo(root, 'run', '--fresh', '--repeat', '2', 'plain');
  const { id } = (await connect(serviceNote(root).url).runs(1))[0]!;
  for (const how of [[], ['--run', String(id)]]) {
    const again = join(freshFolder(), 'again');
    const { out } = await sguardo(root, 'publish', again, ...how);
    expect(out).toContain(how.length === 0 ? ': 2 looks' : ': 1 look');
  }
});

test('a run is named by any number, of which there need not be one', async () => {
  const [gone, odd] = await Promise.all(
    ['5000', 'last'].map((run) => sguardo(root, 'publish', join(freshFolder(), 'site'), '--run', run)),
  );
  expect([gone!.code, gone!.err]).toEqual([2, expect.stringContaining('run 5000')]);
  expect([odd!.code, odd!.err]).toEqual([2, expect.stringContaining('Expected the number of a run, got “last”.')]);
});

test('a folder with other files is left as it is, and so is a site that cannot be read', async () => {
  const other = join(freshFolder(), 'other');
  mkdirSync(other);
  writeFileSync(join(other, 'thesis.txt'), 'years of work');
  const refused = await sguardo(root, 'publish', other);
  expect([refused.code, refused.err]).toEqual([2, expect.stringContaining('it holds other files, such as thesis.txt')]);
  writeFileSync(join(other, 'site.json'), '{"format":"other"}');
  expect((await sguardo(root, 'publish', other)).err).toContain('its format is not sguardo-site/1');
  writeFileSync(join(other, 'site.json'), '{"format":"sguardo-site/1","entries":[null]}');
  expect((await sguardo(root, 'publish', other)).err).toContain('its site.json cannot be read (entries[0]');
  expect(readdirSync(other).sort()).toEqual(['site.json', 'thesis.txt']);
  const address = await sguardo(root, 'run', '--site', 'looks.test');
  expect([address.code, address.err]).toEqual([2, expect.stringContaining('Expected an address such as')]);
});
