/** What is due happens once, however many let it happen at the same time: the page’s time by itself, in a page. */
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { plainFile, project, repository } from '../support/project.ts';
import { serve } from '../support/service.ts';

const time = join(repository, 'src/page/time/time.ts');

/** Two at once, as a step and whoever keeps time while a script waits for something of its own. */
const bell = plainFile(
  'return <p>Bell</p>;',
  `strikes: { async script() {
    beginTime(0);
    const strikes: number[] = [];
    wait(0, 1, () => strikes.push(timeNow()));
    await Promise.all([runDue(), runDue()]);
    await ensure(() => strikes.join()).equals('0');
    await Promise.all([moveOn(1), moveOn(1)]);
    await ensure(() => strikes.join() + ' at ' + timeNow()).equals('0,1 at 1');
  } }`,
  `import { beginTime, moveOn, runDue, timeNow, wait } from '${time}';\n`,
);

it('an interval has one turn at a time', async () => {
  const { look } = await (await serve(project({ 'src/Bell.look.tsx': bell }))).run();
  expect(look('strikes')).toMatchObject({ verdict: 'new', problem: null });
});
