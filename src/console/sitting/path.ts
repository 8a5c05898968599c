/** The address of a live look, in the console; `breaks` are numbers of steps before which it stops. */
export const livePath = (id: number, breaks: readonly number[] = []): string =>
  `/live/${id}${breaks.length > 0 ? `?breaks=${breaks.join(',')}` : ''}`;

/** The same, to write down what is done as soon as it can be used. */
export const writingPath = (id: number): string => `/live/${id}?write=yes`;

/** The same, to point at an element. */
export const pointingPath = (id: number): string => `/live/${id}?point=yes`;

/** Breakpoints out of an address. */
export const breaksIn = (query: URLSearchParams): number[] =>
  (query.get('breaks') ?? '')
    .split(',')
    .filter((one) => /^\d{1,5}$/.test(one))
    .map(Number);

/** Breakpoints with one more, or without one that was there. */
export const toggled = (breaks: readonly number[], step: number): number[] =>
  breaks.includes(step) ? breaks.filter((one) => one !== step) : [...breaks, step].sort((a, b) => a - b);
