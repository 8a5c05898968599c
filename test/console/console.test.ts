/** The console's three pages on the demo, driven with real keys and clicks. */
import { cpSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { comparePictures } from '../../src/core/picture/compare.ts';
import { decodePng } from '../../src/work/png.ts';
import { openConsole, type Page } from '../support/page.ts';
import { configuration, copyOf, lookFile, markupIn, project, repository, write } from '../support/project.ts';
import { finished, type Served, serve } from '../support/service.ts';
import { gate } from '../support/gate.ts';

const asked = { patterns: ['BerthCard', 'FeeTable/four*', 'FeeTable/one*', 'books an arrival'], environments: ['day'] };
let folder: string;
let served: Served;
let page: Page;
let look: (name: string) => ResultSummary;

/** Waits for a step or mark on the timeline; its title is written beside it only where there is room. */
const titled = (text: string): Promise<void> =>
  page.holds(
    `[...document.querySelectorAll('[role=slider] title')].some(({ textContent }) => ` +
      `textContent.includes(${JSON.stringify(text)}))`,
  );

beforeAll(async () => {
  folder = copyOf('demo/harbour');
  served = await serve(folder);
  await served.run(asked);
  await served.client.decide({ kind: 'approve', all: true });
  cpSync(join(repository, 'demo/next/src'), join(folder, 'src'), { recursive: true });
  ({ look } = await served.run(asked));
  page = await openConsole(served.service.url);
});

describe('the board', () => {
  it('shows every look with its picture, grouped by component, with its verdict as a word', async () => {
    await page.open('/');
    await page.shows('src/BerthCard.look.tsx');
    const tiles = (await page.window.evaluate(
      "[...document.querySelectorAll('a[href^=\"/bench/\"]')].map((tile) => tile.getAttribute('aria-label'))",
    )) as string[];
    expect(tiles).toContain('moored, day: passed');
    expect(tiles).toContain('empty, day: changed');
    expect(tiles).toContain('asks before releasing, day: failed');
    await page.holds(
      '[...document.images].filter((image) => image.getBoundingClientRect().top ' +
        '< innerHeight).every((image) => image.naturalWidth > 0) && document.images.length > 5',
    );
    expect(
      await page.window.evaluate(
        "[...document.querySelectorAll('h2 button')].map((heading) => heading.innerText.split('\\n')[0].trim())",
      ),
    ).toEqual(['ArrivalForm', 'BerthCard', 'FeeTable']);
  });

  it('is filtered by verdict and searched, and keeps both in its address', async () => {
    await page.click('failed1');
    await page.hides('moored');
    expect(await page.path()).toBe('/?verdict=failed');
    await page.click('failed1');
    await page.shows('moored');
    await page.press('/');
    await page.type('keeps');
    await page.hides('moored');
    expect(await page.path()).toBe('/?q=keeps');
    await page.type('zzz');
    await page.shows('No looks match');
    await page.click('Show all looks');
    await page.shows('moored');
  });

  it('is walked with the keyboard', async () => {
    await page.open('/');
    await page.shows('moored');
    await page.press('ArrowRight', 'ArrowRight', 'ArrowRight');
    await page.holds("document.querySelector('[data-chosen] a')?.getAttribute('aria-label') === 'empty, day: changed'");
    await page.press('Enter');
    await page.holds("location.pathname.startsWith('/bench/')");
    await titled('mount BerthCard');
    await page.press('Escape');
    await page.holds("location.pathname === '/'");
  });

  it('is live while a run goes on', async () => {
    await page.open('/');
    await page.shows('moored');
    const before = (await page.window.evaluate(
      "document.querySelector('a[aria-label^=moored]').getAttribute('href')",
    )) as string;
    await served.client.startRun({ patterns: ['BerthCard/moored'], environments: ['day'], fresh: true });
    await page.holds(`document.querySelector('a[aria-label^=moored]').getAttribute('href') !== '${before}'`);
  });

  it('has a look once, with its environments, and folds what is not looked at', async () => {
    const two = lookFile('return <p>{props.name}</p>;', "plain: { props: { name: 'a' } }, other: {}");
    const { client, service, run } = await serve(
      project({
        'sguardo.config.ts': configuration({ environments: { night: { scheme: 'dark' }, day: {} } }),
        'src/Buoy.look.tsx': two,
        'src/parts/Lamp.look.tsx': two,
      }),
    );
    await run();
    await client.decide({ kind: 'approve', patterns: ['Buoy/plain'] });
    const other = await openConsole(service.url);
    const labels = (): Promise<unknown> =>
      other.window.evaluate(
        '[...document.querySelectorAll(\'a[href^="/bench/"]\')].map((tile) => tile.ariaLabel).join()',
      );
    await other.open('/');
    await other.shows('parts/');
    expect(await labels()).toBe(
      ['plain', 'other', 'plain', 'other']
        .flatMap((name, at) => {
          const verdict = at === 0 ? 'passed' : 'new';
          // In the order of the configuration.
          return [`${name}, night: ${verdict}`, `${name}, night: ${verdict}`, `${name}, day: ${verdict}`];
        })
        .join(),
    );
    // What a folder comes to is told beside it.
    await other.holds(
      "[...document.querySelectorAll('h2 [role=img]')].map(({ ariaLabel }) => ariaLabel).join('; " +
        "') === '2 new, 2 passed; 4 new'",
    );
    await other.press('ArrowRight', 'e');
    await other.holds("document.querySelector('[data-chosen] a').ariaLabel === 'plain, day: passed'");
    await other.press('f');
    await other.holds("document.querySelectorAll('[aria-expanded=false]').length === 1");
    await other.hides('src/Buoy.look.tsx\nplain');
    // Down to the folder, which the left arrow folds, and the right one opens again.
    await other.press('ArrowDown', 'ArrowLeft');
    await other.hides('Lamp');
    await other.press('ArrowRight');
    await other.shows('Lamp');
    // What is searched for is found in folded groups, too, by words in any order.
    await other.press('/');
    await other.type('night buoy passed');
    await other.holds('document.querySelectorAll(\'a[href^="/bench/"]\').length === 1');
    expect(await labels()).toBe('plain, night: passed');
    // Which environment that is can be read, too.
    expect(await other.text()).toMatch(/plain\s+passed\s+night/);
  });

  it('tells its keys', async () => {
    await page.open('/');
    await page.shows('moored');
    await page.press('?');
    await page.shows('Show the look in its next environment');
    await page.press('Escape');
    await page.hides('Show the look in its next environment');
  });

  it('changes between light and dark, and remembers it', async () => {
    const ground = (): Promise<unknown> => page.window.evaluate('getComputedStyle(document.body).backgroundColor');
    const light = await ground();
    await page.press('t');
    await page.holds("document.documentElement.dataset.theme === 'dark'");
    expect(await ground()).not.toBe(light);
    await page.open('/');
    await page.holds("document.documentElement.dataset.theme === 'dark'");
    await page.press('t');
  });

  it('says what to do when there is nothing yet, and when a page does not exist', async () => {
    const empty = await openConsole(
      (await serve(project({ 'src/A.look.tsx': lookFile('return <p>a</p>;', 'plain: {}') }))).service.url,
    );
    await empty.open('/');
    await empty.shows('Nothing has been run yet');
    await empty.click('Run all looks');
    await empty.shows('src/A.look.tsx');
    await empty.open('/review');
    await empty.shows('A › plain');
    await empty.open('/bench/999');
    await empty.shows('There is no result 999.');
    await empty.open('/nowhere');
    await empty.shows('Page not found');
    await empty.click('Go to the board');
    await empty.shows('src/A.look.tsx');
  });
});

describe('the bench', () => {
  it('opens at the step that failed, with its message, line and lanes', async () => {
    const failed = look('asks before releasing');
    await page.open(`/bench/${failed.id}?step=${failed.failedStep}`);
    await page.shows('it was not called');
    await page.shows('step');
    const text = await page.text();
    expect(text).toContain('This did not hold within 2000 ms: onRelease was called with ("C-14").');
    expect(text).toContain('BerthCard.look.tsx:20');
    expect(await page.window.evaluate("document.querySelector('[aria-current=location]').textContent")).toContain(
      "wasCalledWith('C-14')",
    );
    expect(
      await page.window.evaluate("document.querySelector('[role=slider]').getAttribute('aria-valuetext')"),
    ).toMatch(/ensure onRelease was called/);
    await page.hides('Drawing…');
  });

  it('travels with the arrow keys, before and after each step', async () => {
    const title = (): Promise<unknown> =>
      page.window.evaluate(
        "document.querySelector('[role=slider]').getAttribute('aria-valuetext').split(', ').slice(1).join(', ')",
      );
    await page.press('ArrowLeft');
    await page.holds("location.search === '?step=4'");
    expect(await title()).toBe('click the button “Release” in the dialog');
    const moment = (): Promise<unknown> => page.window.evaluate('/moment (\\d+) of/.exec(document.body.innerText)[1]');
    const after = await moment();
    await page.press('b');
    await page.holds(
      "document.querySelector('[aria-label=\"Before or after the step\"] [data-state=on]').textContent === 'before'",
    );
    expect(Number(await moment())).toBeLessThan(Number(after));
    await page.press('Home');
    await page.holds("location.search === '?step=0'");
    await page.press('f');
    await page.holds("location.search === '?step=5'");
  });

  it('tells in its address where one is, however fast one goes', async () => {
    for (const [keys, step] of [
      ['Home f', 5],
      ['Home f Home', 0],
      ['f Home f ArrowLeft', 4],
      ['Home f Home f Home f', 5],
    ] as const) {
      await page.window.input(keys.split(' ').map((key) => ({ kind: 'key' as const, key, modifiers: 0 })));
      await page.holds(`location.search === '?step=${step}'`);
    }
    await page.press('f');
    await page.holds("location.search === '?step=5'");
  });

  it('is scrubbed with the mouse, and a line of the script leads to its step', async () => {
    const [x, y, width] = (await page.window.evaluate(
      "(({ left, top, width }) => [left, top, width])(document.querySelector('[role=slider] " +
        "svg').getBoundingClientRect())",
    )) as [number, number, number];
    const at = { x: x + 80, y: y + 8 };
    await page.window.input([
      { kind: 'move', ...at, button: 'none', modifiers: 0 },
      { kind: 'down', ...at, button: 'left', clicks: 1, modifiers: 0 },
    ]);
    await page.holds("location.search === '?step=0'");
    const right = { x: x + width - 40, y: y + 8 };
    await page.window.input([
      { kind: 'move', ...right, button: 'left', modifiers: 0 },
      { kind: 'up', ...right, button: 'left', clicks: 1, modifiers: 0 },
    ]);
    await page.holds("location.search === '?step=5'");
    await page.click("18        await capture('question');");
    await page.holds("location.search === '?step=3'");
    await page.shows('Show screenshot');
    await page.click('Show screenshot');
    await page.holds(
      "[...document.images].some((image) => image.alt === 'Capture question' && image.naturalWidth > 0)",
    );
    await page.click('Show moment');
  });

  it('draws the moment: the picture of a step before differs from the one after', async () => {
    const open = look('asks before releasing');
    const stageAt = async (search: string): Promise<Buffer> => {
      await page.open(`/bench/${open.id}${search}`);
      await page.shows('moment');
      await page.hides('Drawing…');
      await new Promise((resolve) => setTimeout(resolve, 400));
      const [x, y, width, height] = (await page.window.evaluate(
        '(({ left, top, width, height }) => [left, top, width, ' +
          "height])(document.querySelector('iframe').getBoundingClientRect())",
      )) as [number, number, number, number];
      return page.window.screenshot([x, y, width, height], false);
    };
    const closed = await stageAt('?step=0');
    const question = await stageAt('?step=3');
    const { regions, visible } = comparePictures(await decodePng(closed), await decodePng(question));
    expect(visible).toBeGreaterThan(5000);
    expect(regions.length).toBeGreaterThan(0);
  });

  it('shows network and spies on lanes of their own, and the neighbours with n and p', async () => {
    await page.open(`/bench/${look('books an arrival').id}`);
    await titled('POST /api/berths/C-14/arrivals → 201');
    await titled('onArrived({');
    await page.open(`/bench/${look('shallow').id}`);
    await titled('mount BerthCard');
    const ready = `!document.querySelector('[title="Next look (n)"]').disabled`;
    await page.holds(ready);
    await page.press('n');
    await page.holds("document.querySelector('h1')?.textContent === 'aground'");
    await page.holds(ready);
    await page.press('p');
    await page.holds("document.querySelector('h1')?.textContent === 'shallow'");
  });

  it('tells captures, notes and history of the look', async () => {
    await page.open(`/bench/${look('empty').id}`);
    await titled('mount BerthCard');
    await page.click('Look');
    await page.shows('Approved end by');
    await page.shows('run 1');
  });
});

describe('review', () => {
  it('shows causes with a capture of each, in several ways that are chosen by keys', async () => {
    await page.open('/review');
    await page.shows('0 of 3 decided');
    await page.shows('text of the paragraph: “Free berth,” → “No vessel here,”');
    await page.holds(
      "[...document.images].filter(({ alt }) => alt === 'Baseline' || alt === 'Now').every((image) => " +
        "image.naturalWidth > 0) && [...document.images].filter(({ alt }) => alt !== '').length === 2",
    );
    await page.press('d');
    await page.shows('Difference: changes are marked');
    await page.press('o');
    await page.shows('Baseline on the left of the line');
    await page.press('f');
    await page.holds('/^(Now|Baseline)$/m.test(document.body.innerText)');
    await page.press('s');
    await page.shows('visibly in');
  });

  it('says why: proof, values, styles, the line and the edit; outlines what each is about', async () => {
    await page.click('text of the paragraph');
    await page.shows('src/BerthCard.tsx:26');
    await page.shows('This capture has 1 other cause');
    const outlines = "document.querySelectorAll('figure span.outline-dashed').length";
    await page.holds(`${outlines} === 1`);
    await page.press('m');
    await page.shows('… 5 equal lines');
    await page.shows('No vessel here,');
    // The baseline with one cause of two shows the other one's old value.
    await page.click('--calm');
    await page.press('i');
    await page.shows('Baseline with only this cause');
    await page.shows('.tag.free { color: var(--calm) }');
    await page.press('s');
    await page.click('text of the paragraph');
    // Found beforehand, however long that takes here: the page waits for a while and no longer.
    const changed = (await served.client.looks()).find((one) => one.look === 'empty')!;
    await served.client.edits(changed.id, 'end');
    await page.click('Find the edit');
    await page.shows('This edit did it');
    await page.shows('+ No vessel here, {depth} m at low tide');
  });

  it('takes comments, which others see at once, and says who has looked', async () => {
    await page.press('c');
    await page.type('Since when?');
    await page.press('Control+Enter', 'Escape');
    await page.shows('Since when?');
    await page.shows('Looked at by');
    const { causes } = await served.client.causes();
    const cause = causes.find(({ kind }) => kind === 'text')!;
    expect(cause.comments.map(({ text }) => text)).toEqual(['Since when?']);
    await served.client.comment({ cause: cause.key }, 'Since the pilots asked.', 'Mara');
    await page.shows('Since the pilots asked.');
  });

  it('approves with a key and goes on; a capture with two causes waits for both', async () => {
    await page.press('a');
    await page.shows('1 capture waits for other causes.');
    await page.shows('1 of 3 decided');
    await page.click('--calm');
    await page.press('a');
    await page.shows('Approved 1 capture.');
    await page.shows('2 of 3 decided');
    const about = JSON.parse(readFileSync(join(folder, 'baselines/day/src/BerthCard/empty.json'), 'utf8')) as {
      approved: { run: number };
    };
    expect(markupIn(folder, 'src/BerthCard/empty').join('\n')).toContain('No vessel here,');
    expect(about.approved.run).toBeGreaterThan(1);
  });

  it('takes back what was decided last, files and all', async () => {
    await page.press('u');
    await page.shows('Taken back for 1 capture.');
    await page.shows('1 of 3 decided');
    expect(markupIn(folder, 'src/BerthCard/empty').join('\n')).toContain('Free berth,');
    await page.click('--calm');
    await page.press('a');
    await page.shows('2 of 3 decided');
  });

  it('leaves single captures out', async () => {
    await page.click('div.banner');
    await page.shows('1 of 2');
    await page.shows('Approve 2 captures');
    await page.press('ArrowRight', 'e');
    await page.shows('left out');
    await page.hides('Approve 2 captures');
    await page.press('a');
    await page.shows('Approved 1 capture.');
    await page.shows('2 of 3 decided');
  });

  it('rejects only with a reason, and says who is to fix it', async () => {
    await page.press('x');
    await page.shows('What is wrong with it?');
    await page.press('Enter');
    await page.shows('What is wrong with it?');
    // Keys typed into the reason are no shortcuts.
    await page.type('a banner pushes it down');
    await page.press('Tab');
    await page.type('Mara');
    await page.press('Enter');
    await page.hides('What is wrong with it?');
    await page.shows('3 of 3 decided');
    const rejected = (await served.client.looks())
      .flatMap(({ captures }) => captures)
      .filter(({ decision }) => decision?.kind === 'reject');
    expect(rejected).toMatchObject([{ decision: { why: 'a banner pushes it down', fixer: 'Mara' } }]);
  });

  it('leads to a cause by its link, and to a capture that is decided already', async () => {
    const { causes } = await served.client.causes();
    const banner = causes.find(({ title }) => title.includes('banner'))!;
    await page.open(`/review?cause=${banner.id}`);
    await page.shows('To be fixed by Mara');
    const decided = (await served.client.looks()).find((one) => one.look === 'empty')!;
    await page.open(`/review?result=${decided.id}&capture=end`);
    await page.shows('✓ Approved by');
  });

  it('keeps the history of a look, of which any two pictures are compared by a link', async () => {
    const look = { component: 'src/BerthCard', look: 'empty', environment: 'day' };
    const { decisions } = await served.client.history(look);
    await page.open(`/history?${new URLSearchParams(look)}`);
    await page.shows('Approved by');
    await page.shows('Taken back by');
    await page.shows('the baseline now');
    await page.shows('visibly in 2 regions');
    await page.press('d');
    await page.shows('Difference: changes are marked');
    const pictures = decisions.filter(({ kind }) => kind !== 'undo').map(({ id }) => id);
    const first = pictures.at(-1)!;
    await page.open(`/history?${new URLSearchParams({ ...look, before: String(first), now: String(first) })}`);
    await page.shows('Both are the same decision.');
    await page.press('ArrowUp');
    await page.holds(`location.search.includes('now=${pictures.at(-2)}')`);
    await page.open('/history?component=src/BerthCard&look=none&environment=day');
    await page.shows('Nothing was decided yet');
  });

  it('shows what somebody else decides meanwhile', async () => {
    await page.open('/review');
    await page.shows('✗ rejected by');
    const { causes } = await served.client.causes();
    const banner = causes.find(({ title }) => title.includes('banner'))!;
    await served.client.decide({ kind: 'approve', causes: [banner.key], who: 'Mara' });
    await page.hides('div.banner');
    await page.press('1');
    await page.shows('four nights');
  });
});

describe('a run that could not be done', () => {
  it('is told on every page, with the place and what to do, until the next one goes better', async () => {
    const harbour = project({
      'src/A.look.tsx': lookFile('return <p>a</p>;', 'plain: {}'),
      'sguardo.frame.tsx': 'export default ({ children }) => <div>{children</div>;',
    });
    const other = await openConsole((await serve(harbour)).service.url);
    await other.open('/');
    await other.shows('Nothing has been run yet');
    await other.click('Run all looks');
    await other.shows('✗ The last run: The frame sguardo.frame.tsx could not be bundled');
    await other.shows('sguardo.frame.tsx:1:');
    await other.shows('Fix the code shown.');
    await other.open('/review');
    await other.shows('✗ The last run: The frame');
    // While a console is open, what a saved file concerns is run by itself.
    write(harbour, { 'sguardo.frame.tsx': 'export default ({ children }) => <div>{children}</div>;' });
    await other.shows('A › plain');
    await other.hides('The last run');
  });
});

describe('several runs', () => {
  it('wait for one another; Stop stops the one beside it, and results count for their own run', async () => {
    const [one, two] = await Promise.all([gate(), gate()]);
    const held = (wait: string): string =>
      lookFile('return <p>held</p>;', `held: { async script() { ${wait} } }, free: {}`);
    const { client, service } = await serve(
      project({
        'sguardo.config.ts': configuration({ timeLimit: 60_000, lanes: 2 }),
        'src/One.look.tsx': held(one.wait),
        'src/Two.look.tsx': held(two.wait),
      }),
    );
    const other = await openConsole(service.url);
    await other.open('/');
    await other.shows('Nothing has been run yet');
    const first = await client.startRun({ patterns: ['One'] });
    const second = await client.startRun({ patterns: ['Two'] });
    expect((await client.run(second.id)).status).toBe('queued');
    await one.reached;
    await other.shows('1 waiting');
    expect((await client.project()).run!.id).toBe(first.id);
    await other.click('Stop');
    one.open();
    expect(await finished(client, first.id)).toMatchObject({ status: 'stopped' });
    await two.reached;
    await other.hides('1 waiting');
    await other.holds(`document.querySelector('[aria-label="Run ${second.id} in progress"]') !== null`);
    two.open();
    expect(await finished(client, second.id)).toMatchObject({ status: 'finished', done: 2 });
    await other.shows('Run all looks');
    // Enter does what the focused thing does, and not what the page would do.
    await other.press('ArrowRight');
    await other.window.evaluate(
      "[...document.querySelectorAll('button')].find((one) => one.textContent.startsWith('new')).focus()",
    );
    await other.press('Enter');
    await other.holds("location.search.includes('verdict=new') && location.pathname === '/'");
  });
});

describe('without its service', () => {
  it('says so, with what to do', async () => {
    const other = await serve(project({ 'src/A.look.tsx': lookFile('return <p>a</p>;', 'plain: {}') }));
    const lost = await openConsole(other.service.url);
    await lost.open('/');
    await lost.shows('Nothing has been run yet');
    await other.service.close();
    await lost.shows('The service is not answering.');
    await lost.shows('sguardo serve');
  });
});

describe('many pages of one console', () => {
  it('do not keep one another from being loaded', async () => {
    for (let i = 0; i < 10; i++) {
      await page.open(i % 2 ? '/review' : '/');
      await page.shows('Run all looks');
    }
  });
});
