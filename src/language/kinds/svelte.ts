/** What a look file of Svelte components imports from `sguardo/svelte`. */
import type { Anything } from '../anything.ts';
import { type Looks, type LooksOf, looks as declare } from '../looks.ts';

export * from '../index.ts';

/** The props of a Svelte component; its snippets are given as `slots`. */
type SvelteProps<C> = C extends (internals: Anything, props: infer P) => Anything
  ? P
  : C extends abstract new (options: {
        props?: infer P;
        target: Anything;
      }) => Anything
    ? P
    : Record<string, unknown>;

/** Snippets need not be given as props: slots stand for them. */
type WithoutSnippets<P> = { [K in keyof P as P[K] extends Snippet | undefined ? never : K]: P[K] } & {
  [K in keyof P as P[K] extends Snippet | undefined ? K : never]?: P[K];
};

type Snippet = (...args: Anything[]) => { '{@render ...} must be called with a Snippet': unknown };

/** Declares the looks of a Svelte component. Props and callbacks are checked by the compiler. */
export const looks: <C extends object, const Name extends string, const Route extends string>(
  component: C,
  definition: LooksOf<WithoutSnippets<SvelteProps<C>>, Name, Route, Record<string, string>>,
) => Looks = declare as never;
