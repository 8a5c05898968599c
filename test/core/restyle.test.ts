import { describe, expect, it } from 'vitest';
import { type MediaFeatures, restyle, rewriteUrls, urlsIn, withStates } from '../../src/core/moment/restyle.ts';

const day: MediaFeatures = { scheme: 'light', motion: 'reduce', contrast: 'no-preference' };
const night: MediaFeatures = { scheme: 'dark', motion: 'no-preference', contrast: 'more' };
const same = (url: string): string => url;
const holds = '(min-width:0px)';
const fails = '(max-width:-1px)';

describe('restyle', () => {
  it('turns recorded pseudo-classes into attributes', () => {
    expect(restyle('.button:hover{} a:focus-visible{} form:focus-within{} i:focus{}', day, same)).toBe(
      '.button[data-sg-hover]{} a[data-sg-focus-visible]{} form[data-sg-focus-within]{} i[data-sg-focus]{}',
    );
    expect(restyle('input:user-invalid,input:user-valid{}', day, same)).toBe(
      'input[data-sg-user-invalid],input[data-sg-user-valid]{}',
    );
  });

  it('turns what sheets see of custom elements into an attribute, and back', () => {
    const css = ':host(:state(open)) i,x-lamp:not(:defined),x-lamp:disabled{}';
    const drawn = restyle(css, day, same);
    expect(drawn).toBe(
      ':host([data-sg-custom~=":open"]) i,x-lamp:not(:not([data-sg-custom~="undefined"])),' +
        'x-lamp:is(:disabled,[data-sg-custom~="disabled"]){}',
    );
    expect(withStates(drawn)).toBe(css);
  });

  it('leaves values of custom properties alone', () => {
    const css = '.a{--mode:disabled;--on:hover}';
    expect(restyle(css, day, same)).toBe(css);
  });

  it('leaves escaped names, longer names and others alone', () => {
    const css = '.md\\:hover\\:red{} .a:hovered{} .b:first-child{} .c::before{}';
    expect(restyle(css, day, same)).toBe(css);
  });

  it.each([
    ['(prefers-color-scheme: dark)', fails, holds],
    ['(prefers-color-scheme:light)', holds, fails],
    ['(prefers-reduced-motion)', holds, fails],
    ['(prefers-reduced-motion: no-preference)', fails, holds],
    ['( prefers-contrast : more )', fails, holds],
  ])('makes %s a constant', (feature, inDay, inNight) => {
    expect(restyle(`@media ${feature}{}`, day, same)).toBe(`@media ${inDay}{}`);
    expect(restyle(`@media ${feature}{}`, night, same)).toBe(`@media ${inNight}{}`);
  });
});

describe('colour schemes', () => {
  it.each([
    [':root{color-scheme: light dark}', ':root{color-scheme:light}', ':root{color-scheme:dark}'],
    ['a{color-scheme:dark light;b:c}', 'a{color-scheme:light;b:c}', 'a{color-scheme:dark;b:c}'],
    ['a{color-scheme: only dark}', 'a{color-scheme: only dark}', 'a{color-scheme: only dark}'],
    ['a{--my-color-scheme: light dark}', 'a{--my-color-scheme: light dark}', 'a{--my-color-scheme: light dark}'],
  ])('%s', (css, inDay, inNight) => {
    expect(restyle(css, day, same)).toBe(inDay);
    expect(restyle(css, night, same)).toBe(inNight);
  });
});

describe('addresses in sheets', () => {
  const css =
    '@import "tokens.css";a{background:url(chart.svg)}b{background:url( "a b.png" ' +
    `)}c{mask:url('#wave')}d{background:url(data:image/png;base64,AA==)}`;

  it('are found, but for those that lead nowhere else', () => {
    expect(urlsIn(css)).toEqual(['tokens.css', 'chart.svg', 'a b.png']);
  });

  it('are replaced in place', () => {
    expect(rewriteUrls(css, (url) => `/asset/${url.length}`)).toBe(
      `@import "/asset/10";a{background:url("/asset/9")}b{background:url("/asset/7")}` +
        `c{mask:url('#wave')}d{background:url(data:image/png;base64,AA==)}`,
    );
  });
});
