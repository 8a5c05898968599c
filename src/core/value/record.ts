/** Values that come from files which anybody may have written. */

/** The entries of an object; none where something else is. */
export const recordOf = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};
