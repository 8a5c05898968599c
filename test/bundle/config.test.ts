/** The configuration file, and everything that can be wrong with it. */
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { readConfig } from '../../src/bundle/index.ts';
import { findConfig } from '../../src/client/project.ts';
import type { Settings } from '../../src/core/settings/config.ts';
import { defaultEnvironment } from '../../src/core/settings/environment.ts';
import { type Problem, toProblem } from '../../src/core/problem/problem.ts';
import { freshFolder, project, write } from '../support/project.ts';

const settingsOf = (config: string, files: Record<string, string> = {}): Promise<Settings> =>
  readConfig(join(project({ 'sguardo.config.ts': config, ...files }), 'sguardo.config.ts'));
const problemOf = (config: string): Promise<Problem> =>
  settingsOf(config).then(
    () => {
      throw new Error('it was accepted');
    },
    (error: unknown) => toProblem(error),
  );

describe('a configuration', () => {
  it('has a default for everything', async () => {
    expect(await settingsOf('export default {};')).toEqual({
      looks: ['**/*.look.tsx', '**/*.look.jsx', '**/*.look.ts', '**/*.look.js'],
      frame: null,
      baselines: 'baselines',
      environments: [defaultEnvironment],
      markAttribute: 'data-testid',
      unanswered: 'fail',
      openapi: null,
      failsOn: [],
      patience: 2000,
      settle: 1000,
      timeLimit: 15000,
      now: '2026-03-02T09:30:00Z',
      lanes: 4,
      isolate: null,
      clock: 'look',
      compares: 'both',
      allowed: [],
      reasons: 'rejections',
      family: null,
      network: [],
      accessibility: { failsOn: null, accepted: [] },
      coverage: { include: ['**'], exclude: [], thresholds: {} },
      keep: 50,
    });
  });

  it('fills in what an environment leaves out', async () => {
    const { environments } = await settingsOf(
      "export default { environments: { phone: { viewport: [390, 700], ratio: 2 }, night: { scheme: 'dark' } } };",
    );
    expect(environments).toEqual([
      { ...defaultEnvironment, name: 'phone', viewport: [390, 700], ratio: 2 },
      { ...defaultEnvironment, name: 'night', scheme: 'dark' },
    ]);
  });

  it('finds the frame by its usual name', async () => {
    expect((await settingsOf('export default {};', { 'sguardo.frame.tsx': 'export default () => null;' })).frame).toBe(
      'sguardo.frame.tsx',
    );
  });

  it('may be typed and may import', async () => {
    const settings = await settingsOf(
      `import type { Config } from 'sguardo/config';
import { lanes } from './lanes';
export default { lanes, baselines: false } satisfies Config;`,
      { 'lanes.ts': 'export const lanes: number = 2;' },
    );
    expect(settings).toMatchObject({ lanes: 2, baselines: null });
  });
});

describe('a wrong configuration', () => {
  it.each([
    [
      'a mistyped entry',
      'export default { enviroments: {} };',
      'config-wrong',
      /there is no entry “enviroments”/,
      /Did you mean “environments”\?/,
    ],
    [
      'an entry that is like none',
      'export default { zzz: 1 };',
      'config-wrong',
      /there is no entry “zzz”/,
      /Entries are: looks, frame, baselines/,
    ],
    [
      'a mistyped entry of an environment',
      'export default { environments: { day: { veiwport: [1, 2] } } };',
      'config-wrong',
      /“environments\.day\.veiwport”|“day\.veiwport”/,
      /Did you mean “viewport”\?/,
    ],
    [
      'a wrong kind of value',
      "export default { lanes: 'four' };",
      'config-wrong',
      /lanes must be a number, got “four”\.$/,
      /docs\/configuration\.md/,
    ],
    [
      'no look files at all',
      'export default { looks: [] };',
      'config-wrong',
      /looks needs at least 1 entry\.$/,
      /docs/,
    ],
    [
      'a number out of bounds',
      'export default { lanes: 99 };',
      'config-wrong',
      /lanes must be less than or equal to 16/,
      /docs/,
    ],
    [
      'a viewport that is none',
      'export default { environments: { day: { viewport: [1280] } } };',
      'config-wrong',
      /viewport must be \[width, height\]/,
      /docs/,
    ],
    [
      'a time zone that is none',
      "export default { environments: { day: { timeZone: 'Mars/Base' } } };",
      'config-wrong',
      /time zone such as Europe\/Rome/,
      /docs/,
    ],
    [
      'a language that is none',
      "export default { environments: { day: { locale: '!!' } } };",
      'config-wrong',
      /language tag such as en-GB/,
      /docs/,
    ],
    ['a date that is none', "export default { now: 'yesterday' };", 'config-wrong', /now must be a date/, /docs/],
    [
      'a name that cannot be a folder',
      "export default { environments: { 'a/b': {} } };",
      'config-wrong',
      /“a\/b” cannot be an environment's name/,
      /letters, digits/,
    ],
    [
      'a frame that is not there',
      "export default { frame: 'lost.tsx' };",
      'frame-missing',
      /The frame lost\.tsx named in .*sguardo\.config\.ts does not exist/,
      /correct the path/,
    ],
    ['nothing', 'export default null;', 'config-empty', /exports no configuration/, /End it with: export default/],
    ['a syntax error', 'export default { lanes: ;', 'config-threw', /could not be read/, /Fix the file/],
    ['something that throws', "throw new Error('no wind');", 'config-threw', /no wind/, /Fix the file/],
  ])('%s', async (_what, config, code, message, remedy) => {
    expect(await problemOf(config)).toMatchObject({
      code,
      message: expect.stringMatching(message),
      remedy: expect.stringMatching(remedy),
    });
  });
});

it('says where a file cannot be read', async () => {
  expect(await problemOf('export default {\n  lanes: ;\n};')).toMatchObject({
    place: 'sguardo.config.ts:2:10',
    frame: expect.stringMatching(/▸ 2 │ {3}lanes: ;/),
  });
  expect(await problemOf("import x from './nowhere';\nexport default x;")).toMatchObject({
    place: 'sguardo.config.ts:1:1',
  });
});

describe('what is compared', () => {
  it.each([
    ["{ leaveOut: [{ target: '.clock' }] }", 'compare.leaveOut[0].why'],
    ["{ leaveOut: [{ target: '.clock', why: ' ' }] }", 'compare.leaveOut[0].why must say why'],
    ['{ tolerate: [0.2] }', 'compare.tolerate[0] must be “anti-aliasing”, or { upTo, in, why } for one part'],
    ["{ tolerate: [{ upTo: 0.2, in: '.chart' }] }", 'compare.tolerate[0].why'],
    ["{ tolerate: [{ upTo: 2, in: '.chart', why: 'x' }] }", 'compare.tolerate[0].upTo'],
    ["{ tolerate: [{ upTo: 0.1, why: 'x' }] }", 'compare.tolerate[0].in'],
    ["{ what: 'pixels' }", 'compare.what'],
    ['{ threshold: 0.1 }', 'threshold'],
  ])('%s is refused with its place', async (compare, said) => {
    const { code, message } = await problemOf(`export default { compare: ${compare} };`);
    expect([code, message.includes(said)]).toEqual(['config-wrong', true]);
  });
});

describe('the project', () => {
  it('is the nearest folder above that has a configuration', () => {
    const folder = project({ 'src/berths/x.txt': '' });
    expect(findConfig(join(folder, 'src/berths'))).toBe(join(folder, 'sguardo.config.ts'));
  });

  it('is missed with a way out', () => {
    const folder = freshFolder();
    write(folder, { 'x.txt': '' });
    // Nothing above the tests has a configuration.
    expect(() => findConfig(folder)).toThrow(/There is no sguardo\.config\.ts in /);
  });
});
