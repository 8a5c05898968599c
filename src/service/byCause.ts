/** Decides about causes: which captures that means, and what is kept of it for those that have other causes as well. */
import { decide } from '../baselines/decide.ts';
import { type Desk, refuseUnreasoned } from '../baselines/desk.ts';
import { personOf } from '../baselines/git.ts';
import type { Decided, DecisionRequest } from '../core/api/api.ts';
import type { Cluster, ClusterCapture } from '../core/cause/cluster.ts';
import { isSelected } from '../core/look/pattern.ts';
import { fail } from '../core/problem/problem.ts';
import type { Store } from '../store/index.ts';
import type { Explainer } from './explainer.ts';

/** The clusters that are meant. @throws ProblemError `cause-gone`, `cause-failed` */
function meant(causes: readonly Cluster[], { kind, causes: keys = [] }: DecisionRequest): Cluster[] {
  return keys.map((key) => {
    const cluster = causes.find((one) => one.key === key) ?? fail('cause-gone');
    if (cluster.kind === 'failed' && kind === 'approve') fail('cause-failed', { title: cluster.title });
    return cluster;
  });
}

/** A cause of a capture that somebody decides about. */
type Meant = { cause: string; capture: ClusterCapture };

/**
 * What is meant of some clusters: what was seen of them, but for what is left out. What somebody has approved meanwhile
 * is as it should be; what shows something else now was not seen. @throws ProblemError `cause-gone`
 */
function captured({ explanations }: Store, clusters: readonly Cluster[], request: DecisionRequest): Meant[] {
  const { except = [], pairs, causes: keys = [] } = request;
  const isExcepted = except.length > 0 ? isSelected(except) : () => false;
  const seen = pairs && new Set(pairs);
  const all = clusters.flatMap(({ key, captures }) => captures.map((capture) => ({ cause: key, capture })));
  const found = all.filter(({ capture }) => !isExcepted(capture) && (!seen || seen.has(capture.pair)));
  const there = new Set(all.map(({ capture }) => capture.pair));
  const isApproved = (pair: string): boolean =>
    keys.some((key) => explanations.decision(key, pair)?.kind === 'approve');
  if (seen && [...seen].some((pair) => !there.has(pair) && !isApproved(pair))) fail('cause-gone');
  return found;
}

/** Carries out a decision about causes. @throws ProblemError with nothing decided */
export async function decideCauses(desk: Desk, explainer: Explainer, request: DecisionRequest): Promise<Decided> {
  const { store, root } = desk;
  const { kind, why = null, fixer = null } = request;
  refuseUnreasoned(desk, request);
  const { causes } = await explainer.list(store.results.latest());
  const clusters = meant(causes, request);
  const about = captured(store, clusters, request);
  const chosen = new Map(about.map(({ capture }) => [`${capture.result} ${capture.capture}`, capture]));
  const isApproved = (cause: string, { pair }: ClusterCapture): boolean =>
    clusters.some(({ key }) => key === cause) || store.explanations.decision(cause, pair)?.kind === 'approve';
  const isReady = (capture: ClusterCapture): boolean =>
    kind === 'reject' || capture.others.every((other) => isApproved(other, capture));
  const ready = [...chosen.values()].filter(isReady);
  const captures = ready.map(({ result, capture }) => ({ result, capture }));
  const batch = store.decisions.nextBatch();
  const nothing: Decided = { decided: [], already: 0, unfinished: [], waiting: 0, batch };
  const { causes: _, except: __, pairs: ___, patterns: ____, all: _____, ...rest } = request;
  const decided = captures.length > 0 ? await decide(desk, { ...rest, captures }, batch) : nothing;
  const who = request.who ?? personOf(root);
  store.explanations.decide(
    about.map(({ cause, capture: { pair } }) => ({ cause, pair, kind, who, why, fixer, batch })),
  );
  return { ...decided, batch, waiting: chosen.size - ready.length };
}
