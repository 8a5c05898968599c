import { describe, expect, it } from 'vitest';
import { emptyMoment, type Moment, type Patch } from '../../src/core/moment/moment.ts';
import { applyPatch, diffMoments, invertPatch, joinPatches, momentAt } from '../../src/core/moment/patch.ts';

/** A small page: html > body > button “Release”, with one sheet. */
function page(): Moment {
  return {
    ...emptyMoment(400, 300),
    nodes: {
      1: { tag: 'html', kids: [2] },
      2: { tag: 'body', kids: [3] },
      3: { tag: 'button', attrs: { class: 'button' }, kids: [4] },
      4: { text: 'Release' },
    },
    sheets: { 1: { css: '.button{}', base: 'http://looks.localhost/' } },
  };
}

const renamed: Patch = { nodes: { 4: { text: 'Keep it' } } };
const dropped: Patch = { nodes: { 2: { tag: 'body' }, 3: null, 4: null }, sheets: { 1: null } };

describe('patches', () => {
  it('set entries and leave the moment that they are applied to alone', () => {
    const before = page();
    const after = applyPatch(before, renamed);
    expect(after.nodes[4]).toEqual({ text: 'Keep it' });
    expect(before.nodes[4]).toEqual({ text: 'Release' });
    expect(after.nodes[3]).toBe(before.nodes[3]);
  });

  it('drop entries that are null', () => {
    const after = applyPatch(page(), dropped);
    expect(Object.keys(after.nodes)).toEqual(['1', '2']);
    expect(after.sheets).toEqual({});
  });

  it('replace only the parts of the view that they name', () => {
    const after = applyPatch(page(), { view: { focus: 3, focusVisible: true } });
    expect(after.view).toEqual({ ...page().view, focus: 3, focusVisible: true });
  });

  it('are found as the difference of two moments, and lead from one to the other', () => {
    const from = page();
    const to = applyPatch(applyPatch(from, renamed), { view: { scroll: [0, 40] } });
    const patch = diffMoments(from, to);
    expect(patch).toEqual({ nodes: { 4: { text: 'Keep it' } }, view: { scroll: [0, 40] } });
    expect(applyPatch(from, patch)).toEqual(to);
  });

  it('say nothing about equal moments', () => {
    expect(diffMoments(page(), page())).toEqual({});
  });

  it.each([
    ['a text', renamed],
    ['a removal', dropped],
    ['the view', { view: { hover: [1, 2, 3] } }],
  ] as const)('are undone by the difference back: %s', (_what, patch) => {
    const before = page();
    const after = applyPatch(before, patch as Patch);
    expect(after).not.toEqual(before);
    expect(applyPatch(after, diffMoments(after, before))).toEqual(before);
  });
});

describe('inverses and joins', () => {
  const all: Patch[] = [
    renamed,
    dropped,
    {
      nodes: { 2: { tag: 'body', kids: [3] }, 3: { tag: 'p', kids: [9] }, 9: { text: 'Back' } },
      sheets: { 1: { css: 'p{}', base: 'x' } },
    },
    { view: { focus: 3, focusVisible: true, scroll: [0, 40] } },
    { nodes: { 9: { text: '' } }, view: { scroll: [0, 0] } },
  ];

  it.each([
    ['a text', renamed],
    ['a removal', dropped],
    [
      'something new',
      { nodes: { 2: { tag: 'body', kids: [3, 8] }, 8: { text: 'More' } }, sheets: { 2: { url: 'a.css' } } },
    ],
    ['the view', { view: { hover: [1, 2, 3], focus: 3 } }],
    ['nothing', {}],
  ] as const)('an inverse takes back %s', (_what, patch) => {
    const before = page();
    const inverse = invertPatch(before, patch as Patch);
    expect(applyPatch(applyPatch(before, patch as Patch), inverse)).toEqual(before);
  });

  it('a join does what its patches do, one after the other', () => {
    for (let from = 0; from < all.length; from++)
      for (let to = from + 1; to <= all.length; to++) {
        const joined = all.slice(from, to).reduce(joinPatches);
        expect(applyPatch(momentAt(page(), all, from), joined)).toEqual(momentAt(page(), all, to));
      }
  });

  it('joined inverses lead from any moment back to any earlier one', () => {
    for (let to = all.length; to > 0; to--)
      for (let from = to - 1; from >= 0; from--) {
        let back: Patch = {};
        for (let i = to; i > from; i--)
          back = joinPatches(back, invertPatch(momentAt(page(), all, i - 1), all[i - 1]!));
        expect(applyPatch(momentAt(page(), all, to), back)).toEqual(momentAt(page(), all, from));
      }
  });
});

describe('momentAt', () => {
  it('applies as many patches as asked, and all when there are fewer', () => {
    const patches: Patch[] = [renamed, dropped];
    expect(momentAt(page(), patches, 0)).toEqual(page());
    expect(momentAt(page(), patches, 1).nodes[4]).toEqual({ text: 'Keep it' });
    expect(momentAt(page(), patches, 2).nodes[4]).toBeUndefined();
    expect(momentAt(page(), patches, 9)).toEqual(momentAt(page(), patches, 2));
  });
});
