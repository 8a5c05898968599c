/** The documentation: its examples run, and its reference says what the code says. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { checkNames } from '../../src/language/ensure.ts';
import * as words from '../../src/language/index.ts';
import { env, program, said } from '../support/cli.ts';
import { copyOf, lookFile, project, repository, write } from '../support/project.ts';
import { serve } from '../support/service.ts';
import { referenceText, rulesText } from '../../scripts/reference.ts';

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

it('the reference tells of every word that a look file imports, and of every check', () => {
  const text = page('reference.md');
  const checks = (['target', 'spy', 'answer', 'value'] as const).flatMap(checkNames).filter((name) => name !== 'not');
  const missing = [
    ...Object.keys(words).filter((word) => !new RegExp(`^### \`${word}\\b`, 'm').test(text)),
    ...checks.filter((check) => !text.includes(`| \`${check}(`)),
  ];
  expect(missing).toEqual([]);
  expect(checks.length).toBeGreaterThan(25);
});

it('the rules of accessibility are those of the code', () => {
  expect(page('accessibility.md')).toBe(rulesText());
});

describe('recipes for CI', () => {
  const blocks = [...page('ci.md').matchAll(/```(sh|yaml)\n([\s\S]*?)```/g)].map(([, kind, text]) => ({
    kind,
    text: text!,
  }));
  type Job = { steps?: { run?: string }[]; script?: string[] };
  /** What each recipe has its shell do with Sguardo. */
  const commands = blocks.flatMap(({ kind, text }) => {
    if (kind === 'sh') return [text.trim()];
    const read = parse(text) as { jobs?: Record<string, Job>; looks?: Job };
    const job = read.jobs?.looks ?? read.looks!;
    const lines = job.script ?? job.steps!.flatMap(({ run }) => run ?? []);
    return lines.filter((line) => line.includes('sguardo'));
  });

  it('there is one for a plain shell, for GitHub and for GitLab', () => {
    expect(commands).toHaveLength(3);
  });

  let root: string;

  beforeAll(async () => {
    const states = `a: { props: { name: 'A' } }`;
    root = project({ 'src/Buoy.look.tsx': lookFile('return <p>{props.name}</p>;', states) });
    await serve(root);
  });

  it.each(commands)('%s', async (command) => {
    const shim = `npx() { shift; "${process.execPath}" "${program}" "$@"; }\n${command}`;
    const around = {
      cwd: root,
      env: { ...env, CI: 'true' },
      stdio: ['ignore', 'pipe', 'pipe'] as ['ignore', 'pipe', 'pipe'],
    };
    const { code, out } = await said(spawn('bash', ['-c', shim], around));
    // Nobody has approved it yet, which CI does not let pass.
    expect(out).toContain('src/Buoy.look.tsx:3: new: Buoy › a, day');
    expect(code).toBe(1);
    for (const [, path] of command.matchAll(/=([\w./]+\.\w+)/g)) expect(existsSync(join(root, path!)), path).toBe(true);
  });
});
