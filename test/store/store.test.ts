/** The records in SQLite: blobs, runs and their counts, decisions that nobody can change, and the schema. */
import { usualRequest } from '../../src/core/run/run.ts';
import Database from 'better-sqlite3';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { emptyMoment } from '../../src/core/moment/moment.ts';
import { openDatabase } from '../../src/store/database.ts';
import { baselinePath } from '../../src/baselines/paths.ts';
import type { FinishedLook } from '../../src/core/run/finished.ts';
import { openStore } from '../../src/store/index.ts';
import { freshFolder } from '../support/project.ts';

const key = { component: 'src/Buoy', look: 'plain', environment: 'day', capture: 'end' };
const decision = {
  ...key,
  who: 'Ada',
  kind: 'approve' as const,
  why: null,
  run: null,
  hash: 'a'.repeat(64),
  markup: 'b'.repeat(64),
  manifest: null,
  fingerprint: 'f',
  commit: null,
  sources: null,
  branch: null,
  batch: null,
  undoes: null,
  former: null,
  fixer: null,
  file: null,
};

const result = (look: string, verdict: FinishedLook['verdict'], text = 'Buoy'): FinishedLook => ({
  info: { file: 'src/Buoy.look.tsx', component: 'src/Buoy', look, order: 0, hasScript: false, after: null },
  environment: 'day',
  repetition: 1,
  verdict,
  problem: null,
  coverage: null,
  notes: ['a note'],
  orderDependent: false,
  isUnsteady: false,
  isContradiction: false,
  took: 12,
  failedStep: null,
  findings: [],
  asked: [],
  read: [],
  captures: [],
  timeline: {
    steps: [],
    marks: [],
    taken: [0, 4],
    base: { ...emptyMoment(10, 10), nodes: { 1: { text } } },
    patches: [{ nodes: { 1: { text: 'b' } } }],
    assets: {},
    source: 'export default 1;',
  },
  files: new Map(),
});

describe('blobs', () => {
  it('are kept once, and come back as they were', () => {
    const { blobs } = openStore(':memory:');
    const text = Buffer.from('Molo Est '.repeat(400));
    const hash = blobs.put(text, 'text/plain');
    expect(blobs.put(text, 'text/plain')).toBe(hash);
    expect(blobs.get(hash)).toEqual({ type: 'text/plain', bytes: text });
    expect(blobs.size()).toBeLessThan(200);
    expect(blobs.get('0'.repeat(64))).toBeNull();
  });

  it('that are like another one take little beside it', () => {
    const { blobs } = openStore(':memory:');
    const page = Buffer.from(
      JSON.stringify(
        Array.from({ length: 300 }, (_, i) => ({ tag: 'li', text: `Mooring line ${(i * 2654435761) % 4294967291}` })),
      ),
    );
    const first = blobs.put(page, 'application/json');
    const before = blobs.size();
    const next = Buffer.from(page.toString().replace('Mooring line 0', 'Mooring line of another kind'));
    const second = blobs.put(next, 'application/json', first);
    expect(blobs.size() - before).toBeLessThan(before / 4);
    expect(blobs.get(second)!.bytes.equals(next)).toBe(true);
  });

  it('of other kinds are kept byte for byte', () => {
    const { blobs } = openStore(':memory:');
    const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 1, 2, 3]);
    expect(blobs.get(blobs.put(png, 'image/png'))!.bytes.equals(png)).toBe(true);
  });
});

describe('runs and results', () => {
  it('count what came of the looks, whenever they are asked', () => {
    const { runs, results } = openStore(':memory:');
    const id = runs.begin({ ...usualRequest, patterns: ['Buoy'] }, { commit: 'abc1234', branch: 'main' });
    runs.start(id);
    runs.update(id, { planned: 3, engine: 'Chromium 1' });
    results.add(id, result('a', 'passed'), new Set());
    results.add(id, result('b', 'failed'), new Set());
    expect(runs.get(id)).toMatchObject({
      status: 'running',
      planned: 3,
      done: 2,
      tally: { passed: 1, failed: 1, new: 0 },
      engine: 'Chromium 1',
      commit: 'abc1234',
      request: { patterns: ['Buoy'] },
    });
    expect(runs.unfinished()).toEqual([id]);
    runs.end(id, 'finished', []);
    expect(runs.get(id)).toMatchObject({ status: 'finished', finished: expect.stringMatching(/^\d{4}-/) });
    expect(runs.unfinished()).toEqual([]);
    expect(runs.get(77)).toBeNull();
  });

  it('bring timelines back as they were', () => {
    const { runs, results } = openStore(':memory:');
    const run = runs.begin(usualRequest);
    const added = results.add(run, result('a', 'passed'), new Set());
    expect(added).toMatchObject({ look: 'a', verdict: 'passed', notes: ['a note'], took: 12 });
    expect(results.timeline(added.id)).toEqual(result('a', 'passed').timeline);
    expect(results.get(added.id)).toEqual(added);
    expect(results.timeline(99)).toBeNull();
  });

  it('know the newest of each look that there is, and its history', () => {
    const { runs, results, catalogue } = openStore(':memory:');
    catalogue.declare('src/Buoy.look.tsx', 'day', { source: 'a', looks: [result('a', 'new').info] });
    results.add(runs.begin(usualRequest), result('gone', 'passed'), new Set());
    for (const verdict of ['new', 'passed', 'changed'] as const)
      results.add(runs.begin(usualRequest), result('a', verdict), new Set());
    expect(results.latest().map(({ verdict }) => verdict)).toEqual(['changed']);
    expect(results.history('src/Buoy', 'a', 'day', 2).map(({ verdict }) => verdict)).toEqual(['changed', 'passed']);
  });
});

describe('decisions', () => {
  it('make the newest approval the baseline; rejections never are one', () => {
    const { decisions } = openStore(':memory:');
    expect(decisions.baseline(key)).toBeNull();
    decisions.add(decision);
    decisions.add({ ...decision, hash: 'c'.repeat(64), kind: 'adopt' });
    decisions.add({ ...decision, hash: 'd'.repeat(64), kind: 'reject', why: 'no' });
    expect(decisions.baseline(key)?.hash).toBe('c'.repeat(64));
    expect(decisions.about(key, { ...decision, hash: 'd'.repeat(64) })).toMatchObject({ kind: 'reject', why: 'no' });
    expect(decisions.history(key).map(({ kind }) => kind)).toEqual(['reject', 'adopt', 'approve']);
    expect(decisions.baseline({ ...key, environment: 'night' })).toBeNull();
  });

  it('can be neither changed nor removed', () => {
    const file = join(freshFolder(), 'x.db');
    const store = openStore(file);
    store.decisions.add(decision);
    const db = new Database(file);
    expect(() => db.prepare("UPDATE decisions SET who = 'Eve'").run()).toThrow('append-only');
    expect(() => db.prepare('DELETE FROM decisions').run()).toThrow('append-only');
    db.close();
    store.close();
  });
});

describe('the database', () => {
  it('is in WAL mode, and is opened again with what it had', () => {
    const file = join(freshFolder(), 'x.db');
    const first = openDatabase(file);
    expect(first.pragma('journal_mode', { simple: true })).toBe('wal');
    first.prepare("INSERT INTO blobs (hash, type, packing, bytes) VALUES ('h', 'text/plain', 'none', x'00')").run();
    first.close();
    const second = openDatabase(file);
    expect(second.prepare('SELECT count(*) AS n FROM blobs').get()).toEqual({ n: 1 });
    second.close();
  });

  it('of a newer version is not touched', () => {
    const file = join(freshFolder(), 'x.db');
    const db = new Database(file);
    db.pragma('user_version = 99');
    db.close();
    expect(() => openDatabase(file)).toThrow('was written by a newer Sguardo');
  });
});

describe('the folder of baselines', () => {
  it('has a place of its own for every capture, plain where the names are', () => {
    const at = (component: string, look: string, capture = 'end'): string =>
      baselinePath({ component, look, environment: 'day', capture });
    expect(at('src/kit/Buoy', 'asks before', 'question')).toBe('day/src/kit/Buoy/asks-before.question');
    const odd = ['src/[id]/Buoy', 'src/(id)/Buoy', 'src/_id_/Buoy', 'src/Bóa', 'src/Bòa'];
    expect(new Set(odd.map((component) => at(component, 'plain'))).size).toBe(odd.length);
    expect(new Set(['a b', 'a-b', 'A b', 'a b!'].map((look) => at('src/Buoy', look))).size).toBe(4);
    expect(at('../Buoy', '../../plain')).toMatch(/^day\/_-\w+\/Buoy\/plain-\w+$/);
  });
});
