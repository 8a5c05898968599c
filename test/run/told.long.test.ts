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
  return (
    <main>
      <button onClick={() => requestAnimationFrame(() => open(true))}>Open</button>
      <div className={isOpen ? 'gate open' : 'gate'} onTransitionEnd={() => requestAnimationFrame(() => tell('end'))}>
        Gate
      </div>
      <button onClick={() => say('after ' + told)}>Pass</button>
      <output>{said}</output>
    </main>
  );
}
const passes = {
  async script() {
    await click(the.button('Open'));
    await clock.advance(48);
    await click(the.button('Pass'));
    await ensure(the.status()).reads('after end');
  },
};
const states = Object.fromEntries(Array.from({ length: 12 }, (_, i) => ['time ' + i, passes]));
export default looks(Gate, { states });`;

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

/** A script that looks at once, behind a check that has held, at what came of the same instant. */
const curtain = `import { useState } from 'react';
import { click, ensure, looks, press, the } from 'sguardo';
import './curtain.css';
function Curtain() {
  const [state, to] = useState('away');
  const [told, tell] = useState('nothing');
  const [said, say] = useState('');
  const [hovered, hover] = useState(false);
  const close = () => {
    to('closing');
    setTimeout(() => to('away'), 300);
  };
  return (
    <main onKeyDown={({ key }) => key === 'Escape' && close()}>
      <button
        data-hovered={hovered}
        onMouseOver={() => hover(true)}
        onMouseOut={() => hover(false)}
        onClick={() =>
          requestAnimationFrame(() => {
            to('open');
            setTimeout(() => say('due'), 200);
          })
        }
      >
        Open
      </button>
      <i className={state} onTransitionEnd={() => tell(state)}>
        Light
      </i>
      <output>{told}</output>
      <b>{said}</b>
      {state !== 'away' && <p className="curtain">Curtain</p>}
    </main>
  );
}
const at = (selector: string) => document.querySelector(selector)!;
const expectNow = (is: string, wanted: string) => {
  if (is !== wanted) throw new Error('It was ' + is + ', not ' + wanted);
};
const pointed = {
  async script() {
    await click(the.button('Open'));
    await press('Escape');
    await ensure(the.text('Curtain')).isAbsent();
    expectNow(at('button').dataset.hovered, 'true');
  },
};
const ended = {
  async script() {
    await click(the.button('Open'));
    await ensure(the.text('due')).isVisible();
    expectNow(at('output').textContent, 'open');
  },
};
const many = (name, look) => Array.from({ length: 8 }, (_, i) => [name + ' ' + i, look]);
export default looks(Curtain, { states: Object.fromEntries([...many('pointed', pointed), ...many('ended', ended)]) });`;

it('what came to lie under the pointer, and the end of a transition, before the check that saw it ends', async () => {
  const folder = project({
    'src/Curtain.look.tsx': curtain,
    'src/curtain.css':
      '.curtain { position: fixed; inset: 0; background: white } i { transition: opacity 200ms } i.open { opacity: 0 }',
  });
  const { results } = await (await serve(folder)).run();
  expect(results).toHaveLength(16);
  expect(results.flatMap(({ look, problem }) => (problem ? [[look, problem.message]] : []))).toEqual([]);
});
