/** What is sent to the service: nonsense to every route, and requests of strangers. */
import { connect as connectTo } from 'node:net';
import { setTimeout as delay } from 'node:timers/promises';
import { request as httpRequest } from 'node:http';
import { repository } from '../test/support/project.ts';
import type { Fault } from './fault.ts';
import { type Damage, type Ground, harm } from './ground.ts';

/** The same numbers at every attack, from 0 to 1. */
function randomFrom(seed: number): () => number {
  let state = seed * 2654435761 + 1;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const odd: unknown[] = [
  null,
  true,
  -1,
  0,
  1e308,
  2 ** 53,
  '',
  'x',
  '../../etc/passwd',
  '%00',
  '\u0000',
  '𝕊'.repeat(50),
  "'; DROP TABLE results; --",
  'x'.repeat(100_000),
  [],
  [[[[]]]],
  {},
  { __proto__: null, constructor: 1 },
  Array.from({ length: 5000 }, (_, i) => i),
];

const textOf = (value: unknown): string => (typeof value === 'object' ? JSON.stringify(value) : String(value));

type Operation = { method: string; path: string; names: string[]; body: Record<string, unknown> };

/** What the service says that it takes. */
async function operations({ url }: Ground): Promise<Operation[]> {
  type Shape = { properties?: Record<string, unknown> };
  type Told = {
    parameters?: { name: string; in: string }[];
    requestBody?: { content?: Record<string, { schema?: Shape }> };
  };
  const { paths } = (await (await fetch(`${url}/api/openapi.json`)).json()) as {
    paths: Record<string, Record<string, Told>>;
  };
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, told]) => ({
      method: method.toUpperCase(),
      path,
      names: (told.parameters ?? []).filter((one) => one.in === 'query').map(({ name }) => name),
      body: Object.values(told.requestBody?.content ?? {})[0]?.schema?.properties ?? {},
    })),
  );
}

const secrets = [repository, 'node:internal', '    at '];

/** Sends one request, and looks at what comes back. */
async function send(ground: Ground, damage: Damage, path: string, init: RequestInit): Promise<void> {
  const about = `${init.method} ${path.slice(0, 80)}`;
  const abort = AbortSignal.timeout(20_000);
  try {
    const reply = await fetch(ground.url + path, { ...init, signal: abort });
    // The live feed does not end.
    if (reply.headers.get('content-type')?.includes('event-stream')) return void (await reply.body?.cancel());
    const text = await reply.text();
    if (reply.status >= 500) harm(damage, 'spoiled', `${about}: ${reply.status} ${text.slice(0, 200)}`);
    const secret = reply.status >= 400 && secrets.find((one) => text.includes(one));
    if (secret) harm(damage, 'leaked', `${about} tells of ${secret}`);
  } catch (error) {
    const why = error instanceof Error ? `${error.message} ${String(error.cause ?? '')}` : String(error);
    // Names that are no header or no address are refused before they are sent.
    if (!/ByteString|Invalid|Failed to parse/.test(why)) harm(damage, 'dead', `${about}: ${why}`);
  }
}

const fuzz: Fault = {
  name: 'nonsense for every route of the API',
  tries: 6,
  async attack(ground, attempt, damage) {
    const random = randomFrom(attempt + 1);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    for (const { method, path, names, body } of await operations(ground)) {
      // What takes back the last decision needs no words: it would be obeyed.
      if (path.endsWith('/undo')) continue;
      for (let i = 0; i < 4; i++) {
        const where = path.replace(/\{[^}]*\}/g, () => encodeURIComponent(textOf(pick(odd)).slice(0, 2000)));
        const query = names.filter(() => random() < 0.6).map((name) => [name, textOf(pick(odd)).slice(0, 4000)]);
        const search = query.length > 0 ? `?${new URLSearchParams(query)}` : '';
        const fields = Object.fromEntries(
          Object.keys(body)
            .filter(() => random() < 0.7)
            .map((name) => [name, pick(odd)]),
        );
        const text = random() < 0.2 ? pick(['{', '[', '"', 'null', '\u0000', '[]', '7']) : JSON.stringify(fields);
        const type = random() < 0.1 ? pick(['text/plain', 'application/xml', 'nonsense']) : 'application/json';
        const hasBody = method !== 'GET' && method !== 'HEAD';
        await send(ground, damage, where + search, {
          method,
          ...(hasBody && { body: text, headers: { 'content-type': type } }),
        });
      }
    }
    await ground.inspect(damage);
  },
};

/** A request as it stands, with headers that no browser would let a page set. */
const raw = (url: string, path: string, headers: Record<string, string>, method = 'GET'): Promise<number> =>
  new Promise((resolve) => {
    const sent = httpRequest(new URL(url), { path, headers, method }, (reply) => {
      reply.resume();
      reply.once('end', () => resolve(reply.statusCode ?? 0));
    });
    sent.once('error', () => resolve(0));
    sent.end();
  });

const strangers: Fault = {
  name: 'requests of strangers: Host, Origin, paths that lead out',
  tries: 1,
  async attack(ground, _, damage) {
    const { url } = ground;
    const own = new URL(url).host;
    const { stage } = await ground.client.project();
    const refused: [string, Record<string, string>, string][] = [
      ['/api/project', { host: 'evil.example' }, 'GET'],
      ['/api/project', { host: `evil.example:${new URL(url).port}` }, 'GET'],
      ['/api/project', { host: own, origin: 'http://evil.example' }, 'GET'],
      ['/api/project', { host: own, origin: 'null' }, 'GET'],
      ['/api/project', { host: own, origin: stage }, 'GET'],
      ['/api/runs', { host: own, origin: 'https://evil.example', 'content-type': 'text/plain' }, 'POST'],
      ['/', { host: 'localhost.evil.example' }, 'GET'],
    ];
    for (const [path, headers, method] of refused) {
      const status = await raw(url, path, headers, method);
      if (status < 400 || status >= 500)
        harm(damage, 'leaked', `${method} ${path} ${JSON.stringify(headers)}: ${status}`);
    }
    const outside = ['/../package.json', '/..%2f..%2fpackage.json', '/%2e%2e/%2e%2e/etc/passwd', '//etc/passwd'];
    for (const base of [url, stage])
      for (const path of [
        ...outside,
        '/assets/../../.sguardo/sguardo.db',
        '/.sguardo/service.json',
        '/\\..\\x',
        '/%00',
        '/%',
      ]) {
        const status = await raw(base, path, { host: new URL(base).host });
        const text = status === 200 ? await (await fetch(base + encodeURI(path))).text() : '';
        if (status >= 500 || /root:|"token"|SQLite format/.test(text)) harm(damage, 'leaked', `${path}: ${status}`);
      }
    await ground.inspect(damage);
  },
};

const heavy: Fault = {
  name: 'bodies of 100 MB, clients that never end and never read',
  tries: 2,
  async attack(ground, _, damage) {
    const { hostname, port } = new URL(ground.url);
    const reply = await fetch(`${ground.url}/api/runs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: `{"patterns":["${'x'.repeat(100_000_000)}"]}`,
    }).catch(() => null);
    if (reply && reply.status !== 413) harm(damage, 'spoiled', `100 MB were answered with ${reply.status}`);
    const sockets = Array.from({ length: 200 }, (_, i) => {
      const socket = connectTo(Number(port), hostname);
      socket.on('error', () => {});
      // Some say half of a request, some ask for the live feed and never read it.
      socket.write(
        i % 2 ? 'POST /api/runs HTTP/1.1\r\nHost: ' : `GET /api/events HTTP/1.1\r\nHost: ${hostname}:${port}\r\n\r\n`,
      );
      if (i % 2 === 0) socket.pause();
      return socket;
    });
    await delay(500);
    await ground.inspect(damage);
    for (const socket of sockets) socket.destroy();
  },
};

export const requests: Fault[] = [fuzz, strangers, heavy];
