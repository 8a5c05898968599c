/** What the service needs of runs: bundling look files, a crew of browser windows, and running looks in it. */
export {
  buildStages,
  type Bundle,
  Bundler,
  bundleInstead,
  componentsIn,
  componentsOf,
  draftPlace,
  fileOf,
  findLookFiles,
  isSource,
  keepInFile,
  type LiveGate,
  openLiveGate,
  readConfig,
  type Survey,
  typeOf,
  usageOf,
} from '../bundle/index.ts';
export { type Attempted, attemptLook } from './attempt.ts';
export { challengeLooks } from './challenge.ts';
export { comparePngs } from './compare.ts';
export { type Crew, chromiumCrew } from './crew.ts';
export type { Redrawn } from './judge.ts';
export { placeOf } from './plan.ts';
export { type DrawingWindow, drawingWindow } from './drawer.ts';
export { packPng } from './png.ts';
export { makeBusy } from './load.ts';
export { thumbnailOf } from './thumbnail.ts';
export { Sitting } from './sitting.ts';
export { runLooks, type RunSetup } from './run.ts';
