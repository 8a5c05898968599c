/** A series of random edits: what is taken over is what a whole run would say. `npm run bench -- truth`: a long one. */
import { expect, it } from 'vitest';
import { carryOut, outcomes, randomStep, writeProject } from '../../bench/edits.ts';
import { numbersFrom } from '../../src/core/steady/chance.ts';
import { freshFolder } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** A series in which a file is broken while public files change. */
const seed = 2228;
const edits = 3;

it('every verdict after an edit is that of a fresh run of the same files', async () => {
  const copies = await Promise.all(
    ['usual', 'fresh'].map(async (name) => {
      const folder = freshFolder();
      writeProject(folder);
      const { client } = await serve(folder);
      return { folder, run: () => outcomes(client, name === 'fresh' ? { fresh: true } : { audit: 0 }), client };
    }),
  );
  const [usual, fresh] = copies as [(typeof copies)[0], (typeof copies)[0]];
  const runBoth = () => Promise.all([usual.run(), fresh.run()]);
  const number = numbersFrom(seed);
  await runBoth();
  let reused = 0;
  for (let i = 0; i < edits; i++) {
    const step = randomStep(number);
    for (const { client, folder } of copies) {
      if (step.approves) await client.decide({ kind: 'approve', all: true });
      carryOut(folder, step);
    }
    const [one, other] = await runBoth();
    expect({ after: step.names, lines: one.lines }).toEqual({ after: step.names, lines: other.lines });
    reused += one.reused;
  }
  expect(reused).toBeGreaterThan(10);
});
