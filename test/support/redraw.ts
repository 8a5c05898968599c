/** Draws recorded moments again, and holds them against the pictures that were taken of them. */
import { comparePictures } from '../../src/core/picture/compare.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { EngineWindow } from '../../src/engine/engine.ts';
import { decodePng } from '../../src/work/png.ts';
import { openWindow } from './browser.ts';
import type { Served } from './service.ts';

/** A window in which moments of a service are drawn. */
export async function openDrawing({ service }: Served): Promise<EngineWindow> {
  const drawing = await openWindow(1280, 800);
  await drawing.load(`${service.stage}/draw`);
  return drawing;
}

/** How many pixels somebody could tell from the picture when the moment of a capture is drawn again, after others. */
export async function redrawnOtherwise(
  { client }: Served,
  drawing: EngineWindow,
  { id, captures }: ResultSummary,
  capture: string,
): Promise<number> {
  const { width, height, hash, moment } = captures.find((one) => one.name === capture)!;
  const { base, patches, assets, steps } = await client.timeline(id);
  // Native controls are painted otherwise under a real pointer, which no rule can stand in for.
  const [x, y] = steps.flatMap(({ pointer }) => (pointer ? [pointer] : [])).at(-1) ?? [-1, -1];
  await drawing.input([{ kind: 'move', x, y, button: 'none', modifiers: 0 }]);
  const media = { scheme: 'light', motion: 'reduce', contrast: 'no-preference' };
  const timeline = { kind: 'timeline', base, patches, assets, media };
  const show = { kind: 'show', moment, outline: null, cover: null, pointer: null, fit: false };
  for (const message of [timeline, { ...show, moment: 0 }, { ...show, moment: patches.length }, show])
    await drawing.evaluate(`__sguardoDraw.receive(${JSON.stringify(message)})`);
  await drawing.evaluate('__sguardoDraw.settled()');
  const redrawn = await drawing.screenshot([0, 0, width, height], false);
  const live = Buffer.from(await (await fetch(client.pictureUrl(hash))).arrayBuffer());
  return comparePictures(await decodePng(live), await decodePng(redrawn)).visible;
}
