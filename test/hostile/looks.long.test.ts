/** Looks that do what no look should: each may harm itself, and neither its neighbours nor the service. */
import { once } from 'node:events';
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { afterwards } from '../support/afterwards.ts';
import { configuration, project } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

/** A look file of one component that renders what a look says, and runs what it says when it is mounted. */
const file = (states: string): string => `import { useEffect } from 'react';
import { capture, click, ensure, looks, spy, the } from 'sguardo';
const host = globalThis.__sguardoHost;
function Thing({ html = '', effect }) {
  useEffect(() => effect?.(), [effect]);
  return <div><button type="button">Fine</button><div dangerouslySetInnerHTML={{ __html: html }} /></div>;
}
export default looks(Thing, { states: { ${states} } });
`;

/** Each hostile look, and after it one that must find everything as it should be. */
const pairs = (hostile: Record<string, string>): string =>
  Object.entries(hostile)
    .map(
      ([name, state]) => `${JSON.stringify(name)}: ${state},
${JSON.stringify(`after ${name}`)}: { async script() { await click(the.button('Fine')); await capture('half'); } },`,
    )
    .join('\n');

const html = (text: string): string => `{ props: { html: ${JSON.stringify(text)} } }`;

/** Addresses that are none, in every place where a page can have one. */
const addresses: Record<string, string> = {
  'an image without a host': html('<img src="https://">'),
  'a percent sign': html('<img src="/100%.png">'),
  'half an address': html('<img src="http://[::1/x.png">'),
  'an image of SVG': html('<svg><image href="http://["/><use href="https://%zz#a"/></svg>'),
  'a poster and an input': html('<video poster="http://["></video><input type="image" src="https://">'),
  'a style attribute': html('<p style="background: url(http://[), url(/%), url(https://)">x</p>'),
  'a style element': html('<style>p { background: url("http://["); } @import "https://%";</style><p>x</p>'),
  'a linked sheet': html('<link rel="stylesheet" href="http://[">'),
  'a picture': html('<picture><source srcset="http://[ 2x" media="all"><img src="http://["></picture>'),
  'a sheet in a blob': `{ props: { effect() {
    const link = document.createElement('link');
    link.rel = 'stylesheet';
    link.href = URL.createObjectURL(new Blob(['p { background: url(x.png) } @import "y.css";'], { type: 'text/css' }));
    document.body.append(link);
  } } }`,
  'an error with a strange stack': `{ script() {
    const error = new Error('adrift');
    error.stack = 'at http://%zz/%E0%A4%A:0:0\\nat https://[:1:1\\nat http://looks.localhost/100%/x.js:99999999999:1';
    throw error;
  } }`,
};

/** Messages that are none of a page's business. */
const binding: Record<string, string> = {
  'talks to the host': `{ props: { effect() {
    const say = host ?? globalThis.__sguardoHost ?? (() => {});
    const asks = '{"kind":"ask","id":1,"look":1,"ask":{"do":"capture","name":"end"}}';
    for (const text of ['', 'null', '[]', '{', '1', '{"kind":"answer","request":"1","reply":{"status":1}}',
      '{"kind":"events","look":1,"events":null}', asks]) say(text);
    const frame = document.createElement('iframe');
    document.body.append(frame);
    frame.contentWindow.__sguardoHost?.('null');
    const mark = { lane: 'dom', at: 0, took: null, title: 'forged', level: 'info' };
    const events = [{ kind: 'mark', id: 0, mark }];
    for (let look = 0; look < 100; look++)
      frame.contentWindow.__sguardoHost?.(JSON.stringify({ kind: 'events', token: 'mine', look, events }));
  } } }`,
  'calls what the host calls': `{ async script() {
    await Promise.allSettled([
      __sguardo.run('x', { look: 'an image without a host' }), __sguardo.file('mine'), __sguardo.reply('x', 1, null),
      __sguardo.request('x', null),
    ].map((one) => Promise.resolve(one)));
    await ensure(the.button('Fine')).isVisible();
  } }`,
};

describe('addresses and messages of a page', () => {
  let served: Served;
  let look: (name: string) => ResultSummary;
  beforeAll(async () => {
    served = await serve(project({ 'src/Thing.look.tsx': file(pairs({ ...addresses, ...binding })) }));
    ({ look } = await served.run());
  });

  it.each(Object.keys(addresses).filter((name) => name !== 'an error with a strange stack'))('%s', (name) => {
    expect(look(name)).toMatchObject({ verdict: 'new', problem: null });
    expect(look(`after ${name}`)).toMatchObject({ verdict: 'new', notes: [] });
  });

  it('an error with a strange stack', () => {
    expect(look('an error with a strange stack')).toMatchObject({
      verdict: 'failed',
      problem: { code: 'script-threw' },
    });
  });

  it.each(Object.keys(binding))('%s', (name) => {
    expect(look(name)).toMatchObject({ verdict: 'new', problem: null });
    expect(look(`after ${name}`)).toMatchObject({ verdict: 'new', captures: [{ name: 'half' }, { name: 'end' }] });
  });

  it('words that are not ours are named, and come into no timeline', async () => {
    const { marks } = await served.client.timeline(look('talks to the host').id);
    expect(marks.filter(({ title }) => title === 'forged')).toEqual([]);
    expect(look('talks to the host').notes).toContain(
      'Something on the page sent Sguardo messages of its own; they were ignored.',
    );
  });

  it('leave the service as it was', async () => {
    expect((await served.client.project()).run).toBeNull();
    expect((await served.run({ patterns: ['Thing/a percent sign'] })).run).toMatchObject({
      status: 'finished',
      done: 1,
    });
  });
});

/** What a look may do to its document, and what its neighbour would see of it. */
const spoilers: Record<string, string> = {
  'replaces push': `{ props: { effect() { Array.prototype.push = () => { throw new Error('no push') } } } }`,
  'replaces get': `{ props: { effect() { Map.prototype.get = () => undefined } } }`,
  'replaces map': `{ props: { effect() { Array.prototype.map = () => { throw new Error('no map') } } } }`,
  'replaces has': `{ props: { effect() { Set.prototype.has = () => true } } }`,
  'replaces createElement': `{ props: { effect() { document.createElement = () => {
    throw new Error('none made') } } } }`,
  'replaces the observer': `{ props: { effect() { window.MutationObserver = class { observe() {} takeRecords() {
    return [] } disconnect() {} } } } }`,
  'replaces appendChild': `{ props: { effect() { Node.prototype.appendChild = () => {
    throw new Error('childless') } } } }`,
  'replaces then': `{ props: { effect() { const real = Promise.prototype.then;
    Promise.prototype.then = function (...args) { return real.apply(this, args) } } } }`,
  'listens by onclick': `{ props: { effect() { window.onclick = () => { throw new Error('clicked') };
    document.body.onpointerdown = () => { throw new Error('pressed') } } } }`,
  'stops every click': `{
    props: {
      effect() {
        document.addEventListener('click', (event) => event.stopImmediatePropagation(), true);
        window.addEventListener(
          'pointerdown',
          () => {
            throw new Error('down');
          },
          { capture: true, once: true },
        );
      },
    },
  }`,
  'adopts a sheet': `{ props: { effect() { const sheet = new CSSStyleSheet();
    sheet.replaceSync('button { display: none }'); document.adoptedStyleSheets = [sheet] } } }`,
  'keeps a worker and a database': `{ props: { effect() {
    new Worker(URL.createObjectURL(new Blob(['setInterval(() => {}, 10)']))); indexedDB.open('log') } } }`,
  'hides the body': `{ props: { effect() { document.body.style.display = 'none';
    document.documentElement.inert = true; } } }`,
  'removes the root': `{ props: { effect() { document.getElementById('look').remove() } } }`,
  'sets a global': `{ props: { effect() { window.isMoored = true } } }`,
};

/** What is left running when a look ends. */
const leftovers: Record<string, string> = {
  'forgets an await': `{ async script() { void click(the.button('Never')); } }`,
  'fails one of several': `{ async script() {
    const never = [ensure(the.text('nowhere')).isVisible(), click(the.button('Never'))];
    await Promise.all([...never, capture('late'), click(the.button('Fine').nth(7))]);
  } }`,
  'leaves a request': `{ answers: { '/api/tide': { hold: true, body: '' } }, props: { effect() {
    fetch('/api/tide').then((reply) => reply.json()) } } }`,
  'leaves an old request': `{ answers: { '/api/tide': { hold: true } }, props: { effect() {
    const request = new XMLHttpRequest();
    request.open('GET', '/api/tide');
    request.onloadend = () => { throw new Error('ended late') };
    request.send();
  } } }`,
  'leaves promises and timers': `{ props: { effect() {
    setTimeout(() => { throw new Error('timer') }, 30); setInterval(() => { throw new Error('interval') }, 900);
    requestIdleCallback(() => setTimeout(() => { throw new Error('idle') }, 20));
    void scheduler.postTask(() => Promise.reject(new Error('task')), { delay: 400 });
    new Promise((_, reject) => setTimeout(() => reject(new Error('promise')), 600));
  } } }`,
};

describe('what a look leaves behind', () => {
  let look: (name: string) => ResultSummary;
  beforeAll(async () => {
    const states = pairs({ ...spoilers, ...leftovers });
    const folder = project({
      'sguardo.config.ts': configuration({ lanes: 1, patience: 300 }),
      'src/Thing.look.tsx': file(states),
    });
    ({ look } = await (await serve(folder)).run());
  });

  it.each([...Object.keys(spoilers), ...Object.keys(leftovers)])('%s: the next look does not feel it', (name) => {
    const { verdict, problem, notes, captures, orderDependent } = look(`after ${name}`);
    expect({ verdict, problem, notes, orderDependent }).toEqual({
      verdict: 'new',
      problem: null,
      notes: [],
      orderDependent: false,
    });
    expect(captures.map((capture) => capture.name)).toEqual(['half', 'end']);
  });

  it('all looks that come after another one show the same', () => {
    const pictures = [...Object.keys(spoilers), ...Object.keys(leftovers)].map(
      (name) => look(`after ${name}`).captures[1]!,
    );
    expect(new Set(pictures.map(({ hash }) => hash)).size).toBe(1);
    expect(new Set(pictures.map(({ canonical }) => canonical)).size).toBe(1);
  });

  it('who replaces a function of the platform is named', () => {
    expect(look('replaces map')).toMatchObject({
      verdict: 'broken',
      problem: { code: 'platform-replaced', message: expect.stringContaining('replaces Array.prototype.map') },
    });
    // What Sguardo's own work does not need is only noted.
    expect(look('replaces push')).toMatchObject({ verdict: 'new', problem: null });
    expect(look('replaces push').notes.join()).toContain('Array.prototype.push');
    expect(look('replaces createElement').notes.join()).toContain('document.createElement');
  });

  it('who replaces one without which nothing ends is named, too', async () => {
    const states = `hangs: { async script() { Promise.prototype.then = () => new Promise(() => {});
      await capture('now'); } }`;
    const { run } = await serve(
      project({
        'sguardo.config.ts': configuration({ lanes: 1, timeLimit: 2000 }),
        'src/Thing.look.tsx': file(states),
      }),
    );
    expect((await run()).look('hangs')).toMatchObject({
      verdict: 'broken',
      problem: { code: 'platform-replaced', message: expect.stringContaining('replaces Promise.prototype.then') },
    });
  });

  it('a forgotten await is told at its own look', () => {
    expect(look('forgets an await')).toMatchObject({ verdict: 'failed', problem: { code: 'step-unfinished' } });
    expect(look('fails one of several')).toMatchObject({ verdict: 'failed' });
  });
});

/** What a look may stand in for in a document that its file shares, and how the next one would see it. */
const standIns: Record<string, [does: string, seen: string]> = {
  'a constructor': ['window.BroadcastChannel = class Fake {}', 'BroadcastChannel.name'],
  'a constructor of the language': ['window.Uint16Array = class Fake {}', 'Uint16Array.name'],
  'a function of the window': ['window.matchMedia = () => null', 'String(matchMedia)'],
  'a setter': [
    `const { prototype } = HTMLInputElement, { get } = Object.getOwnPropertyDescriptor(prototype, 'value');
     Object.defineProperty(prototype, 'value', { get, set() {}, configurable: true })`,
    `String(Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set)`,
  ],
};

describe('what a look stands in for', () => {
  it('is as it was for the next look of its document', async () => {
    const states = Object.entries(standIns).map(([name, [does, seen]]) => {
      const clean = `${JSON.stringify(`before ${name}`)}: { async script() { await capture(${seen}); } }`;
      return (
        `${clean}, ${JSON.stringify(name)}: { props: { effect() { ${does} } } }, ` +
        `${clean.replace('before', 'after')}`
      );
    });
    const { run } = await serve(
      project({
        'sguardo.config.ts': configuration({ lanes: 1, isolate: 'file' }),
        'src/Thing.look.tsx': file(states.join(',\n')),
      }),
    );
    const { look } = await run();
    for (const name of Object.keys(standIns)) {
      const [before, after] = ['before', 'after'].map((when) => look(`${when} ${name}`).captures[0]?.name);
      expect(before, name).toMatch(/^(BroadcastChannel|Uint16Array|function .*native code)/s);
      expect(after, name).toBe(before);
    }
  });
});

describe('a request that is answered when its look is over', () => {
  it('is no error of the next one', async () => {
    const waiting: ServerResponse[] = [];
    let goOn: (() => void) | null = null;
    const server = createServer((request, reply) => {
      reply.setHeader('access-control-allow-origin', '*');
      if (request.url !== '/go') waiting.push(reply);
      else goOn = () => reply.end();
      // Nobody is told to go on before everything that was asked for is on its way.
      if (waiting.length < 3 || !goOn) return;
      for (const one of waiting.splice(0)) one.end('');
      goOn();
    }).listen(0, '127.0.0.1');
    await once(server, 'listening');
    afterwards(() => void server.close());
    afterwards(() => server.closeAllConnections());
    const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const states = `asks: { props: { effect() {
      fetch('${origin}/slow/1').then((reply) => reply.json());
      const old = new XMLHttpRequest();
      old.open('GET', '${origin}/slow/2');
      old.onload = () => JSON.parse(old.response);
      old.send();
      fetch('${origin}/slow/3').then((reply) => reply.text()).then(() => { throw new Error('too late'); });
    } } },
    'is there when the answer comes': { async script() {
      await fetch('${origin}/go');
      await new Promise((resolve) => setTimeout(resolve, 300));
    } },`;
    const { run } = await serve(
      project({
        'sguardo.config.ts': configuration({ lanes: 1, patience: 300, network: [origin] }),
        'src/Thing.look.tsx': file(states),
      }),
    );
    expect((await run()).look('is there when the answer comes')).toMatchObject({ verdict: 'new', problem: null });
  });
});

describe('two looks that load a style sheet late', () => {
  it('are both styled', async () => {
    const look =
      `async script() { await click(the.button('Load')); await ensure(() => document.querySelector('p') && ` +
      `getComputedStyle(document.querySelector('p')).color).equals('rgb(1, 2, 3)'); }`;
    const served = await serve(
      project({
        'sguardo.config.ts': configuration({ lanes: 1 }),
        'src/Late.tsx': `import './late.css';\nexport default () => <p className="late">late</p>;`,
        'src/late.css': '.late { color: rgb(1, 2, 3) }',
        'src/Lazy.look.tsx': `import { lazy, Suspense, useState } from 'react';
import { click, ensure, looks, the } from 'sguardo';
const Late = lazy(() => import('./Late'));
function Lazy() {
  const [on, set] = useState(false);
  return (
    <div>
      <button type="button" onClick={() => set(true)}>
        Load
      </button>
      {on && (
        <Suspense fallback={null}>
          <Late />
        </Suspense>
      )}
    </div>
  );
}
export default looks(Lazy, { states: { plain: {}, one: { ${look} }, two: { ${look} }, 'plain again': {} } });`,
      }),
    );
    const { results, look: named } = await served.run();
    expect(results.map(({ verdict, problem }) => [verdict, problem?.message])).toEqual(
      Array(4).fill(['new', undefined]),
    );
    expect(named('one').captures[0]!.hash).toBe(named('two').captures[0]!.hash);
    expect(named('plain').captures[0]!.canonical).toBe(named('plain again').captures[0]!.canonical);
  });
});
