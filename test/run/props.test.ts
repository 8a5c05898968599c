/** What is known of props by their types: which looks no real use could produce, and who is called back. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const component = `import type { Vessel } from './types';
export function Berth(props: {
  vessel: Vessel;
  tone?: 'calm' | 'gale';
  onRelease(berth: string): void;
  onSort?: (by: string) => void;
  rowFor?: () => string;
}) {
  return (
    <section aria-label="Berth">
      <button type="button" onClick={() => props.onRelease('C-14')}>
        Release
      </button>
      {props.onSort && (
        <button type="button" onClick={() => props.onSort?.('depth')}>
          Sort
        </button>
      )}
      <p>
        {props.rowFor ? props.rowFor() : 'no row'} {String(props.vessel.draught)}
      </p>
    </section>
  );
}
`;
const types = 'export type Vessel = { name: string; draught: number };\n';
const looks = `import { click, ensure, looks, spy, the } from 'sguardo';
import { Berth } from './Berth';
const vessel = { name: 'Aliseo', draught: 2.1 };
const wrong = (value: unknown) => value as never;
export default looks(Berth, { props: { vessel }, states: {
  'hears by itself': { async script({ props }) {
    await click(the.button('Release'));
    await ensure(props.onRelease).wasCalledWith('C-14');
    await click(the.button('Sort'));
    await ensure(props.onSort).wasCalledWith('depth');
    await ensure(the.text(/no row/)).isVisible();
  } },
  'hears nothing': { props: { onSort: undefined }, async script() { await ensure(the.button()).counts(1); } },
  'is given one': { props: { onRelease: spy(), tone: 'gale' } },
  'of another tone': { props: { tone: wrong('storm') } },
  'in another part': { props: { vessel: { name: 'Aliseo', draught: wrong('deep') } } },
  'is called by a text': { props: { onRelease: wrong('release') } },
  'without what it needs': { props: { vessel: wrong(undefined) } },
  'of another name': { props: wrong({ tome: 'calm', onSrot: spy(), id: 'berth' }) },
  'another later': { after: 'is given one', props: { tone: wrong(4) } },
} });
`;

describe('props and their types', () => {
  let served: Served;
  let root: string;
  let of: (name: string) => ResultSummary;

  beforeAll(async () => {
    root = project({ 'src/types.ts': types, 'src/Berth.tsx': component, 'src/Berth.look.tsx': looks });
    served = await serve(root);
    ({ look: of } = await served.run());
  });

  it.each(['hears by itself', 'hears nothing', 'is given one'])('nothing is wrong with one that %s', (name) => {
    expect(of(name)).toMatchObject({ verdict: 'new', problem: null, notes: [] });
  });

  it.each([
    ['of another tone', 'tone: expected "calm" or "gale", got "storm"'],
    ['in another part', 'vessel.draught: expected a number, got "deep"'],
    ['is called by a text', 'onRelease: expected a function, got "release"'],
    ['without what it needs', 'vessel: expected an object (Vessel), got undefined'],
    [
      'of another name',
      'tome: there is no such prop, but there is tone; onSrot: there is no such prop, but there is onSort',
    ],
    ['another later', 'tone: expected "calm" or "gale", got 4'],
  ])('one %s is marked', (name, contradiction) => {
    expect(of(name).notes).toContain(`No real use can produce this: ${contradiction}.`);
  });

  it('a change of a type that no code imports runs its looks again', async () => {
    await served.client.decide({ kind: 'approve', patterns: ['*'] });
    await served.run();
    expect((await served.run()).run.reused).toBeGreaterThan(0);
    write(root, { 'src/types.ts': types.replace('number', "'deep'") });
    const { look, run } = await served.run();
    expect(run.reused).toBe(0);
    expect(look('hears by itself').notes).toEqual([
      'No real use can produce this: vessel.draught: expected "deep", got 2.1.',
    ]);
  });
});
