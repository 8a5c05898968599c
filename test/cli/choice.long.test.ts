/** Which looks a run is about: tags, what is left out, what failed, and the list of them. */
import { expect, it } from 'vitest';
import { project, write } from '../support/project.ts';
import { serveByCommand, sguardo, sguardoIn } from '../support/cli.ts';
import { serve } from '../support/service.ts';

const file = (states: string, more = ''): string => `import { ensure, looks, the } from 'sguardo';
const Buoy = ({ colour = 'red', big = false }: { colour?: string; big?: boolean }) =>
  <p>{colour} {big ? 'big' : 'small'}</p>;
export default looks(Buoy, { ${more} states: { ${states} } });`;

const states = `
  plain: {},
  slow: { tags: ['slow'] },
  wrong: { async script() { await ensure(the.text('green')).isVisible(); }, patience: 10 },
  later: { skip: 'waits for the crane', tags: ['slow'] },
  'by night': { environments: ['night'] },
  painted: { each: { colour: ['red', 'green'], big: [true, false] } },`;

const config = 'export default { lanes: 1, environments: { day: {}, night: { scheme: "dark" } } };';

it('chooses looks by tags, leaves out what their files leave out, and says why', async () => {
  const folder = project({ 'sguardo.config.ts': config, 'src/Buoy.look.tsx': file(states) });
  await serveByCommand(folder);

  const listed = await sguardo(folder, 'list');
  expect(listed.code).toBe(0);
  expect(listed.out).toContain('src/Buoy\n  plain\n  slow  #slow\n  wrong  script\n');
  expect(listed.out).toContain('  later  #slow · skipped: waits for the crane\n  by night  only in night\n');
  expect(listed.out).toContain('  painted: red, big\n  painted: red, not big\n  painted: green, big\n');
  expect(listed.out).toContain('9 looks of 1 component');
  const json = JSON.parse((await sguardo(folder, 'list', '--tag', 'slow', '--json')).out) as { looks: object[] };
  expect(json.looks).toMatchObject([
    { look: 'slow', tags: ['slow'] },
    { look: 'later', skip: 'waits for the crane' },
  ]);

  const all = await sguardo(folder, 'run');
  expect(all.out).toMatch(/skipped Buoy › later: waits for the crane/);
  // Seven looks by day and eight by night, of which one fails in each.
  expect(all.out).toMatch(/2 failed, 13 new {2}15 looks/);

  const others = await sguardo(folder, 'run', '--without-tag', 'slow', '-e', 'day');
  expect(others.out).toMatch(/1 failed, 5 new {2}6 looks/);
  expect(others.out).not.toContain('skipped');

  const failed = await sguardo(folder, 'run', '--failed');
  expect(failed.out).toMatch(/2 failed {2}2 looks/);
  write(folder, { 'src/Buoy.look.tsx': file(states.replace("'green')", "'red small')")) });
  expect((await sguardo(folder, 'run', '--failed')).out).toMatch(/2 new {2}2 looks/);
  const nothing = await sguardo(folder, 'run', '--failed');
  expect([nothing.code, nothing.out]).toEqual([0, 'Nothing failed or broke in the newest run of every look.\n']);

  const none = await sguardo(folder, 'run', '--tag', 'quick');
  expect(none.code).toBe(2);
  expect(none.err + none.out).toContain('No looks match “the tag quick”.');
});

it('a look that is left out says so on the board and in the handbook, for as long as it is', async () => {
  const wrong = "async script() { await ensure(the.text('green')).isVisible(); }, patience: 10";
  const buoy = (skip: string): Record<string, string> => ({
    'src/Buoy.look.tsx': file(`plain: {}, wrong: { ${skip} ${wrong} }`),
  });
  const { folder, run, client } = await serve(project(buoy('')));
  const told = async () => {
    await run();
    const [board, [entry], page] = await Promise.all([
      client.board(),
      client.handbook(),
      client.handbookPage('src/Buoy'),
    ]);
    return { board: board.map(({ skip }) => skip), page: page.looks.map(({ skip }) => skip), worst: entry!.verdict };
  };
  const none = { board: [null, null], page: [null, null], worst: 'failed' };
  expect(await told()).toEqual(none);
  write(folder, buoy("skip: 'waits for the crane',"));
  const skipped = [null, 'waits for the crane'];
  expect(await told()).toEqual({ board: skipped, page: skipped, worst: 'new' });
  write(folder, buoy(''));
  expect(await told()).toEqual(none);
});

it('runs only the look that is marked so, and refuses that where CI=true', async () => {
  const folder = project({
    'sguardo.config.ts': 'export default { lanes: 1 };',
    'src/Buoy.look.tsx': file('plain: {}, this: { only: true }'),
  });
  await serveByCommand(folder);
  const here = await sguardo(folder, 'run');
  expect(here.out).toMatch(/1 new {2}1 look,/);
  expect(here.out).toContain('skipped Buoy › plain: another look of its file is marked “only”');
  expect((await sguardo(folder, 'approve', '--all')).code).toBe(0);
  const ci = await sguardoIn(folder, { CI: 'true' }, 'run');
  expect(ci.code).toBe(2);
  expect(ci.out).toContain('The look “this” is marked “only”, so the others of its file would not be run.');
});

it('tells what is wrong with how looks are chosen', async () => {
  const folder = project({
    'sguardo.config.ts': 'export default { lanes: 1 };',
    'src/Many.look.tsx': file('many: { each: { colour: Array(40).fill("x"), big: Array(30).fill(true) } }'),
    'src/None.look.tsx': file('none: { each: { colour: [] } }'),
    'src/Strange.look.tsx': file('strange: { environments: ["dusk"] }'),
    'src/Why.look.tsx': file('why: { skip: true }'),
    'src/Gone.look.tsx': `import { looks } from 'sguardo'; const Gone = undefined as never;
export default looks(Gone, { states: { a: {} } });`,
  });
  const { out, code } = await sguardo(folder, 'run');
  expect(code).toBe(2);
  expect(out).toContain('The look “many” makes 1200 looks, more than 1000.');
  expect(out).toContain('or say that so many are meant: most: 1200');
  expect(out).toContain('The look “none” has colour: [] in each.');
  expect(out).toContain('There is no environment “dusk”.');
  expect(out).toContain('The look “why” has the skip true.');
  expect(out).toContain('looks(…) was given undefined for a component.');
});
