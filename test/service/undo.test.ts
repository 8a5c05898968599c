/** Decisions that are taken back, refused, explained, commented on: with the files that they have written. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import type { RunEvent } from '../../src/core/run/run.ts';
import { configuration, lookFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (colour: string): string =>
  lookFile(
    `return <p style={{ color: '${colour}' }}>Buoy {props.name}</p>`,
    "plain: {}, named: { props: { name: 'C-14' } }",
  );

/** Every file below a folder, with what it holds. */
function filesIn(folder: string): Record<string, string> {
  if (!existsSync(folder)) return {};
  const paths = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  return Object.fromEntries(
    paths.map((entry) => {
      const path = join(entry.parentPath, entry.name);
      return [path.slice(folder.length + 1), readFileSync(path).toString('latin1')];
    }),
  );
}

/** Those of single captures: what several share stays. */
const ownFiles = (folder: string): Record<string, string> =>
  Object.fromEntries(Object.entries(filesIn(join(folder, 'baselines'))).filter(([path]) => !path.startsWith('shared')));

let folder: string;
let served: Served;

/** Ends with two captures that have changed from navy to teal. */
beforeEach(async () => {
  folder = project({ 'src/Buoy.look.tsx': buoy('navy') });
  served = await serve(folder);
  await served.run();
});

const states = async (): Promise<string[]> =>
  (await served.run()).results.flatMap(({ verdict, captures }) =>
    captures.map(({ state }) => `${verdict} ${state.kind}`),
  );

async function changeTo(colour: string): Promise<void> {
  write(folder, { 'src/Buoy.look.tsx': buoy(colour) });
  await served.run();
}

describe('taking back', () => {
  it('an approval of what was new leaves no files, and the captures are new again', async () => {
    const { batch } = await served.client.decide({ kind: 'approve', all: true });
    expect(Object.keys(ownFiles(folder))).toHaveLength(6);
    const undone = await served.client.undo({ who: 'Ben' });
    expect(undone).toMatchObject({ batch, kind: 'approve', captures: [{ look: 'plain' }, { look: 'named' }] });
    expect(ownFiles(folder)).toEqual({});
    expect(await states()).toEqual(['new new', 'new new']);
  });

  it('an approval of a change brings back the files byte for byte, and what is compared with them', async () => {
    await served.client.decide({ kind: 'approve', all: true });
    const before = ownFiles(folder);
    await changeTo('teal');
    await served.client.decide({ kind: 'approve', patterns: ['named'] });
    expect(ownFiles(folder)).not.toEqual(before);
    await served.client.undo();
    expect(ownFiles(folder)).toEqual(before);
    expect(await states()).toEqual(['changed changed', 'changed changed']);
    const history = await served.client.history({ component: 'src/Buoy', look: 'named', environment: 'day' });
    expect(history.decisions.map(({ kind, isBaseline }) => [kind, isBaseline])).toEqual([
      ['undo', false],
      ['approve', false],
      ['approve', true],
    ]);
    expect(history.decisions[0]!.undoes).toBe(history.decisions[1]!.id);
  });

  it('goes back step by step, and ends where there is nothing more', async () => {
    await served.client.decide({ kind: 'approve', all: true });
    await changeTo('teal');
    await served.client.decide({ kind: 'reject', all: true, why: 'navy was meant', fixer: 'Mara' });
    const rejected = (await served.client.looks()).map(({ captures }) => captures[0]!.decision);
    expect(rejected[0]).toMatchObject({ kind: 'reject', fixer: 'Mara', why: 'navy was meant' });
    expect((await served.client.undo()).kind).toBe('reject');
    expect((await served.client.looks()).map(({ captures }) => captures[0]!.decision)).toEqual([null, null]);
    expect((await served.client.undo()).kind).toBe('approve');
    await expect(served.client.undo()).rejects.toMatchObject({ problem: { code: 'nothing-to-undo' } });
  });

  it('works where baselines are kept in the records only', async () => {
    const other = project({
      'src/Buoy.look.tsx': buoy('navy'),
      'sguardo.config.ts': configuration({ baselines: false }),
    });
    const own = await serve(other);
    await own.run();
    await own.client.decide({ kind: 'approve', all: true });
    write(other, { 'src/Buoy.look.tsx': buoy('teal') });
    await own.run();
    await own.client.decide({ kind: 'approve', all: true });
    await own.client.undo();
    expect((await own.run()).results.map(({ verdict }) => verdict)).toEqual(['changed', 'changed']);
  });

  it('is refused as a whole when something was decided since, or a file was changed', async () => {
    const { batch } = await served.client.decide({ kind: 'approve', all: true });
    await changeTo('teal');
    await served.client.decide({ kind: 'approve', patterns: ['named'] });
    const before = ownFiles(folder);
    await expect(served.client.undo({ batch: batch! })).rejects.toMatchObject({ problem: { code: 'undo-superseded' } });
    expect(ownFiles(folder)).toEqual(before);
    writeFileSync(join(folder, 'baselines/day/src/Buoy/named.png'), 'spoilt');
    await expect(served.client.undo()).rejects.toMatchObject({ problem: { code: 'undo-superseded' } });
  });

  it('takes back what was decided about causes of captures that still wait', async () => {
    await served.client.decide({ kind: 'approve', all: true });
    write(folder, { 'src/Buoy.look.tsx': buoy('teal').replace('Buoy {', 'Beacon {') });
    await served.run();
    const [first] = (await served.client.causes()).causes;
    const decided = await served.client.decide({ kind: 'approve', causes: [first!.key] });
    expect([decided.decided, decided.waiting]).toEqual([[], 2]);
    expect((await served.client.undo()).captures).toEqual([]);
    const again = (await served.client.causes()).causes.find(({ key }) => key === first!.key)!;
    expect(again.captures.map(({ decided: note }) => note)).toEqual([null, null]);
  });
});

describe('a decision', () => {
  it('about a picture that has changed meanwhile is refused, with the new one', async () => {
    const seen = (await served.client.looks()).find(({ look }) => look === 'named')!;
    await changeTo('teal');
    const now = (await served.client.looks()).find(({ look }) => look === 'named')!;
    const deciding = served.client.decide({ kind: 'approve', captures: [{ result: seen.id, capture: 'end' }] });
    await expect(deciding).rejects.toMatchObject({
      problem: { code: 'picture-changed', remedy: expect.stringContaining(`result ${now.id}`) },
    });
    // The same picture in a later run is the one that was seen.
    await served.run({ fresh: true });
    const same = { kind: 'approve' as const, captures: [{ result: now.id, capture: 'end' }] };
    expect((await served.client.decide(same)).decided).toHaveLength(1);
  });

  it('about causes is about the pairs of pictures that were seen, and no others', async () => {
    await served.client.decide({ kind: 'approve', all: true });
    await changeTo('teal');
    const [cause] = (await served.client.causes()).causes;
    const pairs = [cause!.captures[0]!.pair];
    const { decided } = await served.client.decide({ kind: 'approve', causes: [cause!.key], pairs });
    expect(decided).toHaveLength(1);
    const gone = served.client.decide({ kind: 'approve', causes: [cause!.key], pairs });
    await expect(gone).rejects.toMatchObject({ problem: { code: 'cause-gone' } });
  });

  it('needs a reason in a project that asks for one', async () => {
    write(folder, { 'sguardo.config.ts': configuration({ reasons: 'all' }) });
    const without = served.client.decide({ kind: 'approve', all: true });
    await expect(without).rejects.toMatchObject({
      problem: { code: 'reason-missing', message: 'Approving needs a reason in this project.' },
    });
    expect((await served.client.decide({ kind: 'approve', all: true, why: 'first look' })).decided).toHaveLength(2);
  });

  it('about many captures tells how far it is', async () => {
    const states = Array.from({ length: 25 }, (_, i) => `l${i}: { props: { name: '${i}' } }`).join(', ');
    write(folder, { 'src/Many.look.tsx': lookFile('return <p>Berth {props.name}</p>', states) });
    await served.run();
    const heard: RunEvent[] = [];
    const stop = new AbortController();
    const listening = (async () => {
      for await (const event of served.client.events(stop.signal)) heard.push(event);
    })().catch(() => {});
    await new Promise((resolve) => setTimeout(resolve, 200));
    await served.client.decide({ kind: 'approve', patterns: ['Many'] });
    await expect.poll(() => heard.some(({ kind }) => kind === 'decided')).toBe(true);
    stop.abort();
    await listening;
    expect(heard.filter(({ kind }) => kind === 'deciding')).toEqual([
      { kind: 'deciding', done: 10, all: 25 },
      { kind: 'deciding', done: 20, all: 25 },
      { kind: 'deciding', done: 25, all: 25 },
    ]);
  });
});

describe('beside decisions', () => {
  it('comments are left on causes, and who has looked at what is told', async () => {
    await served.client.decide({ kind: 'approve', all: true });
    await changeTo('teal');
    const [cause] = (await served.client.causes()).causes;
    await served.client.comment({ cause: cause!.key }, 'Is teal in the guide?', 'Ada');
    await served.client.comment({ cause: cause!.key }, 'Since Monday.', 'Ben');
    await served.client.see([cause!.captures[0]!.pair], 'Ada');
    await served.client.see([cause!.captures[0]!.pair], 'Ada');
    const [again] = (await served.client.causes()).causes;
    expect(again!.comments.map(({ who, text }) => [who, text])).toEqual([
      ['Ada', 'Is teal in the guide?'],
      ['Ben', 'Since Monday.'],
    ]);
    expect(again!.captures.map(({ seenBy }) => seenBy)).toEqual([['Ada'], []]);
    const wrong = served.client.comment({ cause: cause!.key }, '  ', 'Ada');
    await expect(wrong).rejects.toMatchObject({ problem: { code: 'request-wrong' } });
  });
});
