/** The console's pages of what was found out beside verdicts: coverage and accessibility. */
import { existsSync } from 'node:fs';
import { basename, join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { openConsole, type Page } from '../support/page.ts';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const buoy = `export function Buoy({ sea = 'calm' }: { sea?: 'calm' | 'gale' }) {
  if (sea === 'gale') {
    return <b>Stay in</b>;
  }
  return <div><i>Go out</i> <button style={{ width: 30, height: 30 }}></button></div>;
}
`;

let root: string;
let page: Page;

beforeAll(async () => {
  root = project({
    'src/Buoy.tsx': buoy,
    'src/other.ts': 'export const twice = (a: number) => a * 2;\n',
    'src/Buoy.look.tsx': `import { looks } from 'sguardo';
import { Buoy } from './Buoy';
export default looks(Buoy, { states: { plain: {} } });`,
  });
  const served = await serve(root);
  page = await openConsole(served.service.url);
});

it('coverage is counted from its own page, where nothing was counted yet', async () => {
  await page.open('/coverage');
  await page.shows('Nothing has been counted yet');
  await page.click('Run all looks with coverage');
  await page.shows('1 look of run 1, 2 sources');
});

it('sources with least covered come first, and keys lead through their gaps', async () => {
  const text = await page.text();
  expect(text.indexOf('other.ts')).toBeLessThan(text.indexOf('Buoy.tsx'));
  await page.press('ArrowDown');
  await page.shows("sea === 'gale' is never true");
  // What is drafted for it is there to be copied.
  await page.shows("'sea gale': { props: { sea: 'gale' } },");
  await page.press('n');
  await page.holds("location.search.includes('line=3')");
  await page.shows('No look runs it.');
  await page.press('p');
  await page.holds("location.search.includes('line=2')");
  await page.shows('1 look runs it:');
  expect(await page.path()).toBe('/coverage?file=src%2FBuoy.tsx&line=2');
});

it('a list is one stop of Tab, and what is chosen in it keeps the focus', async () => {
  const focused = `document.activeElement?.matches('[role=option][aria-selected=true]') === true`;
  for (let tabs = 0; tabs < 30 && !(await page.window.evaluate(focused)); tabs++) await page.press('Tab');
  await page.holds(
    `${focused} && document.activeElement.ariaPosInSet === '2' && document.activeElement.ariaSetSize === '2'`,
  );
  await page.press('ArrowUp');
  await page.holds(`${focused} && document.activeElement.ariaPosInSet === '1'`);
  await page.press('ArrowDown');
  await page.holds(`${focused} && document.activeElement.ariaPosInSet === '2'`);
  await page.press('Tab');
  await page.holds(`document.activeElement?.matches('[role=option]') === false`);
});

it('a look that runs a line is one click away', async () => {
  await page.click('Buoy › plain');
  await page.holds("location.pathname.startsWith('/bench/')");
});

it('each page has a name of its own, and one heading that all others are below', async () => {
  const name = basename(root);
  for (const [key, title] of [
    ['1', 'Board'],
    ['2', 'Review'],
    ['3', 'Accessibility'],
    ['4', 'Coverage'],
    ['5', 'Handbook'],
  ] as const) {
    await page.press(key);
    await page.holds(`document.title === '${title} · ${name} · Sguardo'`);
    await page.holds(`[...document.querySelectorAll('h1')].map((one) => one.textContent).join() === '${title}'`);
  }
  await page.open('/nowhere');
  await page.holds(`document.title === 'Page not found · ${name} · Sguardo'`);
  await page.open('/bench/1');
  await page.holds(`document.title === 'Buoy › plain · day · ${name} · Sguardo'`);
});

it('findings are shown with their element outlined, and are taken as known', async () => {
  await page.press('3');
  await page.shows('Buttons have a name');
  await page.shows('New findings fail no look yet.');
  await page.holds("document.querySelector('main img')?.naturalWidth > 0");
  const outline = `(() => {
      const [box] = [...document.querySelectorAll('main img ~ span')].map((one) => one.getBoundingClientRect());
      return box !== undefined && Math.abs(box.width - box.height) < 1;
    })();`;
  await page.holds(outline);
  await page.click('Take all of these as known');
  await page.shows('New findings that are severe or worse fail their looks.');
  await page.shows('Known since');
  expect(existsSync(join(root, 'sguardo.known.json'))).toBe(true);
});
