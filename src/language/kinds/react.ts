/** What a look file of React components imports from `sguardo/react`. */
import type { Anything } from '../anything.ts';
import type { ComponentProps, ComponentType, JSXElementConstructor, ReactNode } from 'react';
import { looks as declare, type Looks, type LooksOf } from '../looks.ts';

export * from '../index.ts';

type AnyReact = ComponentType<Anything> | JSXElementConstructor<Anything>;

/**
 * Declares the looks of a React component: props, of which `children` is one, and the names in `after` are checked by
 * the compiler.
 */
export const looks: <C extends AnyReact, const Name extends string, const Route extends string>(
  component: C,
  definition: LooksOf<ComponentProps<C>, Name, Route, never> & {
    /** A component that is mounted in place of this one, and given its props. */
    render?: (props: ComponentProps<C>) => ReactNode;
  },
) => Looks = declare as never;
