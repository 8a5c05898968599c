import { expect, it } from 'vitest';
import { defaultEnvironment, fingerprint } from '../../src/core/settings/environment.ts';

it('a fingerprint differs as soon as anything that pixels depend on does', () => {
  const of = (change: object, engine = 'Chromium 156', fonts = 'ab') =>
    fingerprint({ ...defaultEnvironment, ...change }, engine, fonts);
  const all = [
    of({}),
    of({}, 'Chromium 157'),
    of({}, 'Chromium 156', 'cd'),
    of({ viewport: [900, 800] }),
    of({ ratio: 2 }),
    of({ scheme: 'dark' }),
    of({ motion: 'no-preference' }),
    of({ contrast: 'more' }),
    of({ pointer: 'touch' }),
    of({ locale: 'it-IT' }),
    of({ timeZone: 'Europe/Rome' }),
  ];
  expect(new Set(all).size).toBe(all.length);
  expect(of({ name: 'another name' })).toBe(of({}));
});
