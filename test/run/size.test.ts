/** Pictures of more than the viewport: the page does not hear that it was another size while they were taken. */
import { beforeAll, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { configuration, project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const quay = `import { capture, ensure, hover, looks, resize, the } from 'sguardo';
import { useEffect, useRef } from 'react';

const heard = [];
function Quay({ height }) {
  const mark = useRef(null);
  useEffect(() => {
    heard.length = 0;
    const say = (what) => () => heard.push(what);
    const note = say('window'),
      see = say('view');
    addEventListener('resize', note);
    visualViewport.addEventListener('resize', see);
    const observer = new ResizeObserver(([{ contentRect }]) => heard.push('mark ' + contentRect.height));
    observer.observe(mark.current);
    return () => {
      removeEventListener('resize', note);
      visualViewport.removeEventListener('resize', see);
      observer.disconnect();
    };
  }, []);
  return (
    <div style={{ height, background: 'teal' }}>
      <i ref={mark} style={{ display: 'block', height: '50vh' }} />
    </div>
  );
}

/** A lamp that stands elsewhere in a page of another size, in a shadow tree or in a frame. */
const lamp = (inside) => {
  const put = (root) => {
    root.innerHTML = '<b style="display: block; height: 40px; background: gold">Lamp</b>';
    for (const what of ['enter', 'leave', 'over', 'out'])
      for (const device of ['mouse', 'pointer'])
        root.querySelector('b').addEventListener(device + what, () => heard.push(device + what));
  };
  const host = document.createElement(inside === 'frame' ? 'iframe' : 'div');
  host.style.cssText = 'position: absolute; top: 50vh; width: 200px; border: 0';
  document.querySelector('i').append(host);
  put(inside === 'frame' ? host.contentDocument.body : host.attachShadow({ mode: 'open' }));
};
const pointed = (inside) => ({
  async script() {
    lamp(inside);
    await hover(the.text('Lamp'));
    await ensure(() => heard.includes('mouseenter')).equals(true);
    heard.length = 0;
    for (const name of ['one', 'two', 'three', 'four']) await capture(name);
    await ensure(() => heard).equals([]);
  },
});

export default looks(Quay, {
  props: { height: 2000 },
  states: {
    pictures: {
      async script() {
        await capture('one');
        await capture('two');
        await ensure(() => heard).equals(['mark 400']);
      },
    },
    'another size': {
      async script() {
        await capture('one');
        await resize([1280, 600]);
        await capture('two');
        await ensure(() => heard.filter((one) => one.startsWith('mark'))).equals(['mark 400', 'mark 300']);
        await ensure(() => heard.includes('window') && heard.includes('view')).equals(true);
      },
    },
    'pointed at in a shadow tree': pointed('shadow'),
    'pointed at in a frame': pointed('frame'),
    'said by the page': {
      async script() {
        dispatchEvent(new Event('resize'));
        await ensure(() => heard).equals(['mark 400', 'window']);
      },
    },
    'observed again': {
      async script() {
        const sizes = [];
        const observer = new ResizeObserver(([{ contentRect }]) => sizes.push(contentRect.height));
        const mark = document.querySelector('i');
        observer.observe(mark);
        await ensure(() => sizes).equals([400]);
        observer.unobserve(mark);
        observer.observe(mark);
        await ensure(() => sizes).equals([400, 400]);
        mark.style.height = '30px';
        await ensure(() => sizes).equals([400, 400, 30]);
        await ensure(() => {
          try {
            new ResizeObserver(5);
          } catch (error) {
            return error.name;
          }
        }).equals('TypeError');
        observer.disconnect();
      },
    },
  },
});
`;

let look: (name: string) => ResultSummary;

beforeAll(async () => {
  const served = await serve(project({ 'sguardo.config.ts': configuration({}), 'src/Quay.look.jsx': quay }));
  ({ look } = await served.run());
});

it.each([
  'pictures',
  'another size',
  'pointed at in a shadow tree',
  'pointed at in a frame',
  'said by the page',
  'observed again',
])('%s', (name) => {
  const { verdict, problem, notes } = look(name);
  expect([verdict, problem?.message, problem?.found, notes]).toEqual(['new', undefined, undefined, []]);
});
