/** Pages that take away what every document and all code needs: the look says so, and its neighbours pass. */
import { expect, it } from 'vitest';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const looksOf = (doing: string): string => `import { looks } from 'sguardo';
import { useEffect } from 'react';
function Torn({ isTorn }) {
  useEffect(() => { if (isTorn) { ${doing} } }, []);
  return <p>torn</p>;
}
export default looks(Torn, { states: { torn: { props: { isTorn: true } }, whole: {} } });`;

it('is told as what the look does, not as a fault of ours', async () => {
  const served = await serve(
    project({
      'src/Document.look.jsx': looksOf('document.documentElement.remove();'),
      'src/Body.look.jsx': looksOf('document.body.remove();'),
      'src/Calls.look.jsx': looksOf('Function.prototype.call = () => { throw new Error("no"); };'),
    }),
  );
  const { results } = await served.run();
  const whole = results.filter(({ look }) => look === 'whole').map(({ verdict }) => verdict);
  expect(whole).toEqual(['new', 'new', 'new']);
  const torn = results.filter(({ look }) => look === 'torn');
  expect(torn).toHaveLength(3);
  for (const { file, problem } of torn) expect([file, problem?.code]).not.toEqual([file, 'internal']);
  expect(torn.find(({ file }) => file.includes('Calls'))!.problem).toMatchObject({ code: 'platform-replaced' });
}, 120_000);
