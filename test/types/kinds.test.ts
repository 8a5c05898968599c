/** What the compiler says of look files in every kind of component, of answers, of spies and of tags. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { project, repository } from '../support/project.ts';

/** The same component as each framework types it. */
const components = {
  react: `
    const Berth = (_: { berth: string; vessel: string | null; draught?: number; onRelease?(berth: string): void }) =>
      null;`,
  vue: `declare const Berth: new () => {
    $props: {
      berth: string;
      vessel: string | null;
      draught?: number;
      onRelease?: (berth: string) => unknown;
      key?: string;
    };
    $slots: { default?(): unknown };
  };`,
  svelte: `
    declare const Berth: (
      internals: { brand: 1 },
      props: { berth: string; vessel: string | null; draught?: number; onRelease?(berth: string): void },
    ) => object;`,
  angular: `type Input<T> = { (): T; ɵINPUT_SIGNAL_BRAND_WRITE_TYPE: T };
type Output<T> = { emit(value: T): void; subscribe(next: (value: T) => void): { unsubscribe(): void } };
declare class Berth {
  berth: Input<string>;
  vessel: Input<string | null>;
  draught: Input<number | undefined>;
  release: Output<string>;
  open(): void;
}`,
  dom: `declare class Berth extends HTMLElement { berth: string; vessel: string | null; draught?: number; }`,
} as const;

type Kind = keyof typeof components;
const kinds = Object.keys(components) as Kind[];

/** The compiler's complaints about look files, by their names, without the paths. */
function complaints(files: Record<string, string>): Record<string, string> {
  const folder = project({
    'tsconfig.json': JSON.stringify({
      extends: join(repository, 'demo/harbour/tsconfig.json'),
      compilerOptions: { types: [] },
      include: ['src'],
    }),
    ...Object.fromEntries(Object.entries(files).map(([name, text]) => [`src/${name}.look.tsx`, text])),
  });
  const compiler = join(repository, 'node_modules/typescript7/bin/tsc');
  const { stdout } = spawnSync(process.execPath, [compiler, '-p', folder], { encoding: 'utf8' });
  const lines = stdout.split('\n');
  return Object.fromEntries(
    Object.keys(files).map((name) => {
      const own = lines.map((line, i) => [line, i] as const).filter(([line]) => line.includes(`src/${name}.look.tsx`));
      return [name, own.map(([, i]) => lines.slice(i, i + 4).join(' ')).join('\n')];
    }),
  );
}

const file = (kind: Kind, states: string, props = "props: { berth: 'C-14', vessel: null },"): string =>
  `import { click, ensure, looks, spy, the } from 'sguardo/${kind}';
${components[kind]}
void [click, ensure, spy, the];
export default looks(Berth, { ${props} states: { ${states} } });
`;

/** What is right, and what is not, with what the compiler has to say of it. */
const cases: [string, string, RegExp | null][] = [
  [
    'right',
    `moored: { props: { vessel: 'Aliseo', draught: 2.1, onRelease: spy() } }, released: { after: 'moored',
      answers: { 'POST /api/x': { status: 503 } }, async script({ props, answers }) {
        await click(the.button('Release'));
        await ensure(props.onRelease).wasCalledWith('C-14');
        await ensure(answers['POST /api/x']).calls(1); } }`,
    null,
  ],
  ['a prop of another type', "moored: { props: { draught: 'deep' } }", /'string' is not assignable to type 'number/],
  ['a prop that does not exist', "moored: { props: { vesel: 'Aliseo' } }", /'vesel' does not exist/],
  ['an after that names no state', "a: {}, b: { after: 'c' }", /"c"/],
  [
    'an answer that nobody has declared',
    "a: { answers: { 'GET /x': {} }, script: ({ answers }) => ensure(answers['GET /y']).wasAsked() }",
    /'GET \/y' does not exist|"GET \/y"/,
  ],
  ['a reply that has no such entry', "a: { answers: { '/x': { jsn: 1 } } }", /'jsn' does not exist/],
];

const found = complaints(
  Object.fromEntries(
    kinds.flatMap((kind) => cases.map(([, states], i) => [`${kind}${i}`, file(kind, states)] as const)),
  ),
);

describe.each(kinds)('a look file of %s', (kind) => {
  it.each(cases.map(([name, , message], i) => [name, i, message] as const))('with %s', (_, i, message) => {
    if (message === null) expect(found[`${kind}${i}`]).toBe('');
    else expect(found[`${kind}${i}`]).toMatch(message);
  });
});

describe('the compiler', () => {
  const spied = "props: { berth: 'C-14', vessel: null, onRelease: spy() },";
  const more = complaints({
    args: file('react', 'a: { script: ({ props }) => ensure(props.onRelease).wasCalledWith(4) }', spied),
    turns: file('react', 'a: { script: ({ props }) => ensure(props.onRelease).callsWere([[4]]) }', spied),
    each: file('react', "a: { each: { draught: ['deep'] } }"),
    slots: file('vue', 'a: { }', "props: { berth: 'C', vessel: null }, slots: { footer: 'x' },"),
    output: file('angular', 'a: { props: { onRelease: (berth: number) => berth } }'),
    tag: `import { looks } from 'sguardo/dom';
export default looks('progress', { states: { half: { props: { value: 'half' } } } });`,
    tags: `import { looks } from 'sguardo/dom';
declare module 'sguardo' { interface Tags { slow: true } }
export default looks('progress', { states: { a: { tags: ['slow'] }, b: { tags: ['slw'] } } });`,
    fine: `import { action, check, ensure, looks, spy, the, type Target } from 'sguardo/react';
const Berths = (_: {
  list: { id: number; name: string }[];
  onPick(berth: { id: number; name: string }, at: number): void;
}) => null;
const pick = action('pick', async (name: string) => {
  void name;
});
const isFree = check('is free', async (target: Target) => {
  await ensure(target).not.reads('Taken');
});
export default looks(Berths, {
  props: { list: [], onPick: spy() },
  states: {
    a: {
      each: { list: [[], [{ id: 1, name: 'C' }]] },
      async script({ props }) {
        await pick('C');
        await isFree(the.row().first());
        await ensure(props.onPick).wasCalledWith({ name: /C-/ });
        await ensure(props.onPick).callsWere([[{ id: 1 }, 0], []]);
        await ensure(props.onPick)
          .call(0)
          .matches([{ id: 1 }]);
        await ensure.eventually(() => document.title).matches(/berths/);
        await ensure({ a: { b: 'x' } }).matches({ a: { b: /x/ } });
      },
    },
  },
});`,
  });

  it.each([
    ['what a spy was called with', 'args', /Argument of type '4' is not assignable/],
    ['what a spy was called with in turn', 'turns', /'number' is not assignable/],
    ['the values of each', 'each', /'string' is not assignable to type 'number/],
    ['slots', 'slots', /'footer' does not exist/],
    ['what an output carries', 'output', /'string' is not assignable to type 'number'/],
    ['properties of an element by its tag', 'tag', /'string' is not assignable to type 'number/],
    ['tags that a project has declared', 'tags', /"slw"/],
  ])('knows %s', (_, name, message) => {
    expect(more[name]).toMatch(message);
  });

  it('accepts what is said loosely', () => {
    expect(more.fine).toBe('');
  });
});
