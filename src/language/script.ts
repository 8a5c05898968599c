/** Parts and captures: what gives a script its shape. */
import { portOf } from './port.ts';

/** Names a group of steps. */
export const part = (name: string, body: () => Promise<void>): Promise<void> => portOf('part').part(String(name), body);

/** Takes a screenshot under a name, once the page is still. Every look ends with one of its own, `end`. */
export const capture = (name: string): Promise<void> => portOf('capture').capture(String(name));
