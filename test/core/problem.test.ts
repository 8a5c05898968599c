import { describe, expect, it } from 'vitest';
import { exitOf } from '../../src/cli/exits.ts';
import { catalogue } from '../../src/core/problem/catalogue.ts';
import { codeFrame } from '../../src/core/problem/codeframe.ts';
import { fail, type ProblemCode, ProblemError, problem, toProblem } from '../../src/core/problem/problem.ts';
import { statusOf } from '../../src/service/statuses.ts';

const details = new Proxy({}, { get: () => 'berth' }) as Record<string, string>;
const codes = Object.keys(catalogue) as ProblemCode[];

describe('the catalogue', () => {
  it.each(codes)('%s says what is wrong and what to do, in whole sentences', (code) => {
    const { message, remedy } = problem(code, details);
    expect(message).not.toMatch(/undefined|\[object|NaN/);
    expect(remedy).not.toMatch(/undefined|\[object|NaN/);
    expect(message.length).toBeGreaterThan(4);
    expect(remedy.length).toBeGreaterThan(4);
    expect([1, 2, 3]).toContain(exitOf(problem(code, details)));
    expect(statusOf(code)).toBeGreaterThanOrEqual(400);
  });
});

describe('problems on their way', () => {
  it('are thrown as errors that carry them', () => {
    let caught: unknown;
    try {
      fail('target-missing', { target: 'the button “Save”', patience: 2000 }, { found: ['button “Send”'] });
    } catch (error) {
      caught = error;
    }
    expect(caught).toBeInstanceOf(ProblemError);
    expect(toProblem(caught)).toEqual({
      code: 'target-missing',
      message: 'Nothing matched the button “Save” within 2000 ms.',
      remedy: expect.any(String),
      found: ['button “Send”'],
    });
  });

  it('stand for any other error with its message', () => {
    expect(toProblem(new Error('disk full')).message).toContain('disk full');
    expect(toProblem('disk full', 'script-threw').code).toBe('script-threw');
  });
});

describe('a package that is not built', () => {
  const place = '/srv/shop/node_modules';
  it.each([
    [
      'better-sqlite3',
      `Could not locate the bindings file. Tried:\n → ${place}/better-sqlite3/build/better_sqlite3.node`,
    ],
    [
      'better-sqlite3',
      'Could ' +
        'not ' +
        'locate ' +
        'the ' +
        'bindings ' +
        'file. ' +
        `Tried:\n → ${place}/.pnpm/better-sqlite3@12.1.0/node_modules/better-sqlite3/build/better_sqlite3.node`,
    ],
    [
      '@tide/level',
      `The module '${place}/@tide/level/build/level.node'\nwas compiled against a different Node.js version`,
    ],
    ['sharp', 'Could not load the "sharp" module using the linux-x64 runtime'],
  ])('is %s, with what builds it', (name, message) => {
    const told = toProblem(new Error(message));
    expect(told).toMatchObject({ code: 'package-unbuilt', message: expect.stringContaining(`package ${name},`) });
    expect(told.remedy).toContain(`npm rebuild ${name} `);
  });

  it('is nobody’s who only has an error', () => {
    expect(toProblem(new Error(`${place}/better-sqlite3 is slow`)).code).toBe('internal');
  });
});

describe('codeFrame', () => {
  const source = Array.from({ length: 12 }, (_, i) => `line ${i + 1};`).join('\n');

  it('shows the lines around a place and points at its column', () => {
    expect(codeFrame(source, { line: 10, column: 6 })).toBe(
      [
        '   8 │ line 8;',
        '   9 │ line 9;',
        '▸ 10 │ line 10;',
        '     │      ▲',
        '  11 │ line 11;',
        '  12 │ line 12;',
      ].join('\n'),
    );
  });

  it('shows the part of a long line that is meant, and points at it', () => {
    const long = `${'a'.repeat(200)}HERE${'b'.repeat(200)}`;
    const [line, pointer] = codeFrame(long, { line: 1, column: 201 }).split('\n');
    expect(line!.length).toBeLessThan(130);
    expect(line!.slice(pointer!.indexOf('▲')).startsWith('HERE')).toBe(true);
    expect(line).toMatch(/^▸ 1 │ …a+HEREb+…$/);
  });

  it('points at the column behind tabs', () => {
    const [line, pointer] = codeFrame('\t\tclick();', { line: 1, column: 3 }).split('\n');
    expect(line!.indexOf('click')).toBe(pointer!.indexOf('▲'));
  });

  it('stays inside the file', () => {
    expect(codeFrame('only', { line: 1, column: 1 })).toBe('▸ 1 │ only\n    │ ▲');
  });
});

describe('an error while rendering', () => {
  it.each([
    'Error: useTide must be used within a TideProvider',
    'Error: could not find react-redux context value; please ensure the component is wrapped in a <Provider>',
    'Error: No QueryClient set, use QueryClientProvider to set one',
    'Error: useNavigate() may be used only in the context of a <Router> component; it was called outside of a router',
    'Error: MantineProvider was not found in component tree',
  ])('that comes of a missing provider points to the frame: %s', (error) => {
    const { remedy } = problem('render-threw', { component: 'Tide', error, frame: 'sguardo.frame.vue' });
    expect(remedy).toContain('Put that into the frame, sguardo.frame.vue:');
  });

  it('that comes of a text in the place of a snippet points to the slots', () => {
    const about = { component: 'Notice', error: 'TypeError: snippet is not a function', frame: 'sguardo.frame.svelte' };
    expect(problem('render-threw', about).remedy).toContain('slots: { default: … }');
  });

  it('of another kind points to the component', () => {
    for (const error of ['TypeError: Cannot read properties of undefined', 'Error: the bilge pump failed'])
      expect(problem('render-threw', { component: 'Tide', error, frame: 'sguardo.frame.ts' }).remedy).toMatch(
        /^Fix the component/,
      );
  });
});
