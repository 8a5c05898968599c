import { answer, clear, click, clock, ensure, looks, the, type, world } from 'sguardo';
import { useEffect, useState } from 'react';

type Say = (text: string) => void;
const json = (body: unknown): RequestInit => ({ method: 'POST', body: JSON.stringify(body) });

async function readStream(say: Say): Promise<void> {
  const reply = await fetch('/api/stream');
  const reader = reply.body!.pipeThrough(new TextDecoderStream()).getReader();
  for (let all = ''; ; ) {
    const { done, value } = await reader.read();
    all += value ?? '';
    say(done ? `${all}.` : all);
    if (done) return;
  }
}

function listen(say: Say): void {
  const source = new EventSource('/api/feed');
  const all: string[] = [];
  const add = (text: string): void => {
    all.push(text);
    say(all.join(' '));
  };
  source.onopen = () => add('open');
  source.onmessage = ({ data }) => add(data);
  source.addEventListener('tide', ({ data, lastEventId }) => add(`tide:${data}#${lastEventId}`));
  source.onerror = () => add(`end${source.readyState}`);
}

function connect(say: Say): void {
  const socket = new WebSocket('/radio');
  const all: string[] = [];
  const add = (text: string): void => {
    all.push(text);
    say(all.join(' '));
  };
  socket.onopen = () => {
    add(`open${socket.readyState}`);
    socket.send(JSON.stringify({ call: 'Alba' }));
  };
  socket.addEventListener('message', ({ data }) => add(String(data)));
  socket.onclose = ({ code }) => add(`closed${code}`);
  socket.onerror = () => add('error');
}

const bytes = async (say: Say): Promise<void> => {
  const reply = await fetch('/api/bytes');
  say(`${reply.headers.get('content-type')} ${[...new Uint8Array(await reply.arrayBuffer())].slice(0, 4).join()}`);
};

const ask = async (say: Say, url: string, init?: RequestInit): Promise<void> => {
  const reply = await fetch(url, init).catch(() => null);
  say(reply ? `${reply.status} ${await reply.text()}` : 'nobody');
};

const graph = (say: Say, query: string): Promise<void> => ask(say, '/graphql', json({ query }));

/** Calls a function as libraries do: through many of their own. */
const through = (calls: number, does: () => void): void => (calls > 0 ? through(calls - 1, does) : does());

const calls: Record<string, (say: Say) => unknown> = {
  Stream: readStream,
  Listen: listen,
  Connect: connect,
  Bytes: bytes,
  Ask: (say) => ask(say, '/api/berths/4?tide=low'),
  Query: (say) => graph(say, 'query Berths { berths { name } }'),
  'Send word': (say) => say(String(navigator.sendBeacon('/api/log', 'moored'))),
  'Ask as before': (say) =>
    through(40, () => {
      const request = new XMLHttpRequest();
      request.open('get', '/api/berths/4?tide=high');
      request.onload = () => say(String(request.status));
      request.send();
    }),
  Release: (say) => graph(say, 'mutation Release($id: ID!) { release(id: $id) }'),
  Locate: (say) =>
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => say(`${coords.latitude} ${coords.longitude}`),
      ({ code }) => say(`lost ${code}`),
    ),
};

const media: Record<string, string> = {
  dark: '(prefers-color-scheme: dark)',
  moving: '(prefers-reduced-motion: no-preference)',
  contrast: '(prefers-contrast: more)',
  forced: '(forced-colors: active)',
  print: 'print',
  narrow: '(max-width: 400px)',
};

/** What a component sees of the world around it. */
function Seen() {
  const [, again] = useState(0);
  useEffect(() => {
    const look = (): void => again((n) => n + 1);
    const queries = Object.values(media).map((query) => matchMedia(query));
    for (const query of queries) query.addEventListener('change', look);
    for (const name of ['online', 'offline']) addEventListener(name, look);
    return () => {
      for (const query of queries) query.removeEventListener('change', look);
      for (const name of ['online', 'offline']) removeEventListener(name, look);
    };
  }, []);
  const shown = Object.entries(media).filter(([, query]) => matchMedia(query).matches);
  return (
    <>
      <p>{shown.map(([name]) => name).join(' ') || 'usual'}</p>
      <p>{navigator.onLine ? 'online' : 'offline'}</p>
    </>
  );
}

function Radio() {
  const [said, setSaid] = useState('silence');
  const [ticks, setTicks] = useState(0);
  useEffect(() => {
    const timer = setTimeout(() => setTicks(1), 200);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div>
      {Object.entries(calls).map(([name, does]) => (
        <button type="button" key={name} onClick={() => void does(setSaid)}>
          {name}
        </button>
      ))}
      <output>{said}</output>
      <Seen />
      <p>{`${location.pathname}${location.search} ${localStorage.getItem('theme')} ${document.cookie}`}</p>
      <p>{`${new Date().toISOString()} ${Math.random().toFixed(4)}`}</p>
      <p>{ticks === 0 ? 'waiting' : 'ticked'}</p>
      <input aria-label="Notes" />
    </div>
  );
}

const said = the.status();
const press = (name: string): Promise<void> => click(the.button(name));

export default looks(Radio, {
  states: {
    'answers: in sequence': {
      answers: { '/api/berths/:id': [{ status: 503, body: 'later' }, { json: 1 }] },
      async script() {
        await press('Ask');
        await ensure(said).reads('503 later');
        await press('Ask');
        await ensure(said).reads('200 1');
        await press('Ask');
        await ensure(said).reads('200 1');
      },
    },
    'answers: a function of the request': {
      answers: { '/api/berths/:id': ({ params, query }) => ({ json: { ...params, ...query } }) },
      async script() {
        await press('Ask');
        await ensure(said).reads('200 {"id":"4","tide":"low"}');
      },
    },
    'answers: bytes': {
      answers: { '/api/bytes': { body: new Uint8Array([1, 2, 255, 0]) } },
      async script() {
        await press('Bytes');
        await ensure(said).reads('application/octet-stream 1,2,255,0');
      },
    },
    'answers: a file': {
      answers: { '/api/bytes': { file: 'src/buoy.svg' } },
      async script() {
        await press('Bytes');
        await ensure(said).reads(/^image\/svg\+xml 60,115,118,103$/);
      },
    },
    'answers: chunks of a stream': {
      answers: { 'GET /api/stream': { chunks: ['Al', 300, 'ba', 300, '!'] } },
      async script() {
        await press('Stream');
        await ensure(said).reads('Al');
        await clock.advance(300);
        await ensure(said).reads('Alba');
        await ensure(said).reads('Alba!.');
      },
    },
    'answers: events': {
      answers: { '/api/feed': { events: ['calm', 200, { event: 'tide', data: { metres: 2 }, id: '7' }] } },
      async script({ answers }) {
        await press('Listen');
        await ensure(said).reads('open calm');
        await ensure(said).reads('open calm tide:{"metres":2}#7');
        await answers['/api/feed']!.send('gale');
        await ensure(said).reads(/ gale$/);
        await answers['/api/feed']!.end();
        await ensure(said).reads(/ end0$| end1$/);
      },
    },
    'answers: messages of a socket': {
      answers: { 'WS /radio': { messages: ['hello', 100, { wind: 4 }] } },
      async script({ answers }) {
        const radio = answers['WS /radio']!;
        await press('Connect');
        await ensure(said).reads('open1 hello');
        await ensure(said).reads('open1 hello {"wind":4}');
        await ensure(radio).wasAskedWith({ body: { call: 'Alba' } });
        await radio.send('over');
        await radio.end(1001);
        await ensure(said).reads(/ over closed1001$/);
      },
    },
    'answers: a socket that replies': {
      answers: { 'WS /radio': ({ json: message }) => ({ messages: message ? [{ heard: message }] : ['ready'] }) },
      async script() {
        await press('Connect');
        await ensure(said).reads('open1 ready {"heard":{"call":"Alba"}}');
      },
    },
    'answers: operations of GraphQL': {
      answers: {
        'query Berths': { data: { berths: [{ name: 'C-14' }] } },
        'mutation Release': { errors: [{ message: 'taken' }] },
      },
      async script({ answers }) {
        await press('Query');
        await ensure(said).reads('200 {"data":{"berths":[{"name":"C-14"}]}}');
        await press('Release');
        await ensure(said).reads('200 {"data":null,"errors":[{"message":"taken"}]}');
        await ensure(answers['query Berths']!).calls(1);
      },
    },
    'fails: nobody answers': { script: () => press('Ask') },
    'fails: nobody answers a beacon': { script: () => press('Send word') },
    'fails: nobody answers through a library': { script: () => press('Ask as before') },
    'fails: nobody answers an operation': { script: () => press('Release') },
    'fails: nobody answers a socket': { script: () => press('Connect') },
    'fails: an answer that throws': {
      answers: {
        '/api/berths/:id': () => {
          throw new Error('no berth');
        },
      },
      script: () => press('Ask'),
    },
    'fails: an answer that is none': { answers: { '/api/berths/:id': () => 7 as never }, script: () => press('Ask') },
    'fails: two contents': { answers: { '/x': { json: 1, body: 'a' } } },
    'fails: nothing open': {
      async script() {
        const feed = await answer('/api/feed', { events: [] });
        await feed.send('a');
      },
    },
    'the world as it is': {
      async script() {
        await ensure(the.text('usual')).isVisible();
        await ensure(the.text('/ null')).isVisible();
        await ensure(the.text('online')).isVisible();
      },
    },
    'a world of its own': {
      viewport: [360, 480],
      media: { scheme: 'dark', motion: 'no-preference', contrast: 'more' },
      location: '/berths?tide=low',
      storage: { local: { theme: 'dark' } },
      cookies: { pier: 'north' },
      now: '2026-11-27T10:00:00Z',
      random: 7,
      permissions: { geolocation: 'granted' },
      geolocation: { latitude: 45.5, longitude: 12.25 },
      async script() {
        await ensure(the.text('dark moving contrast narrow')).isVisible();
        await ensure(the.text('/berths?tide=low dark pier=north')).isVisible();
        await ensure(the.text(/^2026-11-27T10:00:00.000Z 0\.\d+/)).isVisible();
        await press('Locate');
        await ensure(said).reads('45.5 12.25');
      },
    },
    'a world that changes': {
      answers: { '/api/berths/:id': { json: 1 } },
      async script() {
        await world({ online: false });
        await ensure(the.text('offline')).isVisible();
        await press('Ask');
        await ensure(said).reads('nobody');
        await world({ online: true, media: { forcedColours: true } });
        await ensure(the.text('online')).isVisible();
        await ensure(the.text('forced')).isVisible();
        await press('Ask');
        await ensure(said).reads('200 1');
        await world({ media: { print: true } });
        await ensure(the.text('forced print')).isVisible();
      },
    },
    'a place that is kept secret': {
      permissions: { geolocation: 'denied' },
      async script() {
        await press('Locate');
        await ensure(said).reads('lost 1');
      },
    },
    'time that stands': {
      async script() {
        await clock.freeze();
        await type(the.textbox(), 'a');
        await clear(the.textbox());
        await ensure(the.text('waiting')).isVisible();
        await clock.advance(200);
        await ensure(the.text('ticked')).isVisible();
      },
    },
    'fails: time that stands': {
      async script() {
        await clock.freeze();
        await ensure(the.text('ticked')).isVisible();
      },
    },
    'fails: no such permission': { permissions: { teleport: 'granted' } },
    'fails: an address elsewhere': { location: '/\\elsewhere.test/x' },
    'fails: no such change': { script: () => world({ onlin: false } as never) },
    'fails: no such media': { script: () => world({ media: { scheme: 'sepia' as never } }) },
  },
});
