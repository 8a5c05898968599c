/** Shapes: what a value that comes from elsewhere must look like before it is believed. Nothing here throws. */

/** True when a value has the shape. */
export type Shape<T> = (value: unknown) => value is T;

/** The type that a shape stands for. */
export type Shaped<S> = S extends Shape<infer T> ? T : never;

export const text =
  (most = 1_000_000): Shape<string> =>
  (value): value is string =>
    typeof value === 'string' && value.length <= most;

export const number: Shape<number> = (value): value is number => typeof value === 'number' && Number.isFinite(value);

/** A whole number from `least` on. */
export const whole =
  (least = 0, most = Number.MAX_SAFE_INTEGER): Shape<number> =>
  (value): value is number =>
    Number.isSafeInteger(value) && (value as number) >= least && (value as number) <= most;

export const truth: Shape<boolean> = (value): value is boolean => typeof value === 'boolean';

/** One of these very values. */
export const oneOf =
  <const T extends readonly unknown[]>(...values: T): Shape<T[number]> =>
  (value): value is T[number] =>
    values.includes(value);

export const nullable =
  <T>(shape: Shape<T>): Shape<T | null> =>
  (value): value is T | null =>
    value === null || shape(value);

export const optional =
  <T>(shape: Shape<T>): Shape<T | undefined> =>
  (value): value is T | undefined =>
    value === undefined || shape(value);

export const either = <S extends Shape<unknown>[]>(...shapes: S): Shape<Shaped<S[number]>> =>
  ((value: unknown) => shapes.some((shape) => shape(value))) as Shape<Shaped<S[number]>>;

export const list =
  <T>(shape: Shape<T>, most = 1_000_000): Shape<T[]> =>
  (value): value is T[] =>
    Array.isArray(value) && value.length <= most && value.every(shape);

/** A list of exactly these shapes. */
export const tuple = <S extends Shape<unknown>[]>(...shapes: S): Shape<{ [K in keyof S]: Shaped<S[K]> }> =>
  ((value: unknown) =>
    Array.isArray(value) && value.length === shapes.length && shapes.every((shape, i) => shape(value[i]))) as never;

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Any keys, one shape. */
export const record =
  <T>(shape: Shape<T>): Shape<Record<string, T>> =>
  (value): value is Record<string, T> => {
    if (!isRecord(value)) return false;
    for (const key in value) if (!shape(value[key])) return false;
    return true;
  };

type Optionals<F> = { [K in keyof F]: undefined extends Shaped<F[K]> ? K : never }[keyof F];
type Fields<F> = { [K in Exclude<keyof F, Optionals<F>>]: Shaped<F[K]> } & { [K in Optionals<F>]?: Shaped<F[K]> };

/** An object with these fields and no others. */
export const fields = <F extends Record<string, Shape<never> | Shape<unknown>>>(shapes: F): Shape<Fields<F>> =>
  ((value: unknown) => {
    if (!isRecord(value)) return false;
    for (const key in value) if (!Object.hasOwn(shapes, key)) return false;
    for (const key in shapes) if (!(shapes[key] as Shape<unknown>)(value[key])) return false;
    return true;
  }) as never;
