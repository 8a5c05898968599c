/** The command line, as a process in a project's folder. */
import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { ended, env, gone, program, said, serveByCommand, serviceNote, sguardo } from '../support/cli.ts';
import { childrenOf } from '../support/processes.ts';
import { freshFolder, plainFile, project, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** Such lines after one another, `#` for any number and `…` for any name of a cause. */
const inLines = (...lines: string[]): RegExp =>
  new RegExp(
    lines
      .map((line) =>
        line
          .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
          .replace('#', '\\d+')
          .replace('…', '[0-9a-f]+'),
      )
      .map((line) => `${line}\n`)
      .join(''),
  );

const buoys = (text: string): string =>
  plainFile(`return <p>${text} {props.name}</p>;`, "plain: {}, named: { props: { name: 'C-14' } }");
const failing = plainFile(
  'return <button type="button">Save</button>;',
  "saves: { async script() {\n  await click(the.button('Sale'));\n} }",
);

describe('sguardo', () => {
  it('explains itself, every command with examples', async () => {
    const folder = freshFolder();
    const { code, out } = await sguardo(folder, '--help');
    expect(code).toBe(0);
    for (const command of ['run', 'approve', 'reject', 'serve'])
      expect(out).toMatch(new RegExp(`^ +${command}\\b`, 'm'));
    for (const command of ['run', 'approve', 'reject', 'serve'])
      expect((await sguardo(folder, command, '--help')).out).toMatch(/Examples?:\n {2}sguardo /);
    expect((await sguardo(folder, '--version')).out).toMatch(/^\d+\.\d+\.\d+\n$/);
  });

  it.each([
    [['rum'], /unknown command 'rum'/],
    [['run', '--nothing'], /unknown option '--nothing'/],
    [['run', '--repeat', 'often'], /whole number from 1 to 1000/],
    [['serve', '--port', '99999'], /whole number from 1 to 65535/],
    [['reject', 'x'], /required option '-w, --why <text>' not specified/],
  ])('exits with 2 when it is not understood: %s', async (args, message) => {
    const { code, err } = await sguardo(project({}), ...args);
    expect(err).toMatch(message);
    expect(code).toBe(2);
  });

  it('exits with 2 and a way out when there is no project, a wrong configuration, or no look file', async () => {
    const nowhere = await sguardo('/', 'run');
    expect(nowhere.err).toMatch(/^✗ There is no sguardo\.config\.ts in \/ or in any folder above it\.\n→ Create one/);
    const wrong = await sguardo(project({ 'sguardo.config.ts': 'export default { lane: 1 };' }), 'run');
    expect(wrong.err).toMatch(/✗ sguardo\.config\.ts: there is no entry “lane”\.\n→ Did you mean “lanes”\?/);
    const empty = await sguardo(project({}), 'run');
    expect(empty.out).toMatch(/No look files found in .* with \*\*\/\*\.look\.tsx/);
    expect([nowhere.code, wrong.code, empty.code]).toEqual([2, 2, 2]);
    for (const { err, out } of [nowhere, wrong, empty]) expect(err + out).not.toMatch(/^ +at /m);
  });
});

describe('sguardo run', () => {
  it('goes from new over approved to passed, with a service of its own that ends with it', async () => {
    const folder = project({ 'src/Buoy.look.tsx': buoys('Buoy') });
    const first = await sguardo(folder, 'run');
    expect(first.out).toMatch(/^\+ Buoy › plain · day · \d+ ms · new$/m);
    expect(first.out).toMatch(/^2 new {2}2 looks, 2 captures, [\d.]+ s$/m);
    expect(first.out).toContain('To approve what is new: sguardo approve --all');
    expect([first.code, first.err]).toEqual([0, '']);
    expect(existsSync(join(folder, '.sguardo/service.json'))).toBe(false);
    expect((await sguardo(folder, 'run', '--strict')).code).toBe(1);

    // A service that is there saves each command from starting one.
    await serve(folder);
    const approved = await sguardo(folder, 'approve', '--all', '--why', 'first look');
    expect(approved.out).toMatch(/✓ Buoy › plain · day · end\n✓ Buoy › named · day · end\n2 captures approved\.\n$/);
    expect((await sguardo(folder, 'approve', '--all')).out).toBe('Nothing to do: 2 captures are already approved.\n');
    const second = await sguardo(folder, 'run', '--strict');
    expect(second.out).toMatch(/^2 passed/m);
    expect(second.code).toBe(0);

    write(folder, { 'src/Buoy.look.tsx': buoys('Beacon') });
    const third = await sguardo(folder, 'run', 'plain');
    expect(third.out).toMatch(
      inLines(
        '1 cause behind 1 change',
        '   1  ✓ proved  text of the paragraph: “Buoy” → “Beacon”',
        '      1 capture · # pixels · src/Buoy.look.tsx:2',
        '      Buoy › plain (day)',
        '      http://127.0.0.1:#/review?cause=…',
      ),
    );
    expect(third.code).toBe(1);
    const rejected = await sguardo(folder, 'reject', 'plain', '--why', 'it is a buoy');
    expect(rejected.out).toMatch(/✗ Buoy › plain · day · end\n1 capture rejected\.\n/);
    expect((await sguardo(folder, 'reject', 'named', '--why', 'x')).out).toBe(
      'Nothing to reject: none of these looks has changed.\n',
    );
  });

  /** A project with looks of every kind, and a service that runs them for every command. */
  let shared: string;
  beforeAll(async () => {
    shared = project({
      'src/Buoy.look.tsx': buoys('Buoy'),
      'src/Form.look.tsx': failing,
      // The browser names blobs by chance, and nobody can pin that.
      'src/Clock.look.tsx': plainFile('return <p>{URL.createObjectURL(new Blob([]))}</p>;', 'plain: {}'),
      'src/None.look.tsx': plainFile('throw new Error("no harbour");', 'plain: {}'),
    });
    await serve(shared);
  });

  it('exits with 2 when a look file could not be understood, and runs the others', async () => {
    const odd = project({ 'src/Buoy.look.tsx': buoys('Buoy'), 'src/Odd.look.tsx': 'export default (' });
    await serve(odd);
    const { code, out } = await sguardo(odd, 'run');
    expect(out).toMatch(/▲ broken {2}Odd › \(the file\)/);
    expect(out).toMatch(/^1 broken, 2 new/m);
    expect(code).toBe(2);
  });

  it('tells a failure: step, what was looked for, what was there, the code, a way out, a link', async () => {
    const { code, out } = await sguardo(shared, 'run', 'Form');
    expect(code).toBe(1);
    expect(out).toMatch(
      inLines(
        '✗ failed  Form › saves  day',
        '  step 2 of 2: click the button “Sale”',
        '  Nothing matched the button “Sale” within 1500 ms.',
        '  instead  button “Save”',
        '  src/Form.look.tsx:4:9',
      ),
    );
    expect(out).toMatch(/▸ 4 │ {3}await click\(the\.button\('Sale'\)\);\n +│ +▲/);
    expect(out).toMatch(/→ Compare the name.*\n {2}http:\/\/127\.0\.0\.1:\d+\/bench\/\d+\?step=1\n/);
  });

  it('tells a note that several looks have once, and of how many', async () => {
    const torn = 'async script() { HTMLElement.prototype.focus = () => {}; }';
    write(shared, {
      'src/Torn.look.tsx': plainFile('return <p>Buoy</p>;', `one: { ${torn} }, two: { ${torn} }, three: { ${torn} }`),
    });
    const { out } = await sguardo(shared, 'run', 'Torn');
    expect(out).toContain('note In 3 looks: This look replaced HTMLElement.prototype.focus');
    expect(out.match(/note /g)).toHaveLength(1);
    expect((await sguardo(shared, 'run', 'Torn/one')).out).toContain('  note This look replaced HTMLElement');
  });

  it('prints one JSON document, and nothing else, when asked', async () => {
    const { code, out, err } = await sguardo(shared, 'run', 'Buoy', 'Form', '--json');
    const document = JSON.parse(out) as {
      format: string;
      exitCode: number;
      run: { tally: object };
      results: { look: string; verdict: string; link: string; problem: { code: string } | null; captures: object[] }[];
    };
    expect(document).toMatchObject({ format: 'sguardo-result/2', exitCode: 1, run: { tally: { new: 2, failed: 1 } } });
    expect(document.results.find(({ look }) => look === 'saves')).toMatchObject({
      verdict: 'failed',
      problem: { code: 'target-missing' },
      link: expect.stringMatching(/\/bench\/\d+\?step=1$/),
    });
    expect([code, err]).toEqual([1, '']);
  });

  it('tells whether every picture comes out the same', async () => {
    const { code, out } = await sguardo(shared, 'run', 'Buoy', '--repeat', '4');
    expect(out).toContain('0 captures differed in 4 repetitions.');
    expect(code).toBe(0);
    const clock = (await sguardo(shared, 'run', 'Clock', '--repeat', '3')).out;
    expect(clock).toMatch(/^2 captures differed in 3 repetitions:\n {2}Clock › .* · day · end: the picture$/m);
    expect(clock).toContain('  → sguardo steady NAME says at which step two repetitions part.');
    expect((await sguardo(shared, 'run', 'None', '--repeat', '2')).out).not.toContain('repetitions');
  });

  it('does not mind somebody who has read enough', async () => {
    const command = `"${process.execPath}" "${program}" run Form | head -1`;
    const { out, err } = await said(spawn('sh', ['-c', command], { cwd: shared, env }));
    expect(out).toMatch(/^✗ Form › saves .*\n$/);
    expect(err).toBe('');
  });

  it('exits with 3 when there is no browser', async () => {
    const { code, out, err } = await said(
      spawn(process.execPath, [program, 'run'], {
        cwd: project({ 'src/Buoy.look.tsx': buoys('Buoy') }),
        env: { ...env, SGUARDO_CHROMIUM: '/nowhere/chromium' },
      }),
    );
    expect(out + err).toMatch(/Chromium was not found\.\n→ Install Debian's package chromium/);
    expect(code).toBe(3);
  });
});

describe('sguardo serve', () => {
  it('is found by other commands, and by a second one for the same project', async () => {
    const folder = project({ 'src/Buoy.look.tsx': buoys('Buoy') });
    const { child, url } = await serveByCommand(folder);
    expect(serviceNote(folder)).toMatchObject({ pid: child.pid, url });
    const second = await sguardo(folder, 'serve');
    expect(second.out).toBe(`This project's service is already running: ${url} (process ${child.pid})\n`);
    expect(second.code).toBe(0);
    expect((await sguardo(folder, 'run', 'plain')).out).toMatch(/^1 new/m);
    expect(child.exitCode).toBeNull();

    const browsers = childrenOf(child.pid!);
    expect(browsers.length).toBeGreaterThan(0);
    child.kill('SIGTERM');
    expect(await ended(child)).toBe(0);
    for (const { pid } of browsers) await gone(pid);
    expect(existsSync(join(folder, '.sguardo/service.json'))).toBe(false);
    expect(readFileSync(join(folder, '.sguardo/.gitignore'), 'utf8')).toBe('*\n');
  });

  it('says so when its port is taken, and does not mind a service that is gone', async () => {
    const other = createServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => other.once('listening', resolve));
    const { port } = other.address() as AddressInfo;
    const folder = project({ '.sguardo/service.json': JSON.stringify({ pid: 999_999_9, url: 'http://127.0.0.1:1' }) });
    const taken = await sguardo(folder, 'serve', '--port', String(port));
    expect(taken.err).toMatch(new RegExp(`^✗ Port ${port} is already in use\\.\\n→ Choose another one with --port`));
    expect(taken.code).toBe(3);
    other.close();
    const { child, url } = await serveByCommand(folder, '--port', String(port));
    expect(url).toBe(`http://127.0.0.1:${port}`);
    child.kill('SIGINT');
    expect(await ended(child)).toBe(0);
  });
});
