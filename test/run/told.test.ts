/** What an animation tells at its end is heard before anybody does the next thing, however late its frame comes. */
import { expect, it } from 'vitest';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const gate = `import { useState } from 'react';
import { click, clock, ensure, looks, the } from 'sguardo';
import './gate.css';
function Gate() {
  const [isOpen, open] = useState(false);
  const [told, tell] = useState('nothing');
  const [said, say] = useState('');
  return <main><button onClick={() => requestAnimationFrame(() => open(true))}>Open</button>
    <div className={isOpen ? 'gate open' : 'gate'} onTransitionEnd={() => requestAnimationFrame(() => tell('end'))}>Gate</div>
    <button onClick={() => say('after ' + told)}>Pass</button><output>{said}</output></main>;
}
const passes = { async script() {
  await click(the.button('Open'));
  await clock.advance(48);
  await click(the.button('Pass'));
  await ensure(the.status()).reads('after end');
} };
export default looks(Gate, { states: Object.fromEntries(Array.from({ length: 12 }, (_, i) => ['time ' + i, passes])) });`;

it('the end of a transition within the frame before a click', async () => {
  const folder = project({
    'src/Gate.look.tsx': gate,
    // It begins with the first frame, and ends with the fourth: the first of the two that a person lets go by.
    'src/gate.css': '.gate { width: 50px; transition: width 50ms } .gate.open { width: 90px }',
  });
  const { results } = await (await serve(folder)).run();
  expect(results).toHaveLength(12);
  expect(results.flatMap(({ look, problem }) => (problem ? [[look, problem.found]] : []))).toEqual([]);
});
