/**
 * Going live from the last step of the demo's scripts, with all that belongs to it (a fresh document, the recording,
 * the comparison with what was recorded), against the same scripts run up to there without recording.
 */
import type { Orders } from '../src/core/sitting/sitting.ts';
import { usualOrders } from '../src/core/sitting/sitting.ts';
import type { FinishedLook } from '../src/core/run/finished.ts';
import { Lane } from '../src/work/lane.ts';
import { Sitting } from '../src/work/sitting.ts';
import { type Figure, median, openWorkshop, origin } from './workshop.ts';

const limit = 1.2;
const rounds = 7;

type Shop = Awaited<ReturnType<typeof openWorkshop>>;

/** The orders to come to the last step of a look. */
const toLast = ({ timeline }: FinishedLook): Orders => ({
  ...usualOrders,
  to: timeline.steps.length - 1,
  straight: true,
});

/** Milliseconds until a look stands at its last step in a sitting that was begun before. */
async function lively({ bundle, settings, crew }: Shop, look: FinishedLook): Promise<() => Promise<number>> {
  const { info, timeline } = look;
  let stopped = (): void => {};
  const own = { id: 1, bundle, settings, environment: settings.environments[0]!, file: info.file, look: info.look };
  const more = { headed: false, pace: 0, crew, lane: 1, origin, result: null, follows: { timeline, sheets: {} } };
  let sitting: Sitting | null = null;
  const changed = (): void => void (sitting?.state.phase === 'stopped' && stopped());
  const standing = (): Promise<void> => new Promise((resolve) => (stopped = resolve));
  const first = standing();
  sitting = new Sitting({ ...own, ...more, changed }, toLast(look));
  await first;
  return async () => {
    const began = performance.now();
    const next = standing();
    await sitting.restart(toLast(look));
    await next;
    if (sitting.state.parted) throw new Error(`${info.look}: ${sitting.state.parted.what}`);
    return performance.now() - began;
  };
}

/** Milliseconds until a look has been run to its last step without recording. */
async function bare({ bundle, settings }: Shop, lane: Lane, look: FinishedLook): Promise<number> {
  const { info } = look;
  const [environment] = settings.environments;
  const began = performance.now();
  await lane.open(bundle, info.file, environment!, true);
  const took = await new Promise<number>((resolve) => {
    const attendant = {
      orders: toLast(look),
      began() {},
      stopped: () => resolve(performance.now() - began),
      did() {},
      asks() {},
      isHeld: () => true,
    };
    lane.run(info.look, environment!, { recording: 'off', attendant }).catch(() => {});
  });
  lane.leave();
  return took;
}

export async function measureLive(): Promise<Figure> {
  const shop = await openWorkshop();
  try {
    const looks = (await shop.run([])).filter(({ info, verdict }) => info.hasScript && verdict === 'new');
    const lane = new Lane(shop.crew, 0, origin, shop.settings);
    const ratios: number[] = [];
    let live = 0;
    let plain = 0;
    for (const look of looks) {
      const restarted = await lively(shop, look);
      await bare(shop, lane, look);
      const own: number[] = [];
      const floor: number[] = [];
      for (let i = 0; i < rounds; i++) {
        own.push(await restarted());
        floor.push(await bare(shop, lane, look));
      }
      ratios.push(median(own) / median(floor));
      live += median(own);
      plain += median(floor);
    }
    const ratio = live / plain;
    process.stdout.write(
      `${looks.length} scripts: live there after ${(live / looks.length).toFixed(0)} ms, without recording ` +
        `${(plain / looks.length).toFixed(0)} ms (medians of ${rounds}); the worst of them ` +
        `${Math.max(...ratios).toFixed(2)}\n`,
    );
    return { text: ratio.toFixed(2), limit: `at most ${limit}`, within: ratio <= limit };
  } finally {
    await shop.close();
  }
}
