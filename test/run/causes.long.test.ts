/** Why captures changed, through the service: real pages before and after an edit, drawn again by a real browser. */
import { cpSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { CauseList, Cluster } from '../../src/core/cause/cluster.ts';
import { ProblemError } from '../../src/core/problem/problem.ts';
import { sguardo } from '../support/cli.ts';
import { configuration, freshFolder, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const environments = {
  day: { viewport: [420, 300], scheme: 'light' },
  night: { viewport: [420, 300], scheme: 'dark' },
};

const sheet = `
:root { --calm: #2c7a4b; --ink: #122; color-scheme: light dark }
@media (prefers-color-scheme: dark) { :root { --calm: #6fc492; --ink: #eee } }
body { margin: 0; color: var(--ink) }
.card { padding: 12px; border: 1px solid var(--ink) }
.tone { background: var(--calm); height: 20px }
.unused { top: 0 }
.hall { height: 500px }
button:hover { background: var(--calm) }
`;

const card = (
  text: string,
  more = '',
): string => `export function Card({ name, tall }: { name: string; tall?: boolean }) {
  return (
    <section className="card">
      ${more}
      <h2>{name}</h2>
      <p>${text}</p>
      <div className="tone" />
      <button type="button">Release</button>
      {tall && <div className="hall">until the end</div>}
      {tall && <footer>Last line</footer>}
    </section>
  );
}
`;

const looks = `import { hover, looks, the } from 'sguardo';
import { Card } from './Card';
export default looks(Card, {
  props: { name: 'C-14' },
  states: {
    free: {},
    named: { props: { name: 'North mole' } },
    tall: { props: { tall: true } },
    'pointed at': { async script() { await hover(the.button('Release')); } },
  },
});
`;

const flag = `import { looks } from 'sguardo';
function Flag() { return <b>Flag</b>; }
export default looks(Flag, { states: { plain: {} } });
`;

const files = {
  'sguardo.config.ts': configuration({ environments, patience: 1500 }),
  'sguardo.frame.tsx': `import './kit.css';
export default function Frame({ children }: { children: React.ReactNode }) { return <>{children}</>; }
`,
  'kit.css': sheet,
  'src/Card.tsx': card('Free berth'),
  'src/Card.look.tsx': looks,
  'src/Flag.look.tsx': flag,
};

const titles = ({ causes }: CauseList): string[] => causes.map(({ title }) => title);
const about = ({ number, kind, title, place, proof, captures }: Cluster) => ({
  number,
  kind,
  title,
  place: place && `${place.file}:${place.line}`,
  proof,
  captures: captures.length,
});

let folder: string;
let served: Served;

beforeAll(async () => {
  folder = project(files);
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
});

describe('an unchanged project', () => {
  it('has nothing to explain', async () => {
    await served.run({ fresh: true });
    expect(await served.client.causes()).toEqual({ causes: [], changes: 0, unexplained: [], withoutBaseline: [] });
    expect((await sguardo(folder, 'causes')).out).toBe('Nothing has changed.\n');
    expect((await sguardo(folder, 'approve')).out).toBe('Nothing to approve.\n');
  });
});

describe('an edit of a token, of a text and of a rule', () => {
  let list: CauseList;
  beforeAll(async () => {
    write(folder, {
      'kit.css': sheet.replace('#2c7a4b', '#3a8a2e').replace('#6fc492', '#8bcf5f').replace('top: 0', 'top: 9px'),
      'src/Card.tsx': card('No vessel here', '<p className="note">Gale expected</p>'),
    });
    await served.run();
    list = await served.client.causes();
  });

  it('comes to those causes and no others, all proved, with their lines', () => {
    expect(list.causes.map(about)).toEqual([
      {
        number: 1,
        kind: 'token',
        title: '--calm: #2c7a4b → #3a8a2e, #6fc492 → #8bcf5f',
        place: 'kit.css:2',
        proof: 'proved',
        captures: 8,
      },
      {
        number: 2,
        kind: 'text',
        title: 'text of the paragraph: “Free berth” → “No vessel here”',
        place: 'src/Card.tsx:6',
        proof: 'proved',
        captures: 8,
      },
      {
        number: 3,
        kind: 'added',
        title: 'the paragraph “Gale expected” was added above the heading',
        place: 'src/Card.tsx:4',
        proof: 'proved',
        captures: 8,
      },
    ]);
    expect([list.changes, list.unexplained]).toEqual([8, []]);
  });

  it('tells for each capture which pixels a cause changes by itself, and where its elements are', () => {
    const [token, text] = list.causes as [Cluster, Cluster];
    const one = token.captures.find(({ look, environment }) => look === 'free' && environment === 'day')!;
    // The tone is 20 pixels high and as wide as the window without margin, padding and border.
    expect(one.pixels).toBe(20 * (420 - 2 * 13));
    expect(one.regions).toEqual([[13, expect.any(Number), 394, 20]]);
    expect(text.captures[0]!.outlines).toHaveLength(1);
    expect(text.captures[0]!.others).toHaveLength(2);
  });

  it('is told by commands, with numbers that decisions take', async () => {
    const { out, code } = await sguardo(folder, 'causes', 'Card/free');
    expect(code).toBe(1);
    expect(out).toMatch(/^3 causes behind 2 changes\n {3}1 {2}✓ proved {2}--calm: #2c7a4b → #3a8a2e/);
    expect(out).toContain('kit.css:2');
    const json = JSON.parse((await sguardo(folder, 'causes', '--json')).out) as CauseList & { format: string };
    expect(json).toEqual({ format: 'sguardo-causes/1', ...list });
    const approve = await sguardo(folder, 'approve');
    expect(approve.out).toContain('3 causes behind 8 changes');
    expect(approve.out).toContain('sguardo approve --cause 1');
    const wrong = await sguardo(folder, 'approve', '--cause', '9');
    expect([wrong.err, wrong.code]).toEqual([
      '✗ There is no cause 9.\n→ List the causes with their numbers: sguardo causes\n',
      2,
    ]);
    expect((await sguardo(folder, 'approve', '--cause', 'red')).err).toContain(
      'Expected the number of a cause, got “red”.',
    );
  });

  it('is approved cause by cause: a capture when all its causes are', async () => {
    const [token, text, note] = list.causes as [Cluster, Cluster, Cluster];
    const first = await sguardo(folder, 'approve', '--cause', '1', '--cause', '2', '--why', 'spring colours');
    expect(first.out).toContain('8 captures wait for other causes to be decided.');
    expect((await served.client.causes()).causes[0]!.captures[0]!.decided).toMatchObject({
      kind: 'approve',
      why: 'spring colours',
    });
    const second = await served.client.decide({ kind: 'approve', causes: [note.key], except: ['Card/tall'] });
    expect(second.decided.map(({ look, environment }) => `${look} ${environment}`).sort()).toEqual([
      'free day',
      'free night',
      'named day',
      'named night',
      'pointed at day',
      'pointed at night',
    ]);
    const left = await served.client.causes();
    expect(left.changes).toBe(2);
    expect(titles(left).sort()).toEqual([token.title, text.title, note.title].sort());
  });

  it('is rejected by cause, with a reason', async () => {
    const { causes } = await served.client.causes();
    await expect(served.client.decide({ kind: 'reject', causes: [causes[0]!.key] })).rejects.toThrow(ProblemError);
    const rejected = await served.client.decide({ kind: 'reject', causes: [causes[0]!.key], why: 'no gale' });
    expect(rejected.decided.map(({ look }) => look)).toEqual(['tall', 'tall']);
    await expect(served.client.decide({ kind: 'approve', causes: ['a cause of another time'] })).rejects.toMatchObject({
      problem: { code: 'cause-gone' },
    });
  });
});

describe('a fresh clone', () => {
  it('explains from the folder of baselines alone', async () => {
    const clone = freshFolder();
    cpSync(folder, clone, { recursive: true, filter: (path) => !path.includes('.sguardo/') });
    rmSync(join(clone, '.sguardo'), { recursive: true, force: true });
    const other = await serve(clone);
    // As it was approved last, but for the padding.
    write(clone, { 'src/Card.tsx': readFileSync(join(folder, 'src/Card.tsx'), 'utf8') });
    write(clone, {
      'kit.css': readFileSync(join(folder, 'kit.css'), 'utf8').replace('padding: 12px', 'padding: 14px'),
    });
    await other.run({ patterns: ['named'] });
    const { causes, unexplained } = await other.client.causes();
    expect(causes.map(about)).toEqual([
      {
        number: 1,
        kind: 'style',
        title: 'padding of .card: 12px → 14px',
        place: 'kit.css:5',
        proof: 'proved',
        captures: 2,
      },
    ]);
    expect(unexplained).toEqual([]);
  });

  it('tells by pixels, and says so, where the moment of a baseline was not kept', async () => {
    const clone = freshFolder();
    cpSync(folder, clone, { recursive: true, filter: (path) => !path.includes('.sguardo/') });
    rmSync(join(clone, '.sguardo'), { recursive: true, force: true });
    const path = join(clone, 'baselines/day/src/Flag/plain');
    const { moment: _, ...about } = JSON.parse(readFileSync(`${path}.json`, 'utf8')) as Record<string, unknown>;
    write(clone, {
      'baselines/day/src/Flag/plain.json': JSON.stringify({
        ...about,
        format: 1,
        sha256: about.picture,
        markup: ['<b>'],
      }),
      'src/Flag.look.tsx': flag.replace('<b>Flag', '<b>Pennant'),
    });
    const other = await serve(clone);
    await other.run({ patterns: ['Flag'], environments: ['day'] });
    const { causes, unexplained } = await other.client.causes();
    expect(unexplained).toEqual([]);
    expect(causes.length).toBeGreaterThan(0);
    for (const { kind, proof, captures } of causes) {
      expect([kind, proof]).toEqual(['picture', 'unexplained']);
      expect(captures[0]!.note).toContain('so only pixels can tell');
    }
  });
});
