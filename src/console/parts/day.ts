/** Dates as people read them. */

/** A day with its time: `2 Mar 2026, 09:30`. */
export const day = (at: string): string =>
  new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
