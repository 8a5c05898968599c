/** Animations on the look's own time: where they are at every instant, what they tell, and how they are drawn again. */
import { beforeAll, describe, expect, it } from 'vitest';
import { isText, type ElementState } from '../../src/core/moment/moment.ts';
import { momentAt } from '../../src/core/moment/patch.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { EngineWindow } from '../../src/engine/engine.ts';
import { configuration, project } from '../support/project.ts';
import { openDrawing, redrawnOtherwise } from '../support/redraw.ts';
import { serve, type Served } from '../support/service.ts';

const css = `
.door {
  width: 200px; height: 40px; opacity: 1; background: teal; transition: opacity 400ms linear, width 400ms linear;
}
.door.leaving { opacity: 0; width: 100px; }
@keyframes rise { from { margin-top: 100px } to { margin-top: 0 } }
.rising { animation: rise 600ms linear 200ms both; }
.rising::before { content: 'flag'; display: block; animation: rise 600ms linear both; }
@keyframes spin { from { rotate: 0deg } to { rotate: 1turn } }
.turning { animation: spin 700ms linear infinite; width: 30px; height: 30px; background: navy; }
.drop { display: block; width: 20px; height: 20px; background: navy; }
.drop.going { transition: opacity 400ms linear; } .faint { opacity: 0; }
.slow { animation: rise 5s linear; }
.closing { animation: rise 500ms linear both; }
@keyframes wave {
  from { transform: rotate(0deg) scale(1); opacity: .2; color: navy }
  to { transform: rotate(90deg) scale(2); opacity: 1; color: red }
}
.waving {
  animation: wave 900ms ease-in-out; width: 120px; padding: 8px; background: gold; margin: 60px; filter: blur(0);
}
`;

const harbour = `import { capture, click, clock, ensure, looks, the } from 'sguardo';
import { useRef, useState } from 'react';
import './motion.css';
function Door() {
  const [at, go] = useState('open');
  return (
    <div>
      <button
        onClick={() => {
          go('leaving');
          setTimeout(() => go((now) => (now === 'gone' ? now : 'late')), 900);
        }}
      >
        Leave
      </button>
      {at !== 'gone' && (
        <div className={'door ' + (at === 'leaving' ? 'leaving' : '')} onTransitionEnd={() => go('gone')}>
          door
        </div>
      )}
      <output>{at}</output>
    </div>
  );
}
function Rising() {
  return <div className="rising">mast</div>;
}
function Turning() {
  return <div className="turning" role="progressbar" />;
}
function Slow() {
  return <div className="slow">slow</div>;
}
function Waving() {
  return <div className="waving">Pilot on board</div>;
}
function Gauge() {
  return (
    <svg width="100" height="20">
      <rect width="10" height="20">
        <animate attributeName="width" from="10" to="90" dur="800ms" fill="freeze" />
      </rect>
    </svg>
  );
}
function Sliding() {
  const [on, set] = useState(false);
  const [said, say] = useState('');
  return (
    <div style={{ position: 'relative', height: 60 }}>
      <button onClick={() => set(true)}>Show</button>
      <button
        style={{ position: 'absolute', top: 30, left: on ? 300 : 0, transition: 'left 500ms linear' }}
        onClick={(event) => say(String(event.timeStamp))}
      >
        Away
      </button>
      <output>{said}</output>
    </div>
  );
}
function Hatch() {
  const [at, go] = useState('open');
  const close = () => {
    go('closing');
    setTimeout(() => {}, 500);
  };
  return (
    <div>
      <button onClick={close}>Close</button>
      <button onClick={() => go('open')}>Open</button>
      {at !== 'closed' && (
        <div className={at} onAnimationEnd={() => go('closed')}>
          hatch
        </div>
      )}
    </div>
  );
}
function Ripple({ after, slowly }) {
  const root = useRef(null);
  const [said, say] = useState([]);
  const begin = () => {
    const drop = Object.assign(document.createElement('i'), { className: 'drop going' });
    root.current.append(drop);
    for (const kind of ['transitionend', 'transitioncancel'])
      drop.addEventListener(kind, () => say((before) => [...before, kind]));
    getComputedStyle(drop).opacity;
    drop.classList.add('faint');
    getComputedStyle(drop).opacity;
    // A long task, so that a frame of the engine comes between the two.
    if (slowly)
      setTimeout(() => {
        for (let i = 0; i < 2e7; i++) Math.sqrt(i);
      }, after);
    setTimeout(() => {
      drop.className = 'drop';
    }, after);
  };
  return (
    <div ref={root}>
      <button onClick={begin}>Drop</button>
      <output>{said.join()}</output>
    </div>
  );
}
const all = { Ripple, Door, Rising, Turning, Slow, Waving, Gauge, Sliding, Hatch };
function Any({ what, ...props }) {
  const One = all[what];
  return <One {...props} />;
}
const width = () => getComputedStyle(document.querySelector('.door')).width;
const now = () => performance.now();

export default looks(Any, {
  props: { what: 'Door' },
  states: {
    'it is taken away by a timer right behind its end': {
      props: { what: 'Ripple', after: 401 },
      async script() {
        await click(the.button('Drop'));
        await ensure(the.status()).reads('transitionend');
      },
    },
    'it is taken away by a timer of the same length': {
      props: { what: 'Ripple', after: 400 },
      async script() {
        await click(the.button('Drop'));
        await ensure(the.status()).reads('transitioncancel');
      },
    },
    'it is taken away by a timer of the same length, behind a long task': {
      props: { what: 'Ripple', after: 400, slowly: true },
      async script() {
        await click(the.button('Drop'));
        await ensure(the.status()).reads('transitioncancel');
      },
    },
    'half way': {
      async script() {
        await click(the.button('Leave'));
        await ensure(width).equals('200px');
        await clock.advance(100);
        await ensure(width).equals('175px');
        await capture('a quarter', { settle: 0 });
        await clock.advance(100);
        await ensure(() => getComputedStyle(document.querySelector('.door')).opacity).equals('0.5');
        await capture('half', { settle: 0 });
      },
    },
    'it is taken away at its end': {
      async script() {
        await click(the.button('Leave'));
        await ensure(the.text('door')).isVisible();
        await ensure(the.text('door')).isAbsent();
        await ensure(() => Math.round(now())).equals(417);
        await ensure(the.status()).reads('gone');
      },
    },
    'it ends as a timer does': {
      props: { what: 'Hatch' },
      async script() {
        for (let i = 0; i < 8; i++) {
          await click(the.button('Close'));
          await ensure(the.text('hatch')).isAbsent();
          await click(the.button('Open'));
          await ensure(the.text('hatch')).isVisible();
        }
      },
    },
    'a picture waits for its end': { script: () => click(the.button('Leave')) },
    'keyframes with a delay': {
      props: { what: 'Rising' },
      async script() {
        const top = () => getComputedStyle(document.querySelector('.rising')).marginTop;
        await ensure(top).equals('100px');
        await clock.advance(500);
        await ensure(top).equals('50px');
        await capture('half', { settle: 0 });
      },
    },
    'a script’s own': {
      async script() {
        const door = document.querySelector('.door');
        const one = door.animate([{ height: '40px' }, { height: '80px' }], { duration: 200 });
        await ensure(() => one.startTime === null || one.startTime === now()).equals(true);
        await clock.advance(50);
        await ensure([one.currentTime, getComputedStyle(door).height]).equals([50, '50px']);
        await ensure(() => document.timeline.currentTime - one.startTime).equals(50);
        await one.finished;
        await ensure(() => Math.round(now())).equals(217);
        const held = door.animate([{ height: '90px' }], { duration: 100, fill: 'forwards' });
        await held.finished;
        held.pause();
        await clock.advance(1000);
        await ensure(getComputedStyle(door).height).equals('90px');
        const back = door.animate([{ height: '0px' }, { height: '100px' }], { duration: 100 });
        back.reverse();
        back.playbackRate = -0.5;
        await clock.advance(100);
        await ensure(back.currentTime).equals(50);
        const begun = door.animate([{ height: '0px' }, { height: '100px' }], { duration: 100 });
        begun.startTime = document.timeline.currentTime - 25;
        await ensure(begun.currentTime).equals(25);
      },
    },
    'without an end': { props: { what: 'Turning' }, script: () => clock.advance(350) },
    'longer than anybody waits': { props: { what: 'Slow' } },
    'as long as is said': { props: { what: 'Slow' }, script: () => capture('there', { settle: 6000 }) },
    'everything at once': {
      props: { what: 'Waving' },
      async script() {
        await clock.advance(300);
        await capture('a third', { settle: 0 });
        await clock.advance(300);
        await capture('two thirds', { settle: 0 });
      },
    },
    'in a picture': {
      props: { what: 'Gauge' },
      async script() {
        const wide = () => document.querySelector('rect').width.animVal.value;
        await ensure(wide).equals(10);
        await clock.advance(400);
        await ensure(wide).equals(50);
        await capture('half', { settle: 0 });
      },
    },
    'what slides is waited for': {
      props: { what: 'Sliding' },
      async script() {
        await click(the.button('Show'));
        await click(the.button('Away'));
        await ensure(() => now() >= 500 && now() < 560).equals(true);
        await ensure(the.status()).reads(/^5\\d\\d/);
      },
    },
    'again and again': {
      async script() {
        const door = document.querySelector('.door');
        (function go() {
          door.animate([{ opacity: 1 }, { opacity: 0.5 }], 50).onfinish = go;
        })();
      },
    },
    ...Object.fromEntries(
      [
        ['in a frame', false],
        ['in a frame of a shadow root', true],
      ].map(([name, isShadowed]) => [
        name,
        {
          async script() {
            const frame = document.createElement('iframe');
            const host = document.createElement('div');
            document.body.append(host);
            (isShadowed ? host.attachShadow({ mode: 'open' }) : host).append(frame);
            const { document: inner } = frame.contentWindow;
            inner.body.innerHTML = '<p>inside</p>';
            const p = inner.querySelector('p');
            p.animate([{ width: '0px' }, { width: '100px' }], { duration: 100 });
            await clock.advance(30);
            await ensure(() => frame.contentWindow.getComputedStyle(p).width).equals('30px');
            host.remove();
          },
        },
      ]),
    ),
  },
});
`;

let served: Served;
let look: (name: string) => ResultSummary;
let drawing: EngineWindow;
beforeAll(async () => {
  served = await serve(
    project({
      'sguardo.config.ts': configuration({ lanes: 2, patience: 2000 }),
      'src/Any.look.jsx': harbour,
      'src/motion.css': css,
    }),
  );
  ({ look } = await served.run());
  drawing = await openDrawing(served);
});

/** The states of the elements that one moment shows. */
async function statesAt(name: string, capture: string): Promise<ElementState[]> {
  const { base, patches, steps } = await served.client.timeline(look(name).id);
  const { nodes } = momentAt(base, patches, steps.find((step) => step.capture === capture)!.after!);
  return Object.values(nodes).flatMap((node) => (isText(node) ? [] : (node.state ?? [])));
}

describe('animations', () => {
  it.each([
    'half way',
    'it is taken away at its end',
    'it ends as a timer does',
    'it is taken away by a timer right behind its end',
    'it is taken away by a timer of the same length',
    'it is taken away by a timer of the same length, behind a long task',
    'a picture waits for its end',
    'keyframes with a delay',
    'a script’s own',
    'without an end',
    'as long as is said',
    'in a picture',
    'what slides is waited for',
    'in a frame',
    'in a frame of a shadow root',
  ])('%s', (name) => {
    const { verdict, problem, notes } = look(name);
    expect([verdict, problem?.message, problem?.found, notes]).toEqual(['new', undefined, undefined, []]);
  });

  it('come to their end before a picture is taken, unless that is far away', async () => {
    const { steps } = await served.client.timeline(look('a picture waits for its end').id);
    expect(steps.at(-1)!.clock![1]).toBeGreaterThanOrEqual(400);
    expect(look('longer than anybody waits').notes).toEqual([
      expect.stringContaining('an animation was still running (rise of div.slow, 5000 ms to go). It got 1000 ms'),
    ]);
    expect(look('again and again').notes).toEqual([
      expect.stringContaining('an animation was still running (div.door, '),
    ]);
  });

  it.each([
    ['half way', 'a quarter'],
    ['half way', 'half'],
    ['half way', 'end'],
    ['keyframes with a delay', 'half'],
    ['everything at once', 'a third'],
    ['everything at once', 'two thirds'],
    ['longer than anybody waits', 'end'],
    ['in a picture', 'half'],
    ['in a picture', 'end'],
  ])('are drawn again where they were: %s, %s', async (name, capture) => {
    expect(await redrawnOtherwise(served, drawing, look(name), capture)).toBe(0);
  });

  it('are in the moment as they are at that instant', async () => {
    expect((await statesAt('half way', 'a quarter')).map(({ animated }) => animated)).toEqual([
      { '': { opacity: '0.75', width: '175px' } },
    ]);
    expect((await statesAt('half way', 'end')).filter(({ animated }) => animated)).toEqual([]);
    expect((await statesAt('keyframes with a delay', 'half')).map(({ animated }) => animated)).toEqual([
      { '': { marginTop: '50px' }, '::before': { marginTop: expect.stringMatching(/^16\.6/) } },
    ]);
    expect((await statesAt('in a picture', 'half')).map(({ seconds }) => seconds)).toEqual([0.4]);
  });
});
