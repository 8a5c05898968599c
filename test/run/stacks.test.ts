/** Pages that have stacks of errors written their own way: what goes wrong on them is told as on any other. */
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

let results: ResultSummary[];

beforeAll(async () => {
  ({ results } = await (await serve(project({ 'src/Slip.look.jsx': own }))).run());
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
