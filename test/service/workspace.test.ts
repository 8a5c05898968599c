/** A project that is one package of a workspace: what lies in the others is behind its looks as its own files are. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { RunRequest } from '../../src/core/run/run.ts';
import { sguardo } from '../support/cli.ts';
import { configuration, freshFolder, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const card = (text: string): string => `export function Card({ berth }: { berth: string }) {
  return (
    <section>
      <h2>{berth}</h2>
      <button type="button">${text}</button>
    </section>
  );
}
`;
const files = {
  'tsconfig.base.json': '{ "compilerOptions": { "jsx": "react-jsx" } }',
  'package-lock.json': '{}',
  'packages/kit/Card.tsx': card('Release berth'),
  'apps/office/package.json': '{ "dependencies": { "react": "19" } }',
  'apps/office/sguardo.config.ts': configuration({
    patience: 200,
    looks: ['src/*.look.tsx', '../../packages/**/*.look.tsx'],
  }),
  'apps/office/src/Card.look.tsx': `import { looks } from 'sguardo';
import { Card } from '../../../packages/kit/Card.tsx';
export default looks(Card, { props: { berth: 'C-14' }, states: { office: {} } });
`,
  'apps/office/src/Tide.look.tsx': `import { looks } from 'sguardo';
export default looks(() => <p>Tide</p>, { states: { high: {} } });
`,
  'packages/kit/Card.look.tsx': `import { ensure, looks, the } from 'sguardo';
import { Card } from './Card.tsx';
export default looks(Card, { props: { berth: 'A-1' }, states: { kit: { async script() {
  await ensure(the.button('Release berth')).isVisible();
} } } });
`,
};

describe('a package of a workspace', () => {
  let root: string;
  let office: string;
  let served: Served;
  const git = (...args: string[]): string =>
    execFileSync('git', ['-C', root, '-c', 'user.name=Ada', '-c', 'user.email=ada@harbour.test', ...args], {
      encoding: 'utf8',
    });
  /** What a run has run itself. */
  const ran = async (request: Partial<RunRequest> = {}): Promise<string[]> => {
    const { run } = await served.run(request);
    return (await served.client.runResults(run.id, true)).map(({ look, verdict }) => `${look} ${verdict}`).sort();
  };

  beforeAll(async () => {
    root = freshFolder();
    office = join(root, 'apps/office');
    write(root, files);
    git('init', '--quiet', '--initial-branch', 'main');
    served = await serve(office);
    await served.run();
    await served.client.decide({ kind: 'approve', all: true });
    await served.run();
    write(root, { '.gitignore': '.sguardo\n' });
    git('add', '.');
    git('commit', '--quiet', '--message', 'all');
  });

  it('has looks beside it, which are approved and taken over as its own', async () => {
    expect(await ran()).toEqual([]);
  });

  it('has what others have changed run, told with its line, and with the edit that did it', async () => {
    write(root, { 'packages/kit/Card.tsx': card('Let go') });
    expect(await ran({ changed: 'HEAD' })).toEqual(['kit failed', 'office changed']);
    const { out } = await sguardo(office, 'causes', 'office', '--edits');
    expect(out).toContain('text of the button: “Release berth” → “Let go”');
    expect(out).toContain('../../packages/kit/Card.tsx:5');
    expect(out).toContain('✓ This edit did it: without it the change is gone.');
    const { out: why } = await sguardo(office, 'why', 'kit');
    expect(why).toContain('../../packages/kit/Card.tsx:5 · not committed yet');
    write(root, { 'packages/kit/Card.tsx': files['packages/kit/Card.tsx'] });
    expect(await ran()).toEqual([]);
  });

  it('says where a component of another package throws', async () => {
    write(root, {
      'packages/kit/Card.tsx': card('Let go').replace(
        'return',
        "if (berth === 'C-14') throw new Error('adrift');\n  return",
      ),
    });
    const { look } = await served.run();
    expect(look('office').problem?.place).toMatch(/^\.\.\/\.\.\/packages\/kit\/Card\.tsx:2:/);
    write(root, { 'packages/kit/Card.tsx': files['packages/kit/Card.tsx'] });
  });

  it('depends on the settings above it', async () => {
    expect(await ran()).toEqual([]);
    write(root, { 'tsconfig.base.json': '{ "compilerOptions": { "jsx": "react-jsx", "strict": true } }' });
    expect(await ran({ changed: 'HEAD' })).toEqual(['high passed', 'kit passed', 'office passed']);
  });
});
