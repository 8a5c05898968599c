/**
 * Rewrites a style sheet's text so that a redrawn moment shows what the recorded window showed. A redrawn document
 * has no pointer, no focus and the media features of whoever looks at it, so states become attributes and
 * media features and colour schemes become constants.
 */
import type { ColourScheme } from './environment.ts';

/** The pseudo-classes that are recorded, and the attribute that stands for each in a redrawn document. */
export const stateAttributes = {
  hover: 'data-sg-hover',
  'focus-visible': 'data-sg-focus-visible',
  'focus-within': 'data-sg-focus-within',
  focus: 'data-sg-focus',
  'user-invalid': 'data-sg-user-invalid',
  'user-valid': 'data-sg-user-valid',
} as const;

const pseudo = /(?<!\\):(hover|focus-visible|focus-within|focus|user-invalid|user-valid)(?![\w-])/g;

export type MediaFeatures = { scheme: ColourScheme; motion: 'reduce' | 'no-preference'; contrast: 'more' | 'no-preference' };

const always = '(min-width:0px)';
const never = '(max-width:-1px)';

/** A page that can be shown in both schemes is shown in the one that was recorded, whoever looks at it. `value` is that of `color-scheme`. */
export const pinScheme = (value: string, { scheme }: Pick<MediaFeatures, 'scheme'>): string =>
  /\blight\b/.test(value) && /\bdark\b/.test(value) ? scheme : value;

const pinSchemes = (css: string, media: MediaFeatures): string =>
  css.replace(/(?<![\w-])color-scheme\s*:([^;}]*)/g, (_all, value: string) => `color-scheme:${pinScheme(value, media)}`);

function pinMedia(css: string, media: MediaFeatures): string {
  const wanted: Record<string, string> = {
    'prefers-color-scheme': media.scheme,
    'prefers-reduced-motion': media.motion,
    'prefers-contrast': media.contrast,
  };
  return css.replace(/\(\s*(prefers-(?:color-scheme|reduced-motion|contrast))\s*(?::\s*([\w-]+)\s*)?\)/g, (_all, feature: string, value?: string) => {
    const actual = wanted[feature];
    // Without a value a feature asks whether there is any preference at all.
    const holds = value === undefined ? actual !== 'no-preference' : actual === value;
    return holds ? always : never;
  });
}

/** `css` with recorded pseudo-classes as attributes, media features as constants and URLs passed through `resolve`. */
export function restyle(css: string, media: MediaFeatures, resolve: (url: string) => string): string {
  const states = css.replace(pseudo, (_all, name: keyof typeof stateAttributes) => `[${stateAttributes[name]}]`);
  return rewriteUrls(pinSchemes(pinMedia(states, media), media), resolve);
}

const urlPattern = /url\(\s*(?:"([^"]*)"|'([^']*)'|([^"')\s]+))\s*\)|@import\s+(?:"([^"]*)"|'([^']*)')/g;

/** Every address in a sheet's `url()` and `@import`, as written. */
export function urlsIn(css: string): string[] {
  const urls: string[] = [];
  for (const found of css.matchAll(urlPattern)) {
    const url = found[1] ?? found[2] ?? found[3] ?? found[4] ?? found[5];
    if (url && !url.startsWith('data:') && !url.startsWith('#')) urls.push(url);
  }
  return urls;
}

/** `css` with each of its addresses replaced by `resolve(address)`. */
export function rewriteUrls(css: string, resolve: (url: string) => string): string {
  return css.replace(urlPattern, (all: string, a?: string, b?: string, c?: string, d?: string, e?: string) => {
    const url = a ?? b ?? c ?? d ?? e;
    if (!url || url.startsWith('data:') || url.startsWith('#')) return all;
    const to = JSON.stringify(resolve(url));
    return all.startsWith('@import') ? `@import ${to}` : `url(${to})`;
  });
}
