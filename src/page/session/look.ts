/** What a look file says of one of its looks: the states on the way to it, what is around it, whom it calls back. */
import { fail } from '../../core/problem/problem.ts';
import { callbacksIn, type PropTypes } from '../../core/props/type.ts';
import { nearest } from '../../core/text/nearest.ts';
import type { Looks, LookState } from '../../language/looks.ts';
import type { Adapter, FrameModule } from '../adapters/adapter.ts';

export type State = LookState<Record<string, unknown>, string>;
export type Link = { name: string; state: State };

/** The states that lead to a look, the first one first. @throws ProblemError `after-unknown`, `after-circular` */
export function chainOf(looks: Looks, name: string): Link[] {
  const chain: Link[] = [];
  for (let at: string | undefined = name; at !== undefined; ) {
    const state: State | undefined = Object.hasOwn(looks.states, at) ? looks.states[at] : undefined;
    if (!state)
      return fail('after-unknown', {
        look: chain[0]?.name ?? name,
        after: at,
        near: nearest(at, Object.keys(looks.states)) ?? '',
      });
    const circular = chain.some((one) => one.name === at);
    chain.unshift({ name: at, state });
    if (circular)
      return fail('after-circular', { look: name, chain: chain.map((one) => `“${one.name}”`).join(' after ') });
    at = state.after;
  }
  return chain;
}

/** The frame of a look: its own, its file's, or the project's. */
export function frameFor(looks: Looks, look: string, usual: FrameModule | null): FrameModule | null {
  const own = looks.states[look]?.frame ?? looks.frame;
  if (own === undefined) return usual;
  return own === false ? null : { ...usual, default: own };
}

/** The props by which a component calls back, as far as it says so itself or its types do. */
export const callbacksOf = (
  { component }: Looks,
  adapter: Pick<Adapter, 'callbacksOf'>,
  types: PropTypes | null,
): string[] => [...(adapter.callbacksOf?.(component) ?? []), ...(types ? callbacksIn(types) : [])];
