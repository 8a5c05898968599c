/** Runs one look once more, beside all runs, and says what its captures show. */
import { type Bundle, locatorOf, sourceMapper } from '../bundle/index.ts';
import { drawingsOf, sheetsOf } from '../core/moment/canonical.ts';
import { flatten, type Scene } from '../core/moment/flat.ts';
import { isText } from '../core/moment/moment.ts';
import type { LookInfo } from '../core/look/look.ts';
import type { FinishedCapture, FinishedLook } from '../core/run/finished.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import { hashOf } from './assets.ts';
import type { Crew } from './crew.ts';
import { type FinishContext, finishLook } from './finish.ts';
import { Lane } from './lane.ts';

export type AttemptSetup = {
  bundle: Bundle;
  settings: Settings;
  environment: Environment;
  info: LookInfo;
  crew: Crew;
  /** The number of its window among those of the crew. */
  lane: number;
  origin: string;
};

/** What captures show, and the hashes of their pictures, by name. */
export type Attempted = { hasPassed: boolean; scenes: Map<string, Scene>; pictures: Map<string, string> };

/** The texts of sheets, and what canvases show, of a finished look, by their hashes. */
function textsOf(
  { timeline: { base, patches }, files }: FinishedLook,
  { moment }: FinishedCapture,
): Map<string, string> {
  const texts = new Map<string, string>();
  for (const { sheets, nodes } of [base, ...patches]) {
    for (const sheet of Object.values(sheets ?? {}))
      if (sheet && 'css' in sheet) texts.set(hashOf(sheet.css), sheet.css);
    for (const node of Object.values(nodes ?? {}))
      if (node && !isText(node) && node.state?.pixels) texts.set(hashOf(node.state.pixels), node.state.pixels);
  }
  for (const hash of [...sheetsOf(moment), ...drawingsOf(moment)]) {
    const file = files.get(hash);
    if (file) texts.set(hash, Buffer.from(file.body).toString('utf8'));
  }
  return texts;
}

/** What looks are finished with that are no part of a run: nothing is approved, known or kept. */
export const contextBeside = (bundle: Bundle, origin: string, engine: FinishContext['engine']): FinishContext => ({
  bundle,
  origin,
  mapper: sourceMapper(bundle),
  engine,
  baselines: () => null,
  compares: 'picture',
  isUpgrade: false,
  redraw: async () => null,
  accessibility: { accepted: [], known: [], failsOn: null, memory: { get: () => null, put: () => {} } },
  readCoverage: null,
  locate: locatorOf(bundle),
  known: new Map(),
});

/**
 * Runs a look of a bundle; null when there is no such look in it, or its file cannot be evaluated.
 * @throws LostError when the browser is gone
 */
export async function attemptLook(setup: AttemptSetup): Promise<Attempted | null> {
  const { bundle, settings, environment, info, crew, lane: number, origin } = setup;
  const { file, look } = info;
  if (!bundle.entries.some((entry) => entry.file === file)) return null;
  const lane = new Lane(crew, number, origin, settings);
  try {
    const report = await lane.open(bundle, file, environment, true);
    if (!('looks' in report) || !report.looks.some((one) => one.look === look)) return null;
    const execution = await lane.run(look, environment, { isPhotographed: true });
    const context = contextBeside(bundle, origin, await crew.engine());
    const finished = await finishLook(context, info, { id: 0, file, environment, repetition: 1 }, execution);
    const scenes = finished.captures.map((capture): [string, Scene] => [
      capture.summary.name,
      flatten(capture.moment, textsOf(finished, capture), finished.timeline.assets),
    ]);
    const pictures = finished.captures.map(({ summary }): [string, string] => [summary.name, summary.hash]);
    return { hasPassed: execution.report.outcome === 'passed', scenes: new Map(scenes), pictures: new Map(pictures) };
  } finally {
    lane.leave();
  }
}
