/** Custom elements of which sheets see more than attributes: states of their own, not yet defined, disabled. */
import { beforeAll, expect, it } from 'vitest';
import { isText } from '../../src/core/moment/moment.ts';
import { momentAt } from '../../src/core/moment/patch.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { EngineWindow } from '../../src/engine/engine.ts';
import { configuration, project } from '../support/project.ts';
import { openDrawing, redrawnOtherwise } from '../support/redraw.ts';
import { serve, type Served } from '../support/service.ts';

const lamp = `import { capture, click, ensure, looks, the } from 'sguardo/dom';
import './lamp.css';

class Lamp extends HTMLElement {
  static formAssociated = true;
  #inside = this.attachInternals();
  constructor() {
    super();
    this.attachShadow({ mode: 'open' }).innerHTML =
      '<style>:host { display: inline-block; padding: 20px; background: navy; color: white } ' +
      ':host(:state(lit)) { background: gold; color: black } :host(:disabled) { opacity: 0.3 }</style><slot></slot>';
    this.#inside.role = 'button';
    this.addEventListener('click', () => {
      if (this.#inside.states.has('lit')) this.#inside.states.delete('lit');
      else this.#inside.states.add('lit');
    });
  }
}
if (!customElements.get('x-lamp')) customElements.define('x-lamp', Lamp);

function Pier({ disabled = false }) {
  const pier = document.createElement('div');
  pier.innerHTML = '<x-lamp' + (disabled ? ' disabled' : '') + '>North</x-lamp> <x-later>South</x-later>';
  return pier;
}

export default looks(Pier, { states: {
  dark: {},
  disabled: { props: { disabled: true } },
  lit: { async script() {
    await click(the.button('North'));
    await capture('lit');
    await click(the.button('North'));
    await capture('dark');
    await click(the.button('North'));
  } },
} });
`;

const css = 'x-lamp:not(:defined) { display: none } x-later:not(:defined) { background: crimson; padding: 20px }';

let served: Served;
let look: (name: string) => ResultSummary;
let drawing: EngineWindow;

beforeAll(async () => {
  served = await serve(
    project({ 'sguardo.config.ts': configuration({}), 'src/Lamp.look.ts': lamp, 'src/lamp.css': css }),
  );
  ({ look } = await served.run());
  drawing = await openDrawing(served);
});

it.each([
  ['dark', 'end'],
  ['disabled', 'end'],
  ['lit', 'lit'],
  ['lit', 'dark'],
  ['lit', 'end'],
])('are drawn again as they were: %s, %s', async (name, capture) => {
  expect(look(name).problem).toBeNull();
  expect(await redrawnOtherwise(served, drawing, look(name), capture)).toBe(0);
});

it('are recorded with what sheets see of them, although nothing in the document tells of it', async () => {
  const { base, patches } = await served.client.timeline(look('lit').id);
  const seen = look('lit').captures.map(({ moment }) =>
    Object.values(momentAt(base, patches, moment).nodes).flatMap((entry) =>
      isText(entry) || !entry.tag.startsWith('x-') ? [] : [entry.state?.custom ?? []],
    ),
  );
  expect(seen).toEqual([
    [[':lit'], ['undefined']],
    [[], ['undefined']],
    [[':lit'], ['undefined']],
  ]);
});
