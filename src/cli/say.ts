/** What commands say to whoever called them. */

/** Prints a line, or several. */
export const say = (text: string): void => void process.stdout.write(`${text}\n`);

/** Prints the one document of a command that was asked for JSON. */
export const sayJson = (document: unknown): void => say(JSON.stringify(document, null, 2));
