/** Pictures that change while they are taken, although nothing of the document does. */
import { beforeAll, describe, expect, it } from 'vitest';
import { pixelAt } from '../../src/core/picture/picture.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { decodePng } from '../../src/work/png.ts';
import { configuration, project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

/**
 * A beacon that is drawn anew at every word of a worker's worker, whose time is its own, `times` times: ever another
 * red, and in the end green.
 */
const beacon = `import { looks } from 'sguardo';
import { useEffect, useRef } from 'react';
function Beacon({ times }: { times: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const brush = canvas.current!.getContext('2d')!;
    let drawn = 0;
    const draw = () => {
      brush.fillStyle = drawn >= times ? 'rgb(0, 128, 0)' : \`rgb(\${drawn % 200}, 0, 0)\`;
      brush.fillRect(0, 0, 40, 40);
      drawn++;
    };
    draw();
    const addressOf = (code: string) => URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
    const inner = addressOf('setInterval(() => postMessage(0), 10)');
    const worker = new Worker(addressOf(\`new Worker('\${inner}').onmessage = () => postMessage(0)\`));
    worker.onmessage = draw;
    return () => worker.terminate();
  }, []);
  return <canvas ref={canvas} width={40} height={40} style={{ display: 'block' }} />;
}
export default looks(Beacon, { props: { times: 8 }, states: { settles: {}, never: { props: { times: 1e9 } },
  waits: { props: { times: 0 }, async script() { await new Promise((go) => setTimeout(go, 600)); } } } });
`;

let served: Served;
let look: (name: string) => ResultSummary;

const middleOf = async ({ captures }: ResultSummary): Promise<string> => {
  const picture = await decodePng(
    Buffer.from(await (await fetch(served.client.pictureUrl(captures[0]!.hash))).arrayBuffer()),
  );
  return pixelAt(picture, 20 * picture.width + 20).toString(16);
};

beforeAll(async () => {
  const config = configuration({ clock: 'real', patience: 1500 });
  served = await serve(project({ 'sguardo.config.ts': config, 'src/Beacon.look.tsx': beacon }));
  ({ look } = await served.run());
});

it('takes as long as it says where the clock is the real one', () => {
  expect(look('waits').verdict).toBe('new');
  expect(look('waits').took).toBeGreaterThan(600);
});

describe('a picture that nobody has approved', () => {
  it('is taken again until it comes out twice in a row', async () => {
    expect(await middleOf(look('settles'))).toBe('ff008000');
    expect(look('settles').notes).toEqual([]);
  });

  it('is told when it does not', () => {
    expect(look('never')).toMatchObject({
      verdict: 'new',
      notes: [
        expect.stringMatching(/^The page changed each time “end” was captured/),
        expect.stringMatching(/^The picture “end” differed each of the 5 times/),
      ],
    });
  });

  it('is told as changed only when it has come out so', async () => {
    await served.client.decide({ kind: 'approve', patterns: ['settles'] });
    expect((await served.run({ patterns: ['settles'], repeat: 3 })).run).toMatchObject({
      tally: { passed: 3 },
      unstable: 0,
    });
  });
});
