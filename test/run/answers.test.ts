/** Stubbed replies, and what a look leaves behind. */
import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { afterwards } from '../support/afterwards.ts';
import { configuration, copyOf, project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let served: Served;
let look: (name: string) => ResultSummary;
let results: ResultSummary[];

beforeAll(async () => {
  served = await serve(copyOf('test/looks'));
  ({ look, results } = await served.run({ patterns: ['Answers', 'Isolation'] }));
});

const networkOf = async (name: string): Promise<string[]> =>
  (await served.client.timeline(look(name).id)).marks
    .filter(({ lane }) => lane === 'network')
    .map(({ title, level }) => `${title} (${level})`);

describe('answers', () => {
  it('reach the component as replies of a server do', () => {
    const wrong = results
      .filter(({ component, look: name }) => component.endsWith('Answers') && !name.startsWith('nobody answers'))
      .filter(({ verdict }) => verdict !== 'new')
      .map((one) => `${one.look}: ${one.problem?.message} ${one.problem?.found ?? ''}`);
    expect(wrong).toEqual([]);
  });

  it('are told on the network lane', async () => {
    expect(await networkOf('json with headers')).toContain('GET /api/tides/3?day=monday → 200 (info)');
    expect(await networkOf('a status and a text of its own')).toContain('GET /api/tides/3?day=monday → 503 (error)');
    expect(await networkOf('unreachable')).toContain('GET /api/tides/3?day=monday → unreachable (error)');
    expect(await networkOf('another host')).toContain('GET https://weather.test/now → 200 (info)');
  });

  it('are waited for, however long each of them takes to come', async () => {
    expect(look('one after the other, slowly').notes).toEqual([]);
    expect(await networkOf('one after the other, slowly')).toHaveLength(25);
  });

  it('that are missing fail the look, with what to write', () => {
    expect(look('nobody answers')).toMatchObject({
      verdict: 'failed',
      problem: {
        code: 'request-unanswered',
        message:
          'GET /api/forgotten has no answer: it got 404. The nearest one that is declared is “GET /api/forgoten”.',
        remedy: "Add to the look: answers: { 'GET /api/forgotten': { json: … } }",
      },
    });
  });

  it('that are missing are compared with those declared by what they are asked with, too', () => {
    expect(look('nobody answers with what is asked').problem?.message).toContain(
      'The nearest one that is declared is “GET /api/berth?harbour=Genova&length=14”.',
    );
  });

  it('are steps when they are given or let go in a script', async () => {
    const { steps } = await served.client.timeline(look('held until let go').id);
    expect(steps.filter(({ kind }) => kind === 'answer').map(({ title }) => title)).toEqual([
      'let go GET /api/tides/:id',
    ]);
    expect((await served.client.timeline(look('answered anew in the script').id)).steps[1]).toMatchObject({
      kind: 'answer',
      title: 'answer /api/* with 200',
    });
  });
});

describe('looks of one file', () => {
  it.each([
    'finds nothing of it',
    'the clock starts where it always does',
    'chance is the same every time',
    'time zone, language and preferences are those of the environment',
  ])('%s', (name) => {
    const { verdict, problem, orderDependent } = look(name);
    expect([verdict, problem?.message, problem?.found, orderDependent]).toEqual(['new', undefined, undefined, false]);
  });

  it('are told when they depend on what ran before them', () => {
    const result = look('depends on what ran before it');
    expect(result).toMatchObject({ verdict: 'new', orderDependent: true, isUnsteady: false });
    expect(result.notes).toEqual([expect.stringMatching(/^After “.*” it came out as failed \(This did not hold/)]);
  });
});

it('replies of a real server are waited for as long as one comes after the other', async () => {
  const slow = createServer((_, reply) => {
    reply.setHeader('access-control-allow-origin', '*');
    setTimeout(() => reply.end('fathoms'), 400);
  }).listen(0, '127.0.0.1');
  await once(slow, 'listening');
  afterwards(() => void slow.close());
  const origin = `http://127.0.0.1:${(slow.address() as AddressInfo).port}`;
  const lead = `import { useEffect, useState } from 'react';
import { looks } from 'sguardo';
function Lead() {
  const [depth, setDepth] = useState(0);
  useEffect(() => {
    if (depth < 8) void fetch('${origin}/' + depth).then((reply) => reply.text()).then(() => setDepth(depth + 1));
  }, [depth]);
  return <p>{depth} fathoms</p>;
}
export default looks(Lead, { states: { sounded: {} } });`;
  const { run } = await serve(
    project({ 'sguardo.config.ts': configuration({ network: [origin] }), 'src/Lead.look.tsx': lead }),
  );
  const { notes, captures } = (await run()).look('sounded');
  expect(notes.filter((note) => note.includes('come to rest'))).toEqual([]);
  expect(captures).toHaveLength(1);
});
