/** What real use cannot produce: answers that the API could not give, and props that contradict their shape. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { contractOf } from '../../src/work/contract.ts';
import { configuration, project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const api = `openapi: 3.1.0
servers: [{ url: https://harbour.example/api }]
paths:
  /berths/{id}:
    get:
      responses:
        '200': { content: { application/json: { schema: { $ref: '#/components/schemas/Berth' } } } }
        '404': { description: no such berth }
        '409': { $ref: '#/components/responses/Taken' }
        '422': { content: { application/json: { example: {} } } }
  /tides: { $ref: '#/components/pathItems/Tides' }
  /berths/new:
    get: { responses: { 2XX: { content: { application/json: { schema: { type: 'null' } } } } } }
components:
  responses:
    Taken: { $ref: '#/components/responses/Really~1taken' }
    Really/taken: { content: { application/json: { schema: { type: object, required: [by] } } } }
    Circle: { $ref: '#/components/responses/Circle' }
  pathItems:
    Tides:
      get:
        responses:
          '200': { content: { application/*: { schema: { type: array } } } }
          '500': { $ref: '#/components/responses/Circle' }
  schemas:
    Berth:
      type: object
      required: [name, depth]
      additionalProperties: false
      properties: { name: { type: string }, depth: { type: number }, vessel: { type: [string, 'null'] } }
`;

describe('a contract', () => {
  const folder = project({ 'api.yaml': api });
  const { objection } = contractOf(folder, 'api.yaml');
  const asked = (path: string, status: number, body: unknown, method = 'GET') =>
    objection({
      method,
      url: `https://harbour.example${path}`,
      status,
      type: 'application/json; charset=utf-8',
      body: JSON.stringify(body),
    });

  it.each([
    ['/api/berths/C-14', 200, { name: 'C-14', depth: 3.2 }],
    ['/api/berths/C-14', 200, { name: 'C-14', depth: 3.2, vessel: null }],
    ['/api/berths/C-14', 404, { whatever: 1 }],
    ['/api/berths/new', 204, null],
    ['/api/berths/C-14', 409, { by: 'Alba' }],
    ['/api/berths/C-14', 422, { whatever: 1 }],
    ['/api/tides', 200, []],
    ['/api/tides', 500, {}],
    // Where a component asks its own origin without the server's path.
    ['/berths/C-14', 200, { name: 'C-14', depth: 3.2 }],
  ])('has nothing against %s with %s %j', (path, status, body) => {
    expect(asked(path, status, body)).toBeNull();
  });

  it.each([
    ['a body of another type', '/api/berths/C', 200, { name: 4 }, /could not give this body/],
    ['a status', '/api/berths/C', 418, {}, /never answers with 418; it answers with 200, 404/],
    ['a path', '/api/berth/C', 200, {}, /has no such operation; the nearest one is GET \/berths/],
    ['a body that is described elsewhere', '/api/berths/C', 409, {}, /could not give this body/],
    ['a path that is described elsewhere', '/api/tides', 200, {}, /could not give this body/],
    ['a path with its own description', '/api/berths/new', 200, {}, /could not give this body/],
  ])('objects to %s', (_, path, status, body, message) => {
    expect(asked(path, status, body)?.message).toMatch(message);
  });

  it('objects to a method, and says what is wrong with a body entry by entry', () => {
    expect(asked('/api/berths/C', 200, {}, 'DELETE')?.message).toMatch(/^The answer to DELETE .* no such operation/);
    expect(asked('/api/berths/C', 200, { name: 4, tide: 1 })?.found?.toSorted()).toEqual([
      '/name must be string',
      'the body must NOT have additional properties: “tide”',
      "the body must have required property 'depth'",
    ]);
  });

  it.each([
    ['not there', 'none.yaml', {}],
    ['no description', 'a.json', { 'a.json': '{"a":1}' }],
    ['not readable', 'a.yaml', { 'a.yaml': 'a: [1' }],
    ['without paths', 'a.yaml', { 'a.yaml': 'paths:' }],
    ['a list of paths', 'a.yaml', { 'a.yaml': 'paths: [/berths]' }],
    ['of servers that are none', 'a.yaml', { 'a.yaml': '{ paths: {}, servers: [{}] }' }],
    ['of a name that is no address', 'a.yaml', { 'a.yaml': "{ paths: {}, components: { $id: '%%' } }" }],
    ['a part of itself', 'a.yaml', { 'a.yaml': 'paths: &p { /berths: *p }' }],
  ])('that is %s is told', (_, name, files) => {
    expect(() => contractOf(project(files), name)).toThrow(/cannot be read as an OpenAPI description/);
  });
});

describe('a description with something else where a part should be', () => {
  const { objection } = contractOf(
    project({
      'a.yaml': `servers:
paths:
  /nothing:
  /words: words
  /bare: { get: }
  /number: { get: { responses: 5 } }
  /empty: { get: { responses: { 200: } } }
  /spoilt: { get: { responses: { 200: { $ref: '#/components/%zz' } } } }
  /contents: { get: { responses: { 200: { content: [1] } } } }`,
    }),
    'a.yaml',
  );
  const asked = (path: string) =>
    objection({ method: 'GET', url: `http://x${path}`, status: 200, type: 'application/json', body: '[]' })?.message;

  it.each([
    ['/nothing', /no such operation/],
    ['/words', /no such operation/],
    ['/bare', /no such operation/],
    ['/number', /never answers with 200; it answers with nothing/],
  ])('does not have %s', (path, message) => {
    expect(asked(path)).toMatch(message);
  });

  it.each(['/empty', '/spoilt', '/contents'])('says nothing of the body of %s', (path) => {
    expect(asked(path)).toBeUndefined();
  });
});

const look = `import { click, ensure, looks, the } from 'sguardo'; import { object, string } from 'yup';
const Berth = ({ name }) => <button type="button" onClick={() => void fetch('/berths/' + name)}>{String(name)}</button>;
const ask = async () => { await click(the.button()); };
const json = { type: 'object', required: ['name'], properties: { name: { type: 'string', minLength: 2 } } };
const standard = { '~standard': { version: 1, vendor: 'own', validate: (value) => value.name === 'C-14' ? { value }
  : { issues: [{ message: 'no such berth', path: ['name'] }] } } };
export default looks(Berth, { props: { name: 'C-14' }, states: {
  possible: { answers: { 'GET /berths/:id': { json: { name: 'C-14', depth: 3 } } }, script: ask },
  impossible: { answers: { 'GET /berths/:id': { json: { name: 'C-14', depth: 'deep' } } }, script: ask },
  'fits yup': { shape: object({ name: string().required() }) },
  'contradicts yup': { shape: object({ name: string().max(2, 'name is too long') }) },
  'fits json': { shape: json },
  'contradicts json': { shape: json, props: { name: 'C' } },
  'fits a standard': { shape: standard },
  'contradicts a standard': { shape: standard, props: { name: 'D' } },
  'no shape': { shape: { type: 'strange' } },
} });`;

describe('a look', () => {
  let of: (name: string) => ResultSummary;

  beforeAll(async () => {
    const config = configuration({ openapi: 'api.yaml', patience: 300 });
    const folder = project({ 'sguardo.config.ts': config, 'api.yaml': api, 'src/Berth.look.jsx': look });
    ({ look: of } = await (await serve(folder)).run());
  });

  it('fails when its answer is one that the API could not give', () => {
    expect(of('possible').verdict).toBe('new');
    expect(of('impossible')).toMatchObject({
      verdict: 'failed',
      problem: {
        code: 'answer-impossible',
        message: 'The answer to GET /berths/C-14 is one that the API could not give: it could not give this body.',
        remedy: expect.stringMatching(/as api\.yaml describes it/),
        found: ['/depth must be number'],
      },
    });
  });

  it.each([
    ['contradicts yup', 'No real use can produce this: name is too long.'],
    ['contradicts json', 'No real use can produce this: /name must NOT have fewer than 2 characters.'],
    ['contradicts a standard', 'No real use can produce this: name: no such berth.'],
    ['no shape', /^No real use can produce this: schema is invalid/],
  ])('is marked when its props contradict their shape (%s)', (name, note) => {
    expect(of(name).verdict).toBe('new');
    expect(of(name).notes).toEqual([
      expect.stringMatching(typeof note === 'string' ? note.replace(/\./g, '\\.') : note),
    ]);
  });

  it.each(['fits yup', 'fits json', 'fits a standard'])('is not marked otherwise (%s)', (name) => {
    expect(of(name).notes).toEqual([]);
  });
});
