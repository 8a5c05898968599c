import { describe, expect, it } from 'vitest';
import { applyPatch, diffMoments, emptyMoment, type Moment, momentAt, type Patch } from '../../src/core/moment.ts';

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

describe('momentAt', () => {
  it('applies as many patches as asked, and all when there are fewer', () => {
    const patches: Patch[] = [renamed, dropped];
    expect(momentAt(page(), patches, 0)).toEqual(page());
    expect(momentAt(page(), patches, 1).nodes[4]).toEqual({ text: 'Keep it' });
    expect(momentAt(page(), patches, 2).nodes[4]).toBeUndefined();
    expect(momentAt(page(), patches, 9)).toEqual(momentAt(page(), patches, 2));
  });
});
