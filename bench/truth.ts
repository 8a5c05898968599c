/**
 * Whether runs that take over what has not changed say what whole runs say: two copies of a project are edited alike
 * at random; one is run as usual, the other fresh. `npm run bench -- truth 500 1`: so many edits, from this seed on.
 */
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { connect } from '../src/client/client.ts';
import { startService } from '../src/service/service.ts';
import { numbersFrom } from '../src/core/steady/chance.ts';
import { carryOut, outcomes, randomStep, writeProject } from './edits.ts';
import type { Figure } from './workshop.ts';

async function copy() {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/truth-'));
  writeProject(folder);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const end = async (): Promise<void> => {
    await service.close();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  };
  return { folder, client: connect(service.url), end };
}

export async function measureTruth(edits = 500, seed = 1): Promise<Figure> {
  const number = numbersFrom(seed);
  const [usual, whole] = await Promise.all([copy(), copy()]);
  const run = () => Promise.all([outcomes(usual.client, { audit: 0 }), outcomes(whole.client, { fresh: true })]);
  let verdicts = 0;
  let differing = 0;
  let reused = 0;
  try {
    await run();
    for (let i = 0; i < edits; i++) {
      const step = randomStep(number);
      if (step.approves)
        await Promise.all([usual, whole].map(({ client }) => client.decide({ kind: 'approve', all: true })));
      for (const { folder } of [usual, whole]) carryOut(folder, step);
      const [one, other] = await run();
      verdicts += other.lines.length;
      reused += one.reused;
      const wrong = [
        ...one.lines.filter((line) => !other.lines.includes(line)),
        ...other.lines.filter((line) => !one.lines.includes(line)).map((line) => `${line} (fresh)`),
      ];
      differing += wrong.length;
      if (wrong.length > 0) process.stdout.write(`edit ${i}, ${step.names.join(' and ')}:\n  ${wrong.join('\n  ')}\n`);
      if ((i + 1) % 50 === 0)
        process.stdout.write(`${i + 1} edits: ${verdicts} verdicts, ${reused} taken over, ${differing} differ\n`);
    }
  } finally {
    await Promise.all([usual.end(), whole.end()]);
  }
  const text = `${differing} of ${verdicts} verdicts differ after ${edits} edits; ${reused} were taken over`;
  return { text, limit: '0', within: differing === 0 };
}
