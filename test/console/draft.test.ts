/** Components without looks in the console: how many there are, and drafting looks for one. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { lookFile, project } from '../support/project.ts';
import { openConsole, type Page } from '../support/page.ts';
import { serve } from '../support/service.ts';

describe('the board', () => {
  let root: string;
  let page: Page;

  beforeAll(async () => {
    root = project({
      'package.json': '{ "dependencies": { "react": "19" } }',
      'src/Buoy.look.tsx': lookFile('return <b>{props.name ?? "none"}</b>;', 'plain: {}'),
      'src/Crane.tsx': 'export const Crane = ({ load }: { load: string }) => <b>{load}</b>;',
      'src/Quay.tsx': `import { Crane } from './Crane';\nexport const Quay = () => <Crane load="4 t" />;`,
    });
    const served = await serve(root);
    await served.run();
    page = await openConsole(served.service.url);
    await page.open('/');
  });

  it('says how many components have none, and drafts looks for one that can be run at once', async () => {
    await page.shows('2 components have none');
    await page.press('d');
    await page.shows('Components without looks');
    // The most imported one comes first.
    expect(await page.text()).toMatch(/Crane[\s\S]*imported by 1 file[\s\S]*Quay[\s\S]*imported by 0 files/);
    await page.click('Draft looks');
    await page.shows('src/Crane.look.tsx');
    expect(readFileSync(join(root, 'src/Crane.look.tsx'), 'utf8')).toContain("props: { load: 'Load' }");
    await page.click('Run');
    await page.press('Escape');
    await page.shows('1 component has none');
    await page.shows('long texts');
  });

  it('says why one cannot be drafted', async () => {
    await page.press('d');
    await page.shows('src/Quay.tsx');
    const path = join(root, 'src/Quay.look.jsx');
    writeFileSync(path, '');
    await page.click('Draft looks');
    await page.shows('is there already, and was left as it is.');
  });
});
