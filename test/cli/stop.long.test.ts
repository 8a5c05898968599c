/** `sguardo run --stop`, `--headed` and `--pace`, as somebody at a terminal uses them. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { beforeAll, describe, expect, it } from 'vitest';
import { afterwards } from '../support/afterwards.ts';
import { env, program, said, type Said, sguardo } from '../support/cli.ts';
import { configuration, project } from '../support/project.ts';

const component = `import { useState } from 'react';
export function Lock() {
  const [gates, setGates] = useState(0);
  return <main><button onClick={() => setGates(gates + 1)}>Open</button><p>{gates} open</p></main>;
}
`;
const looks = `import { click, ensure, looks, part, pause, the } from 'sguardo';
import { Lock } from './Lock';
export default looks(Lock, { states: {
  opens: { async script() { await click(the.button('Open')); await ensure(the.text('1 open')).isVisible(); } },
  fails: { async script() {
    await click(the.button('Shut'));
    await ensure(the.text('1 open')).isVisible();
  } },
  pauses: { async script() {
    await pause();
    await part('twice', async () => { await click(the.button('Open')); await click(the.button('Open')); });
  } },
} });
`;

const hasXvfb = spawnSync('Xvfb', ['-help']).error === undefined;

/** A screen that nobody sees, and its name. */
async function screen(): Promise<string> {
  const child: ChildProcess = spawn('Xvfb', ['-displayfd', '3', '-screen', '0', '1280x800x24', '-nolisten', 'tcp'], {
    stdio: ['ignore', 'ignore', 'ignore', 'pipe'],
  });
  afterwards(() => void child.kill('SIGTERM'));
  const number = await new Promise<string>((resolve) =>
    child.stdio[3]!.once('data', (data: Buffer) => resolve(data.toString().trim())),
  );
  return `:${number}`;
}

/** A project of its own. */
const lock = (): string =>
  project({
    'sguardo.config.ts': configuration({ environments: { day: { viewport: [400, 300] } } }),
    'src/Lock.tsx': component,
    'src/Lock.look.tsx': looks,
  });

let root: string;

/** One service for all commands, which has a screen where there can be one. */
beforeAll(async () => {
  root = lock();
  const around = { ...env, DISPLAY: hasXvfb ? await screen() : '' };
  const child = spawn(process.execPath, [program, 'serve'], {
    cwd: root,
    env: around,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  afterwards(() => void child.kill('SIGTERM'));
  await new Promise<void>((resolve) => {
    child.stdout.on('data', (data: Buffer) => data.toString().includes('http://') && resolve());
    child.once('exit', () => resolve());
  });
});

/** Runs a command that is given lines, as if somebody had written them. */
function written(lines: readonly string[], ...args: string[]): Promise<Said> {
  const child = spawn(process.execPath, [program, ...args], { cwd: root, env, stdio: ['pipe', 'pipe', 'pipe'] });
  child.stdin.end(`${lines.join('\n')}\n`);
  return said(child);
}

describe('sguardo run --stop', () => {
  it('stops where a look fails, tries lines on its page, and goes on behind it', async () => {
    const lines = ["click(the.button('Open'))", 'nonsense(', 'steps', 'lines', 'go'];
    const { code, out } = await written(lines, 'run', 'Lock/fails', '--stop');
    expect(code).toBe(1);
    expect(out).toContain('Lock › fails in day');
    expect(out).toContain('Stopped at a failure: step 1, click the button “Shut”  src/Lock.look.tsx:6');
    expect(out).toContain('Nothing matched the button “Shut” within 2000 ms.');
    expect(out).toContain('This line cannot be understood: a bracket or a quote in it is not closed.');
    expect(out).toMatch(/ {6}1 ✗ click the button “Shut”.*\n +try ✓ click the button “Open”/);
    expect(out).toContain('At the end of the script.');
    expect(out).toMatch(/Lines that held:\nawait click\(the\.button\('Open'\)\);\n$/);
  });

  it('stops at pause(), goes over, into and to steps, and drops the lines', async () => {
    const lines = ['over', 'into', "click(the.button('Open'))", 'drop', 'to 1', 'to 4', 'help', 'wind up', 'end'];
    const { out } = await written(lines, 'run', 'Lock/pauses', '--stop');
    expect(out).toContain('Paused before step 1: pause');
    expect(out).toContain('Stopped before step 2: twice');
    expect(out.match(/Stopped before step 3: click the button “Open”/g)).toHaveLength(2);
    expect(out).toContain('Expected the number of a step that is still to come, from 4 on, got “1”.');
    expect(out).toContain('Stopped before step 4: click the button “Open”');
    expect(out).toContain('go on to the next step, over all that is in a part');
    expect(out).toContain('This line cannot be understood: Unexpected identifier');
    expect(out).not.toContain('Lines that held');
  });

  it('runs on where nothing fails, and ends when nobody writes anything', async () => {
    const passed = await sguardo(root, 'run', 'Lock/opens', '--stop');
    expect([passed.code, passed.out]).toEqual([0, expect.stringContaining('1 new')]);
    const alone = await sguardo(root, 'run', 'Lock/fails', '--stop');
    expect([alone.code, alone.out]).toEqual([1, expect.stringContaining('Stopped at a failure')]);
  });
});

describe('sguardo run --headed', () => {
  it('says so where there is no screen', async () => {
    const around = { ...env, DISPLAY: '', WAYLAND_DISPLAY: '' };
    const args = ['run', 'Lock/opens', '--headed'];
    const child = spawn(process.execPath, [program, ...args], { cwd: lock(), env: around });
    child.stdin.end();
    const { code, out } = await said(child);
    expect([code, out]).toEqual([3, expect.stringContaining('There is no screen to show windows on.')]);
  });

  it.skipIf(!hasXvfb)(
    'shows a window, waits before each step, and keeps it open until somebody has seen it',
    async () => {
      const args = ['run', 'Lock/opens', '--headed', '--pace', '400'];
      const child = spawn(process.execPath, [program, ...args], { cwd: root, env });
      let out = '';
      child.stdout.on('data', (data: Buffer) => {
        out += data.toString();
      });
      const ending = said(child);
      while (!out.includes('The window stays open.') && child.exitCode === null)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect(out).toContain('1 new');
      const took = Number(/ (\d+) ms · new/.exec(out)?.[1]);
      // Four steps: mount, click, check, capture.
      expect(took).toBeGreaterThanOrEqual(1600);
      expect(child.exitCode).toBeNull();
      child.stdin.end('\n');
      expect((await ending).code).toBe(0);
    },
  );

  it.skipIf(!hasXvfb)('attends a look in its window', async () => {
    const args = ['run', 'Lock/fails', '--stop', '--headed'];
    const child = spawn(process.execPath, [program, ...args], { cwd: root, env });
    child.stdin.end("click(the.button('Open'))\ngo\n");
    const { out } = await said(child);
    expect(out).toContain('Stopped at a failure: step 1');
    expect(out).toContain('At the end of the script.');
  });

  it.each([
    ['--pace', 'slow', 'Expected a number from 0 to 60000, got “slow”.'],
    ['--pace', '-1', 'Expected a number from 0 to 60000, got “-1”.'],
  ])('takes no %s %s', async (option, value, message) => {
    const { code, err } = await sguardo(root, 'run', option, value);
    expect([code, err]).toEqual([2, expect.stringContaining(message)]);
  });
});
