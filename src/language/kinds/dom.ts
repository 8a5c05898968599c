/** What a look file of custom elements and plain functions imports from `sguardo/dom`. */
import type { Anything } from '../anything.ts';
import { type Looks, type LooksOf, looks as declare } from '../looks.ts';

export * from '../index.ts';

/** Elements by their tags. Custom elements that declare themselves in `HTMLElementTagNameMap` are typed, too. */
type Tag = keyof HTMLElementTagNameMap | (string & {});

/** What an element can be given: its properties, attributes, and listeners by `onRelease`. */
type ElementProps<E> = { [K in keyof E as E[K] extends (...args: never[]) => unknown ? never : K]?: E[K] } & {
  [K in `on${Capitalize<string>}`]?: ((detail: Anything) => void) | null;
} & { [K in `data-${string}` | `aria-${string}`]?: string };

type DomProps<C> = C extends keyof HTMLElementTagNameMap
  ? ElementProps<HTMLElementTagNameMap[C]>
  : C extends string
    ? Record<string, unknown>
    : C extends abstract new (
          ...args: Anything[]
        ) => infer E
      ? ElementProps<E>
      : C extends (props: infer P) => unknown
        ? P
        : Record<string, unknown>;

/** What a plain function may give: a node, markup, or a node with a way to give it other props. */
export type Made<P> = Node | string | { element: Node; update?(props: P): void; remove?(): void };

/**
 * Declares the looks of a custom element (by its tag or class), or of a function that makes an element of its props.
 * Events are props: `onRelease: spy()` hears `release`, and is called with what it carries.
 */
export const looks: <
  C extends Tag | (abstract new (...args: Anything[]) => Element) | ((props: Anything) => Made<Anything>),
  const Name extends string,
  const Route extends string,
>(
  component: C,
  definition: LooksOf<DomProps<C>, Name, Route, Record<string, string | Node>>,
) => Looks = declare as never;
