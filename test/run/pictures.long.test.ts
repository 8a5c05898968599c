/** Pictures and sheets that a page asks for by itself, answered by its look. */
import { createHash } from 'node:crypto';
import { beforeAll, expect, it } from 'vitest';
import { pixelAt } from '../../src/core/picture/picture.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { decodePng } from '../../src/work/png.ts';
import { configuration, project, swatch } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const crew = `import { useEffect, useState } from 'react';
import { answer, capture, click, ensure, looks, the } from 'sguardo/react';

function Crew({ who }: { who: string }) {
  const [state, setState] = useState('on its way');
  return (
    <figure style={{ width: 100, margin: 0, background: 'url(/api/ground)' }}>
      <img
        src={'/api/crew/' + who + '/portrait'}
        width="40"
        height="40"
        alt={who}
        onLoad={() => setState('there')}
        onError={() => setState('missing')}
      />
      <figcaption>{state}</figcaption>
    </figure>
  );
}

const square = (colour: string) => ({
  headers: { 'content-type': 'image/svg+xml' },
  body:
    '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><rect width="40" height="40" fill="' +
    colour +
    '"/></svg>',
});
const route = '/api/crew/:who/portrait';
const arrived = async () => {
  await ensure(the.text('there')).isVisible();
};

export default looks(Crew, {
  props: { who: 'alba' },
  states: {
    red: { answers: { [route]: square('#ff0000') }, script: arrived },
    'green, at the same address': { answers: { [route]: square('#00ff00') }, script: arrived },
    'by name': {
      props: { who: 'bruno' },
      answers: { [route]: ({ params }) => square(params.who === 'bruno' ? '#0000ff' : '#ff0000') },
      script: arrived,
    },
    late: {
      answers: { [route]: { ...square('#ff0000'), delay: 700 } },
      async script() {
        await capture('without it', { settle: 0 });
        await ensure(the.text('there')).isVisible();
      },
    },
    held: {
      answers: { [route]: { ...square('#ff0000'), hold: true } },
      async script({ answers }) {
        await ensure(the.text('on its way')).isVisible();
        await capture('without it');
        await answers[route].letGo();
        await ensure(the.text('there')).isVisible();
        await ensure(answers[route]).wasAskedWith({ params: { who: 'alba' } });
      },
    },
    refused: {
      answers: { [route]: { status: 404 } },
      async script() {
        await ensure(the.text('missing')).isVisible();
      },
    },
    unanswered: {
      async script() {
        await ensure(the.text('missing')).isVisible();
      },
    },
    ground: { answers: { '/api/ground': square('#00ff00'), [route]: square('#ff0000') }, script: arrived },
    'in the middle of it': {
      async script() {
        await ensure(the.text('missing')).isVisible();
        await answer(route, square('#0000ff'));
      },
      render: function Asks(props) {
        const [is, setIs] = useState(false);
        useEffect(() => {
          const timer = setTimeout(() => setIs(true), 300);
          return () => clearTimeout(timer);
        }, []);
        return is ? <Crew {...props} who="carla" /> : <Crew {...props} />;
      },
    },
  },
});
`;

let served: Served;
let look: (name: string) => ResultSummary;
let results: ResultSummary[];

beforeAll(async () => {
  served = await serve(project({ 'sguardo.config.ts': configuration({}), 'src/Crew.look.tsx': crew }));
  ({ look, results } = await served.run());
});

/** The colour in the middle of the portrait in a capture. */
async function colour(name: string, capture = 'end', x = 20, y = 20): Promise<string> {
  const { hash } = look(name).captures.find((one) => one.name === capture)!;
  const reply = await fetch(served.client.pictureUrl(hash));
  const picture = await decodePng(new Uint8Array(await reply.arrayBuffer()));
  const word = pixelAt(picture, y * picture.width + x);
  return `#${[0, 8, 16].map((shift) => ((word >> shift) & 255).toString(16).padStart(2, '0')).join('')}`;
}

it('pass as answered', () => {
  const wrong = results.filter(({ verdict }) => verdict !== 'new');
  expect(wrong.map((one) => `${one.look}: ${one.problem?.message} ${one.problem?.found ?? ''}`)).toEqual([]);
});

it('shows what each look answers, also at the same address', async () => {
  expect(await colour('red')).toBe('#ff0000');
  expect(await colour('green, at the same address')).toBe('#00ff00');
  expect(await colour('by name')).toBe('#0000ff');
  expect(await colour('in the middle of it')).toBe('#0000ff');
  expect(await colour('ground', 'end', 90, 20)).toBe('#00ff00');
});

it('waits as replies to scripts do', async () => {
  for (const name of ['late', 'held']) {
    expect(await colour(name, 'without it'), name).not.toBe('#ff0000');
    expect(await colour(name), name).toBe('#ff0000');
  }
});

it('is drawn again with them on the bench', async () => {
  const { assets } = await served.client.timeline(look('red').id);
  const [, hash] = Object.entries(assets).find(([address]) => address.endsWith('/api/crew/alba/portrait'))!;
  const red = swatch('#ff0000', 40, 40);
  expect(hash).toBe(createHash('sha256').update(red).digest('hex'));
});

it('changes with them, although the page says the same', async () => {
  await served.client.decide({ kind: 'approve', all: true });
  expect((await served.run({ fresh: true })).results.map(({ verdict }) => verdict)).toEqual(
    results.map(() => 'passed'),
  );
});

it('what is not there is told, unless an answer says so', () => {
  const missing = (name: string): string[] => look(name).notes.filter((note) => note.includes('which is not there'));
  expect(missing('unanswered')).toEqual([
    expect.stringMatching(/^The page asked for \/api\/(ground|crew\/alba\/portrait), which is not there\./),
    expect.stringContaining("answers: { '/api/"),
  ]);
  expect(missing('refused')).toEqual([expect.stringContaining('/api/ground')]);
  expect(missing('ground')).toEqual([]);
});
