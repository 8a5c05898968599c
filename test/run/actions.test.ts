/** Actions, checks and targets, in a real browser. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { Timeline } from '../../src/core/timeline/timeline.ts';
import { copyOf } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let served: Served;
let look: (name: string) => ResultSummary;
let results: ResultSummary[];
const timelineOf = (name: string): Promise<Timeline> => served.client.timeline(look(name).id);

beforeAll(async () => {
  served = await serve(copyOf('test/looks'));
  ({ look, results } = await served.run({ patterns: ['Controls'] }));
});

describe('scripts', () => {
  it('come to their end, each as a person would do it', () => {
    const wrong = results
      .filter(({ verdict }) => verdict !== 'new')
      .map(({ look: name, verdict, problem }) => `${name}: ${verdict}, ${problem?.message} ${problem?.found ?? ''}`);
    expect(wrong).toEqual([]);
    expect(results).toHaveLength(16);
  });

  it('are recorded step by step, in words', async () => {
    const { steps } = await timelineOf('boxes and radios');
    expect(steps.map(({ title }) => title)).toEqual([
      'mount Controls',
      'ensure the checkbox “Anchored” is not checked',
      'click the checkbox “Anchored”',
      'ensure the checkbox “Anchored” is checked',
      'click the radio “Starboard”',
      'ensure the radio “Starboard” is checked',
      'ensure the radio “Port” is not checked',
      'capture “end”',
    ]);
    expect(steps.every(({ outcome }) => outcome === 'passed')).toBe(true);
  });

  it('have parts that hold their steps, and captures under their names', async () => {
    const { steps } = await timelineOf('parts hold steps, and captures have names');
    expect(steps.map(({ kind, parent }) => [kind, parent])).toEqual([
      ['mount', null],
      ['part', null],
      ['part', 1],
      ['action', 2],
      ['capture', 1],
      ['capture', null],
    ]);
    expect(look('parts hold steps, and captures have names').captures.map(({ name }) => name)).toEqual([
      'between',
      'end',
    ]);
  });

  it('start where another one ended, whose captures are not taken again', async () => {
    const { steps } = await timelineOf('second half');
    expect(steps.find(({ kind }) => kind === 'part')?.title).toBe('after “first half”');
    expect(look('second half').captures.map(({ name }) => name)).toEqual(['half', 'end']);
    expect(steps.filter(({ kind }) => kind === 'mount')).toHaveLength(1);
    expect(
      (await timelineOf('other props after a script')).steps
        .filter(({ kind }) => kind === 'mount')
        .map(({ title }) => title),
    ).toEqual(['mount Controls', 'give it the props of “other props after a script”']);
  });

  it('leave the place of each step in the look file', async () => {
    const { steps, source } = await timelineOf('clicks are trusted');
    const { source: place } = steps.find(({ title }) => title.startsWith('click'))!;
    expect(place?.file).toBe('src/Controls.look.tsx');
    expect(source!.split('\n')[place!.line - 1]).toContain("click(the.button('Knock'))");
  });
});

describe('what is recorded of a step', () => {
  it('is its target, the pointer, and how often it looked', async () => {
    const { steps } = await timelineOf('checks wait for what comes later');
    const click = steps.find(({ title }) => title.startsWith('click'))!;
    const [x, y, width, height] = click.target!.box!;
    expect(click.target).toMatchObject({ node: expect.any(Number), description: 'the button “Later”' });
    expect(click.pointer![0]).toBeCloseTo(x + width / 2, 0);
    expect(click.pointer![1]).toBeCloseTo(y + height / 2, 0);
    expect(steps.find(({ title }) => title.endsWith('reads “It came”'))!.tries).toBeGreaterThan(1);
  });

  it('is each call of a spy, under the name of its prop', async () => {
    const { marks } = await timelineOf('clicks are trusted');
    expect(marks.filter(({ lane }) => lane === 'spies').map(({ title }) => title)).toEqual(['onClick(true, 1)']);
  });

  it('is the moment before and the one after', async () => {
    const { steps, taken } = await timelineOf('typing goes through real keys');
    for (const { before, after } of steps) expect(after).toBeGreaterThanOrEqual(before);
    const typed = steps.find(({ title }) => title.startsWith('type “Éole'))!;
    expect(typed.after).toBeGreaterThan(typed.before);
    expect(typed.after).toBeLessThan(taken.length);
  });
});
