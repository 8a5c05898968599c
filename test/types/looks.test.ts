/** What the compiler says of look files: props, names in `after`, and checks are typed from the component. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { project, repository } from '../support/project.ts';

/** The compiler's complaints about a look file with these states, without the paths. */
function complaints(states: string, props = "props: { berth: 'C-14', vessel: null, onRelease: spy() }"): string {
  const folder = project({
    'tsconfig.json': JSON.stringify({ extends: join(repository, 'demo/harbour/tsconfig.json'), include: ['src'] }),
    'src/Berth.look.tsx': `
import { answer, capture, click, ensure, looks, part, press, select, spy, the, type } from 'sguardo';
type Props = { berth: string; vessel: string | null; draught?: number; onRelease(berth: string): void };
const Berth = ({ berth, vessel, onRelease }: Props) => (
  <button type="button" onClick={() => onRelease(berth)}>
    {vessel}
  </button>
);
void [answer, capture, click, ensure, part, press, select, spy, the, type];
export default looks(Berth, { ${props}, states: { ${states} } });
`,
  });
  return spawnSync(process.execPath, [join(repository, 'node_modules/typescript7/bin/tsc'), '-p', folder], {
    encoding: 'utf8',
  }).stdout;
}

describe('a look file', () => {
  it('that is right is accepted', () => {
    expect(
      complaints(`
        moored: { props: { vessel: 'Aliseo', draught: 2.1 } },
        released: { after: 'moored', answers: { 'POST /api/x': { status: 503, hold: true } },
        async script({ props, answers }) {
          await click(the.button('Aliseo').in(the.main()).nth(0));
          await part('asks', async () => {
            await type(the.field(/draught/i), '2');
            await press('Enter');
            await capture('asked');
          });
          await ensure(props.onRelease).wasCalledWith('C-14');
          await ensure(the.alert()).reads(/released/);
          await ensure(answers['POST /api/x']!).calls(1);
          await ensure(() => props.berth.length).equals(4);
          const again = await answer('GET /api/y', { json: [1] });
          await again.letGo();
        } },`),
    ).toBe('');
  });

  it('needs no callbacks, whatever shape its props have', () => {
    expect(complaints('moored: {}', "props: { berth: 'C-14', vessel: null }")).toBe('');
    expect(complaints('moored: { props: { onRelease: undefined } }', "props: { berth: 'C-14', vessel: null }")).toBe(
      '',
    );
    const several = `moored: {} } });
const Tide = (_: { kind: 'low'; depth: number } | { kind: 'high'; until: string; onTurn(): void }) => null;
export const low = looks(Tide, { props: { kind: 'low', depth: 3 }, states: { low: {} } });
export const high = looks(Tide, { props: { kind: 'high', until: 'noon' }, states: { high: {}`;
    expect(complaints(several)).toBe('');
    expect(complaints(several.replace('depth: 3', 'depth: 3, until: "noon"'))).toMatch(/until/);
  });

  it.each([
    [
      'a prop of another type',
      'moored: { props: { draught: "deep" } }',
      /Type 'string' is not assignable to type 'number'/,
    ],
    ['a prop that does not exist', 'moored: { props: { vesel: "Aliseo" } }', /'vesel' does not exist/],
    [
      'an after that names no state',
      "moored: {}, released: { after: 'mored' }",
      /Type '"mored"' is not assignable to type '"moored" \| "released"'|'"mored"'/,
    ],
    ['a role that does not exist', 'moored: { script: () => click(the.knob()) }', /Property 'knob' does not exist/],
    [
      'a state that no role has',
      "moored: { script: () => click(the.heading('Berths', { levle: 2 })) }",
      /'levle' does not exist|levle/,
    ],
    [
      'a check that a target does not have',
      'moored: { script: () => ensure(the.button()).wasCalled() }',
      /Property 'wasCalled' does not exist/,
    ],
    ['an entry that does not exist', 'moored: { scripts: async () => {} }', /'scripts' does not exist/],
  ])('with %s is refused', (_what, states, message) => {
    expect(complaints(states)).toMatch(message);
  });

  it('without props that the component needs is refused', () => {
    expect(complaints('moored: {}', "props: { berth: 'C-14' }")).toMatch(
      /missing the following properties|is missing in type/,
    );
    expect(complaints('moored: {}', 'answers: {}')).toMatch(/Property 'props' is missing/);
  });
});
