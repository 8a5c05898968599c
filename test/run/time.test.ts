/** The look's own time: what is short-lived can be seen, what ends by itself has ended, and nothing takes real time. */
import { beforeAll, describe, expect, it } from 'vitest';
import { momentAt } from '../../src/core/moment/patch.ts';
import { isText } from '../../src/core/moment/moment.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { configuration, project } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

const harbour = `import { answer, capture, click, clock, ensure, looks, the, type } from 'sguardo';
import { useEffect, useState } from 'react';

// A module can look at the clock, and wait for it, before any look begins.
const loadedAt = new Date().toISOString();
await new Promise((go) => setTimeout(go, 40));
function Toast() {
  const [shown, show] = useState(false);
  return (
    <div>
      <button
        onClick={() => {
          show(true);
          setTimeout(() => show(false), 300);
        }}
      >
        Save
      </button>
      {shown && <p role="status">Saved</p>}
    </div>
  );
}
function Dialog() {
  const [open, setOpen] = useState(true);
  return (
    <div>
      <button onClick={() => setTimeout(() => setOpen(false), 425)}>Close</button>
      {open && <div role="dialog">Question</div>}
    </div>
  );
}
function Search() {
  const [text, setText] = useState('');
  const [found, setFound] = useState('nothing');
  useEffect(() => {
    const id = setTimeout(() => text && setFound('ships like ' + text), 250);
    return () => clearTimeout(id);
  }, [text]);
  return (
    <div>
      <output>{found}</output>
      <label>
        Search <input value={text} onChange={(event) => setText(event.target.value)} />
      </label>
    </div>
  );
}
function Brief() {
  const [toasts, set] = useState([{ since: Date.now() }]);
  useEffect(() => {
    const [{ since, gone }] = toasts;
    const left = 1500 - (Date.now() - since);
    if (left < 0) {
      if (!gone) set([{ since, gone: true }]);
      return;
    }
    const id = setTimeout(() => set([{ since, gone: true }]), left);
    return () => clearTimeout(id);
  }, [toasts]);
  return toasts[0].gone ? null : <p role="status">Saved</p>;
}
function Countdown() {
  const [left, setLeft] = useState(5);
  useEffect(() => {
    const id = setInterval(() => setLeft((n) => n - 1), 1000);
    return () => clearInterval(id);
  }, []);
  return <p>{left} s</p>;
}
function Weather() {
  const [force, setForce] = useState(null);
  useEffect(() => {
    fetch('/api/wind')
      .then((reply) => reply.json())
      .then((wind) => setForce(wind.force));
  }, []);
  return force === null ? <p>loading</p> : <p>force {force}</p>;
}
function Glide() {
  const [left, setLeft] = useState(0);
  useEffect(() => {
    let id = requestAnimationFrame(function go(time) {
      setLeft(Math.min(100, Math.round(time / 5)));
      if (time < 500) id = requestAnimationFrame(go);
    });
    return () => cancelAnimationFrame(id);
  }, []);
  return (
    <div style={{ position: 'relative' }}>
      <button style={{ position: 'absolute', left }}>Glider {left}</button>
    </div>
  );
}
function Berths() {
  const [free, setFree] = useState(0);
  useEffect(() => {
    const ask = () =>
      fetch('/api/berths')
        .then((reply) => reply.json())
        .then((found) => setFree((n) => n + found.free));
    void ask();
    const id = setInterval(ask, 2000);
    return () => clearInterval(id);
  }, []);
  return <p>{free} free</p>;
}
function Likes() {
  const [state, set] = useState('no');
  const like = async () => {
    set('yes, not saved yet');
    const reply = await fetch('/api/like');
    set(reply.ok ? 'yes' : 'no, refused');
  };
  return (
    <div>
      <button onClick={like}>Like</button>
      <output>{state}</output>
    </div>
  );
}
function Skeleton() {
  const [here, come] = useState(false);
  useEffect(() => {
    const id = setTimeout(() => come(true), 800);
    return () => clearTimeout(id);
  }, []);
  return here ? (
    <p>Three ships</p>
  ) : (
    <div aria-busy="true" role="status" style={{ width: 90, height: 20, background: '#ccd' }} />
  );
}
function Now() {
  return (
    <p>
      {new Date().toISOString()} {performance.now()} {String(new Event('x').timeStamp)} {document.timeline.currentTime}
    </p>
  );
}
const all = { Toast, Dialog, Search, Brief, Countdown, Weather, Glide, Berths, Likes, Skeleton, Now };
function Any({ what }) {
  const One = all[what];
  return <One />;
}

export default looks(Any, {
  props: { what: 'Now' },
  states: {
    'the clock stands': {
      async script() {
        await ensure(loadedAt).equals('2026-03-02T09:30:00.000Z');
        await ensure(the.text('2026-03-02T09:30:00.000Z 0 0 0')).isVisible();
        for (let i = 0; i < 1e6; i++) Math.sqrt(i);
        await ensure([Date.now(), performance.now()]).equals([Date.parse('2026-03-02T09:30:00Z'), 0]);
      },
    },
    'a toast': {
      props: { what: 'Toast' },
      async script() {
        await click(the.button('Save'));
        await ensure(the.status()).reads('Saved');
        await capture('saved', { settle: 0 });
        await ensure(the.status()).isAbsent();
        await ensure(() => performance.now()).equals(302);
      },
    },
    'a toast is gone in the end': { props: { what: 'Toast' }, script: () => click(the.button('Save')) },
    'a dialog leaves': { props: { what: 'Dialog' }, script: () => click(the.button('Close')) },
    'a debounce': {
      props: { what: 'Search' },
      async script() {
        await type(the.field('Search'), 'Ali');
        await ensure(the.text('nothing')).isVisible();
        await ensure(the.text('ships like Ali')).isVisible();
      },
    },
    'a countdown': {
      props: { what: 'Countdown' },
      async script() {
        await ensure(the.text('5 s')).isVisible();
        await clock.advance(3000);
        await ensure(the.text('2 s')).isVisible();
        await clock.set('2026-03-02T09:30:04.500Z');
        await ensure(the.text('1 s')).isVisible();
      },
    },
    'a countdown stands in the end': { props: { what: 'Countdown' } },
    'a slow reply': {
      props: { what: 'Weather' },
      answers: { '/api/wind': { json: { force: 4 }, delay: 700 } },
      async script() {
        await capture('loading', { settle: 0 });
        await ensure(the.text('force 4')).isVisible();
        await ensure(() => performance.now()).equals(700);
      },
    },
    'a question asked again and again': {
      props: { what: 'Berths' },
      answers: { '/api/berths': { json: { free: 2 } } },
      async script({ answers }) {
        await ensure(the.text('2 free')).isVisible();
        await clock.advance(4000);
        await ensure(the.text('6 free')).isVisible();
        await ensure(answers['/api/berths']).calls(3);
      },
    },
    'shown before the reply': {
      props: { what: 'Likes' },
      answers: { '/api/like': { status: 500, delay: 400 } },
      async script() {
        await click(the.button('Like'));
        await ensure(the.status()).reads('yes, not saved yet');
        await capture('not saved', { settle: 0 });
        await ensure(the.status()).reads('no, refused');
      },
    },
    'a reply at once': {
      props: { what: 'Likes' },
      answers: { '/api/like': {} },
      async script() {
        await click(the.button('Like'));
        await ensure(() => document.querySelector('output').textContent).equals('yes');
        await ensure(() => performance.now()).equals(2);
      },
    },
    'a skeleton': {
      props: { what: 'Skeleton' },
      async script() {
        await capture('skeleton', { settle: 0 });
        await ensure(the.status()).isVisible();
        await ensure(the.text('Three ships')).isVisible();
      },
    },
    'in a frame': {
      async script() {
        const frame = document.createElement('iframe');
        let said = '';
        window.heard = (text) => {
          said += text + ' ';
        };
        frame.srcdoc =
          '<p>framed</p><script>parent.heard(new Date().toISOString() + performance.now()); ' +
          'setTimeout(() => parent.heard("late" + performance.now()), 700); ' +
          'requestAnimationFrame(() => parent.heard("frame"))</' +
          'script>';
        await new Promise((go) => {
          frame.onload = go;
          document.body.append(frame);
        });
        await ensure(() => said).equals('2026-03-02T09:30:00.000Z0 frame late700 ');
        const plain = document.createElement('iframe');
        document.body.append(plain);
        await ensure(() => new plain.contentWindow.Date().getTime() - Date.now()).equals(0);
        frame.remove();
        plain.remove();
        delete window.heard;
      },
    },
    'documents of frames': {
      patience: 100,
      async script() {
        const count = () =>
          [...document.querySelectorAll('iframe')].filter((one) =>
            one.contentDocument?.body?.textContent.includes('High water'),
          ).length;
        for (let i = 0; i < 12; i++)
          document.body.append(
            Object.assign(document.createElement('iframe'), { src: '/tides.html?' + i, width: 20, height: 20 }),
          );
        const tide = URL.createObjectURL(new Blob(['<p>High water</p>'], { type: 'text/html' }));
        document.body.append(Object.assign(document.createElement('iframe'), { src: tide, width: 20, height: 20 }));
        await ensure(count).equals(13);
        await ensure(() => performance.now()).equals(0);
        for (const one of document.querySelectorAll('iframe')) one.remove();
      },
    },
    'documents that frames hold themselves': {
      patience: 100,
      async script() {
        const held = (text) =>
          '<iframe srcdoc="' + text.replaceAll('&', '&amp;').replaceAll('"', '&quot;') + '"></iframe>';
        const innermost = (one) => {
          const inner = one.contentDocument?.querySelector('iframe');
          return inner ? innermost(inner) : one.contentDocument?.body?.textContent;
        };
        for (let i = 0; i < 6; i++)
          document.body.append(
            Object.assign(document.createElement('iframe'), { srcdoc: held(held(held(held('High water')))) }),
          );
        await ensure(
          () => [...document.querySelectorAll('iframe')].filter((one) => innermost(one) === 'High water').length,
        ).equals(6);
        await ensure(() => performance.now()).equals(0);
        for (const one of document.querySelectorAll('iframe')) one.remove();
      },
    },
    'something moves': {
      props: { what: 'Glide' },
      async script() {
        await click(the.button(/Glider/));
        await ensure(the.button('Glider 100')).isVisible();
      },
    },
    'the script waits by itself': {
      async script() {
        await new Promise((go) => setTimeout(go, 60_000));
        await ensure(async () => {
          await new Promise((go) => setTimeout(go, 30));
          return 'after';
        }).equals('after');
        await new Promise((go) => requestAnimationFrame(go));
        await new Promise((go) => requestIdleCallback(go));
        await new Promise((go) => AbortSignal.timeout(500).addEventListener('abort', go));
        await scheduler.postTask(() => {}, { delay: 500 });
        await ensure(() => performance.now() >= 61_030 && performance.now() < 61_100).equals(true);
      },
    },
    'everything ends': {
      props: { what: 'Dialog' },
      async script() {
        await click(the.button('Close'));
        await clock.finish();
        await ensure(the.dialog()).isAbsent();
        await ensure(() => performance.now()).equals(427);
      },
    },
    'a check fails at once': { props: { what: 'Dialog' }, script: () => ensure(the.dialog()).isAbsent() },
    'a timer at the end of many frames': {
      async script() {
        const p = document.querySelector('p');
        p.textContent = 'leaving';
        let frames = 0;
        requestAnimationFrame(function go() {
          if (++frames < 20) requestAnimationFrame(go);
          else
            setTimeout(() => {
              p.textContent = 'left';
            }, 300);
        });
      },
    },
    'idle for ever': {
      async script() {
        requestIdleCallback(function again() {
          requestIdleCallback(again);
        });
      },
    },
    'a timer for ever': {
      async script() {
        setTimeout(function again() {
          setTimeout(again, 0);
        }, 0);
      },
    },
    'a promise for ever': {
      async script() {
        void (async () => {
          for (;;) await new Promise((go) => setTimeout(go));
        })();
      },
    },
    'idle in turn for ever': {
      async script() {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => requestIdleCallback(() => port2.postMessage(0));
        port2.postMessage(0);
      },
    },
    'a toast whose time is up at this very instant': {
      props: { what: 'Brief' },
      async script() {
        await clock.advance(3000);
        await ensure(the.status()).isAbsent();
        await ensure(() => performance.now() < 3010).equals(true);
      },
    },
    'a thousand timers': {
      async script() {
        for (let i = 0; i < 1000; i++) setTimeout(() => {}, i);
      },
    },
    'time does not go back': { script: () => clock.advance(-1) },
    'no delay': { script: () => answer('/api/wind', { delay: 'long' }) },
    'no settle': { script: () => capture('now', { settle: 'long' }) },
  },
});
`;

/** What workers do has come before time moves on, and their time is the page's. */
const workers = `import { capture, clock, ensure, looks, the } from 'sguardo';
import { useEffect, useState } from 'react';

const started = new Set();
const begin = (code, options) => {
  const worker = new Worker(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })), options);
  started.add(worker);
  return worker;
};
function Tide({ code }) {
  const [said, say] = useState('nothing yet');
  useEffect(() => {
    const worker = begin(code);
    worker.onmessage = ({ data }) => say(String(data));
    worker.postMessage('go');
    return () => worker.terminate();
  }, []);
  return <p>{said}</p>;
}
const shows = (code, text, more) => ({
  props: { code },
  async script() {
    await ensure(the.text(text)).isVisible();
    await more?.();
  },
});
const at = (ms) => () => ensure(() => performance.now()).equals(ms);

export default looks(Tide, {
  props: { code: '' },
  states: {
    'the clock stands in it': shows(
      "for (let i = 0; i < 1e7; i++) Math.sqrt(i); " +
        "const minute = new Intl.DateTimeFormat('en', { minute: 'numeric' }); " +
        'postMessage([new Date().toISOString(), performance.now(), minute.format(), Math.random()])',
      /^2026-03-02T09:30:00.000Z,0,30,0\\.\\d+$/,
      at(0),
    ),
    'its timers': shows("setTimeout(() => postMessage('late ' + performance.now()), 5000)", 'nothing yet', async () => {
      await capture('before', { settle: 0 });
      await clock.advance(5000);
      await ensure(the.text('late 5000')).isVisible();
      await at(5000)();
    }),
    'a check moves it on': shows("setTimeout(() => postMessage('late'), 900)", 'late', at(900)),
    'its interval': shows(
      'let n = 0; const id = setInterval(() => { postMessage(++n); if (n === 3) clearInterval(id); }, 400)',
      '3',
      async () => {
        await at(1200)();
        await clock.advance(2000);
        await ensure(the.text('3')).isVisible();
      },
    ),
    'it counts for long': shows(
      "onmessage = () => { let n = 0; for (let i = 0; i < 4e8; i++) n += i % 3; postMessage('counted ' + n); }",
      /^counted/,
      at(0),
    ),
    'it has done so in the end': {
      props: {
        code:
          'onmessage = () => { for (let i = 0; i < 4e8; i++) Math.sqrt(i); ' +
          "setTimeout(() => postMessage('done'), 300); }",
      },
    },
    'it asks': {
      ...shows(
        "fetch('http://looks.localhost/tide').then((r) => r.text()).then((t) => setTimeout(() => postMessage(t), 50))",
        'high',
        at(650),
      ),
      answers: { '/tide': { body: 'high', delay: 600 } },
    },
    'its frames': shows("requestAnimationFrame((t) => postMessage('frame ' + (t > 0 && t < 20)))", 'frame true'),
    'its timer for ever': { props: { code: 'setTimeout(function again() { setTimeout(again, 20); }, 20)' } },
    'its promise for ever': {
      props: { code: 'void (async () => { for (;;) await new Promise((go) => setTimeout(go)); })()' },
    },
    'it knows the time of what it hears': {
      async script() {
        const worker = begin('onmessage = () => postMessage(performance.now())');
        const said = [];
        worker.addEventListener('message', ({ data }) => said.push(data));
        worker.postMessage(1);
        await clock.advance(700);
        worker.postMessage(2);
        await ensure(() => said).equals([0, 700]);
        worker.terminate();
      },
    },
    'a name and a module': {
      async script() {
        const worker = begin(
          'postMessage(self.name + typeof importScripts + (new Date() instanceof Date)); export {}',
          { name: 'tide', type: 'module' },
        );
        const said = [];
        worker.onmessage = ({ data }) => said.push(data);
        await ensure(() => said.join()).equals('tidefunctiontrue');
        worker.terminate();
      },
    },
    'it throws': {
      async script() {
        const worker = begin("setTimeout(() => { throw new Error('aground') }, 10)");
        const said = [];
        worker.onerror = (event) => {
          event.preventDefault();
          said.push(event.message);
        };
        await ensure(() => said.join()).matches(/aground/);
        worker.terminate();
      },
    },
    'it is not there': {
      async script() {
        const worker = new Worker('/nobody.js');
        let failed = 0;
        worker.onerror = () => failed++;
        await ensure(() => failed).equals(1);
        await clock.advance(100);
        worker.terminate();
      },
    },
    'it ends itself': {
      async script() {
        const worker = begin('setTimeout(() => postMessage(1), 20); close()');
        worker.onmessage = () => {
          throw new Error('it lives');
        };
        await clock.advance(100);
        worker.terminate();
      },
    },
  },
});
`;

// What a module sets while it is evaluated goes on under every look of its document.
const lighthouse = `import { clock, ensure, looks } from 'sguardo';
const seen = { turns: 0, beats: 0, once: 0, now: 0 };
const turn = () => { seen.turns++; requestAnimationFrame(turn); };
requestAnimationFrame(turn);
setInterval(() => seen.beats++, 100);
setTimeout(() => seen.once++, 50);
setTimeout(() => seen.now++);
const shines = { async script() {
  const { turns, beats, once } = { ...seen };
  await clock.advance(320);
  await ensure(() => [seen.beats - beats, seen.once - once, seen.turns - turns > 10]).equals([3, 1, true]);
  await ensure(seen.now).equals(1);
} };
export default looks(() => <p>Light</p>, { states: { 'it shines': shines, 'it shines again': shines } });
`;

// A browser puts off telling that the selection has changed, and a library that hears of it looks at it a little later.
const notice = `import { clock, drag, ensure, looks, press, the } from 'sguardo';
import { useEffect, useState } from 'react';
function Notice({ later }) {
  const [said, set] = useState('');
  const say = (word) => set((before) => before + word + ' ');
  useEffect(() => {
    const hear = () => setTimeout(() => say('selected'), later);
    document.addEventListener('selectionchange', hear);
    return () => document.removeEventListener('selectionchange', hear);
  }, [later]);
  return (
    <main onKeyDown={() => say('pressed')}>
      <button
        onMouseMove={({ buttons }) => {
          if (buttons) {
            select();
            say('moved');
          }
        }}
      >
        Sign
      </button>
      <div role="textbox" aria-label="Words" contentEditable suppressContentEditableWarning>
        High water
      </div>
      <h1>Tides</h1>
      <p>Low at noon</p>
      <output>{said}</output>
    </main>
  );
}
/** Another part of the page each time. */
let times = 0;
const select = () => getSelection().selectAllChildren(document.querySelector(times++ % 2 ? 'h1' : 'p'));
const button = the.button('Sign');
const said = the.status();
export default looks(Notice, {
  props: { later: 1 },
  states: {
    'before a key': {
      props: { later: 5 },
      async script() {
        select();
        await press(button, 'Home');
        await ensure(said).reads('selected pressed');
      },
    },
    'before a key that brings the focus': {
      async script() {
        await press(the.textbox('Words'), 'Home');
        await ensure(said).reads('selected pressed');
      },
    },
    'before a mouse moves on': {
      props: { later: 10 },
      async script() {
        await drag(button, { by: [12, 0] });
        await ensure(said).reads(/^(moved ){2}(selected ){2}(moved selected ?){5}$/);
      },
    },
    'before time stands': {
      async script() {
        select();
        await clock.freeze();
        await ensure(said).reads('selected');
      },
    },
  },
});
`;

let served: Served;
let look: (name: string) => ResultSummary;
beforeAll(async () => {
  served = await serve(
    project({
      'sguardo.config.ts': configuration({ lanes: 2, patience: 2000 }),
      'src/Any.look.jsx': harbour,
      'src/Tide.look.jsx': workers,
      'src/Light.look.jsx': lighthouse,
      'src/Notice.look.jsx': notice,
      'public/tides.html': '<!doctype html><p>High water at 9</p>',
    }),
  );
  ({ look } = await served.run());
});

/** All that a look shows in the end. */
async function textOf(name: string): Promise<string> {
  const { base, patches } = await served.client.timeline(look(name).id);
  const { nodes } = momentAt(base, patches, patches.length);
  return Object.values(nodes)
    .map((node) => (isText(node) ? node.text : ''))
    .join(' ');
}

describe('the look’s own time', () => {
  it.each([
    'the clock stands',
    'a toast',
    'a debounce',
    'a countdown',
    'a slow reply',
    'a question asked again and again',
    'shown before the reply',
    'a reply at once',
    'a skeleton',
    'in a frame',
    'documents of frames',
    'documents that frames hold themselves',
    'something moves',
    'the script waits by itself',
    'everything ends',
    'a toast whose time is up at this very instant',
  ])('%s', (name) => {
    const { verdict, problem, notes } = look(name);
    expect([verdict, problem?.message, notes]).toEqual(['new', undefined, []]);
  });

  it.each([
    'the clock stands in it',
    'its timers',
    'a check moves it on',
    'its interval',
    'it counts for long',
    'it has done so in the end',
    'it asks',
    'its frames',
    'it knows the time of what it hears',
    'a name and a module',
    'it throws',
    'it is not there',
    'it ends itself',
  ])('is a worker’s, too: %s', (name) => {
    const { verdict, problem, notes } = look(name);
    expect([verdict, problem?.message, notes.filter((note) => !/nobody/.test(note))]).toEqual(['new', undefined, []]);
  });

  it('has come to the end of what ends by itself before a picture is taken', async () => {
    expect(await textOf('a toast is gone in the end')).not.toContain('Saved');
    expect(await textOf('a dialog leaves')).not.toContain('Question');
    expect(await textOf('a timer at the end of many frames')).toContain('left');
    expect(await textOf('a countdown stands in the end')).toContain('5');
    expect(await textOf('it has done so in the end')).toContain('done');
  });

  it.each(['it shines', 'it shines again'])('holds what a module has set before: %s', (name) => {
    const { verdict, problem } = look(name);
    expect([verdict, problem?.message, problem?.found]).toEqual(['new', undefined, undefined]);
  });

  it.each(['before a key', 'before a key that brings the focus', 'before a mouse moves on', 'before time stands'])(
    'does not pass what the browser has put off: %s',
    (name) => {
      const { verdict, problem } = look(name);
      expect([verdict, problem?.message, problem?.found]).toEqual(['new', undefined, undefined]);
    },
  );

  it('is told by every step', async () => {
    const { steps } = await served.client.timeline(look('a toast').id);
    // A click takes a millisecond, and one more until the button is let go.
    expect(steps.map(({ clock }) => clock)).toEqual([
      [0, 0],
      [0, 2],
      [2, 2],
      [2, 2],
      [2, 302],
      [302, 302],
      [302, 302],
    ]);
  });

  it('is used up by a check that does not hold', async () => {
    expect(look('a check fails at once').problem).toMatchObject({ code: 'check-failed' });
    const { steps } = await served.client.timeline(look('a check fails at once').id);
    expect(steps.at(-1)!.clock).toEqual([0, 2000]);
  });

  it('gives a share to what goes on for ever, and says so', () => {
    const told = (name: string): string => look(name).notes.join();
    expect(told('idle for ever')).toContain('it asked for idle time again and again. It got 1000 ms');
    expect(told('idle in turn for ever')).toContain('it asked for idle time again and again. It got 1000 ms');
    for (const name of ['a timer for ever', 'its timer for ever', 'a promise for ever', 'its promise for ever'])
      expect(told(name), name).toContain('a timer set itself again and again. It got 1000 ms');
    expect([look('a thousand timers').verdict, told('a thousand timers')]).toEqual(['new', '']);
  });

  it('moves on only, and by numbers', () => {
    expect(look('time does not go back').problem!.message).toBe('The clock cannot be moved by -1 ms.');
    expect(look('no delay').problem!.message).toBe('The answer to /api/wind has the delay long.');
    expect(look('no settle').problem!.message).toBe('The capture “now” has the settle long.');
  });
});
