/** Stacks of errors, written in a page's own way or very deep: what goes wrong is told with its place all the same. */
import { beforeAll, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const own = `import { click, looks, the } from 'sguardo';
Error.prepareStackTrace = (error, sites) => sites;
const Slip = () => <button onClick={() => fetch('/api/slips')}>Save</button>;
export default looks(Slip, { patience: 100, states: {
  'nobody answers': { async script() { await click(the.button('Save')); } },
  'no such target': { async script() { await click(the.button('Keep')); } },
  throws: { async script() { throw new Error('no slip'); } },
} });`;

const deep = `import { looks } from 'sguardo';
let read = JSON.parse.bind(null, '{');
for (let i = 0; i < 20; i++) read = Array.prototype.forEach.bind([0], read);
const Slip = () => {
  read();
};
export default looks(Slip, { states: { plain: {} } });`;

let results: ResultSummary[];

beforeAll(async () => {
  ({ results } = await (await serve(project({ 'src/Slip.look.jsx': own, 'src/Deep.look.jsx': deep }))).run());
});

it.each([
  ['nobody answers', 'request-unanswered', 3],
  ['no such target', 'target-missing', 6],
  ['throws', 'script-threw', 7],
])('%s', (name, code, line) => {
  const { verdict, problem, notes } = results.find(({ look }) => look === name)!;
  expect([verdict, problem?.code, notes]).toEqual(['failed', code, []]);
  expect(problem?.place).toMatch(new RegExp(`^src/Slip\\.look\\.jsx:${line}:`));
});

it('names the component whose library has thrown, far down', () => {
  const { problem } = results.find(({ component }) => component === 'src/Deep')!;
  expect([problem?.code, problem?.place]).toEqual(['render-threw', 'src/Deep.look.jsx:5:3']);
});
