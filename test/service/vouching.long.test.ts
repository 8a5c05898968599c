/** A capture whose moment is as approved needs no picture of its own; some are photographed all the same. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Resting } from '../../src/core/run/basis.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { auditOf } from '../../src/service/reuse.ts';
import { configuration, project, swatch } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const looksOf = (more = ''): string => `import { capture, click, looks, the } from 'sguardo';
import { useEffect, useRef } from 'react';
function Any({ what, children = 'plain' }) {
  const canvas = useRef(null);
  useEffect(() => {
    const brush = canvas.current?.getContext(what === 'webgl' ? 'webgl' : '2d');
    if (what === 'drawn') {
      brush.fillStyle = 'navy';
      brush.fillRect(0, 0, 20, 20);
    }
    if (what === 'selected') getSelection().selectAllChildren(document.querySelector('p'));
    if (what === 'property')
      try {
        CSS.registerProperty({ name: '--sea', syntax: '<color>', inherits: false, initialValue: 'navy' });
      } catch {}
    if (what === 'worklet') void CSS.paintWorklet.addModule('data:text/javascript,');
    if (what === 'font') document.fonts.add(new FontFace('Sea', 'local(serif)'));
  }, []);
  return (
    <div style={{ width: 200 }}>
      <p>{children}</p>
      <button>press</button>
      {what === 'picture' && <img src="/flag.svg" width="20" height="10" />}
      {(what === 'drawn' || what === 'webgl') && <canvas ref={canvas} width="20" height="20" />}
      {what === 'film' && <video width="20" height="20" />}
    </div>
  );
}
${more}
export default looks(Any, {
  props: {},
  states: {
    plain: {},
    picture: { props: { what: 'picture' } },
    drawn: { props: { what: 'drawn' } },
    pressed: {
      async script() {
        await capture('before');
        await click(the.button('press'));
      },
    },
    webgl: { props: { what: 'webgl' } },
    film: { props: { what: 'film' } },
    selected: { props: { what: 'selected' } },
    font: { props: { what: 'font' } },
    property: { props: { what: 'property' } },
    worklet: { props: { what: 'worklet' } },
  },
});
`;

let folder: string;
let served: Served;
const vouched = ({ captures }: ResultSummary): boolean[] => captures.map(({ isVouched }) => isVouched);

beforeAll(async () => {
  folder = project({
    'sguardo.config.ts': configuration(),
    'src/Any.look.jsx': looksOf(),
    'public/flag.svg': swatch('navy'),
  });
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
});

describe('a moment as approved', () => {
  it('has the approved picture stand for its capture', async () => {
    const { look, run } = await served.run();
    expect(run.tally).toMatchObject({ passed: 10 });
    for (const name of ['plain', 'picture', 'drawn']) expect([name, vouched(look(name))]).toEqual([name, [true]]);
    expect(vouched(look('pressed'))).toEqual([true, true]);
    const [capture] = look('plain').captures;
    expect(capture).toMatchObject({ state: { kind: 'same' } });
    expect(capture!.width).toBeGreaterThan(200);
    expect(capture!.hash).toBe(capture!.baseline);
  });

  it('is photographed where it does not tell everything', async () => {
    const { look } = await served.run({ fresh: true });
    for (const name of ['webgl', 'film', 'selected', 'font', 'property', 'worklet'])
      expect([name, vouched(look(name))]).toEqual([name, [false]]);
  });

  it('is photographed when every repetition has to come out the same', async () => {
    const { results } = await served.run({ repeat: 2, patterns: ['plain'] });
    expect(results.flatMap(vouched)).toEqual([false, false]);
  });

  it('is another one when a file that it shows is', async () => {
    writeFileSync(join(folder, 'public/flag.svg'), swatch('red'));
    const { look } = await served.run();
    expect([look('picture').verdict, vouched(look('picture'))]).toEqual(['changed', [false]]);
    writeFileSync(join(folder, 'public/flag.svg'), swatch('navy'));
  });
});

describe('an audit', () => {
  it('runs and photographs what would have been taken over', async () => {
    const { run, look } = await served.run({ audit: 100 });
    expect(run).toMatchObject({ reused: 0, tally: { passed: 10 }, notes: [] });
    expect(vouched(look('plain'))).toEqual([false]);
    expect((await served.run({ audit: 50 })).run.reused).toBe(5);
  });

  it('tells of a look that comes out differently although nothing has changed, and takes it over no more', async () => {
    // Whether it is there is no part of what the look says it rests on.
    const outside = join(folder, 'node_modules/.outside.json');
    const config = `import { existsSync } from 'node:fs';
const weather = existsSync(${JSON.stringify(outside)}) ? 'gale' : 'calm';
export default { define: { 'globalThis.outside': JSON.stringify(weather) } };`;
    writeFileSync(join(folder, 'vite.config.ts'), config);
    const more = 'const weather = () => globalThis.outside;';
    writeFileSync(
      join(folder, 'src/Any.look.jsx'),
      looksOf(more).replace('states: {', 'states: { weather: { props: { children: weather() } },'),
    );
    await served.run();
    await served.client.decide({ kind: 'approve', all: true });
    expect((await served.run({ patterns: ['weather'] })).look('weather').verdict).toBe('passed');
    expect((await served.run({ patterns: ['weather'] })).run.reused).toBe(1);
    mkdirSync(join(folder, 'node_modules'), { recursive: true });
    writeFileSync(outside, '');
    const other = await another();
    const { look, run } = await other.run({ audit: 100, patterns: ['weather'] });
    expect(look('weather')).toMatchObject({ verdict: 'changed', isContradiction: true });
    expect(run.notes).toEqual(['1 look came out differently although nothing has changed.']);
    expect((await other.run({ patterns: ['weather'] })).run.reused).toBe(0);
  });
});

describe('what is audited', () => {
  const candidate = (id: number, took: number, isPhotographed = true) => ({
    file: '',
    name: String(id),
    result: { id, took, isPhotographed } as Resting,
  });
  const chosen = (share: number | null, ...all: ReturnType<typeof candidate>[]): string[] =>
    [...auditOf(all, share)].map(({ name }) => name);

  it('takes little time, and begins with what was not photographed for longest', () => {
    expect(chosen(null, candidate(3, 200), candidate(1, 200), candidate(2, 200, false))).toEqual(['2', '1']);
  });

  it('never leaves out what takes long for ever', () => {
    expect(chosen(null, candidate(1, 900), candidate(2, 50))).toEqual(['1']);
    expect(chosen(null)).toEqual([]);
  });

  it('is the share that was asked for', () => {
    const all = [1, 2, 3, 4].map((id) => candidate(id, 900));
    expect([chosen(0, ...all), chosen(50, ...all), chosen(1, ...all)]).toEqual([[], ['1', '2'], ['1']]);
  });
});

/** A service of the project that has built nothing yet. */
async function another(): Promise<Served> {
  await served.service.close();
  served = await serve(folder);
  return served;
}
