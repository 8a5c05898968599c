/** The world around the component: every kind of reply, and what a look says of the person in front of it. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { copyOf, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let folder: string;
let served: Served;
let look: (name: string) => ResultSummary;

const settings = (more = ''): string =>
  `export default { baselines: false, isolate: 'file', patience: 300, environments: { plain: { viewport: [640, ` +
  `480] } }${more} };`;

beforeAll(async () => {
  folder = copyOf('test/looks');
  write(folder, { 'sguardo.config.ts': settings() });
  served = await serve(folder);
  ({ look } = await served.run({ patterns: ['World'] }));
});

describe('a look', () => {
  it.each([
    'answers: in sequence',
    'answers: a function of the request',
    'answers: bytes',
    'answers: a file',
    'answers: chunks of a stream',
    'answers: events',
    'answers: messages of a socket',
    'answers: a socket that replies',
    'answers: operations of GraphQL',
    'the world as it is',
    'a world of its own',
    'a world that changes',
    'a place that is kept secret',
    'time that stands',
  ])('has %s', (name) => {
    expect(look(name).problem).toBeNull();
    expect(look(name).verdict).toBe('new');
  });

  it.each([
    [
      'fails: nobody answers',
      'GET /api/berths/4?tide=low has no answer: it got 404.',
      /'GET \/api\/berths\/4': \{ json/,
    ],
    ['fails: nobody answers an operation', 'POST /graphql has no answer: it got 404.', /'mutation Release': \{ data/],
    [
      'fails: nobody answers a socket',
      'WS /radio has no answer: it was refused: looks reach no network.',
      /'WS \/radio': \{ messages/,
    ],
    [
      'fails: an answer that throws',
      'The answer to GET /api/berths/4?tide=low could not be made: Error: no berth.',
      /given the request/,
    ],
    ['fails: an answer that is none', 'The answer to /api/berths/:id is 7.', /a list of them, or a function/],
    ['fails: two contents', 'The answer to /x has both json and body.', /one content/],
    ['fails: nothing open', 'Nothing that /api/feed answers is open.', /stays open/],
    [
      'fails: no such permission',
      expect.stringMatching(/^The browser does not take this: permissions \{teleport/),
      /a permission/,
    ],
    [
      'fails: an address elsewhere',
      expect.stringMatching(/^The browser does not take this: location/),
      /of this origin/,
    ],
    ['fails: no such change', 'What world(…) was given has no entry “onlin”.', /online/],
    ['fails: no such media', 'world(…) has the media {scheme: "sepia"}.', /'light' or 'dark'/],
  ])('is told (%s)', (name, message, remedy) => {
    expect(look(name).verdict).toBe('failed');
    expect(look(name).problem?.message).toEqual(message);
    expect(look(name).problem?.remedy).toMatch(remedy);
  });

  it.each([
    ['fails: nobody answers', 'await fetch(url, init)'],
    ['fails: nobody answers an operation', 'await fetch(url, init)'],
    ['fails: nobody answers a socket', "new WebSocket('/radio')"],
    ['fails: nobody answers through a library', 'request.send()'],
    ['fails: nobody answers a beacon', "navigator.sendBeacon('/api/log'"],
  ])('says where a request was made (%s)', async (name, code) => {
    const { steps } = await served.client.timeline(look(name).id);
    const lines = readFileSync(join(folder, 'src/World.look.tsx'), 'utf8').split('\n');
    const { source } = steps.find(({ problem }) => problem?.code === 'request-unanswered')!;
    expect(source?.file).toBe('src/World.look.tsx');
    expect(lines[source!.line - 1]).toContain(code);
  });

  it('waits for nothing while time stands', () => {
    expect(look('fails: time that stands').problem?.code).toBe('target-missing');
  });

  it('tells of media that it has changed in its moments, and of no others', async () => {
    const own = await served.client.timeline(look('a world of its own').id);
    expect(own.base.view.media).toEqual({ scheme: 'dark', motion: 'no-preference', contrast: 'more' });
    const changed = await served.client.timeline(look('a world that changes').id);
    expect(changed.base.view.media).toBeUndefined();
    expect(changed.patches.map(({ view }) => view?.media).filter(Boolean)).toEqual([
      { forcedColours: true },
      { forcedColours: true, print: true },
    ]);
    expect((await served.client.timeline(look('the world as it is').id)).base.view.media).toBeUndefined();
  });

  it('only notes requests that nobody answers where the project wants that', async () => {
    write(folder, { 'sguardo.config.ts': settings(", unanswered: 'note'") });
    const { look: noted } = await served.run({ patterns: ['World/fails: nobody answers'] });
    expect(noted('fails: nobody answers')).toMatchObject({ verdict: 'new', problem: null });
    expect(noted('fails: nobody answers').notes).toEqual([
      'GET /api/berths/4?tide=low has no answer: it got 404. ' +
        "Add to the look: answers: { 'GET /api/berths/4': { json: … } }",
    ]);
  });
});
