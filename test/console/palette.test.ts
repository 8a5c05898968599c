/** The palette: everything that the console can do, by its name. */
import { beforeAll, describe, expect, it } from 'vitest';
import { type Command, matching } from '../../src/console/palette/commands.ts';
import { lookFile, project, write } from '../support/project.ts';
import { openConsole, type Page } from '../support/page.ts';
import { serve } from '../support/service.ts';

const command = (title: string, kind = 'go'): Command => ({ title, kind, does: () => {} });

describe('commands', () => {
  const all = [command('Board: all looks'), command('Run BerthCard', 'run'), command('BerthCard › moored', 'bench')];
  it.each([
    ['', ['Board: all looks', 'Run BerthCard', 'BerthCard › moored']],
    ['berth', ['BerthCard › moored', 'Run BerthCard']],
    ['card run', ['Run BerthCard']],
    ['bench moored', ['BerthCard › moored']],
    ['crane', []],
  ])('are found by every word of “%s”', (text, titles) => {
    expect(matching(all, text).map(({ title }) => title)).toEqual(titles);
  });
});

describe('the palette', () => {
  let root: string;
  let page: Page;

  beforeAll(async () => {
    root = project({
      'src/Buoy.look.tsx': lookFile('return <b>{props.name ?? "none"}</b>;', 'plain: {}, lit: {}'),
      'src/Crane.tsx': 'export const Crane = () => <b />;',
    });
    const served = await serve(root);
    await served.run();
    page = await openConsole(served.service.url);
    await page.open('/');
    await page.shows('plain');
  });

  it('opens looks on the bench and on the stage, with nothing but keys', async () => {
    await page.press('k');
    await page.holds(`document.activeElement?.getAttribute('role') === 'combobox'`);
    await page.type('bench lit');
    await page.shows('Buoy › lit');
    await page.press('Enter');
    await page.holds(`location.pathname.startsWith('/bench/')`);
    await page.press('Control+k');
    await page.holds(`document.activeElement?.getAttribute('role') === 'combobox'`);
    await page.type('stage buoy');
    await page.press('ArrowDown', 'Enter');
    await page.holds(`location.pathname === '/stage' && location.search.includes('look=lit')`);
  });

  it('lists what is still to be drafted, says when nothing is called that, and closes', async () => {
    await page.open('/review');
    await page.shows('Buoy');
    await page.press('k');
    await page.shows('Draft looks for Crane');
    await page.type('xyzzy');
    await page.shows('Nothing is called that.');
    await page.press('Escape');
    await page.hides('Nothing is called that.');
  });

  it('says why looks could not be drafted', async () => {
    write(root, { 'src/Crane.look.jsx': '' });
    await page.press('k');
    await page.holds(`document.activeElement?.getAttribute('role') === 'combobox'`);
    await page.type('draft crane');
    await page.holds(`document.querySelector('#commands [role=option]')?.innerText.includes('Crane') === true`);
    await page.press('Enter');
    await page.shows('✗ The draft: ');
    await page.shows('is there already, and was left as it is.');
  });
});
