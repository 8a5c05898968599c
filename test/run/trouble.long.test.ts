/** Components that do what they must not: each gets its verdict, and no other look of the run suffers. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ProblemCode } from '../../src/core/problem/problem.ts';
import type { ResultSummary, RunSummary } from '../../src/core/run/run.ts';
import type { Verdict } from '../../src/core/run/verdict.ts';
import { copyOf, write } from '../support/project.ts';
import { problemIn, type Served, serve } from '../support/service.ts';

let served: Served;
let run: RunSummary;
let look: (name: string) => ResultSummary;

beforeAll(async () => {
  served = await serve(copyOf('test/looks'));
  ({ run, look } = await served.run({ patterns: ['Trouble'] }));
});

const expected: [name: string, verdict: Verdict, code: ProblemCode, message: RegExp][] = [
  ['throws at render', 'broken', 'render-threw', /Trouble threw while rendering: Error: the bilge pump failed/],
  ['makes no element', 'broken', 'render-threw', /it returned \{type: .* which is neither an element nor markup/],
  ['endless at render', 'broken', 'look-endless', /Rendering did not end within 4000 ms/],
  ['endless in the script', 'broken', 'look-endless', /did not end within 4000 ms and was stopped/],
  ['waits for ever', 'broken', 'look-waits', /waited 4000 ms for something that did not come/],
  ['closes its window', 'failed', 'closed-itself', /called window\.close\(\).*The window was kept open/],
  ['leaves the page', 'failed', 'navigated-away', /tried to leave for http:\/\/elsewhere\.test\//],
  ['loads itself again', 'failed', 'navigated-away', /tried to leave for http:\/\/looks\.localhost\//],
  ['follows a link', 'failed', 'navigated-away', /tried to leave for http:\/\/elsewhere\.test\/list/],
];

describe('trouble', () => {
  it.each(expected)('%s: %s', (name, verdict, code, message) => {
    const result = look(name);
    expect(result.problem).toMatchObject({ code, message: expect.stringMatching(message) });
    expect(result.verdict).toBe(verdict);
  });

  it('of one look leaves the others as they are', () => {
    for (const name of [
      'before',
      'after a throw',
      'after an endless render',
      'after an endless script',
      'after a closed window',
      'after',
    ]) {
      expect([name, look(name).verdict, look(name).problem]).toEqual([name, 'new', null]);
    }
    expect(run).toMatchObject({ status: 'finished', problems: [] });
    expect(run.done).toBe(run.planned);
  });

  it('points at the place in the component', () => {
    expect(look('endless at render').problem!.place).toMatch(/^src\/Trouble\.look\.tsx:\d+:\d+$/);
    expect(look('endless in the script').problem!.frame).toMatch(/▸.*(for|while)/);
    expect(look('throws at render').problem!.frame).toContain("throw new Error('the bilge pump failed')");
  });

  it('in a component of a package has the line where the project shows that component', async () => {
    write(served.folder, {
      'node_modules/quay-kit/package.json': '{ "name": "quay-kit", "type": "module", "main": "index.js" }',
      'node_modules/quay-kit/index.js': `import { createContext, createElement, useContext } from 'react';
const Tides = createContext(null);
function useTides() {
  const tides = useContext(Tides);
  if (!tides) throw new Error('Gauge must be used within TidesProvider');
  return tides;
}
export const Gauge = () => createElement('b', null, useTides());
`,
    });
    const problem = await problemIn(
      served,
      'Packaged',
      'alone',
      `import { Gauge } from 'quay-kit';
import { looks } from 'sguardo';
const Shown = () => <i>
  <Gauge />
</i>;
const Quay = () => <main><Shown /></main>;
export default looks(Quay, { states: { alone: {} } });`,
    );
    expect(problem).toMatchObject({ code: 'render-threw', place: 'src/Packaged.look.tsx:4:3' });
    expect(problem!.frame).toContain('▸ 4 │   <Gauge />');
  });

  it('with dialogs and windows is noted, and goes on as if they had been dismissed', () => {
    expect(look('opens a dialog')).toMatchObject({
      verdict: 'new',
      notes: [
        expect.stringContaining('alert(“Gale”) opened a dialog, which blocks a page; it was dismissed.'),
        expect.stringContaining('confirm(“Cast off?”)'),
      ],
    });
    expect(look('opens a window')).toMatchObject({
      verdict: 'new',
      notes: [expect.stringContaining('window.open(“http://elsewhere.test/”) was not followed')],
    });
  });

  it('keeps the steps up to where it happened', async () => {
    const { steps } = await served.client.timeline(look('endless at render').id);
    expect(steps).toMatchObject([{ kind: 'mount', outcome: 'broken', problem: { code: 'look-endless' } }]);
    const left = await served.client.timeline(look('leaves the page').id);
    expect(left.steps.map(({ kind, outcome }) => `${kind} ${outcome}`)).toContain('navigation failed');
  });
});
