/** What of captures is compared: parts left out, differences tolerated, picture or markup alone. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { CaptureSummary } from '../../src/core/run/run.ts';
import { sguardo } from '../support/cli.ts';
import { configuration, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

/** A card whose clock, chart and label are as told. */
const card = (clock: string, tone: string, label: string, name = 'C-14'): string => `import './card.css';
export function Card() {
  return (
    <section style={{ padding: 8 }}>
      <h2>${name}</h2>
      <time data-testid="clock" style={{ display: 'inline-block', font: '20px monospace' }}>${clock}</time>
      <p>Free berth</p>
      <div className="chart" style={{ width: 80, height: 30, background: '${tone}' }} />
      <button type="button" aria-label="${label}">×</button>
    </section>
  );
}
`;

const css = '.legend { color: #123456 }\n';

const looks = `import { looks, the } from 'sguardo';
import { Card } from './Card';
export default looks(Card, {
  compare: { leaveOut: [{ target: the.marked('clock'), why: 'shows the time' }] },
  states: {
    plain: {},
    tolerant: {
      compare: { tolerate: [{ upTo: 0.02, in: the.css('.chart'), why: 'drawn by the graphics card' }] },
    },
    'by picture': { compare: { what: 'picture' } },
    'by markup': { compare: { what: 'markup' } },
  },
});
`;

const files = {
  'sguardo.config.ts': configuration({ environments: { day: { viewport: [300, 240], ratio: 2 } } }),
  'src/card.css': css,
  'src/Card.tsx': card('9:30', '#336699', 'Release'),
  'src/Card.look.tsx': looks,
};

let folder: string;
let served: Served;

beforeAll(async () => {
  folder = project(files);
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
});

/** How each look stands after an edit of the card. */
async function standsAfter(...edit: Parameters<typeof card>): Promise<Record<string, string>> {
  write(folder, { 'src/Card.tsx': card(...edit) });
  await served.run();
  const results = await served.client.looks();
  return Object.fromEntries(results.map(({ look, captures }) => [look, captures[0]!.state.kind]));
}

const all = (kind: string) => ({ plain: kind, tolerant: kind, 'by picture': kind, 'by markup': kind });

describe('a part that is left out', () => {
  it('may show something else, narrower or wider, and is told with its reason and place', async () => {
    expect(await standsAfter('10:45:59', '#336699', 'Release')).toEqual(all('same'));
    expect(await standsAfter('9', '#336699', 'Release')).toEqual(all('same'));
    const [{ allowances }] = (await served.client.looks())[0]!.captures as [CaptureSummary];
    expect(allowances).toEqual([
      {
        kind: 'left-out',
        why: 'shows the time',
        upTo: null,
        boxes: [[32, expect.any(Number), expect.any(Number), expect.any(Number)]],
      },
    ]);
  });

  it('is no cause of what has changed beside it', async () => {
    const changed = { ...all('changed') };
    expect(await standsAfter('23:59:59', '#336699', 'Release', 'North mole')).toEqual(changed);
    const { causes } = await served.client.causes();
    expect(causes.map(({ title, proof }) => [title, proof])).toEqual([
      ['text of the heading: “C-14” → “North mole”', 'proved'],
    ]);
  });

  it('stays with the baseline, so that a fresh clone leaves out what it showed then', () => {
    const about = JSON.parse(readFileSync(join(folder, 'baselines/day/src/Card/plain.json'), 'utf8'));
    expect(about.allowances).toEqual([expect.objectContaining({ kind: 'left-out', why: 'shows the time' })]);
    const moment = readFileSync(join(folder, 'baselines/day/src/Card/plain.moment'), 'utf8');
    expect(moment).toContain('"leftOut": true');
  });
});

describe('a difference that is tolerated', () => {
  it('is accepted in its part up to what is said, and nowhere else', async () => {
    expect(await standsAfter('9:30', '#37699b', 'Release')).toEqual({
      ...all('changed'),
      tolerant: 'same',
      'by markup': 'same',
    });
    expect(await standsAfter('9:30', '#b3261e', 'Release')).toEqual({ ...all('changed'), 'by markup': 'same' });
  });
});

describe('what is compared', () => {
  it('is the picture, the markup or both', async () => {
    // A name that only assistive technology tells changes no pixel.
    expect(await standsAfter('9:30', '#336699', 'Release berth')).toEqual({ ...all('changed'), 'by picture': 'same' });
  });

  it('is what the project says where a look says nothing', async () => {
    write(folder, {
      'sguardo.config.ts': configuration({
        environments: { day: { viewport: [300, 240], ratio: 2 } },
        compare: { what: 'picture', leaveOut: [{ target: '.chart', why: 'random data' }] },
      }),
    });
    expect(await standsAfter('9:30', '#b3261e', 'Cast off')).toEqual({ ...all('same'), 'by markup': 'changed' });
  });
});

describe('what cannot be meant', () => {
  it('is refused in a look file, with what it has to be', async () => {
    write(folder, {
      'src/Card.look.tsx': looks.replace("why: 'shows the time'", "because: 'shows the time'"),
    });
    const { out } = await sguardo(folder, 'run');
    expect(out).toContain('compare');
    expect(out).toContain('each exception with a reason');
  });
});
