/** Which edits did what was changed: looks that are run again without them, through the service. */
import { execFileSync } from 'node:child_process';
import { cpSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { FoundEdits } from '../../src/core/cause/found.ts';
import { sguardo } from '../support/cli.ts';
import { freshFolder, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const files = {
  'sguardo.frame.tsx': `import './kit.css';
export default function Frame({ children }: { children: React.ReactNode }) { return <>{children}</>; }
`,
  'kit.css': "@import './tokens.css';\n.card { padding: 12px }\n",
  'tokens.css': ':root {\n  --ink: #222;\n  --calm: #2c7a4b;\n}\n',
  // A theme in JavaScript, whose values no style sheet has.
  'src/theme.ts': `const base = 4;
export const theme = {
  gap: base * 3,
  ink: mix('11', '22'),
};
function mix(one: string, other: string): string {
  return \`#\${one}\${other}33\`;
}
`,
  'src/format.ts': 'export const metres = (n: number): string => `${n.toFixed(1)} m`;\n',
  'src/berths.json': '{\n  "berths": ["North mole", "South mole"]\n}\n',
  'src/Card.tsx': `import list from './berths.json';
import { metres } from './format';
import { theme } from './theme';

export function Card({ depth, onRelease }: { depth: number; onRelease(): void }) {
  const label = 'Release';
  return (
    <section className="card" style={{ gap: theme.gap, color: theme.ink, display: 'grid' }}>
      <p>{metres(depth)}</p>
      <ul>{list.berths.map((one) => <li key={one}>{one}</li>)}</ul>
      <button type="button" onClick={onRelease}>{label}</button>
      <div style={{ background: 'var(--calm)', height: 10 }} />
    </section>
  );
}
`,
  'src/Card.look.tsx': `import { click, ensure, looks, spy, the } from 'sguardo';
import { Card } from './Card';
export default looks(Card, {
  props: { depth: 3, onRelease: spy() },
  states: {
    plain: {},
    releases: { async script({ props }) { await click(the.button()); await ensure(props.onRelease).calls(1); } },
  },
});
`,
  'src/sea.ts': `export const calm = 1;

export const sea = "#0066cc";

export const wind = 2;

export const reach = "40px";
`,
  // What a script has told the document of properties is in the picture, and in no moment.
  'src/Radar.look.tsx': `import { looks } from 'sguardo';
import { calm, reach, sea, wind } from './sea';
CSS.registerProperty({ name: '--sea', syntax: '<color>', inherits: false, initialValue: sea });
CSS.registerProperty({ name: '--reach', syntax: '<length>', inherits: false, initialValue: reach });
const style = { width: 40, height: 40 };
const Radar = ({ marks, ...props }: { marks?: object }) => (
  <div style={{ ...style, ...props }} data-calm={calm > 9} data-wind={wind > 9} {...marks} />
);
export default looks(Radar, {
  states: {
    sweeps: { props: { background: 'var(--sea)' } },
    reaches: {
      props: { border: '1px solid', borderRadius: 'var(--reach)', marks: { 'data-reach': reach, 'data-far': reach } },
    },
  },
});
`,
};

/** Counts the builds of a project. */
const counting = `import { appendFileSync } from 'node:fs';
export default { plugins: [{
  name: 'counting', buildStart() { appendFileSync(import.meta.dirname + '/node_modules/builds.txt', '.'); },
}] };`;

/** What was found, in short: file and line of each hunk, by the beginning of the cause's title. */
async function found({ client }: Served, look: string): Promise<Record<string, string[]>> {
  const { causes } = await client.causes();
  const result = (await client.looks()).find((one) => one.look === look)!;
  const { edits } = await client.edits(result.id, 'end');
  const placed = ({ proved }: FoundEdits['edits'][number]): string[] =>
    proved.map(({ file, line }) => `${file}:${line}`);
  return Object.fromEntries(
    edits.map((edit) => [causes.find(({ key }) => key === edit.key)!.title.split(':')[0]!, placed(edit)]),
  );
}

let folder: string;
let served: Served;
const original = (name: keyof typeof files): string => files[name];

/** Writes edits over the approved project, and runs it. */
async function edited(edits: Record<string, string>): Promise<void> {
  write(folder, files);
  write(folder, edits);
  await served.run();
}

beforeAll(async () => {
  folder = project(files);
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
});

describe('the edit that did it', () => {
  it('is built without once, whichever looks of the file are asked about', async () => {
    const other = project({ ...files, 'vite.config.ts': counting, 'node_modules/builds.txt': '' });
    const there = await serve(other);
    const builds = (): number => readFileSync(join(other, 'node_modules/builds.txt'), 'utf8').length;
    await there.run();
    await there.client.decide({ kind: 'approve', all: true });
    write(other, { 'src/format.ts': original('src/format.ts').replace(' m`', ' metres`') });
    await there.run();
    const before = builds();
    const cause = { 'text of the paragraph': ['src/format.ts:1'] };
    expect(await found(there, 'plain')).toEqual(cause);
    // The look as it is was built by the run.
    expect(builds() - before).toBe(1);
    expect(await found(there, 'releases')).toEqual(cause);
    expect(builds() - before).toBe(1);
    write(other, { 'src/berths.json': '{ "berths": ["East mole", "South mole"] }' });
    await there.run();
    const since = builds();
    expect(await found(there, 'plain')).toMatchObject(cause);
    expect(builds()).toBeGreaterThan(since);
  });

  it('is found for a look that fails', async () => {
    await edited({ 'src/Card.tsx': original('src/Card.tsx').replace(' onClick={onRelease}', '') });
    const result = (await served.client.looks()).find(({ look }) => look === 'releases')!;
    expect(result.verdict).toBe('failed');
    const { edits, hunks } = await served.client.edits(result.id, null);
    expect(hunks).toBe(1);
    expect(edits[0]).toMatchObject({ proved: [{ file: 'src/Card.tsx', line: 11, commit: null }], note: null });
    const { passed, departure, uncommitted } = await served.client.since(result.id);
    expect(passed!.result).toBeLessThan(result.id);
    expect(departure).toMatchObject({
      step: 2,
      title: 'ensure onRelease was called 1 time',
      marks: expect.arrayContaining([{ side: 'then', lane: 'spies', title: 'onRelease(event click)' }]),
    });
    expect(uncommitted).toEqual([]);
    const { out, code } = await sguardo(folder, 'why', 'releases');
    expect(code).toBe(0);
    expect(out).toContain('✓ This edit did it: without it the change is gone.');
    expect(out).toContain('src/Card.tsx:11 · not committed yet');
    expect(out).toMatch(/They part at step \d+: /);
  });

  it('is found in a theme, a helper, data, a component or an imported sheet, among edits that do nothing', async () => {
    await edited({
      'src/theme.ts': original('src/theme.ts')
        .replace('base * 3', 'base * 5')
        .replace('const base', '// Pixels.\nconst base'),
      'src/format.ts': `${original('src/format.ts').replace('toFixed(1)', 'toFixed(2)')}export const unused = 1;\n`,
      'src/berths.json': original('src/berths.json').replace('South mole', 'Fish quay'),
      'tokens.css': original('tokens.css').replace('#2c7a4b', '#3a8a2e'),
      'kit.css': `${original('kit.css')}/* Nothing. */\n`,
    });
    expect(await found(served, 'plain')).toEqual({
      '--calm': ['tokens.css:3'],
      'gap of section.card': ['src/theme.ts:4'],
      'text of the list item': ['src/berths.json:2'],
      'text of the paragraph': ['src/format.ts:1'],
    });
    // Nothing on the disk was touched.
    expect(readFileSync(join(folder, 'src/format.ts'), 'utf8')).toContain('toFixed(2)');
  });

  it('is two edits where neither does it alone', async () => {
    await edited({
      'src/Card.tsx': original('src/Card.tsx')
        .replace("const label = 'Release'", "const words = 'Let go'")
        .replace('{label}', '{words}'),
    });
    expect(await found(served, 'plain')).toEqual({ 'text of the button': ['src/Card.tsx:6', 'src/Card.tsx:11'] });
    const { out } = await sguardo(folder, 'causes', 'Card/plain', '--edits');
    expect(out).toContain('✓ These edits did it together: without them it is gone.');
    expect(out).toContain("− const label = 'Release';");
  });

  it('is found where only the picture tells what has changed', async () => {
    await edited({
      'src/sea.ts': original('src/sea.ts')
        .replace('calm = 1', 'calm = 3')
        .replace('#0066cc', '#006633')
        .replace('= 2', '= 4')
        .replace('40px', '10px'),
    });
    const { causes, unexplained } = await served.client.causes();
    expect(causes.map(({ kind, captures }) => [kind, captures[0]!.look])).toEqual([['picture', 'sweeps']]);
    expect(unexplained.map(({ look }) => look)).toEqual(['reaches']);
    expect(await found(served, 'sweeps')).toEqual({ 'a colour of the picture': ['src/sea.ts:3'] });
    const { edits } = await served.client.edits(unexplained[0]!.result, 'end');
    expect(edits).toMatchObject([{ key: 'the capture has changed', proved: [{ file: 'src/sea.ts', line: 7 }] }]);
    const { out, code } = await sguardo(folder, 'why', 'Radar/reaches');
    expect(out).toContain('  It has changed.\n  ✓ This edit did it: without it the change is gone.');
    expect(code).toBe(0);
  });

  it('is not said to be another when what did it was taken back, and the look was not run again', async () => {
    await edited({
      'tokens.css': original('tokens.css').replace('#2c7a4b', '#3a8a2e'),
      'src/format.ts': original('src/format.ts').replace('toFixed(1)', 'toFixed(2)'),
    });
    write(folder, {
      'tokens.css': files['tokens.css'],
      'src/Card.tsx': original('src/Card.tsx').replace('height: 10', 'height: 14'),
    });
    expect(await found(served, 'plain')).toEqual({ '--calm': [], 'text of the paragraph': ['src/format.ts:1'] });
    const { out } = await sguardo(folder, 'why', 'Card/plain');
    expect(out).toContain(
      'It is not there any more: something behind this look has changed since it ran. Run it again.',
    );
    // The same of a look that failed.
    await edited({ 'src/Card.tsx': original('src/Card.tsx').replace(' onClick={onRelease}', '') });
    write(folder, { 'src/Card.tsx': files['src/Card.tsx'], 'src/format.ts': `// Metres.\n${files['src/format.ts']}` });
    const result = (await served.client.looks()).find(({ look }) => look === 'releases')!;
    expect((await served.client.edits(result.id, null)).edits).toMatchObject([
      { proved: [], note: expect.stringMatching(/^It is not there any more/) },
    ]);
  });

  it('is not made up where no source has changed, and the call says what is missing', async () => {
    await edited({});
    const [plain] = await served.client.looks();
    expect((await served.client.edits(plain!.id, 'end')).note).toContain('No source file behind this look has changed');
    await expect(served.client.edits(plain!.id, 'nowhere')).rejects.toMatchObject({ problem: { code: 'not-found' } });
    expect((await sguardo(folder, 'why', 'plain')).out).toBe('None of these looks has changed or fails.\n');
    expect((await sguardo(folder, 'why')).out).toBe('No look has changed or fails.\n');
    expect((await sguardo(folder, 'why', 'nobody')).code).toBe(2);
  });
});

describe('with git', () => {
  const git = (root: string, ...args: string[]): string =>
    execFileSync('git', ['-C', root, '-c', 'user.name=Ada', '-c', 'user.email=ada@example.org', ...args], {
      encoding: 'utf8',
    });

  it('a fresh clone finds the edit by the commit of the baseline, and says who made it', async () => {
    write(folder, files);
    const clone = freshFolder();
    cpSync(folder, clone, { recursive: true, filter: (path) => !path.includes('.sguardo/') });
    rmSync(join(clone, '.sguardo'), { recursive: true, force: true });
    write(clone, { '.gitignore': '.sguardo\nnode_modules\n' });
    git(clone, 'init', '-q');
    git(clone, 'add', '-A');
    git(clone, 'commit', '-qm', 'As it was approved');
    const other = await serve(clone);
    await other.run();
    write(clone, { 'src/format.ts': original('src/format.ts').replace('toFixed(1)', 'toFixed(3)') });
    git(clone, 'commit', '-qam', 'More digits');
    write(clone, { 'src/berths.json': original('src/berths.json').replace('South mole', 'Fish quay') });
    await other.run();
    const result = (await other.client.looks()).find(({ look }) => look === 'plain')!;
    const { edits } = await other.client.edits(result.id, 'end');
    expect(
      edits.map(({ proved }) => proved.map(({ file, commit }) => [file, commit?.summary, commit?.author])),
    ).toEqual(
      expect.arrayContaining([[['src/format.ts', 'More digits', 'Ada']], [['src/berths.json', undefined, undefined]]]),
    );
  });
});
