/** Finds look files, bundles them, and answers what pages ask of a bundle. */
export {
  buildStages,
  bundleInstead,
  bundleLooks,
  componentsIn,
  componentsOf,
  keepInFile,
  readConfig,
  usageOf,
} from './builder.ts';
export { bundleFolder } from './build.ts';
export type { Bundle, BundledFile, BundledLooks } from './bundle.ts';
export { findLookFiles } from './lookFiles.ts';
export { type Bundled, Bundler, type GraphKeeper } from './bundler.ts';
export { draftPlace } from './components.ts';
export { programBeside } from './fromSource.ts';
export { type LiveGate, openLiveGate } from './liveGate.ts';
export { documentPath, fileOf } from './pages.ts';
export type { Survey } from './survey.ts';
export { isSource } from './graph.ts';
export { locatorOf, type SourceMapper, sourceMapper } from './sourcemap.ts';
export { typeOf } from './types.ts';
