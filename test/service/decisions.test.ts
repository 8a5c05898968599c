/** Approving and rejecting: records, the folder of open files, and what a later run makes of both. */
import { createHash } from 'node:crypto';
import { cpSync, existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { readFolder } from '../../src/baselines/folder.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { markupIn, copyOf, plainFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (colour: string, text = 'Buoy', extra = ''): string =>
  plainFile(
    `return <div style={{ width: 120 }}>${extra}<p style={{ color: props.colour ?? '${colour}' }}>${text} ` +
      '{props.name}</p></div>',
    "plain: {}, named: { props: { name: 'C-14' } }",
  );

let folder: string;
let served: Served;

beforeAll(async () => {
  folder = project({ 'src/Buoy.look.tsx': buoy('navy') });
  served = await serve(folder);
  await served.run();
});

describe('approving', () => {
  it('makes captures baselines, as files and in the records', async () => {
    const decided = await served.client.decide({ kind: 'approve', all: true, who: 'Ada', why: 'first look' });
    expect(decided).toMatchObject({
      already: 0,
      unfinished: [],
      decided: [
        { look: 'plain', capture: 'end' },
        { look: 'named', capture: 'end' },
      ],
    });
    const about = JSON.parse(readFileSync(join(folder, 'baselines/day/src/Buoy/named.json'), 'utf8')) as Record<
      string,
      unknown
    >;
    expect(about).toMatchObject({
      format: 2,
      component: 'src/Buoy',
      look: 'named',
      environment: 'day',
      capture: 'end',
      approved: { by: 'Ada', why: 'first look', run: 1 },
    });
    expect(markupIn(folder, 'src/Buoy/named')).toEqual([
      '<div id="look">',
      '  <div style="width: 120px;">',
      '    <p style="color: navy;">',
      '      Buoy',
      '      C-14',
    ]);
    expect(readdirSync(join(folder, 'baselines/day/src/Buoy')).sort()).toEqual([
      'named.json',
      'named.moment',
      'named.png',
      'plain.json',
      'plain.moment',
      'plain.png',
    ]);
    expect((await served.run()).run.tally).toMatchObject({ passed: 2 });
  });

  it('packs the picture: the same pixels in fewer bytes, and known by the hash of the screenshot', async () => {
    const { hash } = (await served.client.looks()).find(({ look }) => look === 'named')!.captures[0]!;
    const shot = Buffer.from(await (await fetch(served.client.pictureUrl(hash))).arrayBuffer());
    const file = readFileSync(join(folder, 'baselines/day/src/Buoy/named.png'));
    expect(createHash('sha256').update(shot).digest('hex')).toBe(hash);
    expect(file.length).toBeLessThan(shot.length);
    expect(await sharp(file).raw().toBuffer()).toEqual(await sharp(shot).raw().toBuffer());
    const { baselines } = readFolder(folder, 'baselines').contents;
    expect(baselines.find(({ key }) => key.look === 'named')!.hash).toBe(hash);
  });

  it('a second time changes nothing and says so', async () => {
    const before = readFileSync(join(folder, 'baselines/day/src/Buoy/plain.json'), 'utf8');
    expect(await served.client.decide({ kind: 'approve', all: true })).toEqual({
      decided: [],
      already: 2,
      unfinished: [],
      waiting: 0,
      batch: null,
    });
    expect(readFileSync(join(folder, 'baselines/day/src/Buoy/plain.json'), 'utf8')).toBe(before);
  });

  it('leaves out looks that did not come to their end', async () => {
    write(folder, {
      'src/Lost.look.tsx': plainFile(
        'return <p>here</p>;',
        "lost: { async script() { await ensure(the.text('gone')).isVisible(); } }",
      ),
    });
    await served.run({ patterns: ['Lost'] });
    expect(await served.client.decide({ kind: 'approve', patterns: ['Lost'] })).toEqual({
      decided: [],
      already: 0,
      unfinished: ['src/Lost/lost'],
      waiting: 0,
      batch: null,
    });
    rmSync(join(folder, 'src/Lost.look.tsx'));
  });
});

describe('a later run', () => {
  it('tells a changed colour in pixels only: where, how many, how strongly', async () => {
    write(folder, { 'src/Buoy.look.tsx': buoy('maroon') });
    const result = (await served.run()).look('plain');
    const { state, difference, baseline, hash } = result.captures[0]!;
    expect(result.verdict).toBe('changed');
    expect(state).toMatchObject({
      kind: 'changed',
      otherFingerprint: false,
      picture: { added: [], lost: [], regions: [expect.anything()] },
      markup: [{ side: 'baseline' }, { side: 'now' }],
    });
    expect(state.kind === 'changed' && state.picture!.visible).toBeGreaterThan(50);
    expect(baseline).not.toBe(hash);
    for (const picture of [difference, baseline, hash]) {
      const reply = await fetch(served.client.pictureUrl(picture!));
      expect([reply.status, reply.headers.get('content-type')]).toEqual([200, 'image/png']);
    }
  });

  it('compares pictures of different sizes instead of refusing them', async () => {
    write(folder, { 'src/Buoy.look.tsx': buoy('navy', 'Buoy', '<div style={{ height: 40 }}>banner</div>') });
    const { state } = (await served.run()).look('plain').captures[0]!;
    expect(state).toMatchObject({
      kind: 'changed',
      picture: { added: [[0, expect.any(Number), expect.any(Number), expect.any(Number)]] },
    });
  });

  it('waits for a decision, which can be a rejection with a reason', async () => {
    const changes = await served.client.changes();
    expect(changes.map(({ look }) => look).sort()).toEqual(
      ['lost', 'named', 'plain'].filter((look) => changes.some((one) => one.look === look)),
    );
    const rejected = await served.client.decide({ kind: 'reject', patterns: ['Buoy'], why: 'no banner here' });
    expect(rejected.decided).toHaveLength(2);
    expect((await served.client.decide({ kind: 'reject', patterns: ['Buoy'], why: 'again' })).already).toBe(2);
    expect((await served.client.changes()).filter(({ component }) => component === 'src/Buoy')).toEqual([]);
    const again = await served.run();
    expect(again.look('plain')).toMatchObject({
      verdict: 'changed',
      captures: [{ decision: { kind: 'reject', why: 'no banner here' } }],
    });
    const { decisions } = await served.client.history({ component: 'src/Buoy', look: 'plain', environment: 'day' });
    expect(decisions.map(({ kind, why }) => [kind, why])).toEqual([
      ['reject', 'no banner here'],
      ['approve', 'first look'],
    ]);
  });

  it('passes again when the code is mended, or the change approved after all', async () => {
    await served.client.decide({
      kind: 'approve',
      captures: [{ result: (await served.run()).look('plain').id, capture: 'end' }],
      why: 'it may stay',
    });
    const { look } = await served.run();
    expect([look('plain').verdict, look('named').verdict]).toEqual(['passed', 'changed']);
    write(folder, { 'src/Buoy.look.tsx': buoy('navy') });
    const mended = await served.run();
    expect([mended.look('plain').verdict, mended.look('named').verdict]).toEqual(['changed', 'passed']);
  });
});

describe('the folder', () => {
  it('is enough: a fresh clone without records passes', async () => {
    const approved = await served.run();
    await served.client.decide({ kind: 'approve', all: true });
    expect(approved.run.problems).toEqual([]);
    const clone = copyOf(folder.slice(folder.indexOf('test/')));
    cpSync(join(folder, 'baselines'), join(clone, 'baselines'), { recursive: true });
    const other = await serve(clone);
    // A run that repeats its looks photographs them: what comes out has the hash that the approved picture goes by.
    const { run, look } = await other.run({ repeat: 2 });
    expect(run.tally).toMatchObject({ passed: 4, new: 0, changed: 0 });
    const { hash, baseline, isVouched } = look('named').captures[0]!;
    expect([hash, isVouched]).toEqual([approved.look('named').captures[0]!.hash, false]);
    expect(baseline).toBe(hash);
    const { decisions } = await other.client.history({ component: 'src/Buoy', look: 'named', environment: 'day' });
    expect(decisions).toMatchObject([{ kind: 'adopt', who: expect.any(String) }]);
  });

  it('wins over the records: what somebody else has approved counts, and what was removed is new', async () => {
    rmSync(join(folder, 'baselines/day/src/Buoy/named.json'));
    expect((await served.run()).look('named').verdict).toBe('new');
    await served.client.decide({ kind: 'approve', all: true });
    expect(existsSync(join(folder, 'baselines/day/src/Buoy/named.json'))).toBe(true);
  });

  it('names a baseline that was taken with another browser', async () => {
    const path = join(folder, 'baselines/day/src/Buoy/plain.json');
    const { picture, ...about } = JSON.parse(readFileSync(path, 'utf8')) as { picture: string };
    const markup = [...markupIn(folder, 'src/Buoy/plain'), '<hr>'];
    writeFileSync(
      path,
      JSON.stringify({ ...about, format: 1, sha256: picture, fingerprint: 'Chromium 1 · fonts 0', markup }),
    );
    expect((await served.run()).look('plain').captures[0]!.state).toMatchObject({
      kind: 'changed',
      otherFingerprint: true,
      picture: null,
      markup: [{ side: 'baseline', text: '<hr>' }],
    });
  });

  it('can be left out: baselines are kept in the records then', async () => {
    const plain = project({
      'sguardo.config.ts': 'export default { baselines: false };',
      'src/Buoy.look.tsx': buoy('navy'),
    });
    const { client, run } = await serve(plain);
    await run();
    await client.decide({ kind: 'approve', all: true });
    expect((await run()).run.tally).toMatchObject({ passed: 2 });
    expect(existsSync(join(plain, 'baselines'))).toBe(false);
  });
});

describe('what is hidden', () => {
  const panel = (label: string, leftover: string): string =>
    plainFile(
      `return <div><p hidden id="label">${label}</p><p hidden id="title">${leftover}</p>
        <div hidden aria-labelledby="title">${leftover}</div>
        <button aria-labelledby="label" style={{ width: 40, height: 20 }} /></div>`,
      'closed: {}',
    );
  const run = async (label: string, leftover: string): Promise<ResultSummary> => {
    write(folder, { 'src/Panel.look.tsx': panel(label, leftover) });
    return (await served.run({ patterns: ['src/Panel'] })).look('closed');
  };

  it('changes nothing, unless it names something that is shown', async () => {
    await run('Release', 'Berths');
    await served.client.decide({ kind: 'approve', patterns: ['src/Panel'] });
    expect((await run('Release', 'Tides')).verdict).toBe('passed');
    const { verdict, captures } = await run('Keep', 'Tides');
    expect(verdict).toBe('changed');
    expect(captures[0]!.state).toMatchObject({
      picture: null,
      markup: [expect.objectContaining({ text: 'Release' }), expect.objectContaining({ text: 'Keep' })],
    });
  });
});
