/** What a look file of Vue components imports from `sguardo/vue`. */
import type { Anything } from '../anything.ts';
import { type LooksOf, type Looks, looks as declare } from '../looks.ts';

export * from '../index.ts';

/** The props of a Vue component, its events as `onRelease` among them. */
type VueProps<C> = C extends abstract new (
  ...args: Anything[]
) => { $props: infer P }
  ? Given<P>
  : C extends (props: infer P, ...rest: Anything[]) => unknown
    ? Given<P>
    : Record<string, unknown>;

/** Without what Vue itself gives every component. */
type Given<P> = { [K in keyof P as K extends 'key' | 'ref' | `ref_${string}` | `onVnode${string}` ? never : K]: P[K] };

/** The slots of a Vue component. */
type VueSlots<C> = C extends abstract new (
  ...args: Anything[]
) => { $slots: infer S }
  ? { [K in keyof S]?: S[K] | string }
  : Record<string, unknown>;

/** Declares the looks of a Vue component: props, events (`onRelease: spy()`) and slots are checked by the compiler. */
export const looks: <C extends object, const Name extends string, const Route extends string>(
  component: C,
  definition: LooksOf<VueProps<C>, Name, Route, VueSlots<C>>,
) => Looks = declare as never;
