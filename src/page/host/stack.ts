/** Stacks of errors as the engine writes them, whatever a page has done about that (V8, stack traces). */

type Written = { prepareStackTrace?: unknown; stackTraceLimit: number };

const settings = Error as unknown as Written;

/** So many calls lie between a source and what comes of it at most: libraries do much through calls of their own. */
const deepest = 60;

/** Has every error of the page name so many calls, not ten: where a library throws, its component is among them. */
export function deepenStacks(): void {
  if (settings.stackTraceLimit < deepest) settings.stackTraceLimit = deepest;
}

/** Reads something with one of the settings of stacks changed; as it is on a page that lets nobody change it. */
function having<T>(setting: keyof Written, value: unknown, read: () => T): T {
  const before = settings[setting];
  try {
    (settings as Record<string, unknown>)[setting] = value;
  } catch {
    return read();
  }
  try {
    return read();
  } finally {
    (settings as Record<string, unknown>)[setting] = before;
  }
}

/** The stack of an error; null for anything else, and where the page has made something of it before. */
export function stackOf(error: unknown): string | null {
  if (!(error instanceof Error)) return null;
  const read = (): unknown => error.stack;
  const stack = settings.prepareStackTrace ? having('prepareStackTrace', undefined, read) : read();
  return typeof stack === 'string' ? stack : null;
}

/** An error made where this is called, with a stack as deep as it may be needed: it is written out when it is read. */
export const deepError = (): Error => having('stackTraceLimit', deepest, () => new Error());

/** The stack of whoever calls this. */
export const stackHere = (): string | null => stackOf(deepError());
