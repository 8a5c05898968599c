/**
 * Redrawing: for every step of the demo's scripts, the redrawn moment, screenshotted at the same viewport, against a
 * live screenshot taken at that instant. Prints the share that is pixel-identical, and the rest with what differs.
 */
import { usualRequest } from '../src/core/run/run.ts';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { comparePictures } from '../src/core/picture/compare.ts';
import type { EngineWindow } from '../src/engine/engine.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import { hashOf } from '../src/work/assets.ts';
import { Lane } from '../src/work/lane.ts';
import { decodePng } from '../src/work/png.ts';
import { buildStage } from '../src/service/stage.ts';
import { openStore } from '../src/store/index.ts';
import { type Figure, keyOf, openWorkshop, origin } from './workshop.ts';

const limit = 0.99;

/** The order in which moments are drawn: one after the other, back again, and by leaps of nearly half the way. */
const orders = {
  forwards: <T>(list: readonly T[]): T[] => [...list],
  backwards: <T>(list: readonly T[]): T[] => [...list].reverse(),
  leaping: <T>(list: readonly T[]): T[] => list.map((_, i) => list[(i * leap(list.length)) % list.length]!),
};

/** A stride that visits each of `n` places once. */
function leap(n: number): number {
  const isCoprime = (a: number, b: number): boolean => (b === 0 ? a === 1 : isCoprime(b, a % b));
  let stride = Math.max(1, Math.floor(n * 0.45));
  while (!isCoprime(n, stride)) stride++;
  return stride;
}

export async function measureRedraw(): Promise<Figure> {
  const shop = await openWorkshop();
  const folder = mkdtempSync(join(tmpdir(), 'sguardo-bench-'));
  const store = openStore(join(folder, 'bench.db'));
  let stagePort = 0;
  const stage = buildStage({
    store,
    bundles: () => [shop.bundle],
    network: () => [],
    port: () => stagePort,
    consoleOrigin: () => 'http://127.0.0.1',
    consoleFolder: resolve('dist/console'),
  });
  await stage.listen({ host: '127.0.0.1', port: 0 });
  stagePort = (stage.server.address() as { port: number }).port;
  const drawer = await startChromium();
  try {
    const scripted = (await shop.run([])).filter(({ info }) => info.hasScript);
    const environment = shop.settings.environments[0]!;
    const [width, height] = environment.viewport;
    const run = store.runs.begin(usualRequest);
    for (const look of scripted) store.results.add(run, look, new Set());
    const lane = new Lane(shop.crew, 0, origin, shop.settings);
    const page = await drawer.open();
    await page.apply(environment);
    await page.load(`http://127.0.0.1:${stagePort}/draw`);
    let same = 0;
    let all = 0;
    for (const known of scripted) {
      await lane.open(shop.bundle, known.info.file, environment);
      const { trace, shots } = await lane.run(known.info.look, environment, { recording: 'photographed' });
      const media = { scheme: environment.scheme, motion: environment.motion, contrast: environment.contrast };
      await tell(page, {
        kind: 'timeline',
        base: trace.base,
        patches: trace.patches,
        assets: known.timeline.assets,
        media,
      });
      // A step that was photographed more than once changed while it was: the last picture is the one that holds.
      const photographs = new Map(
        shots.flatMap(({ png, ...shot }) =>
          png && shot.name.startsWith('step ') ? [[shot.name, { ...shot, png }]] : [],
        ),
      );
      for (const [order, arrange] of Object.entries(orders))
        for (const { name, step, moment, png } of arrange([...photographs.values()])) {
          await tell(page, { kind: 'show', moment, outline: null, cover: null, pointer: null, fit: false });
          // Native controls are painted otherwise under a real pointer, which no rule can stand in for.
          const [x, y] = trace.steps.slice(0, step + 1).findLast(({ pointer }) => pointer)?.pointer ?? [-1, -1];
          await page.input([{ kind: 'move', x, y, button: 'none', modifiers: 0 }]);
          await page.evaluate('__sguardoDraw.settled()');
          const redrawn = await page.screenshot([0, 0, width, height], false);
          all++;
          const comparison =
            hashOf(redrawn) === hashOf(png) ? null : comparePictures(await decodePng(png), await decodePng(redrawn));
          if (!comparison || comparison.differing === 0) same++;
          else {
            const what = `${comparison.differing} pixels, strongest ${comparison.strongest}`;
            const where = `${keyOf(known)}, ${name} (${trace.steps[step]?.title})`;
            process.stdout.write(`  ${where}, ${order}: ${what}\n`);
          }
        }
    }
    const share = same / all;
    process.stdout.write(
      `${same} of ${all} redrawn steps of ${scripted.length} scripts are exact (forwards, backwards and leaping)\n`,
    );
    return {
      text: `${(share * 100).toFixed(1)} % identical`,
      limit: `at least ${limit * 100} %`,
      within: share >= limit,
    };
  } finally {
    await drawer.close();
    await stage.close();
    store.close();
    await shop.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

const tell = (page: EngineWindow, message: object): Promise<unknown> =>
  page.evaluate(`__sguardoDraw.receive(${JSON.stringify(message)})`);
