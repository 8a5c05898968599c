/** Live looks in the console: from the bench, with mouse and keyboard, to lines that are kept. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { configuration, project, write } from '../support/project.ts';
import { openConsole, type Page } from '../support/page.ts';
import { type Served, serve } from '../support/service.ts';

const component = `import { useState } from 'react';
export function Lock(props: { onOpen(gates: number): void }) {
  const [gates, setGates] = useState(0);
  const open = () => {
    setGates(gates + 1);
    props.onOpen(gates + 1);
  };
  return (
    <main>
      <button type="button" style={{ position: 'fixed', inset: '100px 100px auto 100px', height: 100 }} onClick={open}>
        Open
      </button>
      <p>{gates} open</p>
    </main>
  );
}
`;
const looks = `import { click, ensure, looks, the } from 'sguardo';
import { Lock } from './Lock';
export default looks(Lock, { states: {
  shut: {},
  opened: {
    async script() {
      await click(the.button('Open'));
      await click(the.button('Open'));
      await ensure(the.text('2 open')).isVisible();
    },
  },
  fails: { async script() { await click(the.button('Shut')); } },
} });
`;
const file = 'src/Lock.look.tsx';

let root: string;
let served: Served;
let page: Page;
let look: (name: string) => ResultSummary;

beforeAll(async () => {
  root = project({
    'sguardo.config.ts': configuration({ environments: { day: { viewport: [500, 400] } } }),
    'src/Lock.tsx': component,
    [file]: looks,
  });
  served = await serve(root);
  ({ look } = await served.run());
  page = await openConsole(served.service.url);
});

/** Clicks at a place of the page that is live, in its own pixels. */
async function clickAt(x: number, y: number): Promise<void> {
  const [left, top, scale] = (await page.window.evaluate(`(() => {
    const { left, top, width } = document.querySelector('[role=application]').getBoundingClientRect();
    return [left, top, width / 500];
  })()`)) as [number, number, number];
  const at = { x: left + x * scale, y: top + y * scale, button: 'left', modifiers: 0 } as const;
  await page.window.input([
    { kind: 'move', ...at, button: 'none' },
    { kind: 'down', ...at, clicks: 1 },
    { kind: 'up', ...at, clicks: 1 },
  ]);
}

/** The colour of the page that is live at a place of it, once it is drawn. */
const isDrawn = `(() => {
  const canvas = document.querySelector('[role=application] canvas');
  return canvas?.width === 500 && canvas.getContext('2d').getImageData(250, 150, 1, 1).data[3] === 255;
})()`;

const field = 'A line to try';

describe('a live look', () => {
  it('begins on the bench, at the step that one is at, and goes on from there', async () => {
    await page.open(`/bench/${look('opened').id}?step=1`);
    await page.shows('moment');
    await page.press('x');
    await page.holds("location.search.includes('breaks=1')");
    await page.press('x', 'ArrowLeft', 'l');
    await page.shows('Stopped before step 1');
    await page.holds(isDrawn);
    await page.press('o');
    await page.shows('Stopped before step 2');
    // What is still to come is there, and can be gone to.
    await page.click('Go on to step 3');
    await page.shows('Stopped before step 3');
    await page.press('g');
    await page.shows('At the end');
    await page.click('Close');
    await page.shows('Closed');
    await page.click('Go live again');
    await page.shows('At the end');
    await page.click('Close');
    await page.shows('Closed');
  });

  it('stops at breakpoints that are put on its steps', async () => {
    await page.open(`/bench/${look('opened').id}?step=0&breaks=2`);
    await page.shows('moment');
    await page.press('l');
    await page.shows('Stopped before step 1');
    await page.press('g');
    await page.shows('At a breakpoint, before step 2');
    await page.click('Stop before step 2');
    await page.holds("!location.search.includes('breaks')");
    await page.click('Close');
    await page.shows('Closed');
  });

  it('tries lines, which are completed from the page, and says what is wrong with them', async () => {
    await page.open(`/bench/${look('shut').id}`);
    await page.shows('moment');
    await page.press('l');
    await page.shows('At the end');
    await page.press('l');
    await page.holds(`document.activeElement.ariaLabel === ${JSON.stringify(field)}`);
    await page.type("click(the.button('");
    await page.holds(`document.querySelector('[role=option]')?.textContent === "Open')"`);
    await page.press('Tab');
    await page.press('Enter');
    await page.shows('cannot be understood: a bracket or a quote in it is not closed');
    await page.type(')');
    await page.press('Enter');
    await page.holds("document.querySelector('[aria-label=Lines] ol li')?.textContent.includes('✓')");
    await page.type('ensure(props.onOpen).calls(3)');
    await page.press('Enter');
    await page.shows('This did not hold');
    // The arrow brings it back, to be corrected.
    await page.press('ArrowUp');
    await page.press('Backspace', 'Backspace');
    await page.type('1)');
    await page.press('Enter');
    await page.shows('ensure(props.onOpen).calls(1)');
  });

  it('writes down what is done by hand, offers checks of what changed, and keeps the lines as a look', async () => {
    await page.press('Escape', 'w');
    await page.shows('Writing down');
    await clickAt(250, 150);
    await page.shows("click(the.button('Open'))");
    await page.shows('+ ensure(props.onOpen).wasCalledWith(2)');
    await page.click('+ ensure(props.onOpen).wasCalledWith(2)');
    await page.hides('+ ensure(props.onOpen).wasCalledWith(2)');
    await page.click('Keep…');
    await page.click('As a new look');
    await page.holds("document.querySelector('[role=dialog] pre') !== null");
    await page.click('Keep');
    await page.shows(`Kept in ${file}`);
    expect(readFileSync(join(root, file), 'utf8')).toContain(`  'shut 2': {
    after: 'shut',
    async script({ props }) {
      await click(the.button('Open'));
      await ensure(props.onOpen).calls(1);
      await click(the.button('Open'));
      await ensure(props.onOpen).wasCalledWith(2);
    },
  },`);
    for (let tries = 0; tries < 400; tries++) {
      const found = (await served.client.looks()).find((one) => one.look === 'shut 2');
      if (found) return expect([found.verdict, found.problem]).toEqual(['new', null]);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect('the look that was kept').toBe('run');
  });

  it('says before it hands over a page that is not as it was recorded', async () => {
    await page.click('Close');
    await page.shows('Closed');
    write(root, { 'src/Lock.tsx': component.replace('{gates} open', '{gates} gates open') });
    await page.open(`/bench/${look('opened').id}?step=1`);
    await page.shows('moment');
    await page.press('l');
    await page.shows('Not as recorded');
    await page.shows('gates open');
    await page.click('Use it as it is');
    await page.hides('Not as recorded');
    write(root, { 'src/Lock.tsx': component });
    await page.click('Close');
    await page.shows('Closed');
  });

  it('stops where its script fails, is found in the palette, and told when it is gone', async () => {
    await page.open(`/bench/${look('fails').id}?step=0`);
    await page.shows('moment');
    await page.press('l');
    await page.shows('Stopped before step 1');
    await page.press('g');
    await page.shows('Failed at step 1');
    await page.shows('Nothing matched the button “Shut”');
    const path = await page.path();
    await page.press('Escape', 'k');
    await page.holds(`document.activeElement.getAttribute('aria-label') === 'What to do'`);
    await page.type('live fails');
    // Live looks are asked for when the palette is opened.
    await page.holds(`document.querySelector('#commands [role=option]')?.innerText.includes('fails') === true`);
    await page.press('Enter');
    await page.holds(`location.pathname === ${JSON.stringify(path.split('?')[0])}`);
    await page.click('Close');
    await page.shows('Closed');
    await page.open('/live/999');
    await page.shows('There is no live look 999.');
  });

  it('begins from the stage, to write down what is done', async () => {
    await page.open(`/stage?${new URLSearchParams({ file, look: 'shut', env: 'day' })}`);
    await page.shows('onOpen');
    await page.press('w');
    await page.shows('Writing down');
    // What is clicked at is where it is once it is drawn.
    await page.holds("document.querySelector('[role=application] canvas')?.width === 500");
    await clickAt(250, 150);
    await page.shows("click(the.button('Open'))");
  });
});
