/** What a look file of React components imports from `sguardo/react`. */
import type { Anything } from '../anything.ts';
import type { ComponentProps, ComponentType, JSXElementConstructor, ReactNode } from 'react';
import { looks as declare, type Looks, type LooksOf } from '../looks.ts';

export * from '../index.ts';

type AnyReact = ComponentType<Anything> | JSXElementConstructor<Anything>;

/** Slots of React are props: `children` among them. */
type Definition<P, Name extends string> = Omit<LooksOf<P, Name>, 'slots' | 'render'> & {
  slots?: never;
  /** A component that is mounted in place of this one, and given its props. */
  render?: (props: P) => ReactNode;
};

/** Declares the looks of a React component. Props, and the names in `after`, are checked by the compiler. */
export const looks: <C extends AnyReact, const Name extends string>(
  component: C,
  definition: LooksOf<ComponentProps<C>, Name> & Pick<Definition<ComponentProps<C>, Name>, 'slots' | 'render'>,
) => Looks = declare as never;
