/** Components, as far as look files have to know what they are. */
import type { Anything } from './anything.ts';

/** A component, whatever kind it is of and whatever its props are. */
export type AnyComponent =
  | string
  | ((...args: Anything[]) => unknown)
  | (abstract new (
      ...args: Anything[]
    ) => unknown)
  | object;

/** The props of a component that is a function of them, or a class that is made with them. */
export type PropsOf<C> = C extends (props: infer P, ...rest: Anything[]) => unknown
  ? P
  : C extends new (
        props: infer P,
        ...rest: Anything[]
      ) => unknown
    ? P
    : Record<string, unknown>;
