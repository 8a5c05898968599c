/** The HTTP interface: what it answers, and what it says to requests that it cannot carry out. */
import { request } from 'node:http';
import { beforeAll, describe, expect, it } from 'vitest';
import { variantOf } from '../../src/core/run/board.ts';
import type { RunEvent } from '../../src/core/run/run.ts';
import { decodePng } from '../../src/work/png.ts';
import { lookFile, project } from '../support/project.ts';
import { finished, type Served, serve } from '../support/service.ts';

let served: Served;
let url: string;

beforeAll(async () => {
  served = await serve(
    project({
      'sguardo.config.ts':
        'export default { environments: { day: { viewport: [400, 300] }, night: { viewport: [400, 300], ' +
        "scheme: 'dark' } } };",
      'src/Buoy.look.tsx': lookFile(
        'return <p>{props.name ?? "none"}</p>;',
        "plain: {}, named: { props: { name: 'C-14' } }",
      ),
      'src/Mast.look.tsx': lookFile('return <b>{props.name ?? "none"}</b>;', 'plain: {}'),
    }),
  );
  url = served.service.url;
  await served.run();
});

const call = async (
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<{ status: number; type: string; value: Record<string, unknown> }> => {
  const reply = await fetch(url + path, {
    method,
    headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return {
    status: reply.status,
    type: reply.headers.get('content-type') ?? '',
    value: (await reply.json()) as Record<string, unknown>,
  };
};

/** fetch sets Host and Origin itself; this lets a test choose them. */
const withHeaders = (address: string, headers: Record<string, string>, method = 'GET'): Promise<number> =>
  new Promise((resolve, reject) => {
    const { hostname, port, pathname } = new URL(address);
    request({ hostname, port, path: pathname, method, headers }, (reply) => {
      reply.resume();
      resolve(reply.statusCode!);
    })
      .once('error', reject)
      .end();
  });

describe('the interface', () => {
  it('tells the project, its looks, runs, results and timelines', async () => {
    const { client } = served;
    expect(await client.project()).toMatchObject({
      url,
      stage: served.service.stage,
      baselines: 'baselines',
      run: null,
      engine: expect.stringMatching(/^Chromium \d+/),
      environments: [{ name: 'day' }, { name: 'night', scheme: 'dark' }],
    });
    const looks = await client.looks();
    expect(looks.map(({ component, look, environment }) => `${component}/${look} ${environment}`).sort()).toEqual([
      'src/Buoy/named day',
      'src/Buoy/named night',
      'src/Buoy/plain day',
      'src/Buoy/plain night',
      'src/Mast/plain day',
      'src/Mast/plain night',
    ]);
    expect(await client.result(looks[0]!.id)).toEqual(looks[0]);
    expect((await client.timeline(looks[0]!.id)).steps.map(({ kind }) => kind)).toEqual(['mount', 'capture']);
    const [run] = await client.runs(1);
    expect(run).toMatchObject({ status: 'finished', planned: 6, done: 6, captures: 6, unstable: 0 });
    expect(await client.history({ component: 'src/Buoy', look: 'plain', environment: 'day' })).toMatchObject({
      results: [{ look: 'plain' }],
      decisions: [],
    });
  });

  it('tells the board in short, and its pictures made small', async () => {
    const { client } = served;
    const board = await client.board();
    expect(board.map(({ component, look, variants }) => [component, look, variants.length])).toEqual([
      ['src/Buoy', 'plain', 2],
      ['src/Buoy', 'named', 2],
      ['src/Mast', 'plain', 2],
    ]);
    // It says of every look what its newest result does.
    for (const result of await client.looks()) {
      const { variants } = board.find(({ component, look }) => component === result.component && look === result.look)!;
      expect(variants.find(({ environment }) => environment === result.environment)).toEqual(variantOf(result));
    }
    expect((await client.project()).undecided).toBe(6);
    const { picture } = board[0]!.variants[0]!;
    const [small, again] = await Promise.all([
      fetch(client.thumbnailUrl(picture!)),
      fetch(client.thumbnailUrl(picture!)),
    ]);
    expect(small.headers.get('content-type')).toBe('image/webp');
    expect(small.headers.get('cache-control')).toContain('immutable');
    const bytes = Buffer.from(await small.arrayBuffer());
    expect(bytes).toEqual(Buffer.from(await again.arrayBuffer()));
    const { width, height } = (await client.looks()).find(({ captures }) => captures[0]!.hash.startsWith(picture!))!
      .captures[0]!;
    // As it is where it is small enough, but for what is empty beside a word.
    const shown = await decodePng(bytes);
    expect([shown.width > 20, shown.width < width / 2, shown.height <= height]).toEqual([true, true, true]);
  });

  it('sends what is long packed to whoever can unpack it', async () => {
    const reply = await fetch(`${url}/api/openapi.json`, { headers: { 'accept-encoding': 'gzip' } });
    expect(reply.headers.get('content-encoding')).toBe('gzip');
    const plain = await fetch(`${url}/api/openapi.json`, { headers: { 'accept-encoding': 'identity' } });
    expect(plain.headers.get('content-encoding')).toBeNull();
    expect(await plain.json()).toEqual(await reply.json());
  });

  it("sends the console's scripts as the build has packed them, and to others as they are", async () => {
    const page = await (await fetch(url)).text();
    const script = url + /src="(\/assets\/index-[^"]+)"/.exec(page)![1]!;
    const packed = await fetch(script, { headers: { 'accept-encoding': 'br' } });
    expect(packed.headers.get('content-encoding')).toBe('br');
    const plain = await fetch(script, { headers: { 'accept-encoding': 'identity' } });
    expect(plain.headers.get('content-encoding')).toBeNull();
    expect([packed, plain].map(({ headers }) => headers.get('cache-control'))).toEqual(
      Array(2).fill('max-age=31536000, immutable'),
    );
    expect(await packed.text()).toBe(await plain.text());
  });

  it('describes every call in its OpenAPI document', async () => {
    const { status, value } = await call('GET', '/api/openapi.json');
    expect(status).toBe(200);
    expect(value.openapi).toBe('3.1.0');
    const paths = value.paths as Record<
      string,
      Record<string, { summary?: string; requestBody?: { content: Record<string, { schema: object }> } }>
    >;
    expect(Object.keys(paths).sort()).toEqual([
      '/api/accessibility',
      '/api/accessibility/known',
      '/api/baselines/tidy',
      '/api/blobs/{hash}',
      '/api/board',
      '/api/catalogue',
      '/api/causes',
      '/api/causes/alone',
      '/api/causes/edits',
      '/api/challenges',
      '/api/challenges/{id}',
      '/api/challenges/{id}/stop',
      '/api/changes',
      '/api/comments',
      '/api/comparisons',
      '/api/components',
      '/api/coverage',
      '/api/coverage/file',
      '/api/coverage/map',
      '/api/decisions',
      '/api/decisions/undo',
      '/api/drafts',
      '/api/events',
      '/api/handbook',
      '/api/handbook/component',
      '/api/handbook/file',
      '/api/handbook/tokens',
      '/api/keeps',
      '/api/keeps/lines',
      '/api/keeps/undo',
      '/api/looks',
      '/api/looks/history',
      '/api/looks/rename',
      '/api/project',
      '/api/results/{id}',
      '/api/results/{id}/markup',
      '/api/results/{id}/since',
      '/api/results/{id}/timeline',
      '/api/runs',
      '/api/runs/{id}',
      '/api/runs/{id}/results',
      '/api/runs/{id}/stop',
      '/api/seen',
      '/api/sittings',
      '/api/sittings/{id}',
      '/api/sittings/{id}/choice',
      '/api/sittings/{id}/completions',
      '/api/sittings/{id}/end',
      '/api/sittings/{id}/go',
      '/api/sittings/{id}/input',
      '/api/sittings/{id}/lines',
      '/api/sittings/{id}/picture',
      '/api/sittings/{id}/pointed',
      '/api/sittings/{id}/record',
      '/api/sittings/{id}/restart',
      '/api/sittings/{id}/time',
      '/api/stages',
      '/api/thumbnails/{hash}',
      '/api/windows/close',
    ]);
    for (const methods of Object.values(paths))
      for (const operation of Object.values(methods)) expect(operation.summary).toBeTruthy();
    expect(paths['/api/runs']!.post!.requestBody!.content['application/json']!.schema).toMatchObject({
      type: 'object',
      additionalProperties: false,
      properties: { patterns: { type: 'array' }, repeat: { type: 'integer', minimum: 1, maximum: 1000 } },
    });
  });

  it.each([
    ['GET', '/api/runs/9999', undefined, 404, 'not-found', /no run 9999/],
    ['GET', '/api/results/9999/timeline', undefined, 404, 'not-found', /no result 9999/],
    ['GET', '/api/results/zero', undefined, 400, 'request-wrong', /^id must be a number, got “zero”\.$/],
    ['GET', `/api/blobs/${'0'.repeat(64)}`, undefined, 404, 'not-found', /no picture with this hash/],
    ['GET', '/api/blobs/xyz', undefined, 400, 'request-wrong', /64 hexadecimal digits/],
    ['GET', `/api/thumbnails/${'0'.repeat(16)}`, undefined, 404, 'not-found', /no picture with this hash/],
    ['GET', '/api/thumbnails/0123', undefined, 400, 'request-wrong', /at least the first 16/],
    ['GET', `/api/thumbnails/${'%25'.repeat(16)}`, undefined, 400, 'request-wrong', /hexadecimal digits/],
    ['GET', '/api/nothing', undefined, 404, 'not-found', /GET \/api\/nothing/],
    ['GET', '/api/looks/history?look=plain', undefined, 400, 'request-wrong', /^\w+ is missing\.$/],
    ['POST', '/api/runs', { repeat: 0 }, 400, 'request-wrong', /repeat must be greater than or equal to 1/],
    ['POST', '/api/runs', { pattern: ['x'] }, 400, 'request-wrong', /^Unknown entry “pattern”\.$/],
    ['GET', '/api/%zz', undefined, 400, 'request-wrong', /%zz/],
    ['POST', '/api/decisions', { kind: 'maybe' }, 400, 'request-wrong', /approve, reject/],
    ['POST', '/api/decisions', { kind: 'approve' }, 409, 'nothing-to-decide', /No looks were specified/],
    ['POST', '/api/decisions', { kind: 'reject', all: true }, 400, 'reason-missing', /needs a reason/],
    [
      'POST',
      '/api/decisions',
      { kind: 'approve', patterns: ['nobody'] },
      404,
      'nothing-selected',
      /No looks match “nobody”/,
    ],
  ])('answers %s %s with problem details', async (method, path, body, status, code, title) => {
    const reply = await call(method, path, body);
    expect(reply).toMatchObject({
      status,
      type: expect.stringContaining('application/problem+json'),
      value: {
        code,
        status,
        type: `urn:sguardo:problem:${code}`,
        title: expect.stringMatching(title),
        remedy: expect.stringMatching(/.{10}/),
      },
    });
    expect(JSON.stringify(reply.value)).not.toMatch(/node_modules|\.ts:\d/);
  });

  it('says so when a body is no JSON', async () => {
    const reply = await fetch(`${url}/api/runs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{ repeat: ',
    });
    expect([reply.status, ((await reply.json()) as { code: string }).code]).toEqual([400, 'request-wrong']);
  });
});

describe('a run', () => {
  it('of nothing ends with a word on what was meant', async () => {
    const { run } = await served.run({ patterns: ['nobody'] });
    expect(run).toMatchObject({
      status: 'finished',
      done: 0,
      problems: [{ code: 'nothing-selected', message: 'No looks match “nobody”.' }],
    });
    expect((await served.run({ environments: ['dusk'] })).run.problems[0]).toMatchObject({
      code: 'environment-unknown',
      message: 'There is no environment “dusk”.',
      remedy: expect.stringContaining('day, night'),
    });
  });

  it('takes only the looks and environments that were asked for', async () => {
    const { results } = await served.run({ patterns: ['Buoy/plain'], environments: ['night'] });
    expect(results.map(({ look, environment }) => [look, environment])).toEqual([['plain', 'night']]);
  });

  it('can be repeated, and tells how many captures came out otherwise', async () => {
    const { run, results } = await served.run({ patterns: ['Mast'], repeat: 3 });
    expect(run).toMatchObject({ planned: 6, done: 6, captures: 6, unstable: 0 });
    expect(results.map(({ repetition }) => repetition).sort()).toEqual([1, 1, 2, 2, 3, 3]);
  });

  it('is told live from beginning to end', async () => {
    const abort = new AbortController();
    const events: RunEvent[] = [];
    let listening = (): void => {};
    const ready = new Promise<void>((resolve) => {
      listening = resolve;
    });
    const reading = (async () => {
      for await (const event of served.client.events(abort.signal, listening)) {
        events.push(event);
        if (event.kind === 'run-finished') abort.abort();
      }
    })();
    await ready;
    const { id } = await served.client.startRun({ patterns: ['Mast'] });
    await reading;
    expect(events[0]).toMatchObject({ kind: 'run-queued', run: { id, status: 'queued' } });
    expect(events[1]).toMatchObject({ kind: 'run-started', run: { id, status: 'running' } });
    // How many there will be is known from the runs before, and told before any of them starts.
    const first = events.findIndex(({ kind }) => kind === 'look-started');
    expect(events.slice(0, first).findLast(({ kind }) => kind === 'run-progress')).toMatchObject({
      run: { planned: 2 },
    });
    expect(events.filter(({ kind }) => kind === 'look-started')).toHaveLength(2);
    expect(events.filter((event) => event.kind === 'look-finished').map((event) => event.result.look)).toEqual([
      'plain',
      'plain',
    ]);
    expect(events.at(-1)).toMatchObject({ kind: 'run-finished', run: { id, status: 'finished', done: 2 } });
  });

  it('can be stopped, and waits for the one before it', async () => {
    const { client } = served;
    const first = await client.startRun({ repeat: 30 });
    const second = await client.startRun({ patterns: ['Mast'] });
    await client.stopRun(first.id);
    expect(await finished(client, first.id)).toMatchObject({ status: 'stopped', problems: [{ code: 'run-stopped' }] });
    expect(await finished(client, second.id)).toMatchObject({ status: 'finished', done: 2 });
  });
});

describe('who may ask', () => {
  it('is whoever uses its own address', async () => {
    const { host, port } = new URL(url);
    expect(await withHeaders(`${url}/api/project`, { host })).toBe(200);
    expect(await withHeaders(`${url}/api/project`, { host: `localhost:${port}` })).toBe(200);
    expect(await withHeaders(`${url}/api/project`, { host: `evil.test:${port}` })).toBe(421);
    expect(await withHeaders(`${url}/api/project`, { host, origin: 'http://evil.test' })).toBe(403);
    expect(await withHeaders(`${url}/api/project`, { host, origin: url })).toBe(200);
    expect(
      await withHeaders(`${url}/api/project`, { host, 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' }),
    ).toBe(403);
  });

  it('is not a page of the stage, whose origin has no calls either', async () => {
    const { stage } = served.service;
    expect(await withHeaders(`${url}/api/project`, { host: new URL(url).host, origin: stage })).toBe(403);
    for (const path of ['/api/project', '/api/runs', '/api/openapi.json'])
      expect((await fetch(stage + path)).status).toBe(404);
    expect((await fetch(`${stage}/api/runs`, { method: 'POST' })).status).toBe(404);
  });

  it('sends no more at once than is taken', async () => {
    const body = JSON.stringify({ patterns: ['x'.repeat(5_000_000)] });
    const reply = await fetch(`${url}/api/runs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body,
    });
    expect([reply.status, await reply.json()]).toEqual([413, expect.objectContaining({ code: 'request-too-large' })]);
  });

  it('gets no file from outside the project', async () => {
    for (const path of [
      '/..%2f..%2fpackage.json',
      '/assets/..%2f..%2fsguardo.config.ts',
      '/draw/scripts/..%2findex.html',
      '/asset/../../x',
      '/%00',
    ]) {
      expect([path, (await fetch(served.service.stage + path)).status >= 400]).toEqual([path, true]);
      expect([path, (await fetch(url + path)).status >= 400]).toEqual([path, true]);
    }
  });

  it('gets a console that can load nothing from elsewhere and be framed by nobody', async () => {
    const reply = await fetch(`${url}/`);
    expect(reply.headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(reply.headers.get('content-security-policy')).toContain("frame-ancestors 'none'");
    const blank = await fetch(`${served.service.stage}/draw/blank`);
    expect(blank.headers.get('content-security-policy')).toMatch(/default-src 'none'.*sandbox allow-same-origin/);
  });
});
