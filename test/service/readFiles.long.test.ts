/** Looks depend on files that no module imports: what sheets show, what plugins read, what workers are made of. */
import { describe, expect, it } from 'vitest';
import { configuration, lookFile, plainFile, project, swatch, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

describe('a plugin that reads every file of a project, as those do that look for classes', () => {
  it('makes no look depend on what was approved', async () => {
    const reader = `import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
const root = import.meta.dirname;
export default {
  plugins: [
    {
      name: 'classes',
      transform(code, id) {
        if (!id.includes('Quay.look')) return;
        for (const name of readdirSync(root, { recursive: true }))
          if (!/node_modules|\\.sguardo/.test(name) && statSync(join(root, name)).isFile())
            this.addWatchFile(join(root, name));
      },
    },
  ],
};`;
    const folder = project({
      'vite.config.mjs': reader,
      'words.txt': 'moored',
      'sguardo.config.ts': configuration({ patience: 200 }),
      'src/Quay.look.tsx': plainFile('return <p className="moored">quay</p>;', 'plain: {}'),
    });
    const { client, run } = await serve(folder);
    await run();
    await client.decide({ kind: 'approve', all: true });
    write(folder, { 'words.txt': 'adrift', 'baselines/day/src/Quay/note.txt': 'nothing' });
    expect((await run()).run.reused).toBe(0);
    expect((await run()).run.reused).toBe(1);
    write(folder, { 'baselines/day/src/Quay/note.txt': 'something' });
    expect((await run()).run.reused).toBe(1);
  });

  it('makes looks depend on what comes of their sheet, not on each of the files', async () => {
    const sheet = `import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
const root = import.meta.dirname;
export default { plugins: [{
  name: 'classes',
  enforce: 'pre',
  transform(code, id) {
    if (!id.endsWith('sea.css')) return;
    this.addWatchFile(join(root, 'src/**/*.{ts,tsx}'));
    const found = new Set();
    for (const name of readdirSync(join(root, 'src'))) {
      this.addWatchFile(join(root, 'src', name));
      const text = readFileSync(join(root, 'src', name), 'utf8');
      for (const [, width] of text.matchAll(/wide-([0-9]+)/g)) found.add(width);
    }
    return code + [...found].sort().map((width) => '.wide-' + width + '{width:' + width + 'px}').join(' ');
  },
}] };`;
    const quay = (text: string, width: number): string =>
      plainFile(`return <p className="wide-${width}">${text}</p>;`, 'plain: {}', "import './sea.css';\n");
    const folder = project({
      'vite.config.mjs': sheet,
      'sguardo.config.ts': configuration({ patience: 200 }),
      'src/sea.css': 'p { color: navy }',
      'src/East.look.tsx': quay('East', 80),
      'src/West.look.tsx': quay('West', 80),
    });
    const { client, run } = await serve(folder);
    const verdicts = async (): Promise<string[]> => {
      const { run: summary } = await run();
      const own = await client.runResults(summary.id, true);
      return own.map(({ component, verdict }) => `${component.replace('src/', '')} ${verdict}`).sort();
    };
    await run();
    await client.decide({ kind: 'approve', all: true });
    expect(await verdicts()).toEqual(['East passed', 'West passed']);
    expect(await verdicts()).toEqual([]);
    write(folder, { 'src/East.look.tsx': quay('East quay', 80) });
    expect(await verdicts()).toEqual(['East changed']);
    // A class that nobody had before changes the sheet of both.
    write(folder, { 'src/East.look.tsx': quay('East', 90) });
    expect(await verdicts()).toEqual(['East changed', 'West passed']);
    // One that cannot be built says nothing of what the others have; they stay as they were.
    write(folder, { 'src/East.look.tsx': quay('East', 80) });
    expect(await verdicts()).toEqual([]);
    write(folder, { 'src/East.look.tsx': 'export default {;' });
    expect(await verdicts()).toEqual(['East broken']);
  });
});

describe('a file that no module imports', () => {
  // Larger than what is put into a sheet itself.
  const large = (colour: string): string => `${swatch(colour)}<!--${'~'.repeat(6000)}-->`;
  const sources = {
    'vite.config.mjs': `export default { resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } } };`,
    'src/quay.css': `p { height: 20px; background: url('./wave.svg?v=1') } i { background: url(@/sand.svg) }`,
    'src/wave.svg': large('navy'),
    'src/sand.svg': large('khaki'),
    'src/flag.svg': large('teal'),
    'src/quay.module.css': `.deep { composes: sea from './sea.module.css'; display: block }`,
    'src/sea.module.css': '.sea { color: navy }',
    'src/crane.ts': `import { lift } from './lift.ts';\npostMessage(lift);`,
    'src/lift.ts': 'export const lift = 1;',
    'src/Quay.look.tsx': `import './quay.css';
import styles from './quay.module.css';
${lookFile(
  `const flag = new URL('./flag.svg', import.meta.url).href;
  const work = () => new Worker(new URL('./crane.ts', import.meta.url), { type: 'module' });
  return <p className={styles.deep} onClick={work}><i>Quay</i><img src={flag} /></p>;`,
  'plain: {}',
)}`,
  };

  it('is behind the looks that show it all the same', async () => {
    const folder = project({ ...sources, 'sguardo.config.ts': configuration({ patience: 200 }) });
    const { client, run } = await serve(folder);
    await run();
    await client.decide({ kind: 'approve', all: true });
    await run();
    expect((await run()).run.reused).toBe(1);
    const changes = {
      'src/wave.svg': large('green'),
      'src/sand.svg': large('olive'),
      'src/flag.svg': large('red'),
      'src/sea.module.css': '.sea { color: red }',
      'src/lift.ts': 'export const lift = 2;',
    };
    for (const [name, text] of Object.entries(changes)) {
      write(folder, { [name]: text });
      expect([name, (await run()).run.reused]).toEqual([name, 0]);
      write(folder, { [name]: sources[name as keyof typeof sources] });
      expect((await run()).run.tally.passed).toBe(1);
    }
  });
});

describe('a sheet that refers to files', () => {
  it('has only what has changed run, however often it was made', async () => {
    const quay = (text: string): string => plainFile(`return <p>${text}</p>;`, 'plain: {}', "import './quay.css';\n");
    const wave = `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><!--${'~'.repeat(6000)}--></svg>`;
    const folder = project({
      'sguardo.config.ts': configuration({ patience: 200 }),
      'src/quay.css': `p { height: 20px; background: url('./wave.svg#sea') }`,
      'src/wave.svg': wave,
      'src/East.look.tsx': quay('East'),
      'src/West.look.tsx': quay('West'),
    });
    const { client, run } = await serve(folder);
    await run();
    await client.decide({ kind: 'approve', all: true });
    await run();
    for (const text of ['East 1', 'East 2', 'East 3']) {
      write(folder, { 'src/East.look.tsx': quay(text) });
      expect([text, (await run()).run.reused]).toEqual([text, 1]);
    }
  });
});
