/** Turns what a page reported into what is kept: places in the source, verdict, comparison, assets. */
import { fingerprint, type Environment } from '../core/environment.ts';
import type { LookInfo } from '../core/look.ts';
import { markupLines } from '../core/markup.ts';
import { applyPatch, type Moment } from '../core/moment.ts';
import type { Problem } from '../core/problem.ts';
import type { CaptureSummary, Outcome } from '../core/run.ts';
import { failingStep, type Timeline } from '../core/timeline.ts';
import { judge } from '../core/verdict.ts';
import type { Bundle, BundledFile, SourceMapper } from '../bundle/index.ts';
import { gatherAssets, hashOf } from './assets.ts';
import { type BaselineOf, judgeCapture } from './judge.ts';
import type { Execution, Shot } from './lane.ts';
import { pngSize } from './png.ts';

/** A capture with what the store keeps of it. */
export type FinishedCapture = { summary: CaptureSummary; png: Buffer; differencePng: Buffer | null; markup: string[]; fingerprint: string };

/** One look's result, ready to be stored. */
export type FinishedLook = Outcome & {
  info: LookInfo;
  captures: FinishedCapture[];
  timeline: Timeline;
  files: Map<string, BundledFile>;
};

export type FinishContext = {
  bundle: Bundle;
  origin: string;
  mapper: SourceMapper;
  engine: { name: string; fonts: string };
  baselines: BaselineOf;
  /** Files of this bundle that were resolved before, by address. */
  known: Map<string, BundledFile>;
};

/** Adds place and code frame to a problem. */
function locate(wrong: Problem, stack: string | null, mapper: SourceMapper, prefer?: string): Problem {
  const place = stack ? mapper.place(stack, prefer) : null;
  if (!place) return wrong;
  return { ...wrong, place: `${place.file}:${place.line}:${place.column}`, frame: mapper.frame(place) };
}

export async function finishLook(
  context: FinishContext,
  info: LookInfo,
  environment: Environment,
  repetition: number,
  { report, trace, shots }: Execution,
  orderDependent: boolean,
): Promise<FinishedLook> {
  const { mapper } = context;
  for (const step of trace.steps) {
    const stack = trace.stacks[step.index];
    if (!stack) continue;
    const place = mapper.place(stack, info.file);
    if (place) step.source = place;
    if (step.problem) step.problem = locate(step.problem, stack, mapper, step.kind === 'error' ? undefined : info.file);
  }
  const ownError = report.problem && ['render-threw', 'page-error', 'script-threw', 'file-threw'].includes(report.problem.code);
  const wrong = report.problem && locate(report.problem, report.stack, mapper, ownError ? undefined : info.file);
  const mark = fingerprint(environment, context.engine.name, context.engine.fonts);
  const captures: FinishedCapture[] = [];
  let moment: Moment = trace.base;
  let at = 0;
  for (const shot of shots) {
    for (; at < shot.moment && at < trace.patches.length; at++) moment = applyPatch(moment, trace.patches[at]!);
    captures.push(await finishCapture(context, info, environment, shot, markupLines(moment), mark));
  }
  const assets = await gatherAssets(context.bundle, context.origin, trace.assets, [trace.base, ...trace.patches], context.known);
  const failed = failingStep(trace.steps);
  const last = trace.steps.at(-1);
  const unreadable = captures.find(({ summary }) => summary.state.kind === 'unreadable')?.summary.state;
  return {
    info,
    environment: environment.name,
    repetition,
    verdict: judge(
      report.outcome,
      captures.map(({ summary }) => summary.state),
    ),
    problem:
      wrong ??
      (unreadable?.kind === 'unreadable'
        ? { code: 'baseline-corrupt', message: unreadable.why, remedy: 'Restore it from version control, or look at the capture and approve it again.' }
        : null),
    notes: report.notes,
    orderDependent,
    took: last ? Math.round(last.at + (last.took ?? 0)) : 0,
    failedStep: report.outcome === 'passed' ? null : (failed?.index ?? null),
    captures,
    timeline: {
      steps: trace.steps,
      marks: trace.marks,
      taken: trace.taken,
      base: trace.base,
      patches: trace.patches,
      assets: assets.hashes,
      source: context.bundle.entries.find(({ file }) => file === info.file)?.source ?? null,
    },
    files: assets.files,
  };
}

async function finishCapture(
  context: FinishContext,
  info: LookInfo,
  environment: Environment,
  shot: Shot,
  markup: string[],
  mark: string,
): Promise<FinishedCapture> {
  const hash = hashOf(shot.png);
  const baseline = context.baselines(info.component, info.look, environment.name, shot.name);
  const judged = await judgeCapture({ png: shot.png, hash, fingerprint: mark, markup }, baseline);
  const [width, height] = pngSize(shot.png) ?? [0, 0];
  return {
    summary: {
      name: shot.name,
      hash,
      width,
      height,
      step: shot.step,
      moment: shot.moment,
      state: judged.state,
      baseline: judged.baseline,
      difference: judged.difference && hashOf(judged.difference),
      decision: null,
    },
    png: shot.png,
    differencePng: judged.difference,
    markup,
    fingerprint: mark,
  };
}
