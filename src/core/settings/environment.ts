/** An environment: a named combination of everything a browser tells a page about the person in front of it. */

export type ColourScheme = 'light' | 'dark';

export type Environment = {
  name: string;
  /** Width and height of the viewport in CSS pixels. */
  viewport: [number, number];
  /** Device pixels to one CSS pixel. */
  ratio: number;
  scheme: ColourScheme;
  motion: 'reduce' | 'no-preference';
  contrast: 'more' | 'no-preference';
  /** What the person points with: it decides the media features `pointer` and `hover`. */
  pointer: 'mouse' | 'touch' | 'none';
  /** BCP 47 language tag. */
  locale: string;
  /** IANA time zone name. */
  timeZone: string;
};

/** What an environment is when the configuration says nothing. */
export const defaultEnvironment: Environment = {
  name: 'day',
  viewport: [1280, 800],
  ratio: 1,
  scheme: 'light',
  motion: 'reduce',
  contrast: 'no-preference',
  pointer: 'mouse',
  locale: 'en-GB',
  timeZone: 'UTC',
};

/**
 * What pixels depend on besides the look itself: a short text, equal when two captures can be compared.
 * `engine` is the browser's own version; `fonts` stands for the fonts that are installed.
 */
export function fingerprint(environment: Environment, engine: string, fonts: string): string {
  const { viewport, ratio, scheme, motion, contrast, pointer, locale, timeZone } = environment;
  return [
    engine,
    `fonts ${fonts}`,
    `${viewport[0]}x${viewport[1]}@${ratio}`,
    scheme,
    motion,
    contrast,
    // A mouse is what everybody is taken to have: it is not named.
    ...(pointer === 'mouse' ? [] : [pointer]),
    locale,
    timeZone,
  ].join(' · ');
}
