/** Decides about causes: which captures that means, and what is kept of it for those that have other causes as well. */
import { decide, refuseStale } from '../baselines/decide.ts';
import { type Desk, refuseUnreasoned } from '../baselines/desk.ts';
import { personOf } from '../baselines/git.ts';
import type { Decided, DecisionRequest } from '../core/api/api.ts';
import type { CaptureKey } from '../core/baseline/baseline.ts';
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

/** One text for a capture of a look in an environment, whichever run has taken it. */
const keyOf = ({ component, look, environment, capture }: CaptureKey): string =>
  JSON.stringify([component, look, environment, capture]);

/**
 * Which captures somebody has seen; null where nobody said. What shows something else now was not.
 * @throws ProblemError `picture-changed`
 */
function seenIn(store: Store, { captures }: DecisionRequest): Set<string> | null {
  if (!captures) return null;
  return new Set(
    captures.map(({ result: id, capture }) => {
      const result = store.results.get(id) ?? fail('not-found', { what: `result ${id}` });
      refuseStale(store, result, capture);
      return keyOf({ ...result, capture });
    }),
  );
}

/** What is meant of some clusters: what was seen of them, but for what is left out. */
function captured(clusters: readonly Cluster[], { except = [] }: DecisionRequest, seen: Set<string> | null): Meant[] {
  const isExcepted = except.length > 0 ? isSelected(except) : () => false;
  const all = clusters.flatMap(({ key, captures }) => captures.map((capture) => ({ cause: key, capture })));
  return all.filter(({ capture }) => !isExcepted(capture) && (!seen || seen.has(keyOf(capture))));
}

/** Carries out a decision about causes. @throws ProblemError with nothing decided */
export async function decideCauses(desk: Desk, explainer: Explainer, request: DecisionRequest): Promise<Decided> {
  const { store, root } = desk;
  const { kind, why = null, fixer = null } = request;
  refuseUnreasoned(desk, request);
  const seen = seenIn(store, request);
  const { causes } = await explainer.list(store.results.latest());
  const clusters = meant(causes, request);
  const about = captured(clusters, request, seen);
  const chosen = new Map(about.map(({ capture }) => [`${capture.result} ${capture.capture}`, capture]));
  const isApproved = (cause: string, { pair }: ClusterCapture): boolean =>
    clusters.some(({ key }) => key === cause) || store.explanations.decision(cause, pair)?.kind === 'approve';
  const isReady = (capture: ClusterCapture): boolean =>
    kind === 'reject' || capture.others.every((other) => isApproved(other, capture));
  const ready = [...chosen.values()].filter(isReady);
  const captures = ready.map(({ result, capture }) => ({ result, capture }));
  const batch = store.decisions.nextBatch();
  const nothing: Decided = { decided: [], already: 0, unfinished: [], waiting: 0, batch };
  const { causes: _, except: __, patterns: ___, all: ____, ...rest } = request;
  const decided = captures.length > 0 ? await decide(desk, { ...rest, captures }, batch) : nothing;
  const who = request.who ?? personOf(root);
  store.explanations.decide(
    about.map(({ cause, capture: { pair } }) => ({ cause, pair, kind, who, why, fixer, batch })),
  );
  return { ...decided, batch, waiting: chosen.size - ready.length };
}
