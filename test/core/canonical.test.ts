import { describe, expect, it } from 'vitest';
import { canonicalise, elementsOf, sheetsOf } from '../../src/core/moment/canonical.ts';
import { emptyMoment, type Moment, type NodeEntry } from '../../src/core/moment/moment.ts';

const hash = (text: string): string => `#${text}`;
const page = (nodes: Record<string, NodeEntry>, more: Partial<Moment> = {}): Moment => ({
  ...emptyMoment(100, 50),
  ...more,
  nodes: { 1: { tag: 'html', kids: [2] }, 2: { tag: 'body', kids: [3] }, ...nodes },
});
const canonical = (moment: Moment, assets: Record<string, string> = {}): string =>
  JSON.stringify(canonicalise(moment, { hash, assets }));

describe('the canonical form', () => {
  it('does not know ids, the order of attributes, scripts, or what a framework counts', () => {
    const one = page({
      3: { tag: 'p', attrs: { b: '1', a: '_r_1_' }, kids: [4, 5] },
      4: { tag: 'script' },
      5: { text: 'x' },
    });
    const other = page({
      3: { tag: 'p', attrs: { a: '_r_7_', b: '1' }, kids: [70, 80] },
      70: { tag: 'script', attrs: { src: 'x' } },
      80: { text: 'x' },
    });
    expect(canonical(one)).toBe(canonical(other));
    expect(canonicalise(one, { hash, assets: {} }).root).toEqual({
      tag: 'html',
      kids: [{ tag: 'body', kids: [{ tag: 'p', attrs: { a: '‹id 1›', b: '1' }, kids: ['x'] }] }],
    });
  });

  it('knows sheets and files by their content, whatever their addresses are', () => {
    const styled = (sheet: object, attrs: Record<string, string>): Moment =>
      page({ 3: { tag: 'link', attrs: { rel: 'stylesheet', ...attrs }, sheet: 1 } }, { sheets: { 1: sheet as never } });
    const a = styled({ url: 'http://x/a.css' }, { href: 'a.css' });
    const b = styled({ url: 'http://x/b.css' }, { href: 'b.css' });
    const assets = { 'http://x/a.css': 'c'.repeat(64), 'http://x/b.css': 'c'.repeat(64) };
    expect(canonical(a, assets)).toBe(canonical(b, assets));
    expect(canonical(a, assets)).not.toBe(canonical(styled({ css: 'p{}', base: '' }, {})));
    expect(sheetsOf(canonicalise(a, { hash, assets }))).toEqual(['c'.repeat(64)]);
    const picture = (src: string): Moment => page({ 3: { tag: 'img', attrs: { src } } });
    expect(canonical(picture('blob:http://x/1'), { 'blob:http://x/1': 'd' })).toBe(
      canonical(picture('blob:http://x/2'), { 'blob:http://x/2': 'd' }),
    );
  });

  it.each([
    ['a text', page({ 3: { text: 'a' } }), page({ 3: { text: 'b' } })],
    ['a value', page({ 3: { tag: 'input', state: { value: '1' } } }), page({ 3: { tag: 'input' } })],
    [
      'the pointer',
      page({ 3: { tag: 'p' } }),
      page({ 3: { tag: 'p' } }, { view: { ...emptyMoment(100, 50).view, hover: [3] } }),
    ],
    ['the view', page({ 3: { tag: 'p' } }), page({ 3: { tag: 'p' } }, { view: { ...emptyMoment(100, 60).view } })],
    [
      'a frame',
      page({ 3: { tag: 'iframe', frame: { kid: 4, width: 1, height: 1 } }, 4: { text: 'a' } }),
      page({ 3: { tag: 'iframe', frame: { kid: 4, width: 1, height: 1 } }, 4: { text: 'b' } }),
    ],
  ])('tells apart %s', (_what, one, other) => expect(canonical(one)).not.toBe(canonical(other)));

  it('ends whatever a page has made of its nodes', () => {
    const circular = page({ 3: { tag: 'p', kids: [2, 3, 99, 1] } });
    expect([...elementsOf(canonicalise(circular, { hash, assets: {} }).root)].map(({ tag }) => tag)).toEqual([
      'html',
      'body',
      'p',
    ]);
    const nodes: Record<string, NodeEntry> = {};
    for (let i = 3; i < 9000; i++) nodes[i] = { tag: 'i', kids: [i + 1] };
    expect([...elementsOf(canonicalise(page(nodes), { hash, assets: {} }).root)]).toHaveLength(1000);
  });
});
