/** Decides about causes: which captures that means, and what is kept of it for those that have other causes as well. */
import { decide, type Desk } from '../baselines/decide.ts';
import { personOf } from '../baselines/git.ts';
import type { Decided, DecisionRequest } from '../core/api/api.ts';
import type { Cluster, ClusterCapture } from '../core/cause/cluster.ts';
import { isSelected } from '../core/look/pattern.ts';
import { fail } from '../core/problem/problem.ts';
import type { Explainer } from './explainer.ts';

/** The clusters that are meant. @throws ProblemError `cause-gone`, `cause-failed` */
function meant(causes: readonly Cluster[], { kind, causes: keys = [] }: DecisionRequest): Cluster[] {
  return keys.map((key) => {
    const cluster = causes.find((one) => one.key === key) ?? fail('cause-gone');
    if (cluster.kind === 'failed' && kind === 'approve') fail('cause-failed', { title: cluster.title });
    return cluster;
  });
}

/** Carries out a decision about causes. @throws ProblemError with nothing decided */
export async function decideCauses(desk: Desk, explainer: Explainer, request: DecisionRequest): Promise<Decided> {
  const { store, root } = desk;
  const { kind, why = null, except = [] } = request;
  if (kind === 'reject' && !request.why?.trim()) fail('reason-missing');
  const { causes } = await explainer.list(store.results.latest());
  const clusters = meant(causes, request);
  const isExcepted = except.length > 0 ? isSelected(except) : () => false;
  const chosen = new Map<string, ClusterCapture>();
  const about = clusters.flatMap(({ key, captures }) =>
    captures
      .filter((capture) => !isExcepted(capture))
      .map((capture) => {
        chosen.set(`${capture.result} ${capture.capture}`, capture);
        return { cause: key, pair: capture.pair };
      }),
  );
  const isApproved = (cause: string, { pair }: ClusterCapture): boolean =>
    clusters.some(({ key }) => key === cause) || store.explanations.decision(cause, pair)?.kind === 'approve';
  const isReady = (capture: ClusterCapture): boolean =>
    kind === 'reject' || capture.others.every((other) => isApproved(other, capture));
  const ready = [...chosen.values()].filter(isReady);
  const captures = ready.map(({ result, capture }) => ({ result, capture }));
  const nothing: Decided = { decided: [], already: 0, unfinished: [], waiting: 0 };
  const { causes: _, except: __, patterns: ___, all: ____, ...rest } = request;
  const decided = captures.length > 0 ? await decide(desk, { ...rest, captures }) : nothing;
  const who = request.who ?? personOf(root);
  store.explanations.decide(about.map((one) => ({ ...one, kind, who, why })));
  return { ...decided, waiting: chosen.size - ready.length };
}
