/** What a look file of Angular components imports from `sguardo/angular`. */
import type { Anything } from '../anything.ts';
import { type Looks, type LooksOf, looks as declare } from '../looks.ts';

export * from '../index.ts';

/** Signals that Angular takes inputs by, and what outputs have in common; the names are Angular's own. */
type InputOf<F> = F extends { ɵINPUT_SIGNAL_BRAND_WRITE_TYPE: infer T } ? T : never;
type OutputOf<F> = F extends { emit(value: infer T): void; subscribe(...args: Anything[]): unknown } ? T : never;

type IsInput<F> = F extends { ɵINPUT_SIGNAL_BRAND_WRITE_TYPE: unknown } ? true : false;
type IsOutput<F> = F extends { emit(value: Anything): void; subscribe(...args: Anything[]): unknown } ? true : false;
type IsMethod<F> = F extends (...args: Anything[]) => unknown ? true : false;

type Outputs<I> = {
  [K in keyof I & string as IsOutput<I[K]> extends true ? `on${Capitalize<K>}` : never]?: (
    value: OutputOf<I[K]>,
  ) => void;
};

/** Signals are typed by what they take; plain fields may be inputs, too (`@Input()`). */
type Inputs<I> = {
  [K in keyof I & string as IsInput<I[K]> extends true ? K : never]?: InputOf<I[K]>;
} & {
  [K in keyof I & string as IsInput<I[K]> extends true
    ? never
    : IsOutput<I[K]> extends true
      ? never
      : IsMethod<I[K]> extends true
        ? never
        : K]?: I[K];
};

type AngularProps<C> = C extends abstract new (...args: Anything[]) => infer I ? Inputs<I> & Outputs<I> : never;

/** Declares the looks of an Angular component: inputs, and outputs as `onRelease`, are checked by the compiler. */
export const looks: <
  C extends abstract new (
    ...args: Anything[]
  ) => unknown,
  const Name extends string,
  const Route extends string,
>(
  component: C,
  definition: LooksOf<AngularProps<C>, Name, Route, { default?: string }>,
) => Looks = declare as never;
