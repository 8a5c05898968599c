/** What the host has set for the look that runs. */
import type { LookRequest } from '../../core/wire/wire.ts';

type Known =
  | 'number'
  | 'patience'
  | 'settle'
  | 'clock'
  | 'network'
  | 'isLate'
  | 'markAttribute'
  | 'unanswered'
  | 'failsOn'
  | 'online'
  | 'timed';

let settings: Pick<LookRequest, Known> = {
  number: 0,
  patience: 2000,
  settle: 1000,
  clock: 'look',
  network: [],
  isLate: false,
  markAttribute: 'data-testid',
  unanswered: 'fail',
  failsOn: [],
  online: true,
  timed: false,
};

/** The number of the look that runs. */
export const lookNumber = (): number => settings.number;

/** How long checks and waits are retried, in milliseconds of the look's time. */
export const patience = (): number => settings.patience;

/** How far time is moved on before a capture while anything waits that will happen by itself, in milliseconds. */
export const settle = (): number => settings.settle;

/** Origins that requests may reach for real. */
export const networkOrigins = (): readonly string[] => settings.network;

/** True when whatever happens in real time gets more of it. */
export const isLate = (): boolean => settings.isLate;

/** True when waiting takes as long as it says. */
export const isReal = (): boolean => settings.clock === 'real';

/** The attribute that elements are marked with for looks. */
export const markAttribute = (): string => settings.markAttribute;

/** Says which attribute that is, where no look has begun that says so. */
export const setMarkAttribute = (markAttribute: string): void => {
  settings = { ...settings, markAttribute };
};

/** True when a request that nobody answers fails its look. */
export const failsUnanswered = (): boolean => settings.unanswered === 'fail';

/** True for a message of the console that fails a look. */
export const failsOn = (text: string): boolean =>
  settings.failsOn.some(({ source, flags }) => new RegExp(source, flags).test(text));

/** False while nothing can be reached. */
export const isOnline = (): boolean => settings.online;

export const setOnline = (online: boolean): void => {
  settings = { ...settings, online };
};

/** True when steps say in the browser's trace when they begin and end. */
export const isTimed = (): boolean => settings.timed;

/** A look begins. */
export function setSettings(given: LookRequest): void {
  settings = given;
}
