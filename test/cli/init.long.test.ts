/** `sguardo init` from the command line: nothing is written unasked, nothing that is there is changed. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { freshFolder, write } from '../support/project.ts';
import { sguardo } from '../support/cli.ts';

const files = {
  'package.json': '{ "dependencies": { "react": "19" } }',
  'src/Berth.tsx': 'export const Berth = (p: { name: string; onRelease(): void }) => <b>{p.name}</b>;',
};

describe('sguardo init', () => {
  it('shows what it would write, writes it when told to, runs it, and does so once', async () => {
    const root = freshFolder();
    write(root, files);
    const config = join(root, 'sguardo.config.ts');
    const dry = await sguardo(root, 'init', '--dry-run');
    expect(dry).toMatchObject({ code: 0, err: '' });
    expect(dry.out).toMatch(/framework +react 19/);
    expect(dry.out).toContain("+++ src/Berth.look.tsx\n+ import { looks, spy } from 'sguardo/react';");
    expect(existsSync(config)).toBe(false);
    const unasked = await sguardo(root, 'init');
    expect(unasked.code).toBe(2);
    expect(unasked.err).toContain('Nothing was written: there is no terminal to ask in.');
    expect(existsSync(config)).toBe(false);
    const { code, out } = await sguardo(root, 'init', '--yes');
    expect(code).toBe(0);
    expect(out).toContain('✓ sguardo.config.ts\n✓ sguardo.frame.tsx\n✓ src/Berth.look.tsx\n');
    expect(out).toMatch(/\+ Berth › default[\s\S]*new[\s\S]*console: http:\/\/127\.0\.0\.1:/);
    expect(readFileSync(config, 'utf8')).toContain('satisfies Config');
    const again = await sguardo(root, 'init', '--yes');
    expect(again.code).toBe(2);
    expect(again.err).toContain('sguardo.config.ts is there already: this project is set up.');
  });

  it('says which packages there are, and takes one of them', async () => {
    const root = freshFolder();
    write(root, {
      'package.json': '{ "workspaces": ["apps/*"] }',
      ...Object.fromEntries(
        ['office', 'pilots'].flatMap((name) =>
          Object.entries(files).map(([path, text]) => [`apps/${name}/${path}`, text]),
        ),
      ),
    });
    const asked = await sguardo(root, 'init', '--yes');
    expect(asked.code).toBe(2);
    expect(asked.err).toContain('with --package and one of these: apps/office, apps/pilots');
    const { out } = await sguardo(root, 'init', '--dry-run', '--package', 'apps/pilots');
    expect(out).toMatch(/project +apps\/pilots/);
  });
});
