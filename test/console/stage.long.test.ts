/** The stage: a look as a live page, alone and in the console. */
import { readFileSync } from 'node:fs';
import { createServer, get } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { stageAddress } from '../../src/core/wire/live.ts';
import { afterwards } from '../support/afterwards.ts';
import { configuration, project, write } from '../support/project.ts';
import { childrenOf } from '../support/processes.ts';
import { openConsole, type Page } from '../support/page.ts';
import { type Served, serve } from '../support/service.ts';

const component = `import { useState } from 'react';
export function Berth(props: {
  name: string;
  tone?: 'calm' | 'gale';
  depth?: number;
  open?: boolean;
  vessel: string | null;
  since?: Date;
  fees?: number[];
  onRelease(berth: string): void;
}) {
  const [asked, ask] = useState(0);
  const [weather, setWeather] = useState('');
  const fetchIt = (path: string) =>
    fetch(path)
      .then((r) => r.text())
      .then(setWeather);
  return (
    <section>
      <h1>
        {props.name} {props.tone ?? 'no tone'} {String(props.vessel)} {props.depth} {props.since?.toISOString()}
      </h1>
      <button
        type="button"
        style={{ position: 'fixed', left: 0, top: 100, width: 300, height: 300 }}
        onClick={() => {
          ask(asked + 1);
          props.onRelease(props.name);
        }}
      >
        Release {asked}
      </button>
      <button type="button" id="weather" onClick={() => void fetchIt('/api/weather')}>
        Weather
      </button>
      <button type="button" id="tides" onClick={() => void fetchIt('/tides.txt')}>
        Tides
      </button>
      <button type="button" id="moon" onClick={() => void fetchIt('/moon.txt')}>
        Moon
      </button>
      <p>{weather}</p>
    </section>
  );
}
`;
const common = "props: { name: 'C-14', vessel: 'Aliseo' }, answers: { 'GET /api/weather': { body: 'gale' } }";
const looks = `import { looks } from 'sguardo';
import { Berth } from './Berth';
export default looks(Berth, { ${common}, states: {
  moored: {},
  free: { props: { vessel: null } },
  released: { after: 'free', props: { tone: 'gale' }, async script() {} },
} });
`;
const file = 'src/Berth.look.tsx';
const viteConfig = (behind: string): string => `import react from '@vitejs/plugin-react';
export default { plugins: [react()], server: { proxy: { '/moon.txt': '${behind}' } } };`;

/** A server behind the project's own, as it has one for its development; it hears nothing of looks. */
const behind = createServer((_, reply) => void reply.end('full'));
const listening = async (): Promise<string> => {
  await new Promise<void>((done) => behind.listen(0, '127.0.0.1', done));
  afterwards(() => void behind.close());
  return `http://127.0.0.1:${(behind.address() as AddressInfo).port}`;
};

let root: string;
let served: Served;
let live: string;
let page: Page;

beforeAll(async () => {
  root = project({
    'sguardo.config.ts': configuration({
      environments: { day: { viewport: [500, 400] }, phone: { viewport: [320, 400], scheme: 'dark' } },
    }),
    'vite.config.ts': viteConfig(await listening()),
    'src/Berth.tsx': component,
    'public/tides.txt': 'high at noon',
    [file]: looks,
  });
  served = await serve(root);
  ({ live } = await served.client.project());
  page = await openConsole(served.service.url);
});

/** Clicks at a place until that is told: a frame may still be loading. */
async function clickUntilTold(
  one: Page,
  at: { x: number; y: number; button: 'left'; modifiers: number },
): Promise<void> {
  for (let tries = 0; tries < 20; tries++) {
    await one.window.input([
      { kind: 'move', ...at },
      { kind: 'down', clicks: 1, ...at },
      { kind: 'up', clicks: 1, ...at },
    ]);
    await new Promise((resolve) => setTimeout(resolve, 250));
    if ((await one.text()).includes('onRelease("C-14")')) return;
  }
  throw new Error(`Nothing was told: ${await one.text()}`);
}

const heading = 'document.querySelector("h1")?.textContent';

describe('a stage by itself', () => {
  const open = (look: string, props: Record<string, unknown> = {}): Promise<void> =>
    page.window.load(live + stageAddress(file, look, props));

  it('shows a look with its own props, or with others that its address gives', async () => {
    await open('released');
    await page.holds(`${heading} === 'C-14 gale null  '`);
    await open('moored', { depth: 4, tone: 'calm', since: { $date: '2026-03-02T09:30:00.000Z' } });
    await page.holds(`${heading} === 'C-14 calm Aliseo 4 2026-03-02T09:30:00.000Z'`);
  });

  it('answers what the component asks for', async () => {
    await open('moored');
    await page.holds(`${heading} !== undefined`);
    await page.click('Weather');
    await page.holds(`document.querySelector('p').textContent === 'gale'`);
  });

  it('lets through what is a file of the project, and nothing else', async () => {
    await open('moored');
    await page.holds(`${heading} !== undefined`);
    await page.click('Tides');
    await page.holds(`document.querySelector('p').textContent === 'high at noon'`);
    await page.click('Moon');
    await page.holds(`document.querySelector('p').textContent.includes('No answer')`);
  });

  it('shows what is saved, and keeps what the component knows', async () => {
    await open('moored');
    await page.holds(`${heading} !== undefined`);
    await page.click('Release 0');
    await page.shows('Release 1');
    write(root, { 'src/Berth.tsx': component.replace('Release {asked}', 'Let go {asked}') });
    await page.shows('Let go 1');
    write(root, { [file]: looks.replace('C-14', 'C-15') });
    await page.holds(`${heading}.startsWith('C-15')`);
    await page.shows('Let go 1');
    write(root, { 'src/Berth.tsx': component, [file]: looks });
    await page.holds(`${heading}.startsWith('C-14')`);
  });

  it('says what is no look file, and is shown by nobody but the console', async () => {
    await page.window.load(live + stageAddress('src/Berth.tsx', null, {}));
    await page.shows('There is no look file src/Berth.tsx. It may have been renamed or removed.');
    const { headers } = await fetch(live + stageAddress(file, 'moored', {}));
    expect(headers.get('content-security-policy')).toBe(`frame-ancestors 'self' ${served.service.url}`);
    expect((await fetch(`${live}/@fs${join(root, '../../../package.json')}`)).status).toBeLessThan(500);
    expect((await fetch(`${live}/@fs/etc/passwd`)).status).toBe(403);
    const { port } = new URL(live);
    const status = await new Promise((resolve) => {
      get({ port, host: '127.0.0.1', path: '/', headers: { host: 'harbour.example' } }, (reply) => {
        reply.resume();
        resolve(reply.statusCode);
      });
    });
    // Some Vites refuse it themselves.
    expect([403, 421]).toContain(status);
  });
});

describe('the stage in the console', () => {
  const open = (look: string, more = ''): Promise<void> =>
    page.open(`/stage?file=${encodeURIComponent(file)}&look=${look}${more}`);

  it('has an input for every prop, and tells every call', async () => {
    await open('moored');
    await page.shows('Inputs');
    await page.shows('None yet of onRelease.');
    expect(await page.text()).toMatch(
      /name\s+string[\s\S]*tone\s+"calm" \| "gale", optional[\s\S]*vessel\s+string \| null/,
    );
    const at = { x: 120, y: 320, button: 'left' as const, modifiers: 0 };
    await page.window.input([
      { kind: 'move', ...at },
      { kind: 'down', clicks: 1, ...at },
      { kind: 'up', clicks: 1, ...at },
    ]);
    await page.shows('onRelease("C-14")');
  });

  it('keeps what is put over the props in its address, and shows it', async () => {
    await open('moored');
    await page.shows('None yet of onRelease.');
    await page.click('vessel: none');
    await page.holds(`new URLSearchParams(location.search).get('props') === '{"vessel":null}'`);
    await page.shows('Restore all');
    await page.click('Restore all');
    await page.holds(`!location.search.includes('props')`);
  });

  it('has a row for every entry of a list', async () => {
    await open('moored');
    await page.shows('None yet of onRelease.');
    const props = "new URLSearchParams(location.search).get('props')";
    await page.click('Add a row');
    await page.holds(`${props} === '{"fees":[0]}'`);
    await page.click('Row 1');
    await page.type('7');
    await page.holds(`${props} === '{"fees":[7]}' || ${props} === '{"fees":[70]}'`);
    await page.click('Add a row');
    await page.holds(`JSON.parse(${props}).fees.length === 2`);
    await page.click('Take row 1 away');
    await page.holds(`JSON.parse(${props}).fees.length === 1`);
  });

  it('keeps them in the file, where it can be taken back, or as a look of its own', async () => {
    const read = (): string => readFileSync(join(root, file), 'utf8');
    await open('free', `&props=${encodeURIComponent('{"depth":4}')}`);
    await page.shows('None yet of onRelease.');
    await page.click('Keep…');
    await page.shows('+   free: { props: { vessel: null, depth: 4 } },');
    await page.click('Keep');
    await page.shows(`Kept in ${file}:5`);
    expect(read()).toBe(looks.replace('vessel: null }', 'vessel: null, depth: 4 }'));
    await page.holds(`!location.search.includes('props')`);
    await page.click('Undo');
    await page.hides('Undo');
    expect(read()).toBe(looks);
    await open('free', `&props=${encodeURIComponent('{"depth":4}')}`);
    await page.shows('Keep…');
    await page.click('Keep…');
    await page.shows('+   free: { props: { vessel: null, depth: 4 } },');
    await page.click('As a new look');
    await page.shows("'free 2': { props: { vessel: null, depth: 4 } },");
    // Somebody else is at it as well.
    write(root, { [file]: `${looks}// mine\n` });
    await page.click('Keep');
    await page.shows('has been changed meanwhile, and was left as it is');
    expect(read()).toBe(`${looks}// mine\n`);
    write(root, { [file]: looks });
  });

  it('shows several environments side by side, each as dark and as large as it is', async () => {
    await open('moored', '&env=day,phone');
    await page.shows('320 × 400, dark');
    const frames = `[...document.querySelectorAll('iframe')]`;
    await page.holds(`${frames}.length === 2`);
    await page.holds(`getComputedStyle(${frames}[1]).colorScheme === 'dark'`);
    await page.holds(`${frames}.map((f) => f.clientWidth).join() === '500,320'`);
  });

  it('does in each of them what is done in one, if that is wanted', async () => {
    await open('moored', '&env=day,phone&zoom=1');
    await page.shows('320 × 400, dark');
    await page.holds(`!document.body.innerText.includes('Setting the stage')`);
    await page.click('Together');
    await page.holds(`location.search.includes('together=yes')`);
    // Calls are told by the first one: what is clicked in the second was done there, too.
    const frame = `document.querySelectorAll('iframe')[1].getBoundingClientRect()`;
    const [left, top] = (await page.window.evaluate(`[${frame}.left, ${frame}.top]`)) as [number, number];
    const at = { x: left + 100, y: top + 200, button: 'left' as const, modifiers: 0 };
    await clickUntilTold(page, at);
  });

  it('says of an element that is pointed at which targets name it, and what it is', async () => {
    await open('moored');
    await page.shows('None yet of onRelease.');
    await page.press('e');
    await page.holds(`document.querySelector('[aria-pressed=true][title^=Choose]') !== null`);
    const frame = `document.querySelector('iframe').getBoundingClientRect()`;
    const [left, top] = (await page.window.evaluate(`[${frame}.left, ${frame}.top]`)) as [number, number];
    const at = { x: left + 100, y: top + 200, button: 'left' as const, modifiers: 0 };
    await page.window.input([
      { kind: 'move', ...at },
      { kind: 'down', clicks: 1, ...at },
      { kind: 'up', clicks: 1, ...at },
    ]);
    await page.shows("the.button('Release 0')");
    const text = await page.text();
    expect(text).toMatch(/Element <button>[\s\S]*the\.button\('Release 0'\)\s*only it[\s\S]*the\.text\('Release 0'\)/);
    expect(text).toMatch(/Role\s+button\s+Name\s+“Release 0”[\s\S]*Box\s+300 × 300 at 0, 100\s+Component\s+Berth/);
    // The click was for us, not for the component.
    expect(text).toContain('None yet of onRelease.');
  });

  it('is reached from the bench, and says that a script is not run', async () => {
    const { look } = await served.run();
    await page.open(`/bench/${look('released').id}`);
    await page.shows('Stage');
    await page.press('s');
    await page.shows('The script of this look is not run on the stage');
    await page.holds(`document.querySelector('select[aria-label=Look]').value === 'released'`);
  });

  it.each(['gone', 'constructor'])('says that there is no look “%s”, and which one it shows', async (look) => {
    await open(look);
    await page.shows(`src/Berth.look.tsx has no look “${look}”. You see “moored”.`);
    await open('moored');
    await page.hides('has no look');
  });

  it('says that there is no such file, whatever it is called', async () => {
    for (const name of ['src/Pier.look.tsx', `src/<b>'"&amp;.look.tsx`]) {
      await page.open(`/stage?file=${encodeURIComponent(name)}`);
      await page.shows(`There is no look file ${name}. It may have been renamed or removed.`);
      await page.hides('Setting the stage');
    }
  });

  it('says why there is no stage at all, and opens one when that is mended', async () => {
    const broken = "throw new Error('no such knot');";
    const other = project({ 'vite.config.ts': broken, 'src/Berth.tsx': component, [file]: looks });
    const { service } = await serve(other);
    const its = await openConsole(service.url);
    for (let tries = 0; tries < 2; tries++) {
      await its.open(`/stage?file=${encodeURIComponent(file)}`);
      await its.shows('The stage could not be opened');
      await its.shows('no such knot');
      await its.hides('Setting the stage');
    }
    const left = childrenOf(process.pid).filter(({ command }) => command.includes(`"root":"${other}"`));
    expect(left).toEqual([]);
    write(other, { 'vite.config.ts': viteConfig('http://127.0.0.1:9') });
    await its.open(`/stage?file=${encodeURIComponent(file)}`);
    await its.shows('None yet of onRelease.');
  });

  it('says what goes wrong', async () => {
    await page.open('/stage');
    await page.shows('Nothing is on the stage');
    write(root, {
      'src/Berth.tsx': component.replace('return (', 'throw new Error("no such knot"); return ('),
    });
    await open('moored');
    await page.shows('no such knot');
    write(root, { 'src/Berth.tsx': 'const = {' });
    await open('moored');
    await page.shows('The look file could not be loaded. The stage says why.');
  });
});
