/** Parts and captures: what gives a script its shape. */
import * as given from './given.ts';
import { taking } from './given.ts';
import { portOf } from './port.ts';

/** Names a group of steps. */
export const part = taking(2, 'part', (name: string, body: () => Promise<void>): Promise<void> => {
  const example = "part('fills in the form', async () => { … })";
  given.need('part(…)', name, given.text(example));
  given.need(`part('${name}')`, body, given.body(example));
  return portOf('part').part(name, body);
});

/** How a capture is taken. */
export type CaptureOptions = {
  /** How far time is moved on first, in milliseconds: 0 takes what is there, such as a spinner or a toast. */
  settle?: number;
};

/** Takes a screenshot under a name, once the page is at rest. Every look ends with one of its own, `end`. */
export const capture = taking(2, 'capture', (name: string, options: CaptureOptions = {}): Promise<void> => {
  given.need('capture(…)', name, given.text("capture('filled in')"));
  given.needOptions('capture(…)', options, ['settle'], "capture('filled in', { settle: 0 })");
  return portOf('capture').capture(name, options);
});

/**
 * Stops the script here until somebody lets it go on, to look around and try lines on the page: while you write a look.
 * It fails where nobody attends: run it with `sguardo run --stop`, or go live from the bench.
 */
export const pause = taking(0, 'pause', (): Promise<void> => portOf('pause').pause());
