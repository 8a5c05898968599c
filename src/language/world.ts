/** The world around the component, as far as a script can change it: what the person has set, where they are. */
import { fail } from '../core/problem/problem.ts';
import { show } from '../core/value/show.ts';
import * as given from './given.ts';
import { taking } from './given.ts';
import { portOf } from './port.ts';

/** What media queries see of the person. */
export type Media = {
  scheme?: 'light' | 'dark';
  motion?: 'reduce' | 'no-preference';
  contrast?: 'more' | 'no-preference';
  /** Forced colours, as in a high-contrast mode. */
  forcedColours?: boolean;
  /** As it is printed. */
  print?: boolean;
};

/** What a script may change around the component. */
export type WorldChange = {
  /** Width and height of the viewport in CSS pixels. */
  viewport?: readonly [number, number];
  media?: Media;
  /** By the names of the Permissions specification: `{ geolocation: 'denied' }`. */
  permissions?: Record<string, 'granted' | 'denied'>;
  /** Where the person is; null where that cannot be found out. */
  geolocation?: { latitude: number; longitude: number; accuracy?: number } | null;
  /** False: nothing can be reached. */
  online?: boolean;
};

/** The entries of a change. */
export const worldEntries = ['viewport', 'media', 'permissions', 'geolocation', 'online'] as const;

/** What something may be, and that in words. */
export type Rule = [fits: (value: unknown) => boolean, wanted: string];

/** What is given of what rules are for. @throws ProblemError `look-setting` for what cannot be */
export function givenBy<T extends object>(rules: Record<string, Rule>, given: T, where: string): T {
  const found: Record<string, unknown> = {};
  for (const [name, [fits, wanted]] of Object.entries(rules)) {
    const value: unknown = (given as Record<string, unknown>)[name];
    if (value === undefined) continue;
    if (!fits(value)) fail('look-setting', { where, name, value: show(value), wanted });
    found[name] = value;
  }
  return found as T;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const isSide = (value: unknown): boolean =>
  typeof value === 'number' && Number.isInteger(value) && value >= 50 && value <= 8000;

const isWithin = (value: unknown, most: number): boolean =>
  typeof value === 'number' && Math.abs(value) <= most && !Number.isNaN(value);

const mediaValues: Record<keyof Media, readonly unknown[]> = {
  scheme: ['light', 'dark'],
  motion: ['reduce', 'no-preference'],
  contrast: ['more', 'no-preference'],
  forcedColours: [true, false],
  print: [true, false],
};

const isMedia = (value: unknown): boolean =>
  isRecord(value) && Object.entries(value).every(([key, one]) => mediaValues[key as keyof Media]?.includes(one));

const isPlace = (value: unknown): boolean =>
  value === null || (isRecord(value) && isWithin(value.latitude, 90) && isWithin(value.longitude, 180));

/** What each part of a change may be. */
export const worldRules: Record<(typeof worldEntries)[number], Rule> = {
  viewport: [
    (value) => Array.isArray(value) && value.length === 2 && value.every(isSide),
    'a width and a height in whole pixels from 50 to 8000, as in [360, 640]',
  ],
  media: [
    isMedia,
    "any of scheme: 'light' or 'dark', motion: 'reduce' or 'no-preference', contrast: 'more' or 'no-preference', " +
      'forcedColours and print: true or false',
  ],
  permissions: [
    (value) => isRecord(value) && Object.values(value).every((one) => one === 'granted' || one === 'denied'),
    "'granted' or 'denied' by name, as in { geolocation: 'denied' }",
  ],
  geolocation: [isPlace, 'a place, as in { latitude: 45.4, longitude: 12.3 }, or null'],
  online: [(value) => typeof value === 'boolean', 'true or false'],
};

/** Changes the world in the middle of a script: `await world({ online: false })`. What is not named stays. */
export const world = taking(1, 'world', (change: WorldChange): Promise<void> => {
  given.need('world(…)', change, given.record('world({ online: false })'));
  given.needKnown('What world(…) was given', change, worldEntries);
  return portOf('world').world(givenBy(worldRules, change, 'world(…)'));
});
