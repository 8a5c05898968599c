/** Keeping props in look files of every style: the wanted values change, and nothing else. */
import { spawnSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { numbersFrom } from '../../src/core/steady/chance.ts';
import { keep, type Keeping } from '../../src/keep/keep.ts';
import { project, repository } from '../support/project.ts';

/** Numbers from 0 to 1, always the same ones. */
const chance = (seed: number) => {
  const number = numbersFrom(seed);
  return (): number => number(10_000) / 10_000;
};

const ts = createRequire(import.meta.url)('typescript') as typeof import('typescript');

type Definition = { props?: object; states: Record<string, { props?: Record<string, unknown>; after?: string }> };

/** What a look file declares, by running it with a `looks` that only returns what it is given. */
function declared(source: string): Definition {
  const { outputText } = ts.transpileModule(source, {
    compilerOptions: { module: ts.ModuleKind.CommonJS, target: ts.ScriptTarget.ESNext, jsx: ts.JsxEmit.React },
  });
  const exports: { default?: Definition } = {};
  const modules: Record<string, object> = {
    sguardo: { looks: (_: unknown, definition: Definition) => definition, spy: () => 'a spy' },
    './Berth': { Berth: 'Berth' },
  };
  new Function('exports', 'require', outputText)(exports, (name: string) => modules[name]);
  return exports.default!;
}

const kept = (source: string, keeping: Keeping): string => {
  const result = keep('src/Berth.look.tsx', source, keeping);
  if ('why' in result) throw new Error(result.why);
  return result.text;
};
const why = (source: string, keeping: Keeping): string => {
  const result = keep('src/Berth.look.tsx', source, keeping);
  return 'why' in result ? result.why : 'it was kept';
};

const file = (states: string, rest = ''): string =>
  `import { looks } from 'sguardo';\nimport { Berth } from './Berth';\n${rest}\nexport default looks(Berth, ` +
  `{\n  props: { name: 'C-14' },\n  states: {\n${states}\n  },\n});\n`;

describe('keeping', () => {
  it.each<[string, string, Record<string, unknown>, string]>([
    [
      'a value that is there',
      `    moored: { props: { depth: 3 } },`,
      { depth: 4 },
      `    moored: { props: { depth: 4 } },`,
    ],
    [
      'a value that is too long for a line',
      `    moored: {},`,
      { crew: ['Ada', 'Bruno', 'Carla'].map((name) => ({ name, watch: { from: 4, to: 8 }, isAboard: true })) },
      `    moored: { props: { crew: [
      { name: 'Ada', watch: { from: 4, to: 8 }, isAboard: true },
      { name: 'Bruno', watch: { from: 4, to: 8 }, isAboard: true },
      { name: 'Carla', watch: { from: 4, to: 8 }, isAboard: true },
    ] } },`,
    ],
    [
      'one more value',
      `    moored: { props: { depth: 3 } },`,
      { name: "it's" },
      `    moored: { props: { depth: 3, name: 'it\\'s' } },`,
    ],
    ['the first one', `    moored: {},`, { depth: 4 }, `    moored: { props: { depth: 4 } },`],
    [
      'the first one of a state',
      `    moored: { after: 'x' },\n    x: {},`,
      { depth: 4 },
      `    moored: { after: 'x', props: { depth: 4 } },\n    x: {},`,
    ],
    ['a short hand', `    moored: { props: { depth } },`, { depth: 4 }, `    moored: { props: { depth: 4 } },`],
    [
      'a value that is worked out',
      `    moored: { props: { depth: 2 * 3 /* fathoms */ } },`,
      { depth: 4 },
      `    moored: { props: { depth: 4 /* fathoms */ } },`,
    ],
    [
      'over what is spread',
      `    moored: { props: { ...{ depth: 1 } } },`,
      { depth: 4 },
      `    moored: { props: { ...{ depth: 1 }, depth: 4 } },`,
    ],
    [
      'a date, a list, an object',
      `    moored: { props: {} },`,
      { at: { $date: '2026-03-02T09:30:00Z' }, all: [1, 'a'], x: { 'a-b': null } },
      `    moored: { props: { at: new Date('2026-03-02T09:30:00Z'), all: [1, 'a'], x: { 'a-b': null } } },`,
    ],
    [
      'on lines of their own',
      `    moored: {\n      props: {\n        depth: 3, // metres\n      },\n    },`,
      { depth: 4, name: 'x', open: true },
      `    moored: {
      props: {
        depth: 4, // metres
        name: 'x',
        open: true,
      },
    },`,
    ],
    [
      'without a comma at the end',
      `    moored: {\n      props: {\n        depth: 3 // metres\n      }\n    }`,
      { name: 'x' },
      `    moored: {\n      props: {\n        depth: 3, // metres\n        name: 'x'\n      }\n    }`,
    ],
    [
      'beside a comment',
      `    moored: {\n      // nothing yet\n    },`,
      { depth: 4 },
      `    moored: {\n      // nothing yet\n      props: { depth: 4 },\n    },`,
    ],
    [
      'under a name in quotes',
      `    'at sea': { props: { depth: 3 } },\n    moored: { props: { depth: 3 } },`,
      { depth: 4 },
      `    'at sea': { props: { depth: 3 } },\n    moored: { props: { depth: 4 } },`,
    ],
  ])('puts %s where it belongs', (_, before, props, after) => {
    expect(kept(file(before), { look: 'moored', as: null, props })).toBe(file(after));
  });

  it('makes a look of its own of what is on the stage, without the script', () => {
    const before = `    free: { props: { vessel: null, depth: 2 } },
    moored: { after: 'free', answers: {}, props: { depth: 3 }, async script() {} },`;
    const text = kept(file(before), { look: 'moored', as: 'moored deep', props: { depth: 9 } });
    expect(text).toBe(file(`${before}\n    'moored deep': { props: { vessel: null, depth: 9 }, answers: {} },`));
  });

  it.each<[string, string, Partial<Keeping>, RegExp]>([
    ['states from elsewhere', `export default looks(Berth, { states });`, {}, /states are not written out/],
    ['a state that is made of others', file('    other: {},'), {}, /“moored” is not written out among the states/],
    ['a state from elsewhere', file('    moored: other,'), {}, /“moored” is not written out/],
    ['props from elsewhere', file('    moored: { props: common },'), {}, /props of “moored” are not written out/],
    ['what is spread over them', file('    moored: { props: { depth: 1, ...common } },'), {}, /spread after “depth”/],
    [
      'what is spread over the state',
      file('    moored: { props: { depth: 1 }, ...common },'),
      {},
      /spreads after its props/,
    ],
    ['a method', file('    moored: { props: { depth() {} } },'), {}, /is a method or an accessor/],
    ['a name that is taken', file('    moored: {},'), { as: 'moored' }, /a look called “moored” already/],
    ['nothing', file('    moored: {},'), { props: {} }, /nothing to keep/],
    ['what cannot be read', 'const = {', {}, /fix its code first/],
    ['no looks', 'export default 4;', {}, /calls no looks/],
  ])('says why it cannot keep: %s', (_, source, more, message) => {
    expect(why(source, { look: 'moored', as: null, props: { depth: 4 }, ...more })).toMatch(message);
  });
});

/** A look file in a style of its own. */
function random(seed: number): { source: string; look: string } {
  const next = chance(seed);
  const one = <T>(...of: T[]): T => of[Math.floor(next() * of.length)]!;
  const quote = one("'", '"');
  const q = (text: string): string => `${quote}${text}${quote}`;
  const semicolon = one(';', '');
  const indent = one('  ', '    ', '\t');
  const trailing = one(',', '');
  const newline = one('\n', '\r\n');
  const comment = (): string => one('', '', ' /* as measured */', ' // as measured, so it stays: { }');
  const value = (name: string): string =>
    name === 'depth'
      ? one('3', '-1', '2 * 3', 'deep')
      : name === 'open'
        ? one('true', 'false')
        : name === 'fees'
          ? one('[]', '[1, 2]', 'fees')
          : q(one('Aliseo', 'a, b', '}', ''));
  const props = (depth: number): string => {
    const names = ['vessel', 'depth', 'open', 'fees'].filter(() => next() < 0.5);
    const entries = names.map((name) =>
      name === 'fees' && next() < 0.3 ? 'fees' : `${next() < 0.15 ? q(name) : name}: ${value(name)}`,
    );
    if (next() < 0.2) entries.unshift('...common');
    if (entries.length === 0) return '{}';
    const lines = entries.map(
      (entry, i) => `${indent.repeat(depth + 1)}${entry}${i < entries.length - 1 || trailing ? ',' : ''}${comment()}\n`,
    );
    if (next() < 0.5) return `{\n${lines.join('')}${indent.repeat(depth)}}`;
    return `{ ${entries.join(', ')}${trailing && next() < 0.3 ? ',' : ''} }`;
  };
  const state = (): string => {
    const parts = [
      ...(next() < 0.8 ? [`props: ${props(3)}`] : []),
      ...(next() < 0.3 ? [`patience: 500`] : []),
      ...(next() < 0.3 ? ['async script() {}'] : []),
    ];
    if (parts.length === 0) return '{}';
    if (next() < 0.4) return `{ ${parts.join(', ')} }`;
    const comma = (i: number): string => (i < parts.length - 1 || trailing ? ',' : '');
    const lines = parts.map((part, i) => `${indent.repeat(3)}${part}${comma(i)}\n`);
    return `{\n${lines.join('')}${indent.repeat(2)}}`;
  };
  const names = ['moored', 'at sea', 'free', 'x1'].slice(0, 1 + Math.floor(next() * 4));
  const written = names.map(
    (name, i) =>
      `${indent.repeat(2)}${/ /.test(name) ? q(name) : name}: ` +
      `${state()}${i < names.length - 1 || trailing ? ',' : ''}${comment()}\n`,
  );
  const definition =
    `{\n${indent}props: { name: ${q('C-14')}, vessel: null },\n${indent}states: ` +
    `{\n${written.join('')}${indent}}${trailing}\n}`;
  const call = one(
    (text: string) => `export default looks(Berth, ${text})${semicolon}`,
    (text: string) => `const definition = ${text}${semicolon}\nexport default looks(Berth, definition)${semicolon}`,
  );
  const source =
    `import { looks } from ${q('sguardo')}${semicolon}\nimport { Berth } from ${q('./Berth')}${semicolon}\n\nconst ` +
    `deep = 9${semicolon}\nconst fees = [4]${semicolon}\nconst common = { open: true ` +
    `}${semicolon}\n${call(definition)}\n`;
  return { source: source.replaceAll('\n', newline), look: one(...names) };
}

/** What a text has that another has not, between what both begin and end with. */
function changedPart(before: string, after: string): string {
  let start = 0;
  while (start < before.length && before[start] === after[start]) start++;
  let end = 0;
  while (end < before.length - start && before.at(-1 - end) === after.at(-1 - end)) end++;
  return before.slice(start, before.length - end);
}

describe('200 look files of every style', () => {
  const cases = Array.from({ length: 200 }, (_, i) => {
    const { source, look } = random(i + 1);
    const next = chance(1000 + i);
    const all: Record<string, unknown> = { vessel: "Nostra 'Signora'", depth: 7.5, open: true, fees: [1, 2, 3] };
    const names = Object.keys(all).filter(() => next() < 0.5);
    const props = Object.fromEntries((names.length > 0 ? names : ['depth']).map((name) => [name, all[name]]));
    return { source, keeping: { look, as: next() < 0.3 ? 'kept here' : null, props } };
  });

  it('declare what was kept, and all else as before', () => {
    let refused = 0;
    for (const { source, keeping } of cases) {
      const result = keep('src/Berth.look.tsx', source, keeping);
      if ('why' in result) {
        refused++;
        continue;
      }
      const before = declared(source);
      const after = declared(result.text);
      const name = keeping.as ?? keeping.look;
      const expected = { ...before.states[keeping.look]?.props, ...keeping.props };
      expect(after.states[name]?.props, result.text).toEqual(expected);
      const { [name]: _, ...others } = after.states;
      const { [name]: __, ...othersBefore } = before.states;
      expect(Object.keys(others), result.text).toEqual(Object.keys(othersBefore));
      expect(Object.entries(others).map(([, one]) => one.props)).toEqual(
        Object.entries(othersBefore).map(([, one]) => one.props),
      );
      // Commas and white space aside, nothing of the file is lost but the values that gave way, and no comment is.
      const dense = (text: string): string => text.replace(/[,\s]/g, '');
      if (keeping.as !== null) expect(changedPart(dense(source), dense(result.text)), result.text).toBe('');
      const comments = (text: string): number => text.split('as measured').length;
      expect(comments(result.text), result.text).toBe(comments(source));
      expect(result.text.includes('\r\n')).toBe(source.includes('\r\n'));
      if (source.includes('\r\n')) expect(result.text.replaceAll('\r\n', '')).not.toContain('\n');
    }
    expect(refused).toBe(0);
  });

  it('still type-check', () => {
    const files = Object.fromEntries(
      cases.map(({ source, keeping }, i) => [`src/Berth${i}.look.tsx`, kept(source, keeping)]),
    );
    const folder = project({
      'tsconfig.json': JSON.stringify({ extends: join(repository, 'demo/harbour/tsconfig.json'), include: ['src'] }),
      'src/Berth.tsx':
        'export const Berth = (_: { name: string; vessel: string | null; depth?: number; open?: boolean; ' +
        'fees?: number[] }) => null;',
      ...files,
    });
    const compiler = join(repository, 'node_modules/typescript7/bin/tsc');
    expect(spawnSync(process.execPath, [compiler, '-p', folder], { encoding: 'utf8' }).stdout).toBe('');
  });
});
