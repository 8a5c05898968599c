/** An entry of the catalogue: what is told, and a way out. */

/** What a message speaks of. */
export type Details = Record<string, string | number | undefined>;

export type Entry = { message: (d: Details) => string; remedy: string | ((d: Details) => string) };

export const entry = (message: Entry['message'], remedy: Entry['remedy']): Entry => ({ message, remedy });

/** The way out, where whoever fails knows it. */
export const given = (d: Details): string => String(d.remedy);
