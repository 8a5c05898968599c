/** Custom properties that values of CSS refer to (CSS Custom Properties 1). */

/** The source of a pattern for the name of one, escapes in it included: `--gap-1\.5`. */
export const variableName = String.raw`--(?:[\w-]|\\.|[^\0-\x7f])+`;

const reference = new RegExp(String.raw`var\(\s*(${variableName})`, 'g');

/** Their names, in the order in which a value has them. */
export const variablesIn = (value: string): string[] => [...value.matchAll(reference)].map(([, name]) => name!);
