/** Deciding in a terminal: stepping through causes, taking back, and the history of it. */
import { spawn } from 'node:child_process';
import { beforeAll, expect, it } from 'vitest';
import { env, program, said, sguardo } from '../support/cli.ts';
import { lookFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (colour: string, text: string): string =>
  lookFile(
    `return <p style={{ color: '${colour}' }}>${text} {props.name}</p>`,
    "plain: {}, named: { props: { name: 'C-14' } }",
  );
const gauge = (text: string): string =>
  `import { capture, ensure, looks, the } from 'sguardo';\nfunction Gauge() { return <p>${text}</p>; }\n` +
  "export default looks(Gauge, { states: { reads: { async script() { await capture('dial'); " +
  "await ensure(the.text('3.2 m')).isVisible(); } } } });\n";

let folder: string;
let served: Served;

/** What the command says when somebody types these lines. */
async function typed(...lines: string[]) {
  const child = spawn(process.execPath, [program, 'review'], { cwd: folder, env, stdio: 'pipe' });
  const saying = said(child);
  child.stdin.end(lines.map((line) => `${line}\n`).join(''));
  return saying;
}

const kinds = async (): Promise<string[]> =>
  (await served.client.looks())
    .flatMap(({ look, captures }) => captures.map(({ decision }) => `${look} ${decision?.kind ?? 'open'}`))
    .sort();

beforeAll(async () => {
  folder = project({ 'src/Buoy.look.tsx': buoy('navy', 'Buoy'), 'src/Gauge.look.tsx': gauge('3.2 m') });
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true, who: 'Ada', why: 'first look' });
  write(folder, { 'src/Buoy.look.tsx': buoy('teal', 'Beacon'), 'src/Gauge.look.tsx': gauge('4.1 m') });
  await served.run();
});

it('shows each cause with its captures and a link; nothing typed decides nothing', async () => {
  const { out, code } = await typed();
  expect(out).toContain('3 causes, 3 captures left');
  expect(out).toMatch(/ 1 {2}✓ proved {2}/);
  expect(out).toMatch(/http:\/\/127\.0\.0\.1:\d+\/review\?cause=[0-9a-f]+/);
  expect(code).toBe(1);
  expect(await kinds()).toEqual(['named open', 'plain open', 'reads open']);
});

it('skips, goes back, comments, and explains itself', async () => {
  const { out } = await typed('s', 'p', 'c Since when?', 'nonsense', 'e Buoy/named', 'e', 'q');
  expect(out).toContain('Your comment stands beside it.');
  expect(out).toContain('leave these looks out');
  expect(out).toContain('Left out: Buoy/named.');
  expect(out).toContain('Nothing is left out.');
  expect((await served.client.causes()).causes[0]!.comments.map(({ text }) => text)).toEqual(['Since when?']);
});

it('approves cause by cause, but for what is left out; a capture when all its causes are', async () => {
  const { out } = await typed('a', 'e Buoy/named', 'a both were meant', 'q');
  expect(out).toContain('2 captures wait for other causes to be decided.');
  expect(out).toContain('✓ Approved 1 capture.');
  expect(await kinds()).toEqual(['named open', 'plain approve', 'reads open']);
});

it('takes back what was decided here, and says when there is nothing more', async () => {
  const { out } = await typed('a', 's', 'u', 'u', 'q');
  expect(out).toContain('✓ Approved 1 capture.');
  expect(out).toContain('Taken back for 1 capture.');
  expect(out).toContain('You have decided nothing here that could be taken back.');
  expect(await kinds()).toEqual(['named open', 'plain approve', 'reads open']);
});

it('rejects with a reason and a name; of what fails, with what it says', async () => {
  const { out, code } = await typed('x', 'navy was right', 'Mara', 'a', 'x', '', '');
  expect(out).toContain('✗ Rejected 1 capture.');
  expect(out).toContain('What fails cannot be approved.');
  expect(out).toContain('Nothing is left to decide.');
  expect(code).toBe(0);
  const decisions = (await served.client.looks()).flatMap(({ captures }) => captures.map(({ decision }) => decision));
  expect(decisions.map((decision) => [decision?.kind, decision?.fixer ?? null])).toEqual(
    expect.arrayContaining([
      ['reject', 'Mara'],
      ['reject', null],
    ]),
  );
});

it('is told by sguardo history, and taken back by sguardo undo', async () => {
  const { out } = await sguardo(folder, 'history', 'Buoy/plain');
  expect(out).toMatch(
    /^Buoy › plain · day\n {2}✓ approved by .* · decision \d+ · the baseline now\n {6}“both were meant”\n/,
  );
  expect(out).toContain('“first look”');
  const whole = await sguardo(folder, 'history');
  expect(whole.out).toContain('Buoy › plain');
  expect(whole.out).not.toContain('Nothing was decided');
  const json = JSON.parse((await sguardo(folder, 'history', 'Buoy/plain', '--json')).out) as { format: string };
  expect(json.format).toBe('sguardo-history/1');
  const undone = await sguardo(folder, 'undo');
  expect(undone.out).toMatch(/^The rejection by .* \(decision \d+\) of 1 capture is taken back\.\n$/);
  const wrong = await sguardo(folder, 'undo', 'red');
  expect([wrong.err.includes('Expected the number of a decision, got “red”.'), wrong.code]).toEqual([true, 2]);
  const none = await sguardo(folder, 'undo', '999');
  expect(none.err).toBe('✗ There is no decision to take back.\n→ See what was decided: sguardo history\n');
});
