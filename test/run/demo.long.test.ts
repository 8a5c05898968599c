/** The demo keeps its promises: an approved run that stays the same, and a second version with real regressions. */
import { cpSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { momentAt } from '../../src/core/moment/patch.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { openConsole } from '../support/page.ts';
import { copyOf, repository } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let folder: string;
let served: Served;
let first: ResultSummary[];

beforeAll(async () => {
  folder = copyOf('demo/harbour');
  served = await serve(folder);
  const { results, run } = await served.run();
  expect(run.problems).toEqual([]);
  first = results;
});

describe('the harbour office', () => {
  it('has a component kit with at least forty looks, a dozen of them with scripts, in two environments', () => {
    const looks = new Set(first.map(({ component, look }) => `${component}/${look}`));
    const scripted = new Set(
      first.filter(({ hasScript }) => hasScript).map(({ component, look }) => `${component}/${look}`),
    );
    expect([...new Set(first.map(({ component }) => component.replace('src/', '')))].sort()).toEqual([
      'ArrivalForm',
      'BerthCard',
      'DepthField',
      'FeeTable',
      'FreedNotice',
      'ReleaseDialog',
      'SignalFlag',
      'TideCurve',
      'WeatherNotice',
    ]);
    expect(looks.size).toBeGreaterThanOrEqual(40);
    expect(scripted.size).toBeGreaterThanOrEqual(12);
    expect(first).toHaveLength(looks.size * 2);
  });

  it('is new at first, without anything that went wrong', () => {
    expect(
      first.filter(({ verdict }) => verdict !== 'new').map(({ look, problem }) => `${look}: ${problem?.message}`),
    ).toEqual([]);
    expect(first.flatMap(({ notes }) => notes)).toEqual([]);
  });

  it('looks different by day and by night', () => {
    const hash = (environment: string): string =>
      first.find((one) => one.look === 'moored' && one.environment === environment)!.captures[0]!.hash;
    expect(hash('day')).not.toBe(hash('night'));
  });

  it('comes out the same in the next run, and the one after', async () => {
    await served.client.decide({ kind: 'approve', all: true });
    // By day it is run once more below: whatever the edits there do not touch has to pass.
    const { run, results } = await served.run({ repeat: 2, environments: ['night'] });
    expect(
      results
        .filter(({ verdict }) => verdict !== 'passed')
        .map(({ component, look, captures, problem }) => [
          component,
          look,
          problem,
          captures.map(({ state }) => state),
        ]),
    ).toEqual([]);
    expect(run).toMatchObject({
      unstable: 0,
      tally: { passed: first.length, changed: 0, failed: 0, broken: 0, new: 0 },
    });
  });

  it('names its styles in every timeline, also of looks that share a document', async () => {
    for (const { id } of first.filter(
      ({ environment, component }) => environment === 'day' && component === 'src/BerthCard',
    )) {
      const { base, patches, assets } = await served.client.timeline(id);
      const { sheets } = momentAt(base, patches, patches.length);
      for (const sheet of Object.values(sheets))
        if ('url' in sheet) expect(assets[sheet.url]).toMatch(/^[0-9a-f]{64}$/);
    }
  });
});

describe('after an afternoon of careless edits', () => {
  it('each regression is found, and nothing else', async () => {
    expect(readdirSync(join(repository, 'demo/next/src')).sort()).toEqual([
      'BerthCard.tsx',
      'FeeTable.tsx',
      'ReleaseDialog.tsx',
      'WeatherNotice.tsx',
      'tokens.css',
    ]);
    cpSync(join(repository, 'demo/next/src'), join(folder, 'src'), { recursive: true });
    const { results } = await served.run({ environments: ['day'] });
    const of = (verdict: string): string[] =>
      results
        .filter((one) => one.verdict === verdict)
        .map(({ component, look }) => `${component.replace('src/', '')} › ${look}`)
        .sort();
    // A handler that no longer fires, and an endpoint that was renamed on one side only.
    expect(of('failed')).toEqual([
      'BerthCard › asks before releasing',
      'ReleaseDialog › enter confirms',
      ...['a gale interrupts', 'asks again', 'calm', 'gale', 'loading', 'unreachable'].map(
        (look) => `WeatherNotice › ${look}`,
      ),
    ]);
    // A text and a token; a banner that pushes the table down.
    expect(of('changed')).toEqual([
      'BerthCard › empty',
      ...[
        'a heading shows that it can be used',
        'a long bill',
        'four nights',
        'nothing to pay',
        'one line',
        'reduced',
        'sorts by price',
      ].map((look) => `FeeTable › ${look}`),
    ]);
    expect(of('broken')).toEqual([]);
    expect(of('new')).toEqual([]);
    const fees = results.find(({ look }) => look === 'four nights')!.captures[0]!.state;
    expect(fees).toMatchObject({
      kind: 'changed',
      picture: { added: [[0, expect.any(Number), expect.any(Number), expect.any(Number)]] },
      markup: [{ side: 'now', text: expect.stringContaining('banner') }, { side: 'now' }],
    });
  });
});

describe('the review of both environments', () => {
  it('takes eight key presses at most', async () => {
    await served.run();
    const { causes, changes } = await served.client.causes();
    expect([causes.length, changes]).toEqual([4, 22]);
    const page = await openConsole(served.service.url);
    await page.open('/review');
    await page.shows('0 of 4 decided');
    await page.shows('22 captures left');
    let presses = 0;
    const press = async (...keys: string[]): Promise<void> => {
      presses += keys.length;
      await page.press(...keys);
    };
    await press('a');
    await page.shows('1 of 4 decided');
    await press('a');
    await page.shows('2 of 4 decided');
    await press('a');
    await page.shows('3 of 4 decided');
    // What fails cannot be approved; what it says is proposed as the reason.
    await press('x', 'Enter');
    await page.shows('4 of 4 decided');
    await page.shows('0 captures left');
    expect(presses).toBeLessThanOrEqual(8);
    const { causes: left } = await served.client.causes();
    expect(left.map(({ kind, captures }) => [kind, captures.map(({ decision }) => decision?.kind)])).toEqual([
      ['failed', Array(6).fill('reject')],
    ]);
  });
});
