/** Turns what a page reported into what is kept: places in the source, verdict, comparison, files. */
import type { Bundle, BundledFile, SourceMapper } from '../bundle/index.ts';
import type { Reader } from '../coverage/probes.ts';
import type { BaselineOf, CaptureKey } from '../core/baseline/baseline.ts';
import type { LookCoverage } from '../core/coverage/hits.ts';
import type { LookInfo } from '../core/look/look.ts';
import { locateAtLook } from '../core/look/source.ts';
import { canonicalise } from '../core/moment/canonical.ts';
import { markupLines } from '../core/moment/markup.ts';
import type { Moment } from '../core/moment/moment.ts';
import { applyPatch } from '../core/moment/patch.ts';
import { unawaitedNote } from '../core/problem/notes.ts';
import { type Problem, problem } from '../core/problem/problem.ts';
import type { FinishedCapture, FinishedLook } from '../core/run/finished.ts';
import { judge } from '../core/run/verdict.ts';
import type { Comparing } from '../core/settings/comparing.ts';
import { type Environment, fingerprint } from '../core/settings/environment.ts';
import { overspent } from '../core/timing/budget.ts';
import { type Flame, type Located, type ProfileNode, timesOf, totalOf } from '../core/timing/costs.ts';
import { failingStep } from '../core/timeline/timeline.ts';
import { type Assets, gatherAssets, hashOf } from './assets.ts';
import type { Execution, Shot } from './execution.ts';
import type { Job } from './job.ts';
import { allowancesOf, markedIn } from './allowed.ts';
import { type AccessibilityContext, findingsOf, objectionTo } from './accessibility.ts';
import { judgeCapture, type Redrawn } from './judge.ts';
import { pngSize } from './png.ts';

/** Draws the approved moment of a capture as somebody in an environment sees it. */
export type Redraw = (environment: Environment, key: CaptureKey) => Promise<Redrawn | null>;

export type FinishContext = {
  bundle: Bundle;
  origin: string;
  mapper: SourceMapper;
  engine: { name: string; fonts: string };
  baselines: BaselineOf;
  /** What is compared where a look says nothing. */
  compares: Comparing;
  /** Pictures of another browser are compared to the pixel. */
  isUpgrade: boolean;
  /** Draws the approved moment of a capture with this browser; null where it was not kept. */
  redraw: Redraw;
  /** What findings of accessibility are accepted or known, and what fails a look. */
  accessibility: AccessibilityContext;
  /** Reads what pages have run; null where that is not wanted. */
  readCoverage: Reader | null;
  /** Says of a function in a profile where it stands. */
  locate(node: ProfileNode): Located;
  /** Files of this bundle that were resolved before, by address. */
  known: Map<string, BundledFile>;
};

/** Errors that were thrown by code of the project, wherever that stands. */
const ownErrors: readonly string[] = ['render-threw', 'page-error', 'script-threw', 'file-threw'];

/** Adds place and code frame to a problem. */
function locate(wrong: Problem, stack: string | null, mapper: SourceMapper, prefer?: string): Problem {
  const place = stack ? mapper.place(stack, prefer) : null;
  if (!place) return wrong;
  return { ...wrong, place: `${place.file}:${place.line}:${place.column}`, frame: mapper.frame(place) };
}

function locateSteps({ trace }: Execution, mapper: SourceMapper, file: string): void {
  for (const step of trace.steps) {
    const stack = trace.stacks[step.index];
    if (!stack) continue;
    const place = mapper.place(stack, file);
    if (place) step.source = place;
    if (step.problem) step.problem = locate(step.problem, stack, mapper, step.kind === 'error' ? undefined : file);
  }
}

async function finishCaptures(
  context: FinishContext,
  info: LookInfo,
  environment: Environment,
  { trace, shots }: Execution,
  assets: Assets,
): Promise<FinishedCapture[]> {
  const captures: FinishedCapture[] = [];
  let moment: Moment = trace.base;
  let at = 0;
  for (const shot of [...shots].sort((a, b) => a.moment - b.moment)) {
    for (; at < shot.moment && at < trace.patches.length; at++) moment = applyPatch(moment, trace.patches[at]!);
    captures.push(await finishCapture(context, info, environment, shot, moment, assets));
  }
  return captures;
}

async function finishCapture(
  context: FinishContext,
  info: LookInfo,
  environment: Environment,
  shot: Shot,
  shown: Moment,
  assets: Assets,
): Promise<FinishedCapture> {
  const key = { component: info.component, look: info.look, environment: environment.name };
  const baseline = context.baselines(key.component, key.look, key.environment, shot.name);
  // The approved picture stands for a capture whose moment is as approved.
  const approved = baseline && 'png' in baseline ? baseline : null;
  const png = shot.png ?? approved?.png ?? new Uint8Array();
  const hash = shot.png === null && approved ? approved.hash : hashOf(png);
  const moment = canonicalise(shown, { hash: hashOf, assets: assets.hashes, ...markedIn(shot) });
  const markup = markupLines(moment);
  const mark = fingerprint(environment, context.engine.name, context.engine.fonts);
  const allowances = allowancesOf(shot.allowed, environment.ratio);
  const canonical = hashOf(JSON.stringify(moment));
  // What the page shows beside its moment may be something else.
  const taken = { png, hash, fingerprint: mark, markup, allowances, moment: shot.opaque ? null : canonical };
  const judged = await judgeCapture(taken, baseline, {
    compares: info.compares ?? context.compares,
    isUpgrade: context.isUpgrade,
    redraw: () => context.redraw(environment, { ...key, capture: shot.name }),
  });
  const [width, height] = pngSize(png) ?? [0, 0];
  return {
    summary: {
      name: shot.name,
      hash,
      width,
      height,
      step: shot.step,
      moment: shot.moment,
      canonical,
      isVouched: shot.png === null,
      allowances,
      state: judged.state,
      baseline: judged.baseline,
      difference: judged.difference && hashOf(judged.difference),
      decision: null,
    },
    png,
    differencePng: judged.difference,
    redrawn: judged.redrawn,
    moment,
    markup,
    fingerprint: mark,
  };
}

/** What a look has run of the project's sources. */
async function coverageOf(
  { bundle, readCoverage }: FinishContext,
  file: string,
  execution: Execution,
): Promise<LookCoverage | null> {
  const covered = await execution.covered;
  if (!readCoverage || !covered) return null;
  // A document may have loaded other look files before.
  const closure = new Set(bundle.behind.closures[file]);
  const loading = readCoverage(covered.loading).filter(({ path }) => closure.size === 0 || closure.has(path));
  return { own: readCoverage(covered.own), loading };
}

/** Tells each step what it cost, where that was measured, and gives back which functions ran in it. */
function tellCosts({ trace, measured }: Execution, { locate }: FinishContext): Record<string, Flame> | null {
  if (!measured) return null;
  const flames: Record<string, Flame> = {};
  for (const [index, { costs, flame }] of timesOf(measured, locate)) {
    const step = trace.steps[index];
    if (!step) continue;
    step.costs = costs;
    if (flame) flames[index] = flame;
  }
  return flames;
}

/** What a look has spent beyond its budget; null for nothing. */
function overspending({ budget }: LookInfo, { trace }: Execution): Problem | null {
  const costs = budget && totalOf(trace.steps);
  const found = costs ? overspent(budget, costs) : [];
  return found.length === 0 ? null : problem('budget-spent', {}, { found });
}

/** Finishes one execution. Whatever the page has reported, nothing but the disk or a fault of ours makes this throw. */
export async function finishLook(
  context: FinishContext,
  info: LookInfo,
  { environment, repetition }: Job,
  execution: Execution,
): Promise<FinishedLook> {
  const { bundle, mapper } = context;
  const { report, trace } = execution;
  locateSteps(execution, mapper, info.file);
  const isOwn = report.problem !== null && ownErrors.includes(report.problem.code);
  const wrong = report.problem && locate(report.problem, report.stack, mapper, isOwn ? undefined : info.file);
  const assets = await gatherAssets(
    bundle,
    context.origin,
    { wanted: trace.assets, answered: execution.answered },
    [trace.base, ...trace.patches],
    context.known,
  );
  const captures = await finishCaptures(context, info, environment, execution, assets);
  const { accessibility } = context;
  const { component } = info;
  const findings = await findingsOf(accessibility, component, execution, captures, environment.ratio);
  const flames = tellCosts(execution, context);
  const hasPassed = report.outcome === 'passed';
  const lacks = hasPassed ? objectionTo(findings, accessibility.failsOn) : null;
  const objection = lacks ?? (hasPassed ? overspending(info, execution) : null);
  const states = captures.map(({ summary }) => summary.state);
  const unreadable = states.find((state) => state.kind === 'unreadable');
  const last = trace.steps.at(-1);
  const source = bundle.entries.find(({ file }) => file === info.file)?.source ?? null;
  const told = wrong ?? objection;
  return {
    info,
    environment: environment.name,
    repetition,
    verdict: judge(objection ? 'failed' : report.outcome, states),
    problem: told ? locateAtLook(told, info, source) : (unreadable?.why ?? null),
    notes: [...report.notes, ...trace.steps.flatMap((step) => unawaitedNote(step) ?? [])],
    orderDependent: false,
    isUnsteady: false,
    isContradiction: false,
    took: last ? Math.round(last.at + (last.took ?? 0)) : 0,
    failedStep: report.outcome === 'passed' ? null : (failingStep(trace.steps)?.index ?? null),
    findings,
    asked: execution.asked,
    read: execution.read,
    captures,
    timeline: {
      steps: trace.steps,
      marks: trace.marks,
      taken: trace.taken,
      base: trace.base,
      patches: trace.patches,
      assets: assets.hashes,
      ...(flames && { flames }),
      source,
    },
    files: assets.files,
    coverage: await coverageOf(context, info.file, execution),
  };
}
