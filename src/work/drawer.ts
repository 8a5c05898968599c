/** Draws scenes in a window of its own, and compares what comes of it: what explaining changes asks for. */
import type { Drawer, Drawn, Pictured, Wanted } from '../core/cause/explain.ts';
import type { StyleChange } from '../core/cause/effect.ts';
import type { Scene } from '../core/moment/flat.ts';
import type { Moment } from '../core/moment/moment.ts';
import { diffMoments } from '../core/moment/patch.ts';
import type { Allowance } from '../core/picture/allowance.ts';
import type { Comparison } from '../core/picture/compare.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { Box } from '../core/timeline/timeline.ts';
import type { EngineWindow } from '../engine/engine.ts';
import { hashOf } from './assets.ts';
import { changesOf, comparePngs } from './compare.ts';
import type { Crew } from './crew.ts';

/** What the drawing page says of a scene that it has drawn. */
type Measured = { clip: Box; found: { count: number; boxes: Box[] }[] };

/** A window that draws. It is opened when it is first needed, and anew when it is lost. */
export type DrawingWindow = {
  /** A drawer of scenes as somebody in this environment would see them; pictures are compared with `allowances`. */
  in(environment: Environment, allowances?: readonly Allowance[]): Drawer;
  close(): Promise<void>;
};

/** How long a scene may take to be drawn, in milliseconds. */
const drawLimit = 10_000;

const call = (window: EngineWindow, expression: string): Promise<unknown> =>
  window.evaluate(`__sguardoDraw.${expression}`, drawLimit);

const equalAssets = (one: Scene, other: Scene): boolean =>
  one.assets === other.assets || JSON.stringify(one.assets) === JSON.stringify(other.assets);

/** Scenes that can be drawn one after the other with the same files. */
function batches<T extends { scene: Scene }>(scenes: readonly T[]): T[][] {
  const all: T[][] = [];
  for (const one of scenes) {
    const last = all.at(-1);
    if (last && equalAssets(last[0]!.scene, one.scene)) last.push(one);
    else all.push([one]);
  }
  return all;
}

/** Moments as a timeline that the drawing page takes in. */
function timelineOf(
  moments: readonly Moment[],
  assets: Record<string, string>,
  { scheme, motion, contrast }: Environment,
) {
  const patches = moments.slice(1).map((moment, i) => diffMoments(moments[i]!, moment));
  return { kind: 'timeline', base: moments[0], patches, assets, media: { scheme, motion, contrast } };
}

/** Pixels outside the viewport are drawn only when that is asked for. */
const isBeyond = ([, , width, height]: Box, { viewport }: Environment): boolean =>
  width > viewport[0] || height > viewport[1];

/** Opens a window at the drawing page of the stage. `stage` is where that listens. */
export function drawingWindow(crew: Crew, stage: () => string): DrawingWindow {
  let open: Promise<EngineWindow> | null = null;
  let applied = '';
  const window = async (environment: Environment): Promise<EngineWindow> => {
    const known = await open?.catch(() => null);
    if (!known || known.lost !== null) {
      open = crew.engine().then((engine) => engine.open());
      applied = '';
    }
    const opened = await open!;
    const wanted = JSON.stringify(environment);
    if (applied === wanted) return opened;
    await opened.apply(environment);
    if (applied === '') await opened.load(`${stage()}/draw`);
    // Controls look otherwise under a pointer, which no moment has.
    await opened.input([{ kind: 'move', x: -1, y: -1, button: 'none', modifiers: 0 }]);
    applied = wanted;
    return opened;
  };
  const drawOne = async (
    opened: EngineWindow,
    environment: Environment,
    moment: number,
    wanted: readonly Wanted[],
  ): Promise<Drawn> => {
    const show = { kind: 'show', moment, outline: null, cover: null, pointer: null, fit: false };
    await call(opened, `receive(${JSON.stringify(show)})`);
    await call(opened, 'settled()');
    const { clip, found } = (await call(opened, `measure(${JSON.stringify(wanted)})`)) as Measured;
    const beyond = isBeyond(clip, environment);
    if (beyond) await call(opened, 'settled()');
    const png = await opened.screenshot(clip, beyond);
    const { ratio } = environment;
    const outlines = found.map(({ count, boxes }) => ({
      count,
      boxes: boxes.map((box) => box.map((one) => Math.round(one * ratio)) as Box),
    }));
    return { hash: hashOf(png), png, outlines };
  };
  const draw = async (environment: Environment, scenes: Parameters<Drawer['draw']>[0]): Promise<Drawn[]> => {
    const opened = await window(environment);
    const drawn: Drawn[] = [];
    for (const batch of batches(scenes)) {
      const moments = batch.map(({ scene }) => scene.moment);
      const timeline = timelineOf(moments, batch[0]!.scene.assets, environment);
      await call(opened, `receive(${JSON.stringify(timeline)})`);
      for (const [at, { wanted }] of batch.entries()) drawn.push(await drawOne(opened, environment, at, wanted));
    }
    return drawn;
  };
  const styleChanges = async (
    environment: Environment,
    before: Scene,
    others: Parameters<Drawer['styleChanges']>[1],
  ): Promise<StyleChange[][]> => {
    const opened = await window(environment);
    const assets = Object.assign({}, before.assets, ...others.map(({ scene }) => scene.assets));
    const moments = [before.moment, ...others.map(({ scene }) => scene.moment)];
    await call(opened, `receive(${JSON.stringify(timelineOf(moments, assets, environment))})`);
    const wanted = others.map((one) => one.wanted);
    return (await call(opened, `styleChanges(${JSON.stringify(wanted)})`)) as StyleChange[][];
  };
  return {
    in: (environment, allowances = []) => ({
      draw: (scenes) => draw(environment, scenes),
      styleChanges: (before, others) => styleChanges(environment, before, others),
      compare: (before, now) => comparePictured(before, now, allowances),
      changes: (before, now) => changesOf(before.png, now.png),
    }),
    async close() {
      const opened = await open?.catch(() => null);
      open = null;
      await opened?.close().catch(() => {});
    },
  };
}

/** Compares two pictures; null when no pixel differs. */
async function comparePictured(
  before: Pictured,
  now: Pictured,
  allowances: readonly Allowance[],
): Promise<Comparison | null> {
  if (before.hash === now.hash || Buffer.compare(before.png, now.png) === 0) return null;
  const compared = await comparePngs({ before: before.png, now: now.png, isPaintedAnyway: false, allowances });
  if ('corrupt' in compared) throw new Error(compared.corrupt);
  const { picture } = compared;
  const isSame = picture.differing === 0 && picture.added.length === 0 && picture.lost.length === 0;
  return isSame ? null : picture;
}
