/** The console's pages of what was found out beside verdicts: coverage and accessibility. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
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
  await page.shows('Nothing was counted yet');
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

it('a look that runs a line is one click away', async () => {
  await page.click('Buoy › plain');
  await page.holds("location.pathname.startsWith('/bench/')");
});

it('findings are shown with their element outlined, and are taken as known', async () => {
  await page.press('3');
  await page.shows('Buttons have a name');
  await page.shows('New findings fail no look yet.');
  await page.holds("document.querySelector('main img')?.naturalWidth > 0");
  const outline = `(() => { const [box] = [...document.querySelectorAll('main img ~ span')].map((one) => one.getBoundingClientRect());
    return box !== undefined && Math.abs(box.width - box.height) < 1; })()`;
  await page.holds(outline);
  await page.click('Take all of these as known');
  await page.shows('New findings that are severe or worse fail their looks.');
  await page.shows('Known since');
  expect(existsSync(join(root, 'sguardo.known.json'))).toBe(true);
});
