/** What challenging the demo costs, as a ratio to running all of it once, both through the command line. */
import { onDemo, type Sguardo } from './byCommand.ts';
import { type Figure, timed } from './workshop.ts';

const limit = 4;

export const measureChallenge = (): Promise<Figure> => onDemo(measure);

async function measure(_folder: string, sguardo: Sguardo): Promise<Figure> {
  // Twice: whatever is made once for a project is there then.
  sguardo('run');
  const plain = await timed(async () => void sguardo('run', '--fresh'));
  let said = '';
  const all = await timed(async () => {
    said = sguardo('challenge', '--json');
  });
  const { looks, score } = JSON.parse(said) as { looks: { challenges: object[] }[]; score: number };
  const mutations = looks.reduce((sum, { challenges }) => sum + challenges.length, 0);
  process.stdout.write(
    `${looks.length} looks, ${mutations} mutations, ${score} % noticed: ${(all / 1000).toFixed(1)} s; ` +
      `running all looks once ${(plain / 1000).toFixed(1)} s\n`,
  );
  const ratio = all / plain;
  return { text: `${ratio.toFixed(2)} times a plain run`, limit: `${limit}`, within: ratio <= limit };
}
