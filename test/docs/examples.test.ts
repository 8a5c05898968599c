/** The documentation: its examples run, and its reference says what the code says. */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { copyOf, repository, write } from '../support/project.ts';
import { serve } from '../support/service.ts';
import { referenceText } from '../../scripts/reference.ts';

const page = (name: string): string => readFileSync(join(repository, 'docs', name), 'utf8');

/** The look files in a page. */
const examplesIn = (name: string): string[] =>
  [...page(name).matchAll(/^```tsx look\n([\s\S]*?)^```$/gm)].map(([, code]) => code!);

describe.each(['looks.md', 'guide.md'])('docs/%s', (name) => {
  const examples = examplesIn(name);

  it('has examples that run, and are as they should be', async () => {
    const folder = copyOf('demo/harbour');
    write(folder, {
      'sguardo.config.ts': 'export default { baselines: false, environments: { day: { viewport: [900, 640] } } };',
      ...Object.fromEntries(examples.map((code, i) => [`src/Example${i}.look.tsx`, code])),
    });
    const { results } = await (await serve(folder)).run({ patterns: ['Example'] });
    const wrong = results.filter(({ verdict, notes }) => verdict !== 'new' || notes.length > 0);
    expect(wrong.map(({ component, look, problem, notes }) => [component, look, problem, notes])).toEqual([]);
    expect(results.length).toBeGreaterThan(examples.length);
  });

  it('has examples that the compiler accepts', () => {
    const folder = copyOf('demo/harbour');
    write(folder, {
      'tsconfig.json': JSON.stringify({
        extends: join(repository, 'demo/harbour/tsconfig.json'),
        include: ['src', '*.tsx'],
      }),
      ...Object.fromEntries(examples.map((code, i) => [`src/Example${i}.look.tsx`, code])),
    });
    const compiler = join(repository, 'node_modules/typescript7/bin/tsc');
    expect(spawnSync(process.execPath, [compiler, '-p', folder], { encoding: 'utf8' }).stdout).toBe('');
  });
});

it('the reference is what the doc comments say', () => {
  expect(page('reference.md')).toBe(referenceText());
});
