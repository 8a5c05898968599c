/** Decisions that are taken back, refused, explained, commented on: with the files that they have written. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Decided, DecisionRequest } from '../../src/core/api/api.ts';
import type { Cluster, ClusterCapture } from '../../src/core/cause/cluster.ts';
import type { ResultSummary, RunEvent } from '../../src/core/run/run.ts';
import { configuration, plainFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (colour: string): string =>
  plainFile(
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

/** Those of the captures of a component: what several share stays. */
const ownFiles = (component: string, root = folder): Record<string, string> =>
  Object.fromEntries(
    Object.entries(filesIn(join(root, 'baselines'))).filter(([path]) => path.startsWith(`day/src/${component}/`)),
  );

let folder: string;
let served: Served;

beforeAll(async () => {
  folder = project({ 'src/None.look.tsx': plainFile('return <p>None</p>', 'plain: { skip: "so that there is one" }') });
  served = await serve(folder);
});

/** The component of a test, with two looks that have been run once. */
let name: string;
let made = 0;

async function changeTo(colour: string, extra = (text: string) => text): Promise<ResultSummary[]> {
  write(folder, { [`src/${name}.look.tsx`]: extra(buoy(colour)) });
  return (await served.run({ patterns: [name] })).results;
}

beforeEach(async () => {
  name = `Buoy${++made}`;
  await changeTo('navy');
});

const states = async (): Promise<string[]> =>
  (await served.run({ patterns: [name] })).results.flatMap(({ verdict, captures }) =>
    captures.map(({ state }) => `${verdict} ${state.kind}`),
  );

const latest = async (): Promise<ResultSummary[]> =>
  (await served.client.looks()).filter(({ component }) => component === `src/${name}`);

const causesNow = async (): Promise<Cluster[]> =>
  (await served.client.causes()).causes.flatMap(({ captures, ...cause }) => {
    const own = captures.filter(({ component }) => component === `src/${name}`);
    return own.length > 0 ? [{ ...cause, captures: own }] : [];
  });

const approve = (more: Partial<DecisionRequest> = {}): Promise<Decided> =>
  served.client.decide({ kind: 'approve', patterns: [name], ...more });

describe('taking back', () => {
  it('an approval of what was new leaves no files, and the captures are new again', async () => {
    const { batch } = await approve();
    expect(Object.keys(ownFiles(name))).toHaveLength(6);
    const undone = await served.client.undo({ who: 'Ben' });
    expect(undone).toMatchObject({ batch, kind: 'approve', captures: [{ look: 'plain' }, { look: 'named' }] });
    expect(ownFiles(name)).toEqual({});
    expect(await states()).toEqual(['new new', 'new new']);
  });

  it('an approval of a change brings back the files byte for byte, and what is compared with them', async () => {
    await approve();
    const before = ownFiles(name);
    await changeTo('teal');
    await approve({ patterns: [`${name}/named`] });
    expect(ownFiles(name)).not.toEqual(before);
    await served.client.undo();
    expect(ownFiles(name)).toEqual(before);
    expect(await states()).toEqual(['changed changed', 'changed changed']);
    const history = await served.client.history({ component: `src/${name}`, look: 'named', environment: 'day' });
    expect(history.decisions.map(({ kind, isBaseline }) => [kind, isBaseline])).toEqual([
      ['undo', false],
      ['approve', false],
      ['approve', true],
    ]);
    expect(history.decisions[0]!.undoes).toBe(history.decisions[1]!.id);
  });

  it('goes back step by step, and ends where there is nothing more', async () => {
    await approve();
    await changeTo('teal');
    await served.client.decide({ kind: 'reject', patterns: [name], why: 'navy was meant', fixer: 'Mara' });
    const rejected = (await latest()).map(({ captures }) => captures[0]!.decision);
    expect(rejected[0]).toMatchObject({ kind: 'reject', fixer: 'Mara', why: 'navy was meant' });
    expect((await served.client.undo()).kind).toBe('reject');
    expect((await latest()).map(({ captures }) => captures[0]!.decision)).toEqual([null, null]);
    expect((await served.client.undo()).kind).toBe('approve');
    await expect(served.client.undo({ batch: 1000 })).rejects.toMatchObject({ problem: { code: 'nothing-to-undo' } });
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
    const { batch } = await approve();
    await changeTo('teal');
    await approve({ patterns: [`${name}/named`] });
    const before = ownFiles(name);
    await expect(served.client.undo({ batch: batch! })).rejects.toMatchObject({ problem: { code: 'undo-superseded' } });
    expect(ownFiles(name)).toEqual(before);
    writeFileSync(join(folder, `baselines/day/src/${name}/named.png`), 'spoilt');
    await expect(served.client.undo()).rejects.toMatchObject({ problem: { code: 'undo-superseded' } });
  });

  it('takes back what was decided about causes of captures that still wait', async () => {
    await approve();
    await changeTo('maroon', (text) => text.replace('Buoy {', 'Beacon {'));
    const [first] = await causesNow();
    const decided = await served.client.decide({ kind: 'approve', causes: [first!.key] });
    expect([decided.decided, decided.waiting]).toEqual([[], 2]);
    expect((await served.client.undo()).captures).toEqual([]);
    const again = (await causesNow()).find(({ key }) => key === first!.key)!;
    expect(again.captures.map(({ decided: note }) => note)).toEqual([null, null]);
  });
});

describe('a decision', () => {
  it('about a picture that has changed meanwhile is refused, with the new one', async () => {
    const seen = (await latest()).find(({ look }) => look === 'named')!;
    await changeTo('teal');
    const now = (await latest()).find(({ look }) => look === 'named')!;
    const deciding = served.client.decide({ kind: 'approve', captures: [{ result: seen.id, capture: 'end' }] });
    await expect(deciding).rejects.toMatchObject({
      problem: { code: 'picture-changed', remedy: expect.stringContaining(`result ${now.id}`) },
    });
    // The same picture in a later run is the one that was seen.
    await served.run({ patterns: [name], fresh: true });
    const same = { kind: 'approve' as const, captures: [{ result: now.id, capture: 'end' }] };
    expect((await served.client.decide(same)).decided).toHaveLength(1);
  });

  it('about causes is about the captures that were seen, and no others', async () => {
    await approve();
    await changeTo('teal');
    const [cause] = await causesNow();
    const [{ result, capture }] = cause!.captures as [ClusterCapture];
    const seen = { causes: [cause!.key], captures: [{ result, capture }] };
    expect((await served.client.decide({ kind: 'approve', ...seen })).decided).toHaveLength(1);
    // What somebody has approved meanwhile is as it should be.
    expect((await served.client.decide({ kind: 'approve', ...seen })).decided).toEqual([]);
    await changeTo('maroon');
    await expect(served.client.decide({ kind: 'approve', ...seen })).rejects.toMatchObject({
      problem: { code: 'picture-changed' },
    });
  });

  it('needs a reason in a project that asks for one', async () => {
    write(folder, { 'sguardo.config.ts': configuration({ reasons: 'all' }) });
    const without = approve();
    await expect(without).rejects.toMatchObject({
      problem: { code: 'reason-missing', message: 'Approving needs a reason in this project.' },
    });
    expect((await approve({ why: 'first look' })).decided).toHaveLength(2);
    write(folder, { 'sguardo.config.ts': configuration({}) });
  });

  it('about many captures tells how far it is', async () => {
    const states = Array.from({ length: 25 }, (_, i) => `l${i}: { props: { name: '${i}' } }`).join(', ');
    write(folder, { 'src/Many.look.tsx': plainFile('return <p>Berth {props.name}</p>', states) });
    await served.run({ patterns: ['Many'] });
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
  it('comments are left on captures that no cause stands for', async () => {
    const [{ id: result }] = (await latest()) as [ResultSummary];
    await served.client.comment({ capture: { result, capture: 'end' } }, 'Is navy right?', 'Ada');
    const { withoutBaseline } = await served.client.causes();
    const own = withoutBaseline.filter(({ component }) => component === `src/${name}`);
    expect(own.map(({ comments }) => comments.map(({ text }) => text)).sort()).toEqual([[], ['Is navy right?']]);
  });

  it('comments are left on causes, and who has looked at what is told', async () => {
    await approve();
    await changeTo('teal');
    const [cause] = await causesNow();
    await served.client.comment({ cause: cause!.key }, 'Is teal in the guide?', 'Ada');
    await served.client.comment({ cause: cause!.key }, 'Since Monday.', 'Ben');
    await served.client.see([cause!.captures[0]!.pair], 'Ada');
    await served.client.see([cause!.captures[0]!.pair], 'Ada');
    const [again] = await causesNow();
    expect(again!.comments.map(({ who, text }) => [who, text])).toEqual([
      ['Ada', 'Is teal in the guide?'],
      ['Ben', 'Since Monday.'],
    ]);
    expect(again!.captures.map(({ seenBy }) => seenBy)).toEqual([['Ada'], []]);
    for (const text of ['  ', '\u001b[2J', 'x'.repeat(6000)]) {
      const wrong = served.client.comment({ cause: cause!.key }, text, 'Ada');
      await expect(wrong).rejects.toMatchObject({ problem: { code: 'request-wrong' } });
    }
  });
});
