/** Requests that mean nothing: each is told what is wrong with it, and none is answered with a fault of ours. */
import { beforeAll, describe, expect, it } from 'vitest';
import { lookFile, project } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

type Schema = {
  type?: string | string[];
  properties?: Record<string, Schema>;
  items?: Schema;
  required?: string[];
  enum?: unknown[];
  minimum?: number;
  maximum?: number;
  maxLength?: number;
};
type Operation = {
  parameters?: { name: string; in: 'path' | 'query'; schema: Schema }[];
  requestBody?: { content: Record<string, { schema: Schema }> };
};
type Document = { paths: Record<string, Record<string, Operation>> };

/** Nested so deep that a recursive reader runs out of stack. */
const deep = (open: string, close: string): string => open.repeat(20_000) + close.repeat(20_000);

/** JSON that is of no type that is asked for anywhere, or breaks whoever believes it. */
const odd: string[] = [
  'null',
  'true',
  '0',
  '-1',
  '1.5',
  '1e999',
  '9007199254740993',
  '""',
  '"constructor"',
  '"\\ud800"',
  '"\\u0000"',
  `"${'x'.repeat(100_000)}"`,
  '[]',
  '[[]]',
  '[null]',
  '[{}]',
  '{}',
  '{"toString":1,"valueOf":2}',
  '{"toString":null,"toJSON":"x"}',
  '{"length":1e9}',
  '{"constructor":{"prototype":{}}}',
  '{"hasOwnProperty":1}',
  deep('[', ']'),
  deep('{"a":', '}').replace(':}', ':1}'),
];

/** Bodies that are no JSON at all. */
const broken = ['', '{', '{"kind":', 'kind=approve', '\u0000', '{"__proto__":{"x":1}}', '{"a":1,"a":2}', '\ufeff{}'];

/** JSON that fits a schema. */
function fitting(schema: Schema): string {
  if (schema.enum) return JSON.stringify(schema.enum[0]);
  const type = Array.isArray(schema.type) ? schema.type[0] : schema.type;
  if (type === 'object') {
    const fields = Object.entries(schema.properties ?? {}).map(
      ([name, one]) => `${JSON.stringify(name)}:${fitting(one)}`,
    );
    return `{${fields.join()}}`;
  }
  if (type === 'array') return schema.items ? `[${fitting(schema.items)}]` : '[]';
  if (type === 'integer' || type === 'number') return String(schema.minimum ?? 1);
  return type === 'boolean' ? 'false' : '"x"';
}

/** A third of the odd values, another one for each place: the attack tries all of them everywhere. */
const someOdd = (place: number): string[] => odd.filter((_, i) => i % 3 === place % 3);

/** Bodies with one odd value each, everywhere where a value can be. */
function* oddBodies(schema: Schema): Generator<string> {
  for (const value of odd) yield value;
  const properties = Object.entries(schema.properties ?? {});
  for (const [place, [name, one]] of properties.entries()) {
    const rest = properties
      .filter(([other]) => other !== name)
      .map(([other, its]) => `${JSON.stringify(other)}:${fitting(its)}`);
    for (const value of one.items ? oddBodies(one) : someOdd(place))
      yield `{${[...rest, `${JSON.stringify(name)}:${value}`].join()}}`;
    yield `{${rest.join()}}`;
  }
  if (schema.items) for (const value of oddBodies(schema.items)) yield `[${value}]`;
  for (const key of ['constructor', 'prototype', 'toString', 'hasOwnProperty', 'unknown', ''])
    yield `{${JSON.stringify(key)}:1}`;
}

const oddTexts = [
  '0',
  '-1',
  '1.5',
  'x',
  '1e3',
  '9'.repeat(30),
  '%00',
  '%F0%9F',
  'constructor',
  '%5B%5D',
  '',
  '..%2f..',
  'null',
];

let served: Served;
let document: Document;

beforeAll(async () => {
  served = await serve(project({ 'src/Buoy.look.tsx': lookFile('return <p>buoy</p>;', 'plain: {}') }));
  document = (await (await fetch(`${served.service.url}/api/openapi.json`)).json()) as Document;
});

/** The address of a call with given texts in place of its parameters. */
function addressOf(path: string, { parameters = [] }: Operation, text: string): string {
  let address = path;
  for (const { name } of parameters.filter((one) => one.in === 'path')) address = address.replace(`{${name}}`, text);
  const query = parameters.filter((one) => one.in === 'query').map(({ name }) => `${name}=${text}`);
  return served.service.url + address + (query.length > 0 ? `?${query.join('&')}&constructor=1` : '');
}

type Answer = { status: number; type: string };

async function ask(address: string, method: string, body?: string): Promise<Answer> {
  const abort = new AbortController();
  const headers: Record<string, string> = body === undefined ? {} : { 'content-type': 'application/json' };
  const reply = await fetch(address, { method, body, headers, signal: abort.signal });
  const answer = { status: reply.status, type: reply.headers.get('content-type') ?? '' };
  // The live feed does not end by itself.
  abort.abort();
  return answer;
}

describe('a request that means nothing', () => {
  it('is never answered as a fault of the service', async () => {
    const wrong: string[] = [];
    let asked = 0;
    for (const [path, operations] of Object.entries(document.paths))
      for (const [method, operation] of Object.entries(operations)) {
        const schema = operation.requestBody?.content['application/json']?.schema;
        const bodies = schema ? [...oddBodies(schema), ...broken] : [undefined];
        const texts = (operation.parameters?.length ?? 0) > 0 ? oddTexts : ['1'];
        const usual = schema ? fitting(schema) : undefined;
        const pairs = [...texts.map((text) => [text, usual] as const), ...bodies.map((body) => ['1', body] as const)];
        for (const [text, body] of pairs) {
          asked++;
          const { status, type } = await ask(addressOf(path, operation, text), method.toUpperCase(), body);
          const isTold = status < 400 || type.includes('application/problem+json');
          if (status >= 500 || !isTold)
            wrong.push(`${method} ${path} ${text} ${body?.slice(0, 80)} → ${status} ${type}`);
        }
      }
    expect(wrong).toEqual([]);
    expect(asked).toBeGreaterThan(500);
    expect((await served.client.project()).name).toMatch(/^p-/);
  });

  it('of too many runs is told to wait', async () => {
    const { url } = served.service;
    const replies = await Promise.all(
      Array.from({ length: 40 }, () => ask(`${url}/api/runs`, 'POST', '{"repeat":1000}')),
    );
    const refused = replies.filter(({ status }) => status === 429);
    expect(refused.length).toBeGreaterThan(10);
    const { run, queued } = await served.client.project();
    for (const { id } of [...queued, ...(run ? [run] : [])]) await served.client.stopRun(id);
  });

  it('of a pattern with many stars costs no time that can be felt', async () => {
    // Backtracking would take longer than the universe is old.
    const pattern = `${'*a'.repeat(240)}b`;
    const reply = await ask(
      `${served.service.url}/api/decisions`,
      'POST',
      JSON.stringify({ kind: 'reject', patterns: [pattern], why: 'x' }),
    );
    expect([404, 409]).toContain(reply.status);
  });
});
