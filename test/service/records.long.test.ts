/** What the service keeps: decisions that count for their own baseline, old runs that go, disks and files that fail. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { beforeAll, describe, expect, it } from 'vitest';
import { standing } from '../../src/core/run/run.ts';
import { startService } from '../../src/service/service.ts';
import { afterwards } from '../support/afterwards.ts';
import { sguardo } from '../support/cli.ts';
import { configuration, freshFolder, plainFile, project, repository, write } from '../support/project.ts';
import { finished, serve, type Served } from '../support/service.ts';

const buoy = (colour: string, states = 'plain: {}', before = ''): string =>
  plainFile(`return <p style={{ color: '${colour}' }}>buoy</p>;`, states, before);

describe('a decision about a picture', () => {
  it('counts as long as its baseline holds, and no longer', async () => {
    const folder = project({ 'src/Buoy.look.tsx': buoy('navy') });
    const { client, run } = await serve(folder);
    const show = async (colour: string) => {
      write(folder, { 'src/Buoy.look.tsx': buoy(colour) });
      return (await run()).look('plain');
    };
    await show('navy');
    await client.decide({ kind: 'approve', all: true });
    await show('maroon');
    await client.decide({ kind: 'approve', all: true });
    const back = await show('navy');
    expect(back.verdict).toBe('changed');
    expect(standing(back)).toBe('changed');
    expect((await client.changes()).map(({ look }) => look)).toEqual(['plain']);
    await client.decide({ kind: 'reject', all: true, why: 'it was maroon' });
    expect(await client.changes()).toEqual([]);
    expect(standing((await client.looks())[0]!)).toBe('changed');
    // A rejection against one baseline is none against the next.
    await show('teal');
    await client.decide({ kind: 'approve', all: true });
    await show('navy');
    expect((await client.changes()).map(({ look }) => look)).toEqual(['plain']);
  });
});

describe('patterns', () => {
  it('that name one look mean no other, also where its name begins another one', async () => {
    const folder = project({
      'src/Buoy.look.tsx': buoy('navy', "moored: {}, 'moored at night': {}, 'moored *': {}, 'a/b': {}"),
    });
    const { client, run } = await serve(folder);
    const names = async (request: Parameters<typeof run>[0]): Promise<string[]> =>
      (await run(request)).results.map(({ look }) => look).sort();
    expect(await names({ patterns: ['Buoy/moored'] })).toEqual(['moored']);
    expect(await names({ patterns: ['src/buoy › Moored'] })).toEqual(['moored']);
    expect(await names({ patterns: ['Buoy/a/b'] })).toEqual(['a/b']);
    expect(await names({ patterns: ['moored'] })).toEqual(['moored', 'moored *', 'moored at night']);
    expect(await names({ looks: [{ component: 'src/Buoy', look: 'moored *' }] })).toEqual(['moored *']);
    await run();
    const { decided } = await client.decide({ kind: 'approve', patterns: ['Buoy/moored'] });
    expect(decided.map(({ look }) => look)).toEqual(['moored']);
  });
});

describe('two look files of one component', () => {
  it('are told instead of overwriting one another', async () => {
    const { run } = await serve(
      project({
        'src/Buoy.look.tsx': buoy('navy'),
        'src/Buoy.look.jsx': buoy('teal').replaceAll(/: \{ name.*? \}/g, ''),
      }),
    );
    const { results } = await run();
    expect(results.map(({ verdict, problem }) => [verdict, problem?.code])).toEqual([
      ['broken', 'looks-twice'],
      ['broken', 'looks-twice'],
    ]);
    expect(results[0]!.problem!.message).toMatch(
      /src\/Buoy\.look\.jsx and src\/Buoy\.look\.tsx|src\/Buoy\.look\.tsx and src\/Buoy\.look\.jsx/,
    );
  });

  it('a look whose name is no Unicode is refused', async () => {
    const { run } = await serve(project({ 'src/Buoy.look.tsx': buoy('navy', '"half \\ud83d": {}') }));
    expect((await run()).results).toMatchObject([{ verdict: 'broken', problem: { code: 'look-name' } }]);
  });
});

/** All runs of a project ended long ago: those that have just ended may still be read, and stay. */
function age(folder: string): void {
  const records = new Database(join(folder, '.sguardo/sguardo.db'));
  records.exec("UPDATE runs SET finished = '2026-01-01T00:00:00.000Z' WHERE finished IS NOT NULL");
  records.close();
}

describe('old runs', () => {
  it('stay while whoever waited for them may read them', async () => {
    const folder = project({ 'sguardo.config.ts': configuration({ keep: 1 }), 'src/Buoy.look.tsx': buoy('navy') });
    const { client } = await serve(folder);
    const started = await Promise.all(Array.from({ length: 5 }, () => client.startRun({ fresh: true })));
    const ids = started.map(({ id }) => id);
    await finished(client, ids.at(-1)!);
    for (const id of ids) expect(await client.runResults(id), `of run ${id}`).toHaveLength(1);
    age(folder);
    const { id: last } = await client.startRun({ fresh: true });
    await finished(client, last);
    expect((await client.runs()).map(({ id }) => id)).toEqual([last]);
  });

  it('go, but for what the board, decisions and baselines refer to', async () => {
    const folder = project({
      'sguardo.config.ts': configuration({ keep: 3 }),
      'src/Buoy.look.tsx': buoy('navy'),
      'src/Mast.look.tsx': buoy('teal'),
    });
    const { client, run } = await serve(folder);
    const first = await run();
    await client.decide({ kind: 'approve', all: true });
    for (const colour of ['red', 'green', 'blue', 'navy', 'grey']) {
      write(folder, { 'src/Buoy.look.tsx': buoy(colour) });
      age(folder);
      await run({ patterns: ['Buoy'] });
    }
    const runs = await client.runs();
    // The first run has the newest result of the mast.
    expect(runs.map(({ id }) => id)).toEqual([6, 5, 4, 1]);
    expect(runs.flatMap(({ notes }) => notes).join('\n')).toMatch(/^Removed 1 old run, which freed \d+ kB\.$/m);
    expect((await client.looks()).map(({ component, verdict }) => [component, verdict])).toEqual([
      ['src/Buoy', 'changed'],
      ['src/Mast', 'new'],
    ]);
    const mast = first.results.find(({ component }) => component === 'src/Mast')!;
    expect((await client.timeline(mast.id)).steps.length).toBeGreaterThan(1);
    for (const { captures } of await client.looks())
      for (const { hash } of captures) expect((await fetch(client.pictureUrl(hash))).status).toBe(200);
    for (const { captures, id } of await client.runResults(6)) {
      expect((await fetch(client.pictureUrl(captures[0]!.baseline!))).status).toBe(200);
      expect((await client.timeline(id)).patches).toBeInstanceOf(Array);
    }
  });
});

describe('baselines whose look is gone', () => {
  it('are reported by a run, shown by tidy, and removed when it is told to', async () => {
    const folder = project({
      'src/Buoy.look.tsx': buoy('navy', 'plain: {}, lit: {}'),
      'src/Mast.look.tsx': buoy('teal'),
    });
    const { client, run } = await serve(folder);
    await run();
    await client.decide({ kind: 'approve', all: true });
    expect((await client.tidy(false)).files).toEqual([]);
    write(folder, { 'src/Buoy.look.tsx': buoy('navy') });
    rmSync(join(folder, 'src/Mast.look.tsx'));
    const { run: told } = await run();
    expect(told.notes).toEqual([
      '2 baselines belong to looks that are gone: baselines/day/src/Buoy/lit.png, ' +
        'baselines/day/src/Mast/plain.png. See them all, and remove them, with: sguardo tidy',
    ]);
    // A file that cannot be read for now has lost nothing.
    write(folder, { 'src/Buoy.look.tsx': 'export default looks(' });
    expect((await run()).run.notes.join()).not.toContain('plain.png, baselines/day/src/Buoy');
    const shown = await sguardo(folder, 'tidy');
    expect(shown.out).toContain('· baselines/day/src/Mast/plain.png\n');
    expect(shown.out).toMatch(/gone\. To delete: sguardo tidy --remove\n$/);
    const removed = await sguardo(folder, 'tidy', '--remove');
    expect(removed.out).toContain('− baselines/day/src/Mast/plain.png\n');
    expect(readdirSync(join(folder, 'baselines/day/src'))).toEqual(['Buoy']);
    expect((await sguardo(folder, 'tidy')).out).not.toContain('Mast');
  });
});

describe('files that baselines share', () => {
  it('are shown by tidy when none shares them any more, and removed when it is told to', async () => {
    const folder = project({
      'src/Buoy.look.tsx': buoy('navy', 'plain: {}', "import './buoy.css';\n"),
      'src/buoy.css': 'p { padding: 4px }',
    });
    const { client, run } = await serve(folder);
    const shared = join(folder, 'baselines/shared');
    const sharedNow = (): string[] => readdirSync(shared);
    await run();
    await client.decide({ kind: 'approve', all: true });
    const count = sharedNow().length;
    const former = sharedNow().find((name) => /padding: ?4px/.test(readFileSync(join(shared, name), 'utf8')))!;
    expect(await client.tidy(false)).toEqual({ files: [], unshared: [], removed: false });
    write(folder, { 'src/buoy.css': 'p { padding: 9px }' });
    await run();
    await client.decide({ kind: 'approve', all: true });
    expect(sharedNow()).toHaveLength(count + 1);
    const shown = await sguardo(folder, 'tidy');
    expect(shown.out).toBe(
      `· baselines/shared/${former}\n1 shared file belongs to no baseline any more. To delete: sguardo tidy --remove\n`,
    );
    // A side of a merge that is in conflict still names it.
    const manifest = join(folder, 'baselines/day/src/Buoy/plain.json');
    const text = readFileSync(manifest, 'utf8');
    writeFileSync(manifest, `${text}>>>>>>> theirs\n"${former.slice(0, 64)}"\n`);
    expect((await client.tidy(true)).unshared).toEqual([]);
    writeFileSync(manifest, text);
    expect((await sguardo(folder, 'tidy', '--remove')).out).toContain('Removed: 0 baselines, 1 shared file.');
    expect(sharedNow()).toHaveLength(count);
    expect(sharedNow()).not.toContain(former);
    await client.undo({});
    expect(sharedNow()).toContain(former);
    await client.decide({ kind: 'approve', all: true });
    expect((await run({ fresh: true })).results.map(({ verdict }) => verdict)).toEqual(['passed']);
  });
});

describe('records', () => {
  it('are nobody else’s to read', async () => {
    const folder = project({ 'src/Buoy.look.tsx': buoy('navy') });
    const { run } = await serve(folder);
    await run();
    expect(statSync(join(folder, '.sguardo')).mode & 0o777).toBe(0o700);
    for (const file of readdirSync(join(folder, '.sguardo')).filter((name) => name.startsWith('sguardo.db')))
      expect([file, statSync(join(folder, '.sguardo', file)).mode & 0o777]).toEqual([file, 0o600]);
  });

  it('that are damaged are named, with a way out', async () => {
    const folder = project({
      'src/Buoy.look.tsx': buoy('navy'),
      '.sguardo/sguardo.db': 'this is no database, whatever its name says',
    });
    const { err, code } = await sguardo(folder, 'run');
    expect(err).toMatch(
      /^✗ .*\.sguardo\/sguardo\.db is damaged and cannot be used: .*\n→ Move the \.sguardo folder away/,
    );
    expect(code).toBe(3);
  });

  it('of a newer Sguardo are left alone', async () => {
    const folder = project({ 'src/Buoy.look.tsx': buoy('navy') });
    const first = await startService({ config: join(folder, 'sguardo.config.ts') });
    await first.close();
    const { default: Database } = await import('better-sqlite3');
    const db = new Database(join(folder, '.sguardo/sguardo.db'));
    db.pragma('user_version = 99');
    db.close();
    await expect(startService({ config: join(folder, 'sguardo.config.ts') })).rejects.toThrow(
      'was written by a newer Sguardo',
    );
  });

  it('whose place is a file are told', async () => {
    const folder = project({ 'src/Buoy.look.tsx': buoy('navy'), '.sguardo': 'a file' });
    const { err, code } = await sguardo(folder, 'run');
    expect(err).toMatch(/^✗ .*\.sguardo/);
    expect(err).not.toMatch(/inside Sguardo| {4}at /);
    expect(code).toBe(3);
  });
});

/** A small disk of its own, where this machine lets tests have one. */
function smallDisk(): string | null {
  const folder = freshFolder();
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=4m', 'tmpfs', folder]).status !== 0) return null;
  afterwards(() => spawnSync('umount', [folder]));
  return folder;
}

describe('a full disk', () => {
  const disk = smallDisk();
  it.skipIf(disk === null)(
    'stops the run and says so; what was kept stays, and it goes on when there is space',
    async () => {
      const folder = join(disk!, 'p');
      mkdirSync(folder);
      symlinkSync(join(repository, 'node_modules'), join(folder, 'node_modules'));
      const states = Array.from({ length: 12 }, (_, i) => `look${i}: {}`).join();
      write(folder, { 'sguardo.config.ts': configuration({ lanes: 2 }), 'src/Buoy.look.tsx': buoy('navy', states) });
      const served: Served = await serve(folder);
      expect((await served.run({ patterns: ['look1'] })).run.problems).toEqual([]);
      // All space but a little.
      const ballast = join(disk!, 'ballast');
      writeFileSync(join(disk!, 'spare'), Buffer.alloc(200_000));
      for (let size = 1 << 20; size >= 4096; size /= 2)
        try {
          for (;;) writeFileSync(ballast, Buffer.alloc(size), { flag: 'a' });
        } catch {
          // Smaller pieces may still fit.
        }
      rmSync(join(disk!, 'spare'));
      const { run } = await served.run({ repeat: 30 });
      expect(run.status).toBe('finished');
      expect(run.problems).toMatchObject([{ code: 'disk-full', message: expect.stringContaining('.sguardo') }]);
      expect((await served.client.looks()).length).toBeGreaterThan(0);
      rmSync(ballast);
      expect((await served.run()).run).toMatchObject({ problems: [], tally: { new: 12 } });
      expect((await served.client.run(run.id)).problems).toHaveLength(1);
      expect(readFileSync(join(folder, 'src/Buoy.look.tsx'), 'utf8')).toContain('buoy');
    },
  );
});

describe('the live feed', () => {
  let served: Served;
  beforeAll(async () => {
    served = await serve(project({ 'src/Buoy.look.tsx': buoy('navy', 'a: {}, b: {}, c: {}') }));
  });

  /** Listens; settles when the service has taken the listener in. Its result reads until a message of a kind comes. */
  async function listen(headers: Record<string, string> = {}) {
    const abort = new AbortController();
    const reply = await fetch(`${served.service.url}/api/events`, { headers, signal: abort.signal });
    return async (until: string): Promise<{ id: string; kind: string }[]> => {
      let text = '';
      for await (const chunk of reply.body!.pipeThrough(new TextDecoderStream())) {
        text += chunk;
        if (text.includes(`"kind":"${until}"`) && text.endsWith('\n\n')) break;
      }
      abort.abort();
      return [...text.matchAll(/^id: (.*)\ndata: (.*)$/gm)].map(([, id, data]) => ({
        id: id!,
        kind: (JSON.parse(data!) as { kind: string }).kind,
      }));
    };
  }

  it('is resumed where it was left, without a gap and without a repetition', async () => {
    const reading = (await listen())('run-finished');
    await served.run();
    const all = await reading;
    expect(all.map(({ kind }) => kind).slice(0, 2)).toEqual(['run-queued', 'run-started']);
    for (const at of [0, 2, all.length - 2]) {
      const rest = await (await listen({ 'last-event-id': all[at]!.id }))('run-finished');
      expect(rest).toEqual(all.slice(at + 1));
    }
  });

  it('says so when what was missed is not known any more', async () => {
    expect(await (await listen({ 'last-event-id': 'another-1' }))('gap')).toMatchObject([{ kind: 'gap' }]);
  });

  it('carries the headers of every other reply', async () => {
    const abort = new AbortController();
    const reply = await fetch(`${served.service.url}/api/events`, { signal: abort.signal });
    abort.abort();
    expect(reply.headers.get('content-security-policy')).toContain("frame-ancestors 'none'");
    for (const address of [
      `${served.service.stage}/nothing`,
      `${served.service.stage}/%zz`,
      `${served.service.url}/nothing`,
      `${served.service.url}/%zz`,
    ]) {
      const missing = await fetch(address);
      expect([address, missing.headers.get('x-content-type-options')]).toEqual([address, 'nosniff']);
      expect(missing.headers.get('content-security-policy')).toContain('default-src');
    }
  });
});
